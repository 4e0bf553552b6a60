using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>An input of a material beside a finding.</summary>
/// <param name="From">The file that feeds it; null for a value.</param>
/// <param name="Now">What it is, as people read it.</param>
/// <param name="After">What the fix makes of it; null when it stays.</param>
public sealed record RailInput(string Input, string? From, string Now, string? After);

/// <summary>The material that a finding is about, input by input in its model's order, before and after the fix.</summary>
public static class MaterialRail
{
    private const int Rungs = 7;

    /// <summary>The inputs that the finding and its fix touch, and what else is set; empty when it is about no material.</summary>
    public static ImmutableArray<RailInput> Of(AuditScene scene, Finding finding)
    {
        if (finding.Target.Material is not { } name || scene.Called(name) is not { } material)
            return [];
        var edits = finding.Fixes.FirstOrDefault()?.Edits.ToList() ?? [];
        var touched = edits
            .Select(InputOf)
            .OfType<string>()
            .Concat(finding.Evidence.OfType<WireEvidence>().SelectMany(w => new[] { w.Now, w.After }))
            .Append(finding.Target.Part)
            .OfType<string>()
            .ToHashSet(StringComparer.Ordinal);
        var order = material.Model?.Inputs.Select(i => i.Name).Concat(material.Inputs.Select(i => i.Name)).Distinct().ToList()
            ?? [.. material.Inputs.Select(i => i.Name)];
        var set = material
            .Inputs.Where(i => i.IsConnected || i.Input.Value is not null)
            .Select(i => i.Name)
            .ToHashSet(StringComparer.Ordinal);
        var shown = order
            .Where(touched.Contains)
            .Concat(order.Where(n => set.Contains(n) && !touched.Contains(n)))
            .Take(Rungs)
            .ToHashSet(StringComparer.Ordinal);
        return
        [
            .. order
                .Where(shown.Contains)
                .Select(n => new RailInput(
                    n,
                    material.Input(n)?.Maps is [var map, ..] ? map.FileText : null,
                    Now(material, edits, n),
                    After(material, edits, n, scene)
                )),
        ];
    }

    private static string? InputOf(Edit edit) =>
        edit switch
        {
            SetImage i => i.Input,
            SetValue v => v.Input,
            _ => null,
        };

    /// <summary>In these formats a value beside an image multiplies it; in a graph it would take its place.</summary>
    private static bool Multiplied(MaterialView material, string name) =>
        (material.IsGltf || material.Type.StartsWith("mtl-", StringComparison.Ordinal)) && material.Input(name)?.IsConnected == true;

    /// <summary>How an image is read, where that and not the image changes.</summary>
    private static (string Now, string After)? Setting(Edit? edit)
    {
        if (edit is not SetImage { From: { } a, To: { } b } || a.Reference != b.Reference)
            return null;
        static string Space(ImageUse u) =>
            u.DeclaredSpace.Length > 0 ? u.DeclaredSpace
            : u.EffectiveSpace != ColourSpace.Unsaid ? u.EffectiveSpace.Word()
            : "undeclared";
        static string List(IReadOnlyList<double> n, string standard) =>
            n.Count == 0 ? standard : string.Join(' ', n.Select(v => v.ToString("0.##", CultureInfo.InvariantCulture)));
        if (a.UvSet != b.UvSet)
            return ($"UV set {a.UvSet}", $"UV set {b.UvSet}");
        if (a.DeclaredSpace != b.DeclaredSpace)
            return ($"read as {Space(a)}", $"read as {Space(b)}");
        if (a.Channels != b.Channels)
            return ($"channels {a.Channels.Word()}", $"channel {b.Channels.Word()}");
        if (a.WrapU != b.WrapU || a.WrapV != b.WrapV)
            return ($"wraps: {Wrap(a)}", $"wraps: {Wrap(b)}");
        if (a.Transform != b.Transform)
            return (
                $"repeats {a.Transform.ScaleU:0.##} x {a.Transform.ScaleV:0.##}",
                $"repeats {b.Transform.ScaleU:0.##} x {b.Transform.ScaleV:0.##}"
            );
        return ($"scale {List(a.Scale, "1")}, bias {List(a.Bias, "0")}", $"scale {List(b.Scale, "1")}, bias {List(b.Bias, "0")}");
    }

    private static string Wrap(ImageUse use) =>
        use.WrapU == WrapMode.FromFile ? "as the file says" : use.WrapU.ToString().ToLowerInvariant();

    private static string Now(MaterialView material, List<Edit> edits, string name)
    {
        if (Setting(edits.FirstOrDefault(e => InputOf(e) == name)) is { } setting)
            return setting.Now;
        if (Multiplied(material, name) && edits.Any(e => e is SetValue v && v.Input == name))
            return $"the map times {Numbers(material.Input(name)!.Factor?.Numbers ?? material.Input(name)!.Input.Default?.Numbers ?? [])}";
        var input = material.Input(name);
        if (input?.Maps is [var map, ..])
            return map.Stats is { } stats && map.Channel.IsOne()
                ? string.Create(CultureInfo.InvariantCulture, $"the map, mean {stats.Mean:0.##}")
                : map.FileText;
        if (input?.Input.Effective?.Text is { } text)
            return text;
        return Numbers(input?.Numbers ?? material.Model?.Input(name)?.Default ?? []);
    }

    private static string? After(MaterialView material, List<Edit> edits, string name, AuditScene scene)
    {
        foreach (var edit in edits.Where(e => InputOf(e) == name).Reverse())
        {
            if (Setting(edit) is { } setting)
                return setting.After;
            if (edit is SetValue { To: null } or SetImage { To: null })
                return Numbers(material.Model?.Input(name)?.Default ?? []);
            if (edit is SetValue { To: { } factor } && Multiplied(material, name))
                return $"the map times {Numbers(factor.Numbers)}";
            if (edit is SetValue { To: { } value })
                return value.Text ?? Numbers(value.Numbers);
            if (edit is SetImage { To: { } to })
                return
                    to.Channels.IsOne()
                    && scene.Answer(to.Reference) is { } answer
                    && scene.Pixels(answer)?.Channel(to.Channels) is { } stats
                    ? string.Create(CultureInfo.InvariantCulture, $"the map, mean {stats.Mean:0.##}")
                    : Path.GetFileName(to.Reference.Written);
        }

        return null;
    }

    private static string Numbers(IReadOnlyList<double> numbers) =>
        numbers.Count == 0 ? "default" : string.Join(' ', numbers.Select(n => n.ToString("0.00#", CultureInfo.InvariantCulture)));
}
