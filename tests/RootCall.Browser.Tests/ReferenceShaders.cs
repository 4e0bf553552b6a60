using System.Numerics;
using System.Text.Json;
using OpenQA.Selenium.Chrome;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>
/// Materials as the MaterialX reference library evaluates them: it writes a fragment shader of a document, and a headless Chromium runs it
/// for a grid of points of a square, x and y from -1 to 1, U and V from 0 to 1, normal to +z.
/// </summary>
public sealed class ReferenceShaders : IDisposable
{
    private readonly Place profile = new();
    private readonly ChromeDriverService service;
    private readonly ChromeDriver driver;

    public ReferenceShaders()
    {
        (service, var options) = Chromium.Of(profile.Folder);
        driver = new(service, options, TimeSpan.FromMinutes(2));
        driver.ExecuteScript(Setup);
    }

    /// <summary>Red, green and blue of every point, rows from the bottom.</summary>
    /// <param name="views">
    /// Towards the viewer and towards one directional light whose irradiance is π, for each picture; none for what needs no light.
    /// </param>
    public float[][] Run(string document, int width, int height, params (Vector3 View, Vector3 Light)[] views) =>
        Run(document, width, height, isSurrounded: false, views);

    /// <param name="isSurrounded">Light of 1 comes from all around, in place of the one light.</param>
    public float[][] Run(string document, int width, int height, bool isSurrounded, params (Vector3 View, Vector3 Light)[] views)
    {
        using var place = new Place();
        var asked = place.Put("document.mtlx", document);
        var answer = place.At("shaders.json");
        var done = Tool.Run(
            "node",
            ["-e", MaterialXReference.Script(Generate), asked, answer, isSurrounded ? "surrounded" : ""],
            Path.Combine(Tool.Home, "web")
        );
        Assert.True(done.Status == 0, done.Error);
        var stages = JsonSerializer.Deserialize<string[]>(File.ReadAllText(answer))!;
        static float[] Numbers(Vector3 v) => [v.X, v.Y, v.Z];
        var lit = JsonSerializer.Serialize(
            views.DefaultIfEmpty((Vector3.UnitZ, Vector3.UnitZ)).Select(v => new[] { Numbers(v.Item1), Numbers(v.Item2) })
        );
        var text = (string)driver.ExecuteScript("return draw(...arguments)", stages[0], stages[1], width, height, lit, isSurrounded)!;
        Assert.False(text.StartsWith("no ", StringComparison.Ordinal), text);
        return JsonSerializer.Deserialize<float[][]>(text)!;
    }

    public void Dispose()
    {
        driver.Quit();
        driver.Dispose();
        service.Dispose();
        profile.Dispose();
    }

    private const string Generate = """
        const { writeFileSync } = require('fs');
        const options = context.getOptions();
        options.shaderInterfaceType = mx.ShaderInterfaceType.SHADER_INTERFACE_REDUCED;
        const methods = mx.HwSpecularEnvironmentMethod;
        options.hwSpecularEnvironmentMethod =
          args[2] === 'surrounded' ? methods.SPECULAR_ENVIRONMENT_FIS : methods.SPECULAR_ENVIRONMENT_NONE;
        options.hwMaxActiveLightSources = 1;
        mx.HwShaderGenerator.bindLightShader(library.getNodeDef('ND_directional_light'), 1, context);
        try {
          const doc = mx.createDocument();
          doc.importLibrary(library);
          await mx.readFromXmlString(doc, readFileSync(args[0], 'utf8'));
          if (!doc.validate()) throw new Error('the document is not valid');
          const element = doc.getDescendant('swatch');
          const shader = mx.EsslShaderGenerator.create().generate(element.getNamePath(), element, context);
          writeFileSync(args[1], JSON.stringify([shader.getSourceCode('vertex'), shader.getSourceCode('pixel')]));
        } catch (e) {
          throw new Error(typeof e === 'number' && mx.getExceptionMessage ? mx.getExceptionMessage(e) : String(e));
        }
        """;

