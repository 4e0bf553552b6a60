using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Roles;

/// <summary>What a name says by its place in its set: the weakest evidence, and no more than a question when it stands alone.</summary>
/// <param name="Bits">0 when it says nothing.</param>
/// <param name="IsSeries">Other names of the set end in such words or letters too.</param>
/// <param name="SaysOnlyItsRole">It names no thing: it may belong to anything.</param>
internal readonly record struct NameReading(Role? Role, int Bits, bool IsSeries, bool SaysOnlyItsRole = false)
{
    /// <summary>Letters that sets end in (common practice). Others mean one thing here and another there: they say nothing.</summary>
    private static Role? OfLetter(char? letter) =>
        letter switch
        {
            'n' => Shading.Role.Normal,
            'r' => Shading.Role.Roughness,
            'm' => Shading.Role.Metalness,
            'd' or 'c' => Shading.Role.BaseColour,
            'o' => Shading.Role.Occlusion,
            'g' => Shading.Role.Glossiness,
            'h' => Shading.Role.Displacement,
            'e' => Shading.Role.Emission,
            's' => Shading.Role.SpecularColour,
            _ => null,
        };

    /// <param name="others">Names of the other maps of the material.</param>
    public static NameReading Of(FileName name, IReadOnlyCollection<FileName> others, ImageSets sets)
    {
        if (name is { EndsWithRole: true, Role: { } role })
        {
            if (sets.ShorterRole(name) is { } shorter)
                return new(shorter, RoleWeights.NameInSeries, IsSeries: true);
            var series = sets.IsOfSeries(name);
            return new(role, series ? RoleWeights.NameInSeries : RoleWeights.NameAlone, series, name.SaysOnlyItsRole);
        }

        if (OfLetter(name.Letter) is not { } meant)
            return default;
        var stem = name.Body.AsSpan(0, name.Body.Length - 1);
        var (same, odd) = (0, false);
        foreach (var other in others)
        {
            if (other.Letter is null || !other.Body.AsSpan(0, other.Body.Length - 1).SequenceEqual(stem))
                continue;
            same += other.Letter == name.Letter ? 0 : 1;
            // Left and right, a and b: letters that count parts, not roles.
            odd |= OfLetter(other.Letter) is null;
        }

        return same > 0 && !odd ? new(meant, RoleWeights.LetterInSeries, IsSeries: true) : default;
    }
}
