using System.Collections.Immutable;
using System.Runtime.InteropServices;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;

namespace RootCall.Native;

/// <summary>Converts colours in a child process, one request at a time; the process stays as long as it answers.</summary>
public sealed class ColourEngine(Bounds bounds) : IColourEngine, IDisposable
{
    private readonly Lock gate = new();
    private ColourProcess? process;

    public int Most => 1 << 18;

    public ColourConfig Read(string path, CancellationToken stop)
    {
        var names = ImmutableDictionary.CreateBuilder<string, string>(StringComparer.OrdinalIgnoreCase);
        var views = new List<ColourView>();
        ColourView? first = null;
        foreach (var line in Ask(RequestKind.Read, [], stop, path).Split('\n', StringSplitOptions.RemoveEmptyEntries))
            switch (line.Split('\t'))
            {
                case ["space", var name, .. var aliases]:
                    foreach (var called in aliases.Prepend(name))
                        names.TryAdd(called, name);
                    break;
                case ["role", var role, var space]:
                    names.TryAdd(role, space);
                    break;
                case ["view", var display, var view]:
                    views.Add(new(display, view));
                    break;
                case ["default", var display, var view]:
                    first = new(display, view);
                    break;
            }

        return new(path, names.ToImmutable(), [.. views.OrderByDescending(v => v == first)]);
    }

    public void Convert(ColourConfig config, string from, string to, Span<float> rgb, CancellationToken stop) =>
        Ask(RequestKind.Convert, rgb, stop, config.Path, from, to);

    public void Show(ColourConfig config, ColourView view, string from, Span<float> rgb, CancellationToken stop) =>
        Ask(RequestKind.Show, rgb, stop, config.Path, from, view.Display, view.Name);

    public void Dispose() => process?.Dispose();

    private string Ask(RequestKind kind, Span<float> rgb, CancellationToken stop, params IReadOnlyList<string> lines)
    {
        if (lines.Any(l => l.AsSpan().IndexOfAny('\n', '\r', '\0') >= 0))
            throw new CannotUseException("A name in a colour config has no line breaks.");
        lock (gate)
        {
            if (process is { IsOver: true })
            {
                process.Dispose();
                process = null;
            }

            process ??= ColourProcess.Start(bounds, Most);
            return process.Ask(kind, rgb, lines, stop);
        }
    }

    private enum RequestKind : uint
    {
        Read,
        Convert,
        Show,
    }

    /// <summary>The child process (<c>shim/rootcall_colours.cpp</c>).</summary>
    private sealed class ColourProcess : WalledProcess
    {
        private readonly Bounds bounds;
        private readonly SharedMemory pixels;

        private ColourProcess(Bounds bounds, int most)
            : base("rootcall-colours", Invariant(bounds.ImageMemory), Invariant(most))
        {
            this.bounds = bounds;
            try
            {
                pixels = new(Process.Id, Ask<int>([], ToStart, CancellationToken.None));
            }
            catch (Exception e) when (e is CannotUseException or IOException)
            {
                base.Dispose();
                throw new CannotUseException("Colours cannot be converted: the program that does it does not start.", e);
            }
        }

        public static ColourProcess Start(Bounds bounds, int most)
        {
            try
            {
                return new(bounds, most);
            }
            catch (System.ComponentModel.Win32Exception e)
            {
                throw new CannotUseException("Colours cannot be converted: the program that does it does not start.", e);
            }
        }

        public string Ask(RequestKind kind, Span<float> rgb, IReadOnlyList<string> lines, CancellationToken stop)
        {
            pixels.Write<float>(rgb, 0);
            var text = Encoding.UTF8.GetBytes(string.Join('\n', lines));
            var answer = Ask<Request, Answer>(
                new(kind, (uint)(rgb.Length / 3), (uint)text.Length, (uint)bounds.ImageSeconds),
                text,
                bounds.ImageSeconds,
                stop
            );
            if (answer.Status != AnswerStatus.Done)
                throw new CannotUseException($"“{Path.GetFileName(lines[0])}” {Why(answer.Length)}.");
            var said = new byte[answer.Length];
            Rest(said);
            pixels.Read(rgb, 0);
            return Encoding.UTF8.GetString(said);
        }

        public override void Dispose()
        {
            base.Dispose();
            pixels?.Dispose();
        }

        protected override Exception Ended(bool tooLong) =>
            new CannotUseException(
                tooLong
                    ? $"The colour config takes longer than {bounds.ImageSeconds} s to be read."
                    : "The colour config ended the program that reads it."
            );

        private static string Invariant(long number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

        [StructLayout(LayoutKind.Sequential)]
        private readonly record struct Request(RequestKind Kind, uint Count, uint Length, uint Seconds);

        [StructLayout(LayoutKind.Sequential)]
        private readonly record struct Answer(AnswerStatus Status, uint Length);
    }
}
