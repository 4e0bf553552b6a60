using RootCall.Core.Crossing;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Demo.Looks;
using RootCall.Testing;

namespace RootCall.Core.Tests.Crossing;

/// <summary>
/// What is written, held against the MaterialX reference library: documents are valid there, and it makes a shader of each material.
/// </summary>
public sealed class CrossedDocumentTests
{
    private const string Judge = """
        const doc = mx.createDocument();
        doc.importLibrary(library);
        await mx.readFromXmlString(doc, readFileSync(args[0], 'utf8'));
        const message = {};
        if (!doc.validate(message)) throw new Error('the document is not valid ' + JSON.stringify(message));
        // Paths of images are made by the generator whose context it is.
        const generator = mx.EsslShaderGenerator.create(), own = new mx.GenContext(generator), made = [];
        mx.loadStandardLibraries(own);
        for (const node of doc.getMaterialNodes())
          try {
            if (generator.generate(node.getName(), node, own).getSourceCode('pixel').length > 1000) made.push(node.getName());
          } catch (e) {
            throw new Error(node.getName() + ': ' + (typeof e === 'number' ? mx.getExceptionMessage?.(e) : String(e)));
          }
        console.log(made.length);
        """;

    /// <summary>A look of specular and glossiness whose every input varies, with a normal map: the solve as nodes, images, moves.</summary>
    private static ShaderGraph Painted()
    {
        ShaderNode Image(string name, InputType type, Channels channels) =>
            new(
                name,
                "image",
                [],
                new(new(ReferenceKind.Image, "a", $"{name}.png"))
                {
                    EffectiveSpace = type == InputType.Color3 ? ColourSpace.Srgb : ColourSpace.Data,
                    Channels = channels,
                    Transform = new(0.1, 0.2, 15, 2, 2, UvTransform.Identity.Order),
                    WrapU = WrapMode.Mirror,
                }
            )
            {
                Output = type,
            };
        ShaderInput From(string input, InputType type, string node) => new(input, type, null, new(node, "out"));
        return new(
            [
                new(
                    "surface",
                    "gltf-specular-glossiness",
                    [
                        From("diffuse", InputType.Color3, "diffuse"),
                        From("specular", InputType.Color3, "specular"),
                        From("glossiness", InputType.Float, "gloss"),
                        From("normal", InputType.Vector3, "map"),
                        From("alpha", InputType.Float, "there"),
                        new("alphaMode", InputType.Text, ShaderValue.OfText("MASK")),
                    ]
                ),
                Image("diffuse", InputType.Color3, Channels.Rgb),
                Image("specular", InputType.Color3, Channels.Rgb),
                Image("packed", InputType.Color4, Channels.A),
                Image("bumps", InputType.Vector3, Channels.Rgb),
                new("gloss", "extract", [From("in", InputType.Color4, "packed"), new("index", InputType.Integer, ShaderValue.Of(3))]),
                new("there", "extract", [From("in", InputType.Color4, "packed"), new("index", InputType.Integer, ShaderValue.Of(0))]),
                new("map", "normalmap", [From("in", InputType.Vector3, "bumps"), new("scale", InputType.Float, ShaderValue.Of(0.5))]),
            ],
            "surface"
        );
    }

    [Theory]
    [InlineData("standard-surface")]
    [InlineData("open-pbr")]
    [InlineData("usd-preview-surface")]
    [InlineData("materialx-gltf-pbr")]
    public void Documents_are_valid_in_the_reference_library_which_makes_shaders_of_them(string model)
    {
        var author = new MtlxAuthor(k => k.Written);
        var looks = HundredLooks
            .All.Where((_, i) => i % 9 == 4)
            .Select(l => Crossings.Of(l.Graph, "gltf-metallic-roughness")!.Graph)
            .Append(Painted());
        var count = 0;
        foreach (var look in looks)
            Assert.Null(author.Add($"look {++count}", Crossings.Of(look, model)!.Graph));
        using var place = new Place();
        var done = Tool.Run(
            "node",
            ["-e", MaterialXReference.Script(Judge), place.Put("crossed.mtlx", author.Document())],
            Path.Combine(Tool.Home, "web")
        );
        Assert.True(done.Status == 0, done.Error);
        Assert.Equal($"{count}", done.Output.Trim());
    }
}
