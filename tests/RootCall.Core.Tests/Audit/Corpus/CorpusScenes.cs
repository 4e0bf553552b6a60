using System.Security.Cryptography;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit.Corpus;

/// <summary>
/// Scenes that nobody here made: packages of Debian and npm, fetched by the tests' set-up (scripts/corpus.sh) and never committed. A
/// scene is known by its contents, so that a package that changes is judged anew.
/// </summary>
internal sealed record CorpusScene(string Package, string Path)
{
    private static readonly string[] Endings = [".glb", ".gltf", ".obj", ".dae", ".fbx", ".stl", ".ply"];

    private static readonly (string Package, string Folder)[] Packages =
    [
        ("assimp-testmodels", "/usr/share/assimp/models"),
        .. new[] { "bouncy", "dart-doc", "neverball-common", "input-profiles" }.Select(p =>
            (p, System.IO.Path.Combine(Tool.Home, "artifacts/corpus", p))
        ),
    ];

    public string Key => Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(Path)))[..12];

    public static IEnumerable<CorpusScene> All() =>
        from package in Packages
        from file in Directory.EnumerateFiles(package.Folder, "*", SearchOption.AllDirectories).Order(StringComparer.Ordinal)
        where Endings.Contains(System.IO.Path.GetExtension(file).ToLowerInvariant())
        select new CorpusScene(package.Package, file);
}
