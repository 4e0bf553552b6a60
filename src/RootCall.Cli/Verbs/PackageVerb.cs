using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using static System.FormattableString;

namespace RootCall.Cli.Verbs;

/// <summary><c>package</c>: the scene with all its files in a folder or zip, opened again alone and proven.</summary>
internal static class PackageVerb
{
    /// <summary>What a frame of the proof may take.</summary>
    private static readonly TimeSpan MostTime = TimeSpan.FromSeconds(30);

    public static Command Command()
    {
        var (scene, roots, format, strict) = (SharedOptions.Scene(), SharedOptions.Roots(), SharedOptions.Format(), SharedOptions.Strict());
        var output = SharedOptions.Out("A folder, or a file that ends in .zip.");
        var standIns = new Option<bool>("--allow-stand-ins") { Description = "Build although neutral pictures stand in for missing ones." };
        var command = new Command("package", "Packs the scene with everything it calls for, and proves the package.")
        {
            scene,
            roots,
            output,
            strict,
            standIns,
            format,
        };
        var decisions = new DecisionOptions();
        decisions.AddTo(command);
        command.SetAction(call =>
        {
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            var replayed = decisions.Make(call, opened, call.GetValue(strict));
            var plan = PackagePlan.Make(opened.Writable(replayed), opened.Context.Facts, opened.Session.Current.Answers);
            plan.Demand(allowMissing: true, call.GetValue(standIns));
            using var tools = new FrameWorks(opened.Decoder, null, null);
            var painter = new ProofPainter(tools.Tools, MostTime);
            var before = painter.Before(
                new(opened.Report, opened.Session.Edited.Basis, opened.Session.Edited.Reading),
                CancellationToken.None
            );
            var built = PackageBuilder.Build(plan, call.GetValue(output)!, DateTimeOffset.Now);
            var proof = PackageProof.Prove(built.Written, Bounds.Default, drawn: (painter, before));
            if (call.GetValue(format) == "json")
                Print.Json(PackageJson.Of(built, proof), OutputContext.Default.PackageJson);
            else
            {
                Console.WriteLine($"wrote {built.Written}: {Print.Count(built.Files, "file")}, {Print.Bytes(built.BytesAfter)}");
                Console.WriteLine(
                    $"opened alone: {proof.Resolved} of {Print.Count(proof.Resolved + proof.Unresolved.Length, "reference")} resolve inside"
                );
                Console.WriteLine(
                    proof.Frames is { Difference: { } apart }
                        ? Invariant($"drawn before and from the package: mean ΔE {apart.Mean:0.00}, largest {apart.Most:0.0}")
                        : $"not drawn: {proof.Frames?.WhyNot}"
                );
                foreach (var clash in plan.Clashes)
                    Console.WriteLine(
                        $"  clash {clash.Name}: {(clash.SameContents ? "same contents, one file" : string.Join(", ", clash.Names))}"
                    );
                foreach (var left in proof.Unresolved)
                    Console.WriteLine($"  {left.State.Word()} {left.Reference.Written}");
                foreach (var broken in proof.BrokenFiles)
                    Console.WriteLine($"  differs from its manifest: {broken}");
            }

            return proof.Holds ? 0 : 1;
        });
        return command;
    }
}
