using System.Collections.Immutable;
using System.CommandLine;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Cli.Verbs;

/// <summary>Decisions about references, as the artist makes them in the browser: each becomes an entry of the ledger.</summary>
internal sealed class DecisionOptions
{
    private readonly Option<string[]> rules = FocusOptions.Many(
        "--rule",
        "Take a relocation rule, FROM=TO: what was called from there lies here now. One that muster lists, or your own."
    );
    private readonly Option<bool> allRules = new("--all-rules") { Description = "Take every relocation rule that muster lists." };
    private readonly Option<string[]> replace = FocusOptions.Many("--replace", "Find and replace in paths, FIND=WITH.");
    private readonly Option<string[]> variant = FocusOptions.Many(
        "--variant",
        "Switch to a variant of the maps, KIND=VALUE: resolution=2k, colour=blue, skin=b."
    );
    private readonly FocusOptions focus = new();
    private readonly Option<string?> ledger = new("--ledger") { Description = "Replay a ledger first (a JSON file that Root Call wrote)." };
    private readonly Option<bool> keepOne = new("--keep-one") { Description = "Of files with the same contents, call one." };
    private readonly Option<string?> gather = new("--gather")
    {
        Description = "Give files that lie in a bad place one beside the scene, by role or by material.",
    };

    public DecisionOptions() => gather.AcceptOnlyFromAmong("role", "material");

    public void AddTo(Command command)
    {
        foreach (var option in new Option[] { rules, allRules, replace, variant, ledger, keepOne, gather })
            command.Options.Add(option);
        focus.AddTo(command);
    }

    /// <summary>Applies what the call decides; without a decision every clear candidate is taken.</summary>
    /// <returns>Entries of the replayed ledger that no longer apply, each with the reason.</returns>
    /// <exception cref="CannotUseException">A decision cannot be made; the sentence says which.</exception>
    public ImmutableArray<Refusal> Make(ParseResult call, OpenedScene opened, bool strict)
    {
        if (call.GetValue(ledger) is { } file)
        {
            if (!File.Exists(file))
                throw new CannotUseException($"There is no file “{Path.GetFullPath(file)}”.");
            opened.Apply(LedgerFile.Read(File.ReadAllBytes(file), Path.GetFileName(file)));
        }

        var replayed = opened.Session.Refused;
        var only = Focus(call, opened.Report);
        var decided = call.GetValue(ledger) is not null;
        foreach (var text in call.GetValue(rules)!)
        {
            var (from, to) = Pair(text, "--rule");
            Put(opened, only, r => Rule(r, opened, from, Path.GetFullPath(to)));
            decided = true;
        }

        if (call.GetValue(allRules))
        {
            foreach (var rule in RelocationRules.Infer(opened.Report.References).Select(r => (r.From, r.To)).ToList())
                Put(opened, only, r => Decisions.ApproveRule(r, rule.From, rule.To, Same, DateTimeOffset.Now));
            decided = true;
        }

        foreach (var text in call.GetValue(replace)!)
        {
            var (find, with) = Pair(text, "--replace");
            var pattern = new ReplacePattern(find, with, true, false, false);
            Put(opened, only, r =>
                Decisions.Replace(r, pattern, PathReplace.Preview(r, only, pattern, opened.Context.Scope), DateTimeOffset.Now)
            );
            decided = true;
        }

        foreach (var text in call.GetValue(variant)!)
        {
            var (kind, value) = Pair(text, "--variant");
            Put(opened, only, r => Decisions.Switch(r, Variant(r, only, opened, kind, value), DateTimeOffset.Now));
            decided = true;
        }

        if (!decided)
            opened.TakeClear(only, strict);
        if (call.GetValue(keepOne))
            Put(opened, only, r => Decisions.KeepOne(r, House(r, opened, GatherBy.Role).Duplicates, DateTimeOffset.Now));
        if (call.GetValue(gather) is { } by)
            Put(opened, only, r =>
                Decisions.Place(
                    r,
                    House(r, opened, by == "role" ? GatherBy.Role : GatherBy.Material).Gather.Select(g => (g.Path, g.Place)),
                    "Gather beside the scene",
                    opened.Session.Current.Answers,
                    DateTimeOffset.Now
                )
            );
        return replayed;
    }

    private static (string Left, string Right) Pair(string text, string option)
    {
        var at = text.IndexOf('=', StringComparison.Ordinal);
        return at > 0
            ? (text[..at], text[(at + 1)..])
            : throw new CannotUseException($"“{text}” is no value for {option}; write LEFT=RIGHT.");
    }

    private static string Same(string folder) => folder;

    /// <summary>References that the named materials, or those of the named meshes, call for; null for all.</summary>
    private HashSet<int>? Focus(ParseResult call, MusterReport report) =>
        focus.Of(call, report.Scene) is { } only ? [.. report.References.Where(r => only.Has(r.Reference)).Select(r => r.Number)] : null;

    private static void Put(OpenedScene opened, HashSet<int>? only, Func<MusterReport, LedgerEntry> decide)
    {
        var entry = decide(opened.Report);
        if (only is not null)
        {
            var keys = opened.Report.References.Where(r => only.Contains(r.Number)).Select(r => r.Reference.Key).ToHashSet();
            entry = entry with { Edits = [.. entry.Edits.Where(e => e.About is { } key && keys.Contains(key))] };
            if (entry.Edits.IsEmpty)
                throw new CannotUseException($"“{entry.Sentence}” touches nothing of what was named.");
        }

        opened.Apply([entry with { State = EntryState.Applied }]);
    }

    /// <summary>A rule that was inferred, or one written by hand.</summary>
    private static LedgerEntry Rule(MusterReport report, OpenedScene opened, string from, string to) =>
        RelocationRules.Infer(report.References).Any(r => r.From == from && r.To == to)
            ? Decisions.ApproveRule(report, from, to, Same, DateTimeOffset.Now)
            : Decisions.RuleByHand(report, null, new(from, to), opened.Context.Scope, Same, DateTimeOffset.Now);

    private static MapVariant Variant(MusterReport report, HashSet<int>? only, OpenedScene opened, string kind, string value)
    {
        var there = MapVariants.Find(report, only, opened.Context.Index.Listing, opened.Context.Facts, opened.Context.Names);
        var wanted = there.FirstOrDefault(v => v.Kind.ToString().Equals(kind, StringComparison.OrdinalIgnoreCase) && v.Value == value);
        if (wanted is not null)
            return wanted;
        var names = there.IsEmpty ? "none" : string.Join(", ", there.Select(v => $"{v.Kind.ToString().ToLowerInvariant()}={v.Value}"));
        throw new CannotUseException($"There is no variant {kind}={value}; there {(there.Length == 1 ? "is" : "are")} {names}.");
    }

    private static HouseOrder House(MusterReport report, OpenedScene opened, GatherBy by)
    {
        var folder = report.Scene.Folder;
        var listings = Directory
            .EnumerateDirectories(folder, "*", SearchOption.AllDirectories)
            .Prepend(folder)
            .Select(opened.Context.Index.Listing)
            .OfType<FolderListing>();
        var scope = opened.Context.Scope;
        return HouseOrder.Of(report, by, [.. scope.Folders.Where(f => f != folder)], scope, listings, opened.Context.Facts);
    }
}
