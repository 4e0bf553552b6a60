using RootCall.Core.Audit;

namespace RootCall.Core.Tests.Audit.Corpus;

/// <summary>What a person says of one cause in one scene, once, with one line why (judged.tsv).</summary>
/// <param name="Count">Findings of the rule in the scene.</param>
internal sealed record Judgement(string Package, string Scene, string Rule, int Count, bool IsTrue, string Why)
{
    public string Key => $"{Scene} {Rule}";

    public static IReadOnlyList<Judgement> All() =>
        [
            .. File.ReadLines(Path.Combine(RootCall.Testing.Tool.Home, "tests/RootCall.Core.Tests/Audit/Corpus/judged.tsv"))
                .Where(l => l.Length > 0 && l[0] != '#')
                .Select(l => l.Split('\t'))
                .Select(c => new Judgement(
                    c[0],
                    c[1],
                    c[2],
                    int.Parse(c[3], System.Globalization.CultureInfo.InvariantCulture),
                    c[4] == "true",
                    c[5]
                )),
        ];
}

/// <summary>Findings of one rule in one scene.</summary>
internal sealed record Told(CorpusScene Scene, string Key, string Rule, Severity Severity, IReadOnlyList<Finding> Findings);
