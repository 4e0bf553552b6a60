using System.Globalization;

namespace RootCall.Bench.Load;

/// <summary>What a process holds in memory (VmRSS of <c>/proc</c>, in MB), looked at twice a second.</summary>
internal sealed class ResidentMemory : IDisposable
{
    private readonly List<double> seen = [];
    private readonly Timer timer;
    private readonly int process;

    public ResidentMemory(int process)
    {
        this.process = process;
        timer = new(_ => Look(), null, TimeSpan.Zero, TimeSpan.FromMilliseconds(500));
    }

    public void Dispose() => timer.Dispose();

    public override string ToString()
    {
        lock (seen)
            return string.Create(
                CultureInfo.InvariantCulture,
                $"{seen[0]:0} MB at first, {seen.Max():0} MB at most, {seen[^1]:0} MB at last"
            );
    }

    private void Look()
    {
        var line = File.ReadLines($"/proc/{process}/status").First(l => l.StartsWith("VmRSS:", StringComparison.Ordinal));
        lock (seen)
            seen.Add(
                double.Parse(line.Split(':', ' ', '\t').First(p => p.Length > 0 && char.IsAsciiDigit(p[0])), CultureInfo.InvariantCulture)
                    / 1024
            );
    }
}
