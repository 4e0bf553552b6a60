using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.Features;
using RootCall.Core.Files;

namespace RootCall.Web.Security;

/// <summary>
/// What cannot be used is told as a problem document (RFC 9457) with one sentence; what is a fault of ours tells no
/// details.
/// </summary>
internal sealed partial class CannotUseHandler(ILogger<CannotUseHandler> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var (status, title) = exception switch
        {
            CannotUseException e => (StatusCodes.Status422UnprocessableEntity, e.Message),
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => (
                StatusCodes.Status413PayloadTooLarge,
                $"The upload is larger than {Bounds.Default.UploadBytes:N0} bytes. Nothing was kept."
            ),
            BadHttpRequestException e => (e.StatusCode, e.Message),
            IOException e when (e.HResult & 0xFFFF) == 28 => (
                StatusCodes.Status507InsufficientStorage,
                "The disk of the data folder is full. Nothing was kept."
            ),
            _ => (StatusCodes.Status500InternalServerError, "This failed on a fault of Root Call; the server's log has the details."),
        };
        if (status == StatusCodes.Status500InternalServerError)
            LogFault(exception, httpContext.Request.Method, httpContext.Request.Path);
        if (httpContext.Features.Get<IHttpResponseFeature>()?.HasStarted == true)
            return false;
        await Results.Problem(statusCode: status, title: title).ExecuteAsync(httpContext);
        return true;
    }

    [LoggerMessage(LogLevel.Error, "{Method} {Path} failed")]
    private partial void LogFault(Exception e, string method, string path);
}
