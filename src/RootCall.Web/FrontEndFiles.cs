namespace RootCall.Web;

/// <summary>The built front end: hashed names may be kept for ever, the page itself never.</summary>
internal static class FrontEndFiles
{
    public static StaticFileOptions Options { get; } =
        new()
        {
            OnPrepareResponse = c =>
                c.Context.Response.Headers.CacheControl = c.Context.Request.Path.StartsWithSegments("/assets", StringComparison.Ordinal)
                    ? "public, max-age=31536000, immutable"
                    : "no-cache",
        };
}
