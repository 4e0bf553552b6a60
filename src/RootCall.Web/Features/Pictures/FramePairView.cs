using RootCall.Core.Jobs;
using RootCall.Core.Viewing;

namespace RootCall.Web.Features.Pictures;

/// <summary>Two frames beside each other, and how far they lie apart.</summary>
/// <param name="Mean">Mean ΔE of the frames' pixels, <paramref name="High"/> its 95th percentile.</param>
/// <param name="IsSeen">Somebody could tell the two apart.</param>
/// <param name="Told">What the frames do not show, in sentences.</param>
/// <param name="IsCurrent">They show what they are made of as it stands.</param>
/// <param name="Pictures">Address of the picture of each name.</param>
internal sealed record FramePairView(
    DateTimeOffset At,
    double Mean,
    double High,
    double Most,
    bool IsSeen,
    IEnumerable<string> Told,
    bool IsCurrent,
    FramePairPictures Pictures
)
{
    /// <param name="address">Of a picture; each pair has addresses of its own, so that a browser shows the newest.</param>
    public static FramePairView Of(DrawnPair made, bool isCurrent, Func<FramePicture, string> address) =>
        new(
            made.At,
            made.Moved.Mean,
            made.Moved.High,
            made.Moved.Most,
            made.Moved.IsSeen,
            made.Told,
            isCurrent,
            new(address(FramePicture.Before), address(FramePicture.After), address(FramePicture.Difference))
        );
}

internal sealed record FramePairPictures(string Before, string After, string Difference);
