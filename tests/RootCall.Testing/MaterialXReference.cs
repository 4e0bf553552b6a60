namespace RootCall.Testing;

/// <summary>The MaterialX reference library, 1.39.4, as the npm package materialx-reference carries it.</summary>
public static class MaterialXReference
{
    /// <summary>
    /// A script for Node that has the library as <c>mx</c>, its standard definitions as <c>library</c>, a generator's
    /// <c>context</c>, and its arguments as <c>args</c>.
    /// </summary>
    public static string Script(string body) =>
        $$"""
            const { readFileSync } = require('fs');
            const bin = process.cwd() + '/node_modules/materialx-reference/bin/', args = process.argv.slice(1);
            globalThis.require = require;
            globalThis.__dirname = bin;
            (async () => {
              const make = (await import(bin + 'JsMaterialXGenShader.js')).default;
              const data = readFileSync(bin + 'JsMaterialXGenShader.data.txt');
              const mx = await make({
                locateFile: (p) => bin + p, wasmBinary: readFileSync(bin + 'JsMaterialXGenShader.wasm'),
                getPreloadedPackage: () => data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength),
              });
              const context = new mx.GenContext(mx.EsslShaderGenerator.create());
              const library = mx.loadStandardLibraries(context);
              {{body}}
            })();
            """;
}
