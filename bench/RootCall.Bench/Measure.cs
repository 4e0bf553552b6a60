using System.Diagnostics;
using System.Globalization;

namespace RootCall.Bench;

/// <summary>Times an act beside a yardstick and prints the ratio; below 1 Root Call is faster.</summary>
internal static class Measure
{
    public static void Compare(string what, Action act, string yardstick, Action measure) =>
        Print(what, Best(act), yardstick, Best(measure));

    public static void Print(string what, double ours, string yardstick, double theirs) =>
        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"{ours / theirs, 8:0.00} x   {what}: {ours:0} ms; {yardstick}: {theirs:0} ms")
        );

    /// <summary>The best of several: what the machine can do, not what else it was doing.</summary>
    public static double Best(Action act, int times = 5) =>
        Enumerable
            .Range(0, times)
            .Min(_ =>
            {
                var clock = Stopwatch.StartNew();
                act();
                return clock.Elapsed.TotalMilliseconds;
            });
}
