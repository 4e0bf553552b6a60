using RootCall.Core.Edits;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>The artist's decisions about a muster, each as one entry for the ledger.</summary>
public static class Decisions
{
    /// <summary>Everything that moved from one place to another.</summary>
    /// <exception cref="CannotUseException">The muster infers no such rule any more.</exception>
    /// <param name="only">Numbers of the references that it may settle; null for all. A part is no rule for other scenes.</param>
    public static LedgerEntry ApproveRule(
        MusterReport report,
        string from,
        string to,
        Func<string, string> nameFolder,
        DateTimeOffset at,
        IReadOnlySet<int>? only = null
    )
    {
        var rule = RelocationRules.Infer(report.References).FirstOrDefault(r => r.From == from && r.To == to)
            ?? throw new CannotUseException($"Nothing is left that moved from {from} to {to}.");
        var settled = rule.Settles.Where(n => only?.Contains(n) != false).ToHashSet();
        if (settled.Count == 0)
            throw new CannotUseException($"Nothing in focus moved from {from} to {to}.");
        var edits = report.References.Where(r => settled.Contains(r.Number)).Select(CurrentScene.Take);
        return Entry($"Relink {Count(settled.Count)}, {from} to {nameFolder(to)}", edits, "relocation rule", at) with
        {
            Rule = settled.Count == rule.Settles.Length ? new(from, to) : null,
        };
    }

    /// <summary>For each of the references, its best candidate in that folder.</summary>
    /// <exception cref="CannotUseException">None of them has a candidate there.</exception>
    public static LedgerEntry TakeFrom(
        MusterReport report,
        IReadOnlyCollection<int> numbers,
        string folder,
        Func<string, string> nameFolder,
        DateTimeOffset at
    )
    {
        var wanted = numbers.ToHashSet();
        var taken = (
            from reference in report.References
            where wanted.Contains(reference.Number)
            let candidate = reference.Candidates.FirstOrDefault(c => Path.GetDirectoryName(c.Path) == folder)
            where candidate is not null
            select new RelinkReference(reference.Reference.Key, reference.Resolved, candidate.Called)
        ).ToList();
        if (taken.Count == 0)
            throw new CannotUseException($"None of the picked references has a candidate in {folder}.");
        return Entry(
            $"Relink {(taken.Count == 1 ? Path.GetFileName(taken[0].To!) : Count(taken.Count))} to {nameFolder(folder)}",
            taken,
            "candidate",
            at
        );
    }

    /// <summary>One reference, one file.</summary>
    /// <exception cref="CannotUseException">No such reference, or no such file inside the roots.</exception>
    public static LedgerEntry ByHand(MusterReport report, int number, string path, RootScope scope, DateTimeOffset at)
    {
        var reference = report.References.FirstOrDefault(r => r.Number == number)
            ?? throw new CannotUseException($"The scene has no reference {number}.");
        if (reference.Reference.Carried is not null)
            throw new CannotUseException(
                $"“{reference.Reference.Written}” is carried inside the scene; it calls no file that could be relinked."
            );
        if (scope.Enter(path) is not { } real || !File.Exists(real))
            throw new CannotUseException($"“{path}” is no file inside the roots.");
        var name = WrittenPath.Parse(reference.Reference.Written).FileName;
        return Entry(
            $"Relink {name} to {Path.GetFileName(real)}",
            [new RelinkReference(reference.Reference.Key, reference.Resolved, real)],
            "by hand",
            at
        );
    }

    /// <summary>A rule written by hand: everything called from there that lies under that folder under the same name.</summary>
    /// <param name="numbers">References it may touch; null for all.</param>
    /// <exception cref="CannotUseException">None of them is there.</exception>
    public static LedgerEntry RuleByHand(
        MusterReport report,
        IReadOnlySet<int>? numbers,
        PathRewrite rule,
        RootScope scope,
        Func<string, string> nameFolder,
        DateTimeOffset at
    )
    {
        var door = new RootDoor(scope);
        var edits = new List<Edit>();
        foreach (var reference in report.References.Where(r => r.Reference.Carried is null && numbers?.Contains(r.Number) != false))
            if (
                rule.Rewrite(WrittenPath.Parse(reference.Reference.Written)) is { } path
                && path != reference.Resolved
                && (door.Enter(path) is (_, not null) || (TilePath.IsTiled(path) && TilePath.Files(path, scope).Length > 0))
            )
                edits.Add(new RelinkReference(reference.Reference.Key, reference.Resolved, path));
        if (edits.Count == 0)
            throw new CannotUseException(
                $"Nothing that is called from {rule.From} lies under {nameFolder(rule.To)} by the same name. Nothing was changed."
            );
        return Entry($"Relink {Count(edits.Count)}, {rule.From} to {nameFolder(rule.To)}", edits, "rule by hand", at) with { Rule = rule };
    }

    /// <exception cref="CannotUseException">Nothing would resolve.</exception>
    public static LedgerEntry Replace(MusterReport report, ReplacePattern pattern, IEnumerable<ReplacedPath> rows, DateTimeOffset at)
    {
        var byNumber = report.References.ToDictionary(r => r.Number);
        var edits = rows.Where(r => r.To is not null)
            .Select(r => (Edit)new RelinkReference(byNumber[r.Number].Reference.Key, byNumber[r.Number].Resolved, r.To))
            .ToList();
        if (edits.Count == 0)
            throw new CannotUseException("No path would resolve after it. Nothing was changed.");
        return Entry($"Replace “{pattern.Find}” by “{pattern.With}” in {Paths(edits.Count)}", edits, "find and replace", at);
    }

