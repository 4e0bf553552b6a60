using RootCall.Core.Audit;

namespace RootCall.Core.Edits;

/// <summary>What an entry of the ledger fixed, so that a recipe can look for the same thing elsewhere.</summary>
/// <param name="Cause">Key of the family.</param>
/// <param name="Kind">Kind of the target.</param>
public sealed record FixedFinding(string Rule, string Cause, string Kind, string Name, string? Part, string? Image)
{
    public static FixedFinding Of(Finding finding) => new(
        finding.Rule, finding.Cause.Key, finding.Target.Kind, finding.Target.Name, finding.Target.Part,
        finding.Evidence.Select(e => e switch { WireEvidence w => w.Image.Written, PictureEvidence p => p.Image.Written, _ => null }).OfType<string>().FirstOrDefault() is { } image ? Muster.WrittenPath.Parse(image).FileName : null);
}
