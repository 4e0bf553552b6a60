namespace RootCall.Core.Audit.Rules;

/// <summary>One value turned over on its way to an input: what was 1 is 0.</summary>
internal static class Inversion
{
    /// <summary>Something on the way turns it over already.</summary>
    public static bool IsOnTheWay(MapView map) =>
        map.Use.Scale is [< 0, ..]
        || map.Through.Any(t =>
            t.Contains("invert", StringComparison.OrdinalIgnoreCase) || t.Contains("subtract", StringComparison.OrdinalIgnoreCase)
        );

    /// <summary>The finding with the fix that turns it over, where the format can say that.</summary>
    public static Finding Offered(Finding finding, MapView map, bool sure, AuditScene scene) =>
        map.Material.IsPreview
            ? finding.Fix("Read it inverted", sure ? 0.93 : 0.6, map.Read(u => u with { Scale = [-1, -1, -1, 1], Bias = [1, 1, 1, 0] }))
            : finding.Decide($"{scene.Scene.Format.Name} has no place for an inversion here; write the image anew, inverted.");
}
