using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.Features;
using Npgsql;
using RootCall.Core.Files;
using RootCall.Data.Stores;

namespace RootCall.Web.Security;

/// <summary>
/// What cannot be used is told as a problem document (RFC 9457) with one sentence; what is a fault of ours tells no
/// details.
/// </summary>
internal sealed partial class CannotUseHandler(DiskStore disk, ILogger<CannotUseHandler> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var (status, title) = exception switch
        {
            CannotUseException e => (StatusCodes.Status422UnprocessableEntity, disk.Unnamed(e.Message)),
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => (
                StatusCodes.Status413PayloadTooLarge,
                $"The upload is larger than {Bounds.Default.UploadBytes:N0} bytes. Nothing was kept."
            ),
            BadHttpRequestException e => (e.StatusCode, e.Message),
            _ when IsAway(exception) => (
                StatusCodes.Status503ServiceUnavailable,
                "The database does not answer at the moment. Nothing was changed; it is tried again by itself."
            ),
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

    /// <summary>The database is down, starting, or not to be reached.</summary>
    private static bool IsAway(Exception? exception) =>
        exception switch
        {
            null => false,
            PostgresException { SqlState: ['5', '7', 'P', ..] or ['0', '8', ..] } => true,
            PostgresException => false,
            NpgsqlException => true,
            _ => IsAway(exception.InnerException),
        };

    [LoggerMessage(LogLevel.Error, "{Method} {Path} failed")]
    private partial void LogFault(Exception e, string method, string path);
}
