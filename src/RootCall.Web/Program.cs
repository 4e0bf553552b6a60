using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Hangfire;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using RootCall.Core.Files;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web;
using RootCall.Web.Features;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Live;
using RootCall.Web.Security;
using Serilog;

var builder = WebApplication.CreateBuilder(args);
builder.Services.AddSerilog(log =>
    log.ReadFrom.Configuration(builder.Configuration).WriteTo.Console(formatProvider: System.Globalization.CultureInfo.InvariantCulture)
);
builder.WebHost.ConfigureKestrel(k =>
{
    k.Limits.MaxRequestBodySize = Bounds.Default.UploadBytes;
    k.AddServerHeader = false;
});
builder.Services.AddRootCallData(builder.Configuration);
builder.Services.AddHangfire((p, c) => c.UseRootCallQueue(p.GetRequiredService<IOptions<DataOptions>>().Value.Database));
builder.Services.Configure<WebOptions>(builder.Configuration.GetSection(DataOptions.Section));
builder.Services.AddSingleton<SceneMemory>();
builder.Services.AddSingleton<CurrentScenes>();
builder.Services.AddSingleton<RootCall.Web.Features.Bench.Benches>();
builder.Services.AddSingleton<RootCall.Web.Features.Muster.MusterViews>();
builder.Services.AddSingleton<RootCall.Web.Features.Muster.Acts>();
builder.Services.AddSingleton<FileWatch>();
builder.Services.AddSingleton<RootCall.Web.Features.Ledger.Changes>();
builder.Services.AddSingleton<RootCall.Web.Features.Transfer.Comparisons>();
builder.Services.AddSingleton<RootCall.Web.Features.Compare.Moments>();
builder.Services.AddSingleton<RootCall.Web.Features.Bench.Views>();
builder.Services.AddSingleton<RootCall.Web.Features.Audit.Audits>();
builder.Services.AddSingleton<RootCall.Web.Features.Audit.AuditFiles>();
builder.Services.AddSingleton<RootCall.Web.Features.Many.ManyDecisions>();
builder.Services.AddSingleton<RootCall.Web.Features.Crossing.CrossedScenes>();
builder.Services.AddSingleton<PictureRequests>();
builder.Services.AddSingleton<OtherImages>();
builder.Services.AddSingleton<SwatchRequests>();
var describeOnly = args.Contains("openapi");
if (!describeOnly)
{
    builder.Services.AddHostedService<FirstStart>();
    builder.Services.AddHostedService<WorkListener>();
    builder.Services.AddHostedService(p => p.GetRequiredService<FileWatch>());
}

builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<CannotUseHandler>();
builder.Services.AddResponseCompression(o => o.EnableForHttps = false);
builder
    .Services.AddSignalR()
    .AddJsonProtocol(o => o.PayloadSerializerOptions.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase)));
builder.Services.ConfigureHttpJsonOptions(o =>
{
    // Numbers are numbers; read from strings too they would be typed as either in the API description.
    o.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    o.SerializerOptions.RespectNullableAnnotations = true;
    o.SerializerOptions.TypeInfoResolver = o.SerializerOptions.TypeInfoResolver!.WithAddedModifier(RequiredParts.Demand);
});
builder.Services.AddOpenApi(WordSchemas.Describe);
builder.Services.AddHealthChecks().AddCheck<DatabaseCheck>("database");

var app = builder.Build();
if (describeOnly)
    return await OpenApiFile.Write(app, args[^1]);

await using (var db = await app.Services.GetRequiredService<IDbContextFactory<RootCallDb>>().CreateDbContextAsync())
    await db.Database.MigrateAsync();
await app.Services.GetRequiredService<Leftovers>().Sweep(noUploads: true, CancellationToken.None);

app.UseExceptionHandler();
app.UseStatusCodePages();
app.UseHostFiltering();
app.UseMiddleware<SameOriginOnly>();
app.UseMiddleware<SecurityHeaders>();
app.UseResponseCompression();
app.UseDefaultFiles();
app.UseStaticFiles(FrontEndFiles.Options);
app.MapHealthChecks("/health");
app.MapOpenApi();
app.MapHub<WorkHub>("/hub/work");
Api.MapAll(app);
app.MapFallback("/api/{**rest}", () =>
    Results.Problem(statusCode: StatusCodes.Status404NotFound, title: "There is nothing at this address.")
);
app.MapFallbackToFile("index.html");
await app.RunAsync();
return 0;

/// <summary>Named, so that tests can start the application.</summary>
internal sealed partial class Program;
