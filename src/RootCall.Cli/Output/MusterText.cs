using RootCall.Core.Muster;

namespace RootCall.Cli.Output;

/// <summary>The muster as people read it: the sentence first, then the decisions, then what is left.</summary>
internal static class MusterText
{
    public static void Write(TextWriter to, MusterReport report, IReadOnlyList<RelocationRule> rules)
    {
        var scene = report.Scene;
        to.WriteLine($"{scene.Path}");
        to.WriteLine(
            $"{scene.Format.Name}: {Print.Count(scene.Counts.Nodes, "node")}, "
                + $"{Print.Count(scene.Counts.Materials, "material")}, {Print.Count(scene.Counts.Images, "image")}, "
                + $"{Print.Count(scene.Counts.Triangles, "triangle")}"
        );
        to.WriteLine(
            $"{report.Answering} of {Print.Count(report.References.Length, "reference")} answer. "
                + $"{string.Join(", ", report.Totals.Where(t => t.Value > 0).Select(t => $"{t.Value} {t.Key.Word()}"))}"
        );
        foreach (var rule in rules)
            to.WriteLine(
                $"  relocation: {rule.From} -> {rule.To} settles "
                    + $"{rule.Settles.Length}{(rule.Contradicts.IsEmpty ? string.Empty : $", contradicts {rule.Contradicts.Length}")}"
            );
        foreach (var reference in report.References.OrderBy(r => r.State.Answers()))
        {
            var flags = string.Join(", ", reference.Flags.Words());
            to.WriteLine(
                $"{reference.Number, 4} {reference.State.Word(), -9} "
                    + $"{reference.Reference.Written}{(flags.Length == 0 ? string.Empty : $"  [{flags}]")}"
            );
            if (reference.Damage is not null)
                to.WriteLine($"               {reference.Damage}");
            foreach (var candidate in reference.Candidates.Take(3))
                to.WriteLine($"          {candidate.Score:0.00} {candidate.Path}: {string.Join("; ", candidate.Reasons)}");
        }

        foreach (var note in scene.Notes)
            to.WriteLine($"note: {note.Place}: {note.Message}");
        foreach (var note in report.Notes)
            to.WriteLine($"note: {note}");
    }
}
