using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit.Corpus;

/// <summary>
/// Every blocker and warning on scenes that nobody here made was judged by hand. None that was judged false may stand, none that was
/// judged true may vanish, and a new one fails until it is judged.
/// </summary>
public sealed class CorpusTests
{
    [Fact]
    public void What_is_told_of_other_peoples_scenes_is_true()
    {
        var (told, scenes, unread) = Audit();
        var judged = Judgement.All().ToDictionary(j => j.Key, StringComparer.Ordinal);
        Write(told, judged, scenes, unread);
        var problems = new List<string>();
        foreach (var now in told)
        {
            if (!judged.TryGetValue($"{now.Key} {now.Rule}", out var judgement))
                problems.Add($"not judged: {now.Scene.Package}\t{now.Key}\t{now.Rule}\t{now.Findings.Count}\t?\t{now.Scene.Path}");
            else if (!judgement.IsTrue)
                problems.Add($"judged false ({judgement.Why}): {now.Scene.Path}: {now.Findings[0].Message}");
            else if (judgement.Count != now.Findings.Count)
                problems.Add($"{judgement.Count} were judged, there are {now.Findings.Count} of {now.Rule}: {now.Scene.Path}");
        }

        var there = told.Select(t => $"{t.Key} {t.Rule}").ToHashSet(StringComparer.Ordinal);
        problems.AddRange(
            judged.Values.Where(j => j.IsTrue && !there.Contains(j.Key)).Select(j => $"true and no longer told: {j.Key} of {j.Package}")
        );
        Assert.True(problems.Count == 0, string.Join("\n", problems.Take(80)));
    }

    private static (List<Told> Told, int Scenes, int Unread) Audit()
    {
        var told = new ConcurrentBag<Told>();
        var seen = new ConcurrentDictionary<string, bool>();
        var (scenes, unread) = (0, 0);
        Parallel.ForEach(CorpusScene.All(), new ParallelOptions { MaxDegreeOfParallelism = 2 }, scene =>
        {
            var key = scene.Key;
            if (!seen.TryAdd(key, true))
                return;
            Audited audited;
            try
            {
                audited = Audits.Open(scene.Path);
            }
            catch (CannotUseException)
            {
                Interlocked.Increment(ref unread);
                return;
            }

            Interlocked.Increment(ref scenes);
            foreach (var rule in audited.Report.Findings.Where(f => f.Severity >= Severity.Warning).GroupBy(f => f.Rule))
                told.Add(new(scene, key, rule.Key, rule.Max(f => f.Severity), [.. rule]));
        });
        return ([.. told.OrderBy(t => t.Rule, StringComparer.Ordinal).ThenBy(t => t.Scene.Path, StringComparer.Ordinal)], scenes, unread);
    }

    private static void Write(List<Told> told, Dictionary<string, Judgement> judged, int scenes, int unread)
    {
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{scenes} scenes of other hands audited, {unread} are not read\n");
        text.Append(
            CultureInfo.InvariantCulture,
            $"{"blockers and warnings", -36}{"told", 6}{"true", 6}{"precision", 11}{"false before", 14}\n"
        );
        var rules = told.Select(t => t.Rule).Concat(judged.Values.Select(j => j.Rule)).Distinct().Order(StringComparer.Ordinal);
        foreach (var rule in rules)
        {
            var now = told.Where(t => t.Rule == rule).ToList();
            Row(rule, now.Sum(t => t.Findings.Count), now.Where(IsTrue).Sum(t => t.Findings.Count), False(j => j.Rule == rule));
        }

        Row("all", told.Sum(t => t.Findings.Count), told.Where(IsTrue).Sum(t => t.Findings.Count), False(_ => true));
        File.WriteAllText(Path.Combine(AppContext.BaseDirectory, "corpus.txt"), text.ToString());

        bool IsTrue(Told now) => judged.TryGetValue($"{now.Key} {now.Rule}", out var j) && j.IsTrue;
        int False(Func<Judgement, bool> of) => judged.Values.Where(j => !j.IsTrue && of(j)).Sum(j => j.Count);
        void Row(string what, int all, int right, int wrongBefore)
        {
            var precision = all == 0 ? "-" : ((double)right / all).ToString("0.000", CultureInfo.InvariantCulture);
            text.Append(CultureInfo.InvariantCulture, $"{what, -36}{all, 6}{right, 6}{precision, 11}{wrongBefore, 14}\n");
        }
    }
}
