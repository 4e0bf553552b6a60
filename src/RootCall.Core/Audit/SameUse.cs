using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>The same part of the same state of a mesh. States share what no edit touched.</summary>
internal sealed class SameUse : IEqualityComparer<(Mesh Mesh, MeshPart Part)>
{
    public static SameUse Instance { get; } = new();

    public bool Equals((Mesh Mesh, MeshPart Part) a, (Mesh Mesh, MeshPart Part) b) =>
        ReferenceEquals(a.Mesh, b.Mesh) && ReferenceEquals(a.Part, b.Part);

    public int GetHashCode((Mesh Mesh, MeshPart Part) use) => HashCode.Combine(use.Mesh.Id, use.Part.Name);
}