    /// <summary>Infinities and what is no number are written as words by JSON's own rules: null.</summary>
    /// <remarks>Without an environment the library leaves one of its uniforms undeclared.</remarks>
    private const string Setup = """
        const canvas = document.createElement('canvas'), gl = canvas.getContext('webgl2');
        gl.getExtension('EXT_color_buffer_float');
        const corners = [[-1, -1], [1, -1], [-1, 1], [-1, 1], [1, -1], [1, 1]];
        const attributes = {
          i_position: [3, ([x, y]) => [x, y, 0]], i_texcoord_0: [2, ([x, y]) => [(x + 1) / 2, (y + 1) / 2]],
          i_normal: [3, () => [0, 0, 1]], i_tangent: [3, () => [1, 0, 0]], i_bitangent: [3, () => [0, 1, 0]],
        };
        const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
        window.draw = (vertex, pixel, width, height, lit, surrounded) => {
          const target = gl.createTexture();
          gl.bindTexture(gl.TEXTURE_2D, target);
          gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA32F, width, height);
          gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
          gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, target, 0);
          gl.viewport(0, 0, width, height);
          const program = gl.createProgram();
          pixel = pixel.replace(/precision mediump/g, 'precision highp');
          if (!/uniform bool u_refractionTwoSided/.test(pixel)) pixel = pixel.replace(/u_refractionTwoSided/g, 'false');
          for (const [kind, text] of [[gl.VERTEX_SHADER, vertex], [gl.FRAGMENT_SHADER, pixel]]) {
            const shader = gl.createShader(kind);
            gl.shaderSource(shader, text);
            gl.compileShader(shader);
            if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS)) return 'no shader: ' + gl.getShaderInfoLog(shader);
            gl.attachShader(program, shader);
          }
          gl.linkProgram(program);
          if (!gl.getProgramParameter(program, gl.LINK_STATUS)) return 'no program: ' + gl.getProgramInfoLog(program);
          gl.useProgram(program);
          for (const [name, [size, of]] of Object.entries(attributes)) {
            const at = gl.getAttribLocation(program, name);
            if (at < 0) continue;
            gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
            gl.bufferData(gl.ARRAY_BUFFER, new Float32Array(corners.flatMap(of)), gl.STATIC_DRAW);
            gl.enableVertexAttribArray(at);
            gl.vertexAttribPointer(at, size, gl.FLOAT, false, 0, 0);
          }
          for (let i = 0; i < gl.getProgramParameter(program, gl.ACTIVE_UNIFORMS); i++) {
            const { name, type } = gl.getActiveUniform(program, i), at = gl.getUniformLocation(program, name);
            if (type === gl.FLOAT_MAT4) gl.uniformMatrix4fv(at, false, identity);
          }
          const at = (name) => gl.getUniformLocation(program, name);
          gl.uniform1i(at('u_numActiveLightSources'), surrounded ? 0 : 1);
          if (surrounded) {
            const white = gl.createTexture();
            gl.bindTexture(gl.TEXTURE_2D, white);
            gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA, 1, 1, 0, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4).fill(255));
            gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
            gl.uniform1i(at('u_envRadiance'), 0);
            gl.uniform1i(at('u_envIrradiance'), 0);
            gl.uniform1i(at('u_envRadianceMips'), 1);
            gl.uniform1i(at('u_envRadianceSamples'), 512);
            gl.uniform1f(at('u_envLightIntensity'), 1);
          }
          gl.uniform1i(at('u_lightData[0].type'), 1);
          gl.uniform3f(at('u_lightData[0].color'), 1, 1, 1);
          gl.uniform1f(at('u_lightData[0].intensity'), Math.PI);
          const pictures = JSON.parse(lit).map(([view, light]) => {
          gl.uniform3f(at('u_viewPosition'), ...view.map((v) => v * 1e4));
          gl.uniform3f(at('u_lightData[0].direction'), ...light.map((v) => -v));
          gl.clearColor(0, 0, 0, 0);
          gl.clear(gl.COLOR_BUFFER_BIT);
          gl.drawArrays(gl.TRIANGLES, 0, 6);
          const values = new Float32Array(width * height * 4);
          gl.readPixels(0, 0, width, height, gl.RGBA, gl.FLOAT, values);
          return [...values].filter((_, i) => i % 4 < 3).map((v) => (Number.isFinite(v) ? v : 1e30));
          });
          gl.deleteProgram(program);
          return JSON.stringify(pictures);
        };
        """;
}
