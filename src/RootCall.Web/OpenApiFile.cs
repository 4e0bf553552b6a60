using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace RootCall.Web;

/// <summary>Writes the API description to a file, from which the front end's types are generated.</summary>
internal static class OpenApiFile
{
    public static async Task<int> Write(WebApplication app, string path)
    {
        Features.Api.MapAll(app);
        // Endpoints are known once the application runs; any free port will do.
        app.Urls.Clear();
        app.Urls.Add("http://127.0.0.1:0");
        await app.StartAsync();
        var provider = app.Services.GetRequiredKeyedService<IOpenApiDocumentProvider>("v1");
        var document = await provider.GetOpenApiDocumentAsync();
        document.Servers = null;
        await File.WriteAllTextAsync(path, await document.SerializeAsJsonAsync(OpenApiSpecVersion.OpenApi3_1) + "\n");
        await app.StopAsync();
        return 0;
    }
}
