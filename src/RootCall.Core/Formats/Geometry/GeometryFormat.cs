using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Geometry;

/// <summary>What formats that carry only geometry share: one mesh, one node, no materials, nothing to write.</summary>
public abstract class GeometryFormat : ISceneFormat
{
    public abstract ImmutableArray<string> Extensions { get; }

    protected abstract string Name { get; }

    public FormatCapabilities Capabilities =>
        new() { Name = Name, ReadOnlyBecause = $"{Name} carries no materials or textures; there is nothing to write in it" };

    public Scene Read(string path, ReadContext context)
    {
        var file = Path.GetFileName(path);
        context.Progress?.Invoke($"reading {file}");
        var notes = new List<ReadNote>();
        using var stream = RegularFile.Open(path);
        var bytes = stream.Length;
        var mesh = Measure(stream, path, notes, null, context.Stop);
        notes.Add(new($"{Name} carries no materials or textures; they have to be assigned elsewhere.", file));
        return new(
            path,
            new(Extensions[0][1..], Name),
            [new SourceFile(path, bytes, null)],
            [],
            [],
            new(1, 1, 0, 0, mesh.Triangles),
            [.. notes]
        )
        {
            Meshes = [mesh],
            Nodes = [new(mesh.Name, -1, 0)],
        };
    }

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths) => [];

    public OwnChanges Changes(Scene before, Scene now) => throw new CannotUseException($"{Capabilities.ReadOnlyBecause}.");

    public Stream OpenCarried(CarriedData carried) => throw new CannotUseException($"{Name} carries no images inside.");

    /// <exception cref="CannotUseException">Not this format.</exception>
    private protected abstract Mesh Measure(FileStream stream, string path, List<ReadNote> notes, ShapeKeep? keep, CancellationToken stop);

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder) => new Source(this, scene, context.Bounds);

    private sealed class Source(GeometryFormat format, Scene scene, Bounds bounds) : IGeometrySource
    {
        public void Dispose() { }

        public MeshGeometry Read(int mesh, CancellationToken stop = default)
        {
            var keep = new ShapeKeep(new(bounds, scene.Meshes[mesh].Name));
            using var stream = scene.Files[0].Open();
            format.Measure(stream, scene.Path, [], keep, stop);
            return keep.Build();
        }
    }
}
