using System.Numerics;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Rendering.Colour;

/// <summary>How far two pictures of one thing lie apart: CIEDE2000 of what a display shows of each pixel.</summary>
/// <param name="High">95 of 100 pixels differ by no more.</param>
public sealed record LookDifference(double Mean, double High, double Most)
{
    /// <summary>Less than this nobody sees, side by side (common practice: half of what is just noticed).</summary>
    private const double LeastSeen = 0.5;

    /// <summary>Somebody could tell them apart.</summary>
    public bool IsSeen => IsSeenAt(Most);

    /// <param name="most">The largest difference of a pixel.</param>
    public static bool IsSeenAt(double most) => most >= LeastSeen;

    /// <param name="isShown">Which pixels show the thing.</param>
    public static LookDifference Of(ReadOnlySpan<Vector3> a, ReadOnlySpan<Vector3> b, Func<int, bool> isShown)
    {
        var all = new List<double>(a.Length);
        for (var i = 0; i < a.Length; i++)
            if (isShown(i))
                all.Add(Between(a[i], b[i]));
        if (all.Count == 0)
            return new(0, 0, 0);
        all.Sort();
        return new(all.Average(), all[(int)Math.Min(all.Count - 1, all.Count * 0.95)], all[^1]);
    }

    /// <summary>Null for what is no difference that was written.</summary>
    public static LookDifference? Read(ReadOnlySpan<byte> json)
    {
        try
        {
            return json.IsEmpty ? null : JsonSerializer.Deserialize(json, LookDifferenceContext.Default.LookDifference);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    public byte[] Write() => JsonSerializer.SerializeToUtf8Bytes(this, LookDifferenceContext.Default.LookDifference);

    /// <summary>Of two linear colours as a display shows them.</summary>
    public static double Between(Vector3 a, Vector3 b) => Ciede2000.Difference(Displayed(a), Displayed(b));

    private static Lab Displayed(Vector3 linear) => Lab.Of(Vector3.Clamp(linear, Vector3.Zero, Vector3.One));
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(LookDifference))]
internal sealed partial class LookDifferenceContext : JsonSerializerContext;
