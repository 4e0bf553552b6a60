using RootCall.Testing;

namespace RootCall.Core.Tests.Cli;

/// <summary>The command line as it is delivered, machine code, says what the same code says on the runtime.</summary>
public sealed class DeliveredTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    [Theory]
    [InlineData("arrived/brass_lamp/brass_lamp.glb")]
    [InlineData("arrived/watering_can/watering_can.usda")]
    [InlineData("arrived/seed_drawer/seed_drawer.mtlx")]
    [InlineData("arrived/enamel_sign/enamel_sign.obj")]
    [InlineData("arrived/garden_gate/garden_gate.fbx")]
    [InlineData("arrived/moth_jar/moth_jar.dae")]
    public void Both_find_fix_and_write_the_same(string scene)
    {
        string[][] calls =
        [
            ["audit", "--destination", "lantern-headset", "--format", "json"],
            ["relink", "--format", "json", "--out"],
        ];
        foreach (var call in calls)
        {
            ToolResult Run(string program, string folder) =>
                Tool.Run(
                    program,
                    [
                        call[0],
                        demo.At(scene),
                        "--root",
                        demo.Library,
                        .. call[1..],
                        .. call[^1] == "--out" ? [place.At(folder)] : Array.Empty<string>(),
                    ]
                );
            var (delivered, known) = (Run(Tool.CommandLine, "out1"), Run(Tool.Binary("RootCall.Cli"), "out2"));
            Assert.Equal((known.Status, known.Error), (delivered.Status, delivered.Error));
            Assert.Equal(known.Output.Replace(place.At("out2"), place.At("out1"), StringComparison.Ordinal), delivered.Output);
        }

        Assert.Equal(place.Files("out2"), place.Files("out1"));
    }
}
