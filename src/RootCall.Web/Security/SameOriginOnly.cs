namespace RootCall.Web.Security;

/// <summary>
/// A request that changes something must come from this application's own pages: the browser says so in Sec-Fetch-Site
/// (W3C Fetch Metadata) or in Origin (RFC 6454). Without either, or from elsewhere, it is refused.
/// </summary>
internal sealed class SameOriginOnly(RequestDelegate next)
{
    public Task InvokeAsync(HttpContext context)
    {
        var request = context.Request;
        // A live connection begins with a GET, and a browser lets any page open one.
        var asks =
            HttpMethods.IsGet(request.Method) && !request.Path.StartsWithSegments("/hub")
            || HttpMethods.IsHead(request.Method)
            || HttpMethods.IsOptions(request.Method);
        if (asks || IsOwn(request))
            return next(context);
        return Results
            .Problem(
                statusCode: StatusCodes.Status403Forbidden,
                title: "Only this application's own pages may change something or listen; nothing was changed."
            )
            .ExecuteAsync(context);
    }

    private static bool IsOwn(HttpRequest request)
    {
        var site = request.Headers["Sec-Fetch-Site"].ToString();
        if (site.Length > 0 && site != "same-origin")
            return false;
        var origin = request.Headers.Origin.ToString();
        return origin.Length > 0 ? origin == $"{request.Scheme}://{request.Host}" : site == "same-origin";
    }
}
