using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>What a person says where no rule can know: the same for every place that it is said of.</summary>
public abstract record HandDecision
{
    /// <summary>What is done, in the imperative and without the places: “Set roughness to 0.4”.</summary>
    public abstract string Title { get; }

    /// <summary>The edits that do it at one place.</summary>
    /// <exception cref="CannotUseException">It cannot be said there; the sentence says why.</exception>
    public abstract ImmutableArray<Edit> Edits(AuditScene scene, Target place);

    /// <summary>Why it is not so after its edits were made in a draft, though each could be: null when it is.</summary>
    internal virtual string? Missed(SceneDraft draft, Target place) => null;

    private protected static MaterialView Material(AuditScene scene, Target place) =>
        (place.Kind is "material" or "input" ? scene.Called(place.Name) : null)
        ?? throw new CannotUseException($"{place.Name} is no material of the scene.");
}

/// <summary>Gives an input a value.</summary>
/// <param name="Value">Null to leave it to its default.</param>
public sealed record HandValue(string Input, ShaderValue? Value) : HandDecision
{
    public override string Title => Value is null ? $"Leave {Input} to its default" : $"Set {Input} to {Value}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var now = material.Input(Input);
        var spec = now?.Spec ?? material.Model?.Input(Input);
        if (now is null && spec is null)
            throw new CannotUseException($"{material.Name} has no input {Input}.");
        var type = now?.Type ?? spec!.Type;
        if (Value is { Text: null } given && type.Numbers > 0 && given.Numbers.Length != type.Numbers)
            throw new CannotUseException($"{Input} of {material.Name} takes {type.Numbers} numbers; {given.Numbers.Length} were given.");
        if (Value?.Numbers.Any(n => !double.IsFinite(n)) == true)
            throw new CannotUseException("A value has to be a number.");
        return [new SetValue(material.Name, Input, now?.Input.Value, Value)];
    }
}

/// <summary>Has an input read an image.</summary>
/// <param name="Path">Absolute path of a file that the scene may read; null to disconnect what feeds the input.</param>
public sealed record HandMap(string Input, string? Path) : HandDecision
{
    public override string Title => Path is null ? $"Disconnect {Input}" : $"Connect {System.IO.Path.GetFileName(Path)} to {Input}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var now = material.Input(Input);
        if (now is { Maps.Length: > 1 })
            throw new CannotUseException($"Several images reach {Input} of {material.Name}; which of them is meant cannot be told.");
        var before = now?.Maps.FirstOrDefault()?.Use;
        if (Path is null)
            return before is null
                ? throw new CannotUseException($"No image feeds {Input} of {material.Name}.")
                : [new SetImage(material.Name, Input, before, null)];
        var known = scene.Images.FirstOrDefault(i => i.Resolved == Path && i.Reference.Carried is null);
        var caller = material.Maps.FirstOrDefault()?.Use.Reference.File ?? System.IO.Path.GetFileName(scene.Scene.Path);
        var map = known is not null ? new BesideMap(known.Reference.Key, null) : BesideMap.Of(scene, caller, Path);
        var home = now?.Role ?? material.Model?.Input(Input)?.Role;
        var use = before is not null
            ? before with
            {
                Reference = map.Key,
            }
            : ConnectMap.Use(
                map.Key,
                home ?? Role.Roughness,
                home ?? Role.Roughness,
                material.Maps.FirstOrDefault()?.Use ?? new(map.Key),
                scene
            );
        return map.With([new SetImage(material.Name, Input, before, use)]);
    }
}

/// <summary>Has the images of a material, or of one of its inputs, read another UV set.</summary>
public sealed record HandUvSet(string Set) : HandDecision
{
    public override string Title => $"Read UV set {Set}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var maps = material.Maps.Where(m => (place.Part is null || m.Input.Name == place.Part) && m.Use.UvSet != Set).ToList();
        return maps.Count == 0
            ? throw new CannotUseException($"Nothing of {place} reads another UV set than {Set}.")
            : [.. maps.Select(m => (Edit)m.Read(u => u with { UvSet = Set }))];
    }
}

/// <summary>Has a mesh wear a material; said of a material, all that wear that one.</summary>
public sealed record HandMaterial(string To) : HandDecision
{
    public override string Title => $"Assign {To}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        if (place.Kind is "material" or "input")
        {
            var users = Material(scene, place).Users;
            return users.IsEmpty
                ? throw new CannotUseException($"Nothing wears {place.Name}.")
                : [.. users.Select(u => (Edit)new AssignMaterial(u.Mesh.Id, u.Part.Name, u.Part.Material, To))];
        }

        // Several meshes may share a name: those that the finding is about have such a part.
        var meshes = scene.Scene.Meshes.Where(m => m.Name == place.Name && (place.Part is null || m.Parts.Any(p => p.Name == place.Part)));
        var edits = meshes
            .SelectMany(m => m.Parts.Where(p => place.Part is null || p.Name == place.Part).Select(p => (Mesh: m, Part: p)))
            .Where(u => u.Part.Material != To)
            .Select(u => (Edit)new AssignMaterial(u.Mesh.Id, u.Part.Name, u.Part.Material, To))
            .ToImmutableArray();
        return edits.IsEmpty ? throw new CannotUseException($"{place} wears {To} already, or is not in the scene.") : edits;
    }
}

/// <summary>Gives a material, mesh or node another name.</summary>
public sealed record HandName(string To) : HandDecision
{
    public override string Title => $"Rename it to {To}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var kind = place.Kind == "input" ? "material" : place.Kind;
        var id = kind switch
        {
            "material" => Material(scene, place).Material.Id,
            "mesh" => scene.Scene.Meshes.FirstOrDefault(m => m.Name == place.Name)?.Id,
            "node" => scene.Scene.Nodes.Any(n => n.Name == place.Name) ? place.Name : null,
            _ => throw new CannotUseException($"{place.Name} has no name that could be changed here."),
        };
        if (id is null)
            throw new CannotUseException($"The scene has no {kind} {place.Name} any more.");
        var from = kind == "material" ? Material(scene, place).Material.Name : place.Name;
        return [new Rename(kind, id, from, To)];
    }
}
