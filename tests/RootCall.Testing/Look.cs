using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Testing;

/// <summary>Reads and musters the way every caller does, in one line.</summary>
public static class Look
{
    public static Scene Read(string scene, params string[] roots) =>
        SceneFormats.Read(scene, new(CurrentScene.Scope(scene, roots), Bounds.Default));

    public static MusterContext Context(string scene, params string[] roots)
    {
        var scope = CurrentScene.Scope(scene, roots);
        return new(scope, RootIndex.Build(scope), new());
    }

    public static MusterReport Muster(string scene, params string[] roots) =>
        CurrentScene.Muster(scene, Context(scene, roots), Bounds.Default);

    public static MusterReport TakeClear(string scene, params string[] roots)
    {
        var context = Context(scene, roots);
        return TestSession.Open(scene, context).TakeClear(TestSession.Entry).Report;
    }

    public static MusteredReference Named(this MusterReport report, string end) =>
        report.References.Single(r => r.Reference.Written.EndsWith(end, StringComparison.Ordinal));

    /// <summary>A glTF with one material an image, each as its base colour.</summary>
    public static string Gltf(params string[] uris) => Gltf(uris, string.Empty);

    public static string Gltf(IReadOnlyList<string> uris, string more) =>
        $$"""
            {
              "asset": { "version": "2.0" },
              "images": [ {{string.Join(", ", uris.Select(u => $"{{ \"uri\": \"{u}\" }}"))}} ],
              "textures": [ {{string.Join(", ", uris.Select((_, i) => $"{{ \"source\": {i} }}"))}} ],
              "materials": [ {{string.Join(
                ", ",
                uris.Select(
                    (_, i) => $"{{ \"name\": \"m{i}\", \"pbrMetallicRoughness\": {{ \"baseColorTexture\": {{ \"index\": {i} }} }} }}"
                )
            )}} ]{{more}}
            }
            """;
}
