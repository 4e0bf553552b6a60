using RootCall.Core.Edits;
using RootCall.Core.Files;

namespace RootCall.Core.Audit;

/// <summary>Findings as the ledger remembers them.</summary>
internal static class FixedFindings
{
    public static FixedFinding AsFixed(this Finding finding)
    {
        var image = finding
            .Evidence.Select(e => e is WireEvidence wire ? wire.Image.Written : (e as PictureEvidence)?.Image.Written)
            .FirstOrDefault(i => i is not null);
        var name = image is null ? null : WrittenPath.Parse(image).FileName;
        return new(finding.Rule, finding.Cause.Key, finding.Target.Kind, finding.Target.Name, finding.Target.Part, name);
    }
}
