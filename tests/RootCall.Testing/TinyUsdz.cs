namespace RootCall.Testing;

/// <summary>The npm package tinyusdz, which reads USD in all its forms.</summary>
public static class TinyUsdz
{
    /// <summary>
    /// A script for Node that has the package as <c>usd</c>, its arguments as <c>args</c>, and speaks through <c>said</c>. The
    /// package was made for a browser: what it asks of one is empty here, and what it prints by itself is swallowed.
    /// </summary>
    public static string Script(string body) =>
        $$"""
            process.type = 'renderer';
            globalThis.window = {};
            globalThis.location = { href: 'file:///' };
            globalThis.document = {};
            const { readFileSync } = require('fs');
            const args = process.argv.slice(1), said = console.log, quiet = () => {};
            console.log = quiet;
            import('tinyusdz/tinyusdz.js').then(async (m) => {
              const wasmBinary = readFileSync('node_modules/tinyusdz/tinyusdz.wasm');
              const usd = await m.default({ wasmBinary, print: quiet, printErr: quiet });
              {{body}}
            });
            """;
}
