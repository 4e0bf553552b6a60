using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>A part of an object that wears a material.</summary>
/// <param name="Mesh">Its id.</param>
/// <param name="Part">Empty for the whole.</param>
public sealed record WornPart(string Mesh, string Part);

/// <summary>Gives what wears a material another one.</summary>
/// <param name="Wearers">Of those that wear it; empty for all.</param>
public abstract record HandWear(ImmutableArray<WornPart> Wearers) : HandDecision
{
    private protected ImmutableArray<(Mesh Mesh, MeshPart Part)> Picked(MaterialView material)
    {
        var picked = material.Users.Where(u => Wearers.IsEmpty || Wearers.Contains(new(u.Mesh.Id, u.Part.Name))).ToImmutableArray();
        return picked.IsEmpty ? throw new CannotUseException($"None of what was picked wears {material.Name}.") : picked;
    }

    private protected static IEnumerable<Edit> Assigned(IEnumerable<(Mesh Mesh, MeshPart Part)> users, string to) =>
        users.Select(u => (Edit)new AssignMaterial(u.Mesh.Id, u.Part.Name, u.Part.Material, to)).Distinct();
}

/// <summary>Gives it a material that the scene has.</summary>
public sealed record HandAssign(string To, ImmutableArray<WornPart> Wearers) : HandWear(Wearers)
{
    public override string Title => $"Assign {To}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        return material.Name == To ? throw new CannotUseException($"It is {To} already.") : [.. Assigned(Picked(material), To)];
    }
}

/// <summary>Makes a material of its own for some that wear one, like it and free to become another.</summary>
/// <param name="Name">That no material has.</param>
public sealed record HandSplit(string Name, ImmutableArray<WornPart> Wearers) : HandWear(Wearers)
{
    public override string Title => $"Split {Name} off";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var picked = Picked(material);
        return picked.Length == material.Users.Length
            ? throw new CannotUseException($"All that wears {material.Name} was picked: nothing would be left to split it from.")
            : [new CopyMaterial(material.Name, Name), .. Assigned(picked, Name)];
    }
}
