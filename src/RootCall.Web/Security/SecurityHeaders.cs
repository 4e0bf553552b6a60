namespace RootCall.Web.Security;

/// <summary>Nothing is loaded from elsewhere, and nobody frames the application.</summary>
internal sealed class SecurityHeaders(RequestDelegate next)
{
    // Styles are set on elements by the virtualised list and the positioning of menus.
    private const string Policy =
        "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; connect-src 'self' ws: wss:; "
        + "frame-ancestors 'none'; base-uri 'none'; form-action 'self'";

    public Task InvokeAsync(HttpContext context)
    {
        // As the answer begins, so that they stand on those that tell an error too.
        context.Response.OnStarting(Put, context.Response.Headers);
        return next(context);
    }

    private static Task Put(object state)
    {
        var headers = (IHeaderDictionary)state;
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "no-referrer";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        return Task.CompletedTask;
    }
}
