namespace RootCall.Core.Files;

/// <summary>"What is called from there lies here": a start of written paths and the folder that takes its place.</summary>
/// <param name="From">Start of written paths, with slashes: <c>D:/jobs/2231/tex</c>; <c>.</c> for all relative ones.</param>
/// <param name="To">Absolute folder.</param>
public sealed record PathRewrite(string From, string To)
{
    /// <summary>The path on this system; null for a path that stands elsewhere.</summary>
    public string? Rewrite(WrittenPath written)
    {
        if (From == ".")
            return written.Origin == PathOrigin.Relative ? Path.GetFullPath(Path.Join(To, written.Join(written.Segments.Length))) : null;
        var path = written.Join(written.Segments.Length);
        if (path.Length <= From.Length || path[From.Length] != '/' || !path.StartsWith(From, StringComparison.OrdinalIgnoreCase))
            return null;
        return Path.GetFullPath(Path.Join(To, path[(From.Length + 1)..]));
    }
}