    /// <exception cref="CannotUseException">None of the references has that variant.</exception>
    public static LedgerEntry Switch(MusterReport report, MapVariant choice, DateTimeOffset at)
    {
        var edits = report
            .References.Where(r => choice.Numbers.ContainsKey(r.Number))
            .Select(r => (Edit)new RelinkReference(r.Reference.Key, r.Resolved, choice.Numbers[r.Number]))
            .ToList();
        if (edits.Count == 0)
            throw new CannotUseException("None of these references has that variant.");
        var value = choice.Value.Length == 0 ? $"the one that names no {choice.Kind.ToString().ToLowerInvariant()}" : choice.Value;
        return Entry($"Switch {Count(edits.Count)} to {value}", edits, "variants", at);
    }

    /// <param name="answers">How each is written now.</param>
    /// <exception cref="CannotUseException">The format cannot write paths so, or none would change.</exception>
    public static LedgerEntry Style(
        MusterReport report,
        IReadOnlySet<int>? numbers,
        Scenes.PathStyle style,
        IReadOnlyDictionary<Scenes.ReferenceKey, Scenes.Answer> answers,
        IReadOnlyCollection<string> roots,
        DateTimeOffset at
    )
    {
        if (style == Scenes.PathStyle.RootRelative && report.Scene.Format.Id is "gltf" or "glb")
            throw new CannotUseException(
                "A path in glTF starts from the file that writes it; it cannot start from a root (glTF 2.0, URIs)."
            );
        var edits = new List<Edit>();
        foreach (
            var reference in report.References.Where(r =>
                r.Resolved is not null && r.Reference.Carried is null && numbers?.Contains(r.Number) != false
            )
        )
        {
            var now = answers.GetValueOrDefault(reference.Reference.Key)?.Style ?? Scenes.PathStyle.Relative;
            var root =
                style == Scenes.PathStyle.RootRelative
                    ? roots.Where(f => RootScope.IsInside(f, reference.Resolved!)).MaxBy(f => f.Length)
                    : null;
            if (now != style && (style != Scenes.PathStyle.RootRelative || root is not null))
                edits.Add(new SetPathStyle(reference.Reference.Key, now, style, root));
        }

        if (edits.Count == 0)
            throw new CannotUseException("No path would be written another way. Nothing was changed.");
        return Entry(
            $"{edits[0].Text.After[..1].ToUpperInvariant()}{edits[0].Text.After[1..]}: {Paths(edits.Count)}",
            edits,
            "path style",
            at
        );
    }

    /// <summary>Renames by a place in the package, for files that want one name.</summary>
    /// <exception cref="CannotUseException">There is nothing to place.</exception>
    public static LedgerEntry Place(
        MusterReport report,
        IEnumerable<(string Path, string Place)> places,
        string sentence,
        IReadOnlyDictionary<Scenes.ReferenceKey, Scenes.Answer> now,
        DateTimeOffset at
    )
    {
        var byPath = places.DistinctBy(p => p.Path).ToDictionary(p => p.Path, p => p.Place, StringComparer.Ordinal);
        var edits = report
            .References.Where(r => r.Resolved is not null && byPath.ContainsKey(r.Resolved))
            .Select(r => (Edit)new PlaceFile(r.Reference.Key, now.GetValueOrDefault(r.Reference.Key)?.Place, byPath[r.Resolved!]))
            .ToList();
        if (edits.Count == 0)
            throw new CannotUseException("There is nothing to put in another place.");
        return Entry($"{sentence} {(byPath.Count == 1 ? "1 file" : $"{byPath.Count} files")}", edits, "order in the house", at);
    }

    /// <exception cref="CannotUseException">There is nothing to keep one of.</exception>
    public static LedgerEntry KeepOne(MusterReport report, IReadOnlyCollection<DuplicateProposal> duplicates, DateTimeOffset at)
    {
        var keep = duplicates.SelectMany(d => d.Numbers.Select(n => (n, d.Keep))).ToDictionary(p => p.n, p => p.Keep);
        var edits = report
            .References.Where(r => keep.ContainsKey(r.Number))
            .Select(r => (Edit)new RelinkReference(r.Reference.Key, r.Resolved, keep[r.Number]))
            .ToList();
        if (edits.Count == 0)
            throw new CannotUseException("No file is there twice.");
        return Entry(
            $"Keep one of each in {(duplicates.Count == 1 ? "1 set" : $"{duplicates.Count} sets")} of equal files",
            edits,
            "order in the house",
            at
        );
    }

    /// <param name="folder">Where stand-ins are kept; inside the scene's scope.</param>
    /// <exception cref="CannotUseException">None of them is a missing image.</exception>
    public static LedgerEntry StandIn(MusterReport report, IReadOnlyCollection<int> numbers, string folder, DateTimeOffset at)
    {
        var edits = report
            .References.Where(r => numbers.Contains(r.Number) && r.Reference.Kind == Scenes.ReferenceKind.Image && !r.State.Answers())
            .Select(r => (Edit)new RelinkReference(r.Reference.Key, r.Resolved, StandIns.Put(folder, MapRole.Of(r.Reference))))
            .ToList();
        if (edits.Count == 0)
            throw new CannotUseException("None of these is an image that does not answer.");
        return Entry(
            $"Stand in for {(edits.Count == 1 ? "1 image" : $"{edits.Count} images")} that {(edits.Count == 1 ? "does" : "do")} not answer",
            edits,
            "stand-in",
            at
        );
    }

    private static string Paths(int n) =>
        n == 1 ? "1 path" : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{n:N0} paths");

    private static LedgerEntry Entry(string sentence, IEnumerable<Edit> edits, string proposedBy, DateTimeOffset at) =>
        new(Guid.CreateVersion7(), sentence, [.. edits], EntryState.Pending, proposedBy, at);

    private static string Count(int n) =>
        n == 1 ? "1 reference" : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{n:N0} references");
}
