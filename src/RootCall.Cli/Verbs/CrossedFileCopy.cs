using System.Collections.Immutable;
using RootCall.Cli.Output;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Native;

namespace RootCall.Cli.Verbs;

/// <summary>A scene as a file of another format, each look with how far it moved.</summary>
internal sealed class CrossedFileCopy(OpenedScene opened, Carrying carrying, CrossedForm form, string folder)
{
    public (string Path, IReadOnlyList<ConvertedJson> Rows, ImmutableArray<string> Told) Write(IEnumerable<Material> picked)
    {
        var carried = picked.Select(carrying.Of).ToList();
        using var meshes = new MeshDecoder(opened.Session.Edited.Reading.Bounds);
        var file = new CrossedFile(opened.Session, form, carrying.Baking(CrossedFile.TexturesOf(folder), form.Maker), meshes, folder);
        var written = file.Write(
            carried.Select(c => new Core.Viewing.LookToCarry(c.Material, c.Crossed)),
            carrying.To,
            CancellationToken.None
        );
        var left = written.Left.ToDictionary(l => l.Material, l => l.Why, StringComparer.Ordinal);
        return (written.Path, [.. carried.Select(c => c.Row(left.GetValueOrDefault(c.Material.Name)))], written.Told);
    }
}
