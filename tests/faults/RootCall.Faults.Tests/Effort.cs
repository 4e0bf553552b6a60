[assembly: CollectionBehavior(DisableTestParallelization = true)]

namespace RootCall.Faults.Tests;

/// <summary>How much is tried: a little wherever all tests run, all of it by <c>./rootcall faults</c>.</summary>
internal static class Effort
{
    public static bool IsFull { get; } = Environment.GetEnvironmentVariable("ROOTCALL_FAULTS") == "full";

    public static int Of(int little, int all) => IsFull ? all : little;
}
