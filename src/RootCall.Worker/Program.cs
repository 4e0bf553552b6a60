using Hangfire;
using Microsoft.Extensions.Options;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Native;
using RootCall.Worker;
using Serilog;

var builder = Host.CreateApplicationBuilder(args);
builder.Services.AddSerilog(log =>
    log.ReadFrom.Configuration(builder.Configuration).WriteTo.Console(formatProvider: System.Globalization.CultureInfo.InvariantCulture)
);
builder.Services.AddRootCallData(builder.Configuration);
builder.Services.AddSingleton<ImageDecoder>();
builder.Services.AddSingleton<IImageDecoder>(p => p.GetRequiredService<ImageDecoder>());
builder.Services.AddSingleton<IImageEncoder>(p => p.GetRequiredService<ImageDecoder>());
builder.Services.AddSingleton<IPictureStore>(p => p.GetRequiredService<DiskStore>());
builder.Services.AddJobs();
builder.Services.AddSingleton<IWorkRunner, WorkRunner>();
builder.Services.AddHostedService<Upkeep>();
builder.Services.AddHangfire((p, c) => c.UseRootCallQueue(p.GetRequiredService<IOptions<DataOptions>>().Value.Database));
builder.Services.AddHangfireServer(o =>
{
    o.WorkerCount = Math.Max(2, Environment.ProcessorCount);
    o.CancellationCheckInterval = TimeSpan.FromSeconds(1);
    o.SchedulePollingInterval = TimeSpan.FromSeconds(2);
});
builder.Services.AddHangfireServer(o =>
{
    o.Queues = [IWorkRunner.Swatches];
    o.WorkerCount = Environment.ProcessorCount;
    o.CancellationCheckInterval = TimeSpan.FromSeconds(1);
});
builder.Build().Run();
