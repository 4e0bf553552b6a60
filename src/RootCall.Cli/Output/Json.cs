using System.Text.Json.Serialization;
using RootCall.Core.Crossing;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Core.Transfer;

namespace RootCall.Cli.Output;

// The shapes on standard output. Source-generated, so that a call starts without building serialisers first.
internal sealed record MusterJson(
    string Scene,
    string Format,
    CountsJson Counts,
    ReferenceJson[] References,
    RelocationJson[] Relocations,
    Dictionary<string, int> Totals,
    NoteJson[] Notes
)
{
    public static MusterJson Of(MusterReport report, IReadOnlyList<RelocationRule> rules) =>
        new(
            report.Scene.Path,
            report.Scene.Format.Id,
            new(
                report.Scene.Counts.Nodes,
                report.Scene.Counts.Meshes,
                report.Scene.Counts.Materials,
                report.Scene.Counts.Images,
                report.Scene.Counts.Triangles
            ),
            [.. report.References.Select(ReferenceJson.Of)],
            [.. rules.Select(r => new RelocationJson(r.From, r.To, r.Settles.Length, [.. r.Contradicts]))],
            report.Totals.ToDictionary(t => t.Key.Word(), t => t.Value),
            [.. report.Scene.Notes.Select(n => new NoteJson(n.Message, n.Place)), .. report.Notes.Select(n => new NoteJson(n, "roots"))]
        );
}

internal sealed record CountsJson(int Nodes, int Meshes, int Materials, int Images, long Triangles);

internal sealed record ReferenceJson(
    int Id,
    string Kind,
    string Written,
    string State,
    string[] Flags,
    UseJson[] UsedBy,
    CandidateJson[] Candidates,
    string? Resolved,
    int? Width,
    int? Height,
    long? Bytes,
    string? Damage
)
{
    public static ReferenceJson Of(MusteredReference r) =>
        new(
            r.Number,
            r.Reference.Kind.Word(),
            r.Reference.Written,
            r.State.Word(),
            [.. r.Flags.Words()],
            [.. r.Reference.UsedBy.Select(u => new UseJson(u.Material, u.Input))],
            [.. r.Candidates.Select(c => new CandidateJson(c.Path, c.Score, [.. c.Reasons]))],
            r.Resolved,
            r.Facts?.Width,
            r.Facts?.Height,
            r.Stamp?.Bytes,
            r.Damage
        );
}

internal sealed record UseJson(string Material, string Input);

internal sealed record CandidateJson(string Path, double Score, string[] Reasons);

internal sealed record RelocationJson(string From, string To, int Settles, int[] Contradicts);

internal sealed record NoteJson(string Message, string Place);

internal sealed record ChangedJson(int Id, string From, string To);

internal sealed record LeftJson(int Id, string State, string Written)
{
    public static LeftJson Of(MusteredReference r) => new(r.Number, r.State.Word(), r.Reference.Written);
}

internal sealed record RelinkJson(string[] Written, ChangedJson[] Changed, LeftJson[] Left, string? Ledger)
{
    public static RelinkJson Of(RelinkResult result, string? ledger) =>
        new(
            [.. result.Written],
            [.. result.Changed.Select(c => new ChangedJson(c.Reference.Number, c.Reference.Reference.Written, c.To))],
            [.. result.Left.Select(LeftJson.Of)],
            ledger
        );
}

internal sealed record ProofJson(int Resolved, LeftJson[] Unresolved, string[] BrokenFiles, double? DeltaE);

internal sealed record PackageJson(string Written, int Files, long BytesBefore, long BytesAfter, ProofJson Proof)
{
    public static PackageJson Of(BuiltPackage built, Proof proof) =>
        new(
            built.Written,
            built.Files,
            built.BytesBefore,
            built.BytesAfter,
            new(proof.Resolved, [.. proof.Unresolved.Select(LeftJson.Of)], [.. proof.BrokenFiles], proof.Frames?.Difference?.Mean)
        );
}

internal sealed record ImageJson(
    string Path,
    string? Format,
    int? Width,
    int? Height,
    int? Channels,
    int? BitDepth,
    bool? Float,
    bool? Alpha,
    string? Colour,
    string? Damage
)
{
    public static ImageJson Of(string path, ProbeResult probe) =>
        new(
            path,
            probe.Facts is { } f ? ImageCodecs.Of(f.Format).Name : null,
            probe.Facts?.Width,
            probe.Facts?.Height,
            probe.Facts?.Channels,
            probe.Facts?.BitDepth,
            probe.Facts?.IsFloat,
            probe.Facts?.HasAlpha,
            probe.Facts?.Colour,
            probe.Damage
        );
}

internal sealed record InspectJson(ImageJson[] Images);

/// <param name="Written">Absolute path of the picture.</param>
/// <param name="Told">What the picture does not show, in sentences.</param>
internal sealed record RenderJson(string Written, int Width, int Height, long Ms, IReadOnlyList<string> Told);

/// <param name="Written">Absolute path of the document.</param>
/// <param name="Materials">What moved most comes first.</param>
/// <param name="Told">What could not be taken along, in sentences.</param>
internal sealed record ConvertJson(string Written, IReadOnlyList<ConvertedJson> Materials, IReadOnlyList<string> Told);

/// <param name="DeltaE">How far its look moved; null where it is not drawn.</param>
/// <param name="Formula">How far the formulas alone would move it, where a fit or a recipe says something else; null otherwise.</param>
/// <param name="WhyNot">Why it was not written; null when it was.</param>
internal sealed record ConvertedJson(
    string Name,
    string From,
    string To,
    DeltaEJson? DeltaE,
    DeltaEJson? Formula,
    IReadOnlyList<MappingJson> Mappings,
    string? WhyNot
);

/// <summary>CIEDE2000, D65.</summary>
internal sealed record DeltaEJson(double Mean, double P95, double Max);

/// <param name="To">The input it went to; empty when it is lost.</param>
internal sealed record MappingJson(string Input, string To, MappingKind Kind, string Detail, string Before, string After);

internal sealed record DemoJson(string[] Written);

internal sealed record TransferRowJson(
    string Kind,
    string Name,
    string What,
    string? A,
    string? B,
    string? Input,
    string Family,
    string[] Edits,
    string? WhyNot
)
{
    public static TransferRowJson Of(TransferRow r) =>
        new(r.Kind, r.Name, r.What, r.A, r.B, r.Input, r.Family, [.. r.Restore.Select(e => e.Describe())], r.WhyNot);
}

internal sealed record CompareJson(string A, string B, TransferRowJson[] Rows)
{
    public static CompareJson Of(TransferReport report, string a, string b) => new(a, b, [.. report.Rows.Select(TransferRowJson.Of)]);
}

// A scene may hold numbers that are none; they are written as "NaN" and "Infinity".
[JsonSourceGenerationOptions(
    PropertyNamingPolicy = JsonKnownNamingPolicy.CamelCase,
    WriteIndented = true,
    NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals
)]
[JsonSerializable(typeof(MusterJson))]
[JsonSerializable(typeof(AuditJson))]
[JsonSerializable(typeof(FixJson))]
[JsonSerializable(typeof(RelinkJson))]
[JsonSerializable(typeof(PackageJson))]
[JsonSerializable(typeof(CompareJson))]
[JsonSerializable(typeof(InspectJson))]
[JsonSerializable(typeof(RenderJson))]
[JsonSerializable(typeof(ConvertJson))]
[JsonSerializable(typeof(DemoJson))]
internal sealed partial class OutputContext : JsonSerializerContext;
