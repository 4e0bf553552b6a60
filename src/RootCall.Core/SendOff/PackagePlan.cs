using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>A file that goes into a package as it is.</summary>
/// <param name="Source">Absolute path it is read from.</param>
/// <param name="Name">Path inside the package's payload, with slashes.</param>
/// <param name="References">Numbers of the references it answers.</param>
public sealed record PlannedFile(string Source, string Name, long Bytes, ReferenceKind Kind, string Role, ImmutableArray<int> References);

/// <summary>Files that wanted the same name, and how that was settled.</summary>
/// <param name="Name">The name they wanted.</param>
/// <param name="SameContents">They hold the same bytes, so one file serves all.</param>
/// <param name="Names">The names in the package.</param>
public sealed record NameClash(string Name, bool SameContents, ImmutableArray<string> Names);

/// <summary>What a package will hold, before a byte of it is written.</summary>
/// <param name="Unresolved">References that nothing in the package will answer.</param>
/// <param name="BytesBefore">Bytes of the scene's files and of every file that answers, each place counted.</param>
public sealed record PackagePlan(
    MusterReport Report,
    ImmutableArray<string> OwnNames,
    ImmutableArray<PlannedFile> Files,
    ImmutableArray<NameClash> Clashes,
    ImmutableArray<MusteredReference> Unresolved,
    long BytesBefore
)
{
    /// <summary>What the audit found and somebody lets stand, told in the report.</summary>
    public ImmutableArray<Audit.Waiver> Waived { get; init; } = [];

    /// <summary>What another format left behind, in sentences, told in the report; empty where the scene is in its own.</summary>
    public ImmutableArray<string> Behind { get; init; } = [];

    /// <summary>References that a neutral picture stands in for.</summary>
    public IEnumerable<MusteredReference> StandIns => Report.References.Where(r => r.Flags.HasFlag(ReferenceFlags.StandIn));

    /// <summary>Refuses a package that would lack something, unless that is wanted.</summary>
    /// <exception cref="CannotUseException">References stay unanswered, or a neutral picture stands in for one.</exception>
    public void Demand(bool allowMissing, bool allowStandIns)
    {
        if (!allowMissing && Unresolved is [var first, ..])
            throw new CannotUseException(
                $"{Unresolved.Length} references stay unanswered, the first is {first.State.Word()} “{first.Reference.Written}”. "
                    + "Nothing was built."
            );
        if (!allowStandIns && StandIns.FirstOrDefault() is { } standIn)
            throw new CannotUseException(
                $"A neutral picture stands in for {StandIns.Count()} missing ones, the first is “{standIn.Reference.Written}”. "
                    + "Nothing was built; it is when stand-ins are allowed."
            );
    }

    public long BytesAfter => Report.Scene.Files.Sum(f => f.Bytes) + Files.Sum(f => f.Bytes);

    /// <summary>
    /// Keeps a path that is relative, portable and inside the scene's folder; gathers everything else into
    /// <c>textures/</c> and <c>buffers/</c>. Clashing names are settled by contents first, then by a suffix.
    /// </summary>
    /// <param name="places">Where the ledger wants files to lie, relative to the scene with slashes.</param>
    public static PackagePlan Make(MusterReport report, FileFacts facts, IReadOnlyDictionary<ReferenceKey, Answer>? places = null)
    {
        var scene = report.Scene;
        var own = OwnFileNames.For(scene);
        var libraries = scene.Files.Select(f => f.CalledBy).OfType<ReferenceKey>().ToHashSet();
        var taken = own.ToDictionary(n => n, _ => (PlannedFile?)null, StringComparer.OrdinalIgnoreCase);
        var order = new List<string>();
        var clashes = ImmutableArray.CreateBuilder<NameClash>();
        // Files that keep their place come first, so that a gathered file never pushes them aside.
        var answers = report
            .References.Where(r => r.Resolved is not null && !libraries.Contains(r.Reference.Key))
            .GroupBy(r => r.Resolved!, StringComparer.Ordinal)
            .Select(g => (Members: g.ToList(), Wanted: Placed(g, places) ?? Wanted(scene, g.First())))
            .OrderByDescending(g => g.Wanted.Kept)
            .ToList();
        foreach (var (members, (wanted, _)) in answers)
        {
            var first = members[0];
            var file = new PlannedFile(
                first.Resolved!,
                wanted,
                first.Stamp!.Value.Bytes,
                first.Reference.Kind,
                MapRole.Word(first.Reference),
                [.. members.Select(m => m.Number)]
            );
            if (taken.TryGetValue(wanted, out var rival))
            {
                if (rival is not null && facts.SameContents(rival.Source, Stamp(rival.Source), file.Source, first.Stamp.Value))
                {
                    taken[wanted] = rival with { References = rival.References.AddRange(file.References) };
                    clashes.Add(new(wanted, true, [rival.Name]));
                    continue;
                }

                file = file with { Name = FreeName.Find(wanted, taken.ContainsKey) };
                clashes.Add(new(wanted, false, [rival?.Name ?? wanted, file.Name]));
            }

            taken[file.Name] = file;
            order.Add(file.Name);
        }

        Tiles(answers.SelectMany(a => a.Members), taken, order);
        return new(
            report,
            own,
            [.. order.Select(n => taken[n]!)],
            clashes.ToImmutable(),
            [.. report.References.Where(r => !r.State.Answers())],
            scene.Files.Sum(f => f.Bytes) + answers.Sum(a => a.Members[0].Stamp!.Value.Bytes)
        );
    }

    /// <summary>The other tiles of a tiled image lie beside its first, under their own names.</summary>
    private static void Tiles(IEnumerable<MusteredReference> references, Dictionary<string, PlannedFile?> taken, List<string> order)
    {
        foreach (var reference in references.Where(r => r.Tiles.Length > 1))
        {
            var first = taken.Values.First(f => f?.References.Contains(reference.Number) ?? false)!;
            foreach (var tile in reference.Tiles.Skip(1))
            {
                var name = Path.Combine(Path.GetDirectoryName(first.Name)!, Path.GetFileName(tile));
                if (taken.TryAdd(name, first with { Source = tile, Name = name, Bytes = Stamp(tile).Bytes, References = [] }))
                    order.Add(name);
            }
        }
    }

    private static FileStamp Stamp(string path) => FileFacts.Stamp(path) ?? default;

    private static (string Name, bool Kept)? Placed(
        IEnumerable<MusteredReference> members,
        IReadOnlyDictionary<ReferenceKey, Answer>? places
    ) =>
        members.Select(m => places?.GetValueOrDefault(m.Reference.Key)?.Place).FirstOrDefault(p => p is not null) is { } place
            ? (place, true)
            : null;

    private static (string Name, bool Kept) Wanted(Scene scene, MusteredReference answer)
    {
        var written = WrittenPath.Parse(answer.Reference.Written);
        var relative = Path.GetRelativePath(scene.Folder, answer.Resolved!);
        var keeps =
            written.Origin == PathOrigin.Relative
            && written.IsPortable
            && answer.State is ReferenceState.Present or ReferenceState.Damaged
            && !relative.StartsWith("..", StringComparison.Ordinal)
            && written.Locate(answer.Reference.BaseFolder) == answer.Called;
        var folder = answer.Reference.Kind switch
        {
            ReferenceKind.Buffer => "buffers",
            ReferenceKind.MaterialLibrary => "materials",
            ReferenceKind.Cache => "caches",
            ReferenceKind.Layer or ReferenceKind.Document => "layers",
            _ => "textures",
        };
        return keeps ? (relative, true) : ($"{folder}/{PortableName.Make(Path.GetFileName(answer.Resolved!))}", false);
    }
}
