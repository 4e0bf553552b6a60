using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class SetNotConnected : MaterialRule
{
    /// <summary>From so many maps on it is a look, and no chance of names.</summary>
    private const int FullSet = 3;

    public override RuleDescriptor Descriptor { get; } =
        new("sets.set-not-connected", "A set of maps beside a material that reads none", Severity.Warning)
        {
            Expects = "A material reads the maps that were made for it.",
            Why = "All its wires were lost on the way: the thing is plain while its whole look lies beside it.",
            Source = "Common practice.",
            Evidence =
                "The material reads no image at all. In one folder alone lie maps whose names are the material's and whose ends are roles, "
                + "a base colour among them, and no other material reads them. Three maps make a warning, two a note that asks. Silent "
                + "about names that name no thing, and where several folders hold such a set.",
            Fix = "Connects them all, each as its role is read.",
            Example = Example.Gltf(
                """{ "name": "copper_pot", "pbrMetallicRoughness": { "metallicFactor": 0, "roughnessFactor": 0.6 } }"""
            ) with
            {
                Beside = ["textures/copper_pot_basecolor.png", "textures/copper_pot_normal.png", "textures/copper_pot_orm.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            material.Users.IsEmpty
            || material.Material.Graph.Nodes.Any(n => n.Image is not null)
            || ThingName.Of(material.Material.Name, scene.Names) is not { } thing
        )
            yield break;
        var set = scene
            .Sets.OfThing(thing)
            .Select(f => (File: f, Role: RoleIn(f.Name, thing)))
            .Where(f => f is { Role: not null, File.Beside.Facts: not null })
            .OrderByDescending(f => f.File.Beside.Facts!.Width)
            .DistinctBy(f => f.Role)
            .OrderBy(f => f.Role)
            .Select(f => (f.File, Role: f.Role!.Value))
            .ToList();
        var folders = set.Select(f => Path.GetDirectoryName(f.File.Beside.Path)).Distinct(StringComparer.Ordinal).Count();
        if (set.Count < 2 || folders > 1 || set.TrueForAll(f => f.Role != Role.BaseColour))
            yield break;
        var finding = Found(
                material,
                $"{material.Name} reads no image; {string.Join(", ", set.Take(4).Select(f => f.File.Name.Text))} lie beside it.",
                "material reads none of the maps that lie beside it",
                "materials read none of the maps that lie beside them"
            )
            .At(set.Count >= FullSet ? Severity.Warning : Severity.Note);
        foreach (var (file, _) in set)
            finding = finding.With(new PictureEvidence(new(ReferenceKind.Image, string.Empty, file.Beside.Path)));
        var edits = Connect(material, set, scene);
        yield return edits.IsEmpty
            ? finding.Decide($"{material.Model?.Name ?? material.Type} has no free inputs for them.")
            : finding.Fix($"Connect {(edits.OfType<SetImage>().Count() == 1 ? "it" : "them")}", 0.75, edits);
    }

    /// <summary>What its end says; a file that is called like the thing alone is its picture.</summary>
    private static Role? RoleIn(FileName file, FileName thing) =>
        ThingName.Spellings(thing).Any(s => s.Thing == file.Whole) ? Role.BaseColour
        : file.EndsWithRole ? file.Role
        : null;

    private static ImmutableArray<Edit> Connect(MaterialView material, List<(SetFile File, Role Role)> set, AuditScene scene)
    {
        var caller = Path.GetRelativePath(scene.Scene.Folder, scene.Scene.Files[material.Material.File].Path);
        return
        [
            .. set.SelectMany(f =>
            {
                var map = BesideMap.Of(scene, caller, f.File);
                return map.With(ConnectMap.Edits(material, map.Key, f.Role, null, scene));
            }),
        ];
    }
}
