using System.Globalization;
using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Shading;
using RootCall.Testing;
using RootCall.Testing.Looks;

namespace RootCall.Core.Tests.Audit;

/// <summary>
/// Right looks whose files have hostile names, and wrong looks: what is told of them, by kind of break, format and naming. Written to
/// generated.txt for whoever reads the run.
/// </summary>
public sealed class GeneratedTests
{
    private const int EachOfRight = 42;
    private const int EachOfWrong = 6;
    private static readonly LookFormat[] Formats = Enum.GetValues<LookFormat>();
    private static readonly Naming[] Namings = Enum.GetValues<Naming>();

    [Fact]
    public void Right_looks_are_left_alone_whatever_their_files_are_called()
    {
        using var place = new Place();
        var (looks, notes, wrong) = (0, 0, new List<string>());
        foreach (var format in Formats)
        {
            var made = Namings
                .SelectMany(
                    (naming, i) =>
                        Enumerable.Range(0, EachOfRight).Select(n => new MadeLook((i * EachOfRight) + n, format, naming, LookBreak.None))
                )
                .ToList();
            var audited = Audits.Open(LookScene.Write(place.At($"{format}"), format, made));
            Assert.Equal(made.Count, audited.Scene.Materials.Length);
            looks += made.Count;
            notes += audited.Report.Findings.Count(f =>
                f.Severity == Severity.Note && f.Rule.StartsWith("wiring", StringComparison.Ordinal)
            );
            wrong.AddRange(audited.Report.Findings.Where(f => f.Severity > Severity.Note).Select(f => $"{format}: {f.Rule}: {f.Message}"));
            wrong.AddRange(
                audited
                    .Report.Findings.Where(f => f.Fixes.Any(x => x.IsSafe && x.Edits.Any(e => e.Word is "connect" or "disconnect")))
                    .Select(f => $"{format}: safe: {f.Message}")
            );
        }

        Report("right", $"{looks} right looks with hostile names: {wrong.Count} blockers and warnings, {notes} questions about maps\n");
        Assert.True(looks >= 1000 && wrong.Count == 0, string.Join("\n", wrong.Take(40)));
    }

    [Fact]
    public void Wrong_looks_are_found_and_no_safe_fix_moves_a_right_map()
    {
        using var place = new Place();
        var outcomes = new List<(MadeLook Look, bool Found)>();
        var (trials, harmed) = (0, new List<string>());
        foreach (var format in Formats)
        {
            var kinds = Enum.GetValues<LookBreak>().Where(k => k != LookBreak.None && MadeLook.CanBe(format, k));
            var made = kinds
                .SelectMany(kind => Namings.SelectMany(naming => Enumerable.Range(0, EachOfWrong).Select(n => (kind, naming, n))))
                .Select((c, i) => new MadeLook(i, format, c.naming, c.kind))
                .ToList();
            var audited = Audits.Open(LookScene.Write(place.At($"{format}"), format, made));
            var told = audited
                .Report.Findings.Where(f => f.Severity > Severity.Note && f.Target.Material is not null)
                .Select(f => f.Target.Material!)
                .ToHashSet(StringComparer.Ordinal);
            outcomes.AddRange(made.Select(l => (l, told.Contains(l.Name))));
            var after = audited.With(place.At($"{format} mended"), FixPlan.Make(audited.Report.Findings, Fix.SafeFrom).Edits);
            foreach (var look in made)
            foreach (var (role, held) in Right(look))
            {
                trials++;
                var input = after.Scene.Materials.First(m => m.Name == look.Name).Role(role);
                if (input?.Maps.Any(m => m.Use.Reference.Written == look.File(held)) != true)
                    harmed.Add($"{format} {look.Naming} {look.Break}: {look.File(held)} no longer feeds {role.Word()}");
            }
        }

        var recall = Table(outcomes, trials, harmed.Count);
        Assert.True(harmed.Count == 0, string.Join("\n", harmed.Take(30)));
        Assert.True(
            recall.Words >= 0.98 && recall.Pixels >= 0.8,
            $"with words {recall.Words:0.000}, by pixels alone {recall.Pixels:0.000}"
        );
    }

    /// <summary>Inputs that are fed what they are for.</summary>
    private static IEnumerable<(Role Role, Held Held)> Right(MadeLook look)
    {
        var (colour, normal, roughness, metalness) = look.Wires;
        if (colour == Held.Colour)
            yield return (Role.BaseColour, Held.Colour);
        if (normal == Held.Normal)
            yield return (Role.Normal, Held.Normal);
        if (roughness is Held.Roughness or Held.Packed)
            yield return (Role.Roughness, roughness.Value);
        if (metalness is Held.Metalness or Held.Packed)
            yield return (Role.Metalness, metalness.Value);
    }

    private static (double Words, double Pixels) Table(List<(MadeLook Look, bool Found)> outcomes, int trials, int harmed)
    {
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{outcomes.Count} wrong looks, found of all\n{"", -32}");
        foreach (var naming in Namings)
            text.Append(CultureInfo.InvariantCulture, $"{naming, 12}");
        foreach (var kind in outcomes.GroupBy(o => (o.Look.Break, o.Look.Format)).OrderBy(g => g.Key.Break).ThenBy(g => g.Key.Format))
        {
            text.Append(CultureInfo.InvariantCulture, $"\n{kind.Key.Break + ", " + kind.Key.Format, -44}");
            foreach (var naming in Namings)
                text.Append(CultureInfo.InvariantCulture, $"{Share(kind.Where(o => o.Look.Naming == naming)), 8:0.00}");
        }

        var words = Share(outcomes.Where(o => HasWord(o.Look)));
        var pixels = Share(outcomes.Where(o => o.Look.Naming is Naming.Numbers && MadeLook.PixelsTell(o.Look.Break)));
        text.Append(
            CultureInfo.InvariantCulture,
            $"\nrecall with words {words:0.000}, by pixels alone {pixels:0.000}; "
                + $"{trials} right inputs under all safe fixes, {harmed} harmed\n"
        );
        Report("wrong", text.ToString());
        return (words, pixels);
    }

    /// <summary>The name of a misplaced file says what it is.</summary>
    private static bool HasWord(MadeLook look) =>
        look.Naming is Naming.Words or Naming.Languages || (look.Naming == Naming.Bare && look.Break != LookBreak.ColourInRoughness);

    private static double Share(IEnumerable<(MadeLook Look, bool Found)> of) => of.Any() ? of.Average(o => o.Found ? 1.0 : 0) : 1;

    private static readonly Lock Writing = new();

    private static void Report(string part, string text)
    {
        lock (Writing)
        {
            File.WriteAllText(Path.Combine(AppContext.BaseDirectory, $"generated.{part}.txt"), text);
            var parts = Directory.EnumerateFiles(AppContext.BaseDirectory, "generated.*.txt").Order(StringComparer.Ordinal);
            File.WriteAllText(Path.Combine(AppContext.BaseDirectory, "generated.txt"), string.Concat(parts.Select(File.ReadAllText)));
        }
    }
}
