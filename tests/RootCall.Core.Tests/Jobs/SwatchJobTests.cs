using System.Text.Json;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Jobs;

/// <summary>A swatch from its order to its picture, and what an order may not do.</summary>
public sealed class SwatchJobTests : IDisposable
{
    private readonly Place place = new();
    private readonly SwatchJob job;
    private readonly MusterReport report;

    public SwatchJobTests()
    {
        var host = new MemoryHost(place.Folder);
        var tools = new FrameTools(new NoDecoder(), null, new RayTracers(Bounds.Default, 1), 1 << 20, place.Folder);
        job = new(new(new NoDecoder(), 1 << 20, 64), tools, host, host, ChosenColours.None);
        place.PutPng("here.png");
        host.Arrive.Run(new Attempt(), new(place.Put("a.gltf", Look.Gltf("here.png", "gone.png")), null, "here"), default)
            .GetAwaiter()
            .GetResult();
        report = host.Report(host.Arrivals[^1].Head.Id);
    }

    public void Dispose() => place.Dispose();

    private sealed class NoDecoder : IImageDecoder
    {
        public ReducedImage Reduce(string path, int side, CancellationToken stop = default) => throw new NotSupportedException();

        public void Read(string path, Action<PixelRows> take, CancellationToken stop = default) =>
            take(new(1, 1, 3, 0, [0.2f, 0.9f, 0.2f]));
    }

    private SwatchOrder Order(int material = 0) => SwatchOrder.Of(report.Scene.Materials[material], report, SwatchLight.Studio, 48);

    private string Ordered(byte[] order)
    {
        var output = place.At($"{Guid.NewGuid():N}.png");
        File.WriteAllBytes(SwatchJob.OrderOf(output), order);
        return output;
    }

    [Fact]
    public void An_order_read_back_is_the_same_and_makes_a_picture_that_tells_what_did_not_come()
    {
        var order = Order(1);
        Assert.Equal(order.Write(), SwatchOrder.Read(order.Write()).Write());
        var output = Ordered(order.Write());
        Assert.Null(job.Run(output, default));
        Assert.Equal(48, ImageProbe.File(output).Facts!.Width);
        Assert.Contains("did not come: 2", File.ReadAllText(SwatchJob.ToldOf(output)), StringComparison.Ordinal);
        Assert.False(File.Exists(SwatchJob.OrderOf(output)));
    }

    /// <summary>The same look is no distance away; another value is.</summary>
    [Fact]
    public void A_look_held_beside_another_tells_how_far_they_lie_apart()
    {
        LookDifference Apart(SwatchOrder before)
        {
            var output = Ordered((Order() with { Before = before }).Write());
            Assert.Null(job.Run(output, default));
            return JsonSerializer.Deserialize<LookDifference>(File.ReadAllText(SwatchJob.DifferenceOf(output)), JsonSerializerOptions.Web)!;
        }

        Assert.Equal(0, Apart(Order()).Most, 6);
        var other = report.Scene.Materials[0] with
        {
            Graph = report.Scene.Materials[^1].Graph with { Nodes = [new("surface", "surface_unlit", [])], Surface = "surface" },
        };
        var apart = Apart(SwatchOrder.Of(other, report, SwatchLight.Studio, 48));
        Assert.True(apart.Mean > 5 && apart.Most >= apart.High && apart.High >= apart.Mean, $"{apart}");
    }

    [Fact]
    public void What_nobody_waits_for_is_dropped_and_what_cannot_be_made_leaves_an_empty_picture()
    {
        var old = Ordered(Order().Write());
        File.SetLastWriteTimeUtc(SwatchJob.OrderOf(old), DateTime.UtcNow - SwatchJob.Wanted - TimeSpan.FromSeconds(1));
        Assert.Null(job.Run(old, default));
        Assert.False(File.Exists(old) || File.Exists(SwatchJob.OrderOf(old)));

        var outside = Order() is var order
            ? order with
            {
                Images = [order.Images[0] with { File = new("/etc/hostname", default) }],
            }
            : order;
        foreach (
            var (bytes, why) in ((byte[], string)[])
                [
                    (outside.Write(), "outside the roots"),
                    ("{"u8.ToArray(), "no swatch's order"),
                    ((Order() with { Version = 0 }).Write(), "another version"),
                ]
        )
        {
            var output = Ordered(bytes);
            Assert.Contains(why, job.Run(output, default), StringComparison.Ordinal);
            Assert.Equal(0, new FileInfo(output).Length);
        }
    }
}
