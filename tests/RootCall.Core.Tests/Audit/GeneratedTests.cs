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
        var (looks, notes, trials, wrong) = (0, 0, 0, new List<string>());
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
            var after = audited.With(place.At($"{format} mended"), FixPlan.Make(audited.Report.Findings, Fix.SafeFrom).Edits);
            var (tried, spoilt) = Harm(made, after);
            trials += tried;
            wrong.AddRange(spoilt);
            notes += audited.Report.Findings.Count(f =>
                f.Severity == Severity.Note && f.Rule.StartsWith("wiring", StringComparison.Ordinal)
            );
            wrong.AddRange(
                audited
                    .Report.Findings.Where(f => f.Severity > Severity.Note)
                    .Select(f =>
                        $"{format}: {f.Rule}: {f.Message} {string.Join(' ', f.Evidence.OfType<ReadingEvidence>().SelectMany(r => r.Sums))}"
                    )
            );
        }

        Report(
            "right",
            $"{looks} right looks with hostile names: {wrong.Count} blockers, warnings and spoilt inputs of {trials} under all safe fixes; "
                + $"{notes} questions about maps\n"
        );
        Assert.True(looks >= 1000 && trials >= 3500 && wrong.Count == 0, string.Join("\n", wrong.Take(40)));
    }

    [Fact]
    public void Wrong_looks_are_found_and_no_safe_fix_moves_a_right_map()
    {
        using var place = new Place();
        var outcomes = new List<(MadeLook Look, bool Found)>();
        var (trials, harmed) = (0, new List<string>());
        foreach (var format in Formats)
        {
            // Neighbours exchange their maps: each kind has an even number, from an even one on.
            var made = Enum.GetValues<LookBreak>()
                .Where(kind => kind != LookBreak.None)
                .SelectMany(kind => Namings.Select(naming => (kind, naming)))
                .Where(c => new MadeLook(0, format, c.naming, c.kind).CanBe)
                .SelectMany(c => Enumerable.Range(0, EachOfWrong).Select(_ => c))
                .Select((c, i) => new MadeLook(i, format, c.naming, c.kind))
                .ToList();
            var audited = Audits.Open(LookScene.Write(place.At($"{format}"), format, made));
            var told = audited
                .Report.Findings.Where(f => f.Severity > Severity.Note && f.Target.Material is not null)
                .SelectMany(f =>
                    f.Evidence.OfType<PairEvidence>()
                        .Where(p => p.Kind == "material")
                        .Select(p => p.B)
                        .Append(f.Target.Material!)
                        .Select(m => (m, f.Rule))
                )
                .ToHashSet();
            outcomes.AddRange(made.Select(l => (l, Causes(l.Break).Any(rule => told.Contains((l.Name, rule))))));
            var after = audited.With(place.At($"{format} mended"), FixPlan.Make(audited.Report.Findings, Fix.SafeFrom).Edits);
            var (tried, spoilt) = Harm(made, after);
            trials += tried;
            harmed.AddRange(spoilt);
        }

        var recall = Table(outcomes, trials, harmed.Count);
        Assert.True(harmed.Count == 0, string.Join("\n", harmed.Take(30)));
        Assert.True(
            recall.Words >= 0.98 && recall.Pixels >= 0.8,
            $"with words {recall.Words:0.000}, by pixels alone {recall.Pixels:0.000}"
        );
    }

    /// <summary>Rules that tell what is wrong; any other that finds something there has not found it.</summary>
    private static string[] Causes(LookBreak kind) =>
        kind switch
        {
            LookBreak.GlossInRoughness or LookBreak.GlossBesideRoughness => ["wiring.gloss-as-roughness"],
            LookBreak.HeightInNormal => ["wiring.height-as-normal", "wiring.role-mismatch", "wiring.name-and-values-differ"],
            LookBreak.OpacityInverted => ["wiring.opacity-inverted"],
            LookBreak.SetsSwapped => ["sets.sets-swapped"],
            LookBreak.NormalsExchanged => ["sets.stray-map"],
            LookBreak.NothingConnected => ["sets.set-not-connected"],
            _ => ["wiring.role-mismatch", "wiring.maps-swapped", "wiring.name-and-values-differ"],
        };

    private static readonly (Slot Slot, Role Role)[] Slots =
    [
        (Slot.Colour, Role.BaseColour),
        (Slot.Normal, Role.Normal),
        (Slot.Roughness, Role.Roughness),
        (Slot.Metalness, Role.Metalness),
        (Slot.Opacity, Role.Opacity),
    ];

    /// <summary>Inputs that read what they are meant to, and those that no longer do.</summary>
    private static (int Tried, List<string> Spoilt) Harm(List<MadeLook> made, Audited after)
    {
        var materials = after.Scene.Materials.ToDictionary(m => m.Name, StringComparer.Ordinal);
        var (tried, spoilt) = (0, new List<string>());
        foreach (var look in made)
        foreach (var (slot, role) in Slots.Where(s => look.IsRight(s.Slot)))
        {
            tried++;
            var maps = materials[look.Name].Role(role)?.Maps ?? [];
            // A value turned over is another value.
            if (maps.All(m => m.Use.Reference.Written != look.Called(slot) || m.Use.Scale is [< 0, ..]))
                spoilt.Add($"{look.Format} {look.Naming} {look.Break}: {look.Called(slot)} no longer feeds {role.Word()} as it did");
        }

        return (tried, spoilt);
    }

    private static (double Words, double Pixels) Table(List<(MadeLook Look, bool Found)> outcomes, int trials, int harmed)
    {
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{outcomes.Count} wrong looks, found of all\n{"", -40}");
        foreach (var naming in Namings)
            text.Append(CultureInfo.InvariantCulture, $"{naming, 12}");
        foreach (var kind in outcomes.GroupBy(o => (o.Look.Break, o.Look.Format)).OrderBy(g => g.Key.Break).ThenBy(g => g.Key.Format))
        {
            text.Append(CultureInfo.InvariantCulture, $"\n{kind.Key.Break + ", " + kind.Key.Format, -40}");
            foreach (var naming in Namings)
                text.Append(CultureInfo.InvariantCulture, $"{Cell(kind.Where(o => o.Look.Naming == naming)), 12}");
        }

        var words = Share(outcomes.Where(o => HasWord(o.Look)));
        var pixels = Share(outcomes.Where(o => o.Look.Naming is Naming.Numbers && MadeLook.PixelsTell(o.Look.Break)));
        text.Append(
            CultureInfo.InvariantCulture,
            $"\nrecall with words {words:0.000}, by pixels alone {pixels:0.000}; "
                + $"{trials} right inputs under all safe fixes, {harmed} harmed\n"
        );
        foreach (var (look, _) in outcomes.Where(o => !o.Found && HasWord(o.Look)))
            text.Append(CultureInfo.InvariantCulture, $"  missed: {look.Break} in {look.Format}, {look.Called(Slot.Colour)}\n");
        Report("wrong", text.ToString());
        return (words, pixels);
    }

    /// <summary>The name of a misplaced file says what it is.</summary>
    private static bool HasWord(MadeLook look) =>
        look.Naming is Naming.Words or Naming.Languages || (look.Naming == Naming.Bare && look.Break != LookBreak.ColourInRoughness);

    private static double Share(IEnumerable<(MadeLook Look, bool Found)> of) => of.Average(o => o.Found ? 1.0 : 0);

    private static string Cell(IEnumerable<(MadeLook Look, bool Found)> of) =>
        of.Any() ? Share(of).ToString("0.00", CultureInfo.InvariantCulture) : "-";

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
