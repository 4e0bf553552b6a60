using System.Collections.Concurrent;
using System.Globalization;
using System.IO.Hashing;
using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Demo.Examples;
using RootCall.Testing;

namespace RootCall.Core.Tests.Law;

/// <summary>
/// The law: what is read from what was written equals what was applied, for every kind of edit, every format that can say it, and
/// any sequence. Scenes: the demo, the examples of all rules, and models that nobody here made (Debian's assimp-testmodels).
/// </summary>
public sealed class LawTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private const string Models = "/usr/share/assimp/models";
    private const int Sequences = 24;
    private const long Largest = 3_000_000;
    private readonly Place place = new();
    private readonly ConcurrentDictionary<(string Format, string Kind, string Came), int> counts = new();
    private readonly ConcurrentBag<string> broken = [];

    [Fact]
    public void What_is_written_reads_back_as_what_was_applied()
    {
        var picture = place.PutPng("picture.png", 9);
        var scenes = Scenes().ToList();
        var sequences = 0;
        Parallel.ForEach(scenes, new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount }, source =>
        {
            Scene arrived;
            var reading = new ReadContext(new([Path.GetDirectoryName(source)!, place.Folder]), Bounds.Default);
            try
            {
                arrived = SceneFormats.Read(source, reading);
            }
            catch (CannotUseException)
            {
                return;
            }

            // Formats that few of the scenes are written in get more of them.
            for (var n = 0; n < (arrived.Format.Id is "gltf" or "obj" or "dae" ? Sequences : 3 * Sequences); n++)
            {
                Interlocked.Increment(ref sequences);
                // By the scene's name: one more scene gives the others no other sequences.
                var label = $"{Path.GetFileName(Path.GetDirectoryName(source))}/{Path.GetFileName(source)} {n}";
                var random = new Random((int)XxHash32.HashToUInt32(Encoding.UTF8.GetBytes(label)));
                Sequence(arrived, reading, new(random, picture), random, label);
            }
        });

        Tell(scenes.Count, sequences);
        Assert.True(broken.IsEmpty, $"{broken.Count} broken:\n{string.Join('\n', broken.Order(StringComparer.Ordinal).Take(40))}");
        Assert.True(sequences > 4000, $"only {sequences} sequences");
        foreach (
            var (format, can) in SceneFormats
                .All.Select(f => (f.Extensions[0], f.Capabilities))
                .Where(f => f.Capabilities.ReadOnlyBecause is null)
        )
        foreach (var kind in counts.Keys.Select(k => k.Kind).Distinct().Where(k => EditMaker.CanSay(can, k)))
            Assert.True(
                counts.Any(c =>
                    c.Key.Kind == kind
                    && c.Key.Came == "made"
                    && SceneFormats.For("x" + Ending(c.Key.Format)) == SceneFormats.For("x" + format)
                ),
                $"{kind} was never made in {format}"
            );
    }

    private static string Ending(string format) => "." + format;

    private IEnumerable<string> Scenes()
    {
        foreach (var scene in demo.Answers().SelectMany(a => new[] { a.Arrived, a.Clean }).Distinct())
            yield return scene;
        foreach (var rule in RuleCatalog.All)
            yield return ExampleScene.Write(place.At("examples/" + rule.Id), rule.Descriptor.Example);
        foreach (var scene in OwnScenes.All(place))
            yield return scene;
        foreach (var file in Directory.EnumerateFiles(Models, "*", SearchOption.AllDirectories).Order(StringComparer.Ordinal))
            if (
                SceneFormats.For(file)?.Capabilities.ReadOnlyBecause is null
                && SceneFormats.IsScene(file)
                && !file.Contains("/invalid/", StringComparison.Ordinal)
                && new FileInfo(file).Length < Largest
            )
                yield return file;
    }

    private void Sequence(Scene arrived, ReadContext reading, EditMaker maker, Random random, string label)
    {
        var folder = place.At("edited/" + label.Replace('/', '_'));
        string Folder() => Directory.CreateDirectory(Path.Combine(folder, Guid.NewGuid().ToString("N"))).FullName;
        var scene = EditedScene.Of(arrived, reading, Folder);
        var told = new StringBuilder(label);
        try
        {
            for (var n = random.Next(1, 6); n > 0; n--)
            {
                if (maker.Next(scene.Current) is not { } edit)
                    break;
                told.Append("; ").Append(edit.Describe());
                var (before, refusals) = (scene.Current, scene.Refused.Length);
                scene = scene.And(TestSession.Entry(edit));
                var came =
                    scene.Refused.Length > refusals ? "refused"
                    : ReferenceEquals(scene.Current, before)
                    || SceneComparison.AreSame(scene.Current, before) && before.Answers.Equals(scene.Current.Answers)
                        ? "so already"
                    : "made";
                counts.AddOrUpdate((arrived.Format.Id, edit.GetType().Name, came), 1, (_, c) => c + 1);
                if (came == "made" && random.Next(4) == 0)
                    TakenBack(before, edit, told.ToString());
            }

            var copies = scene.Write(Folder());
            var read = copies.Count == 0 ? arrived : SceneFormats.Read(arrived.Path, scene.Reading with { Edited = copies });
            foreach (var difference in SceneComparison.Differences(scene.Current, read).Take(2))
                broken.Add($"{told}\n      shown <> written: {Short(difference)}");
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            broken.Add(
                $"{told}\n      {e.GetType().Name}: {e.Message} "
                    + $"{e.StackTrace?.Split('\n').FirstOrDefault(l => l.Contains("RootCall", StringComparison.Ordinal))?.Trim()}"
            );
        }
        finally
        {
            if (Directory.Exists(folder))
                Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>An edit and its inverse leave the scene as it was.</summary>
    private void TakenBack(Scene before, Edit edit, string told)
    {
        var applied = edit.Apply(before);
        if (applied.Ripples)
            return;
        var back = edit.Invert(before).Apply(applied.Scene);
        if (back.Refusal is { } why)
            broken.Add($"{told}\n      cannot be taken back: {why}");
        else if (SceneComparison.Differences(back.Scene, before).FirstOrDefault() is { } difference)
            broken.Add($"{told}\n      taken back <> before: {Short(difference)}");
    }

    private static string Short(string text)
    {
        var middle = text.IndexOf(" <> ", StringComparison.Ordinal);
        if (text.Length < 500 || middle < 0)
            return text;
        var (a, b) = (text[..middle], text[(middle + 4)..]);
        var start = a.IndexOf(": ", StringComparison.Ordinal) + 2;
        var same = 0;
        while (start + same < a.Length && same < b.Length && a[start + same] == b[same])
            same++;
        string At(string s, int at) => s[Math.Max(0, at - 90)..Math.Min(s.Length, at + 130)];
        return $"{a[..Math.Min(start, 60)]} …{At(a, start + same)} <> …{At(b, same)}";
    }

    /// <summary>Sequences by format and kind, for whoever runs the tests.</summary>
    private void Tell(int scenes, int sequences)
    {
        var text = new StringBuilder();
        var formats = counts.Keys.Select(k => k.Format).Distinct().Order().ToList();
        string Cell(string format, string kind) =>
            $"{counts.GetValueOrDefault((format, kind, "made"))}/"
            + $"{counts.Where(c => c.Key.Format == format && c.Key.Kind == kind).Sum(c => c.Value)}";
        void Row(string kind, IEnumerable<string> cells) =>
            text.Append(kind.PadRight(18)).AppendJoin(string.Empty, cells.Select(c => c.PadLeft(14))).Append('\n');
        text.Append(CultureInfo.InvariantCulture, $"the law: {sequences} sequences over {scenes} scenes\n");
        Row(string.Empty, formats);
        foreach (var kind in counts.Keys.Select(k => k.Kind).Distinct().Order())
            Row(kind, formats.Select(f => Cell(f, kind)));
        text.Append("each: made/tried\n");
        File.WriteAllText(Path.Combine(AppContext.BaseDirectory, "law.txt"), text.ToString());
    }

    public void Dispose() => place.Dispose();
}
