using System.Collections.Immutable;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Roles;

/// <summary>Collects the evidence of what an image is made for. What it does not know it leaves out.</summary>
internal static class RoleReader
{
    public static MapReading Of(MapView map, AuditScene scene)
    {
        // An alpha lies beside the picture: neither the picture's values nor the file's name are about it.
        if (map.Channel == Channels.A)
            return new(Wired(map, packed: false, default), null, null, NameCounts: false);
        var siblings = map.Material.Maps.Where(m => m.Use.Reference != map.Use.Reference).ToList();
        var name = NameReading.Of(map.Name, [.. siblings.Select(m => m.Name)], scene.Sets);
        var scheme = name.Role is null ? 0 : Scheme(map, siblings, scene.Sets);
        // What did not come, nobody knows.
        if (!map.HasCome)
            (name, scheme) = (name with { Bits = Math.Min(name.Bits, RoleWeights.NameAlone) }, 0);
        else if (!name.IsSeries)
            (name, scheme) = scheme > 0 && !name.SaysOnlyItsRole ? (name with { Bits = RoleWeights.NameAmongSuch }, scheme) : (name, 0);
        var packed = IsPackedByWires(map);
        var fits = name.Role is { } said && (Fits(said, map) || packed);
        var rival = Rivals(map, fits ? null : name.Role)
            .Select(role => Rival(map, role, name, scheme, siblings, scene))
            .MaxBy(score => score.Bits);
        return new(Wired(map, packed, fits ? name : default), rival, name.Role, scheme > 0);
    }

    private static RoleScore Wired(MapView map, bool packed, NameReading name)
    {
        var evidence = ImmutableArray.CreateBuilder<RoleEvidence>();
        var input = MapRoles.RoleOf(map.Input);
        Add(evidence, EvidenceKind.Wire, RoleWeights.Wired, $"it feeds {map.Input.Name}");
        if (packed)
            Add(evidence, EvidenceKind.Wire, RoleWeights.WiredAsPacked, "it gives several inputs a channel each");
        var content = packed || Contents.Of(name.Role) == Content.Packed ? Content.Packed : Contents.Of(input);
        if (map.Channel != Channels.A)
        {
            var values = Contents.Weigh(map.Pixels, content, map.Channel.IsOne());
            Add(evidence, EvidenceKind.Pixels, values, values > 0 ? "its values fit there" : "its values do not fit there");
        }

        Add(evidence, EvidenceKind.Name, name.Bits, $"it is called {map.FileText}");
        return new(input, evidence.ToImmutable());
    }

    private static RoleScore Rival(MapView map, Role role, NameReading name, int scheme, List<MapView> siblings, AuditScene scene)
    {
        var evidence = ImmutableArray.CreateBuilder<RoleEvidence>();
        var values = Contents.Weigh(map.Pixels, Contents.Of(role));
        Add(evidence, EvidenceKind.Pixels, values, $"its values are{(values > 0 ? string.Empty : " not")} those of {MapRoles.A(role)} map");
        if (role == name.Role)
        {
            Add(evidence, EvidenceKind.Name, name.Bits, $"it is called {map.FileText}");
            Add(
                evidence,
                EvidenceKind.Set,
                scheme,
                $"the other maps of the material {(scheme > 0 ? "feed" : "do not feed")} what their names say"
            );
        }

        if (MapRoles.RoleOf(map.Input) == Role.BaseColour && !HasAnotherBase(map, siblings, scene))
            Add(evidence, EvidenceKind.Set, RoleWeights.NothingElseForIt, "nothing else of its set is a base colour");
        return new(role, evidence.ToImmutable());
    }

    private static void Add(ImmutableArray<RoleEvidence>.Builder evidence, EvidenceKind kind, int bits, string sentence)
    {
        if (bits != 0)
            evidence.Add(new(kind, bits, sentence));
    }

    /// <summary>What it might be instead: what its name says, and what its pixels look like.</summary>
    private static IEnumerable<Role> Rivals(MapView map, Role? named)
    {
        // Nothing is known of what the input takes.
        if (MapRoles.RoleOf(map.Input) is null)
            yield break;
        if (named is { } role)
            yield return role;
        if (map.Pixels is not { IsFlat: false } pixels)
            yield break;
        if (
            named != Role.Normal
            && !MapRoles.Fits(Role.Normal, map.Input)
            && (pixels.LooksLikeNormals || pixels.LooksLikeTwoChannelNormals)
        )
            yield return Role.Normal;
        else if (
            named != Role.BaseColour
            && !MapRoles.Fits(Role.BaseColour, map.Input)
            && pixels is { Colourful: > 0.25, Alike: null or > 0.5 }
        )
            yield return Role.BaseColour;
    }

    /// <summary>Whether the names of the set are to be trusted here.</summary>
    private static int Scheme(MapView map, List<MapView> siblings, ImageSets sets)
    {
        var (right, wrong) = (0, 0);
        foreach (var other in siblings)
        {
            var said = NameReading.Of(other.Name, [.. siblings.Append(map).Where(m => m != other).Select(m => m.Name)], sets);
            if (said.Role is not { } role || said.SaysOnlyItsRole)
                continue;
            // One that was swapped with this says the same as this.
            if (MapRoles.Fits(role, other.Input) || MapRoles.Home(role) == map.Input.Role)
                right++;
            else if (said.IsSeries)
                wrong++; // A word that stands alone and says something else is the thing's own name.
        }

        return right > wrong ? RoleWeights.SetAgrees
            : wrong > right ? RoleWeights.SetDisagrees
            : 0;
    }

    /// <summary>
    /// Occlusion, roughness and metalness from channels of their own. glTF has one texture for roughness and metalness in any case: only
    /// an occlusion from the same file tells something there.
    /// </summary>
    private static bool IsPackedByWires(MapView map)
    {
        static bool CanBePacked(Role? role) => role is Role.Occlusion or Role.Roughness or Role.Metalness;
        return CanBePacked(map.Input.Role)
            && map.Material.Maps.Any(m =>
                m.Use.Reference == map.Use.Reference
                && m.Input.Role != map.Input.Role
                && CanBePacked(m.Input.Role)
                && (map.Material.IsGltf ? (m.Input.Role == Role.Occlusion) != (map.Input.Role == Role.Occlusion) : m.Channel != map.Channel)
            );
    }

    /// <summary>In glTF what stands in one texture for the other input cannot be moved away.</summary>
    private static bool Fits(Role named, MapView map) =>
        MapRoles.Fits(named, map.Input)
        || (
            map.Material.IsGltf
            && map.Input.Role is Role.Metalness or Role.Roughness
            && named is Role.Metalness or Role.Roughness or Role.Occlusion
        );

    private static bool HasAnotherBase(MapView map, List<MapView> siblings, AuditScene scene) =>
        siblings.Any(m =>
            m.Name.Role == Role.BaseColour || m.Pixels is { Colourful: > 0.25, Alike: null or > 0.5, LooksLikeNormals: false }
        ) || scene.Sets.Beside(map.Name).Any(f => f.Name.Role is null or Role.BaseColour);
}
