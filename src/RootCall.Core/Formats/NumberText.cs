using System.Globalization;

namespace RootCall.Core.Formats;

/// <summary>Numbers as scene files write them: the fewest digits that read back as the same number.</summary>
internal static class NumberText
{
    public static string Of(double number) => number.ToString("R", CultureInfo.InvariantCulture);

    public static string Join(string between, IEnumerable<double> numbers) => string.Join(between, numbers.Select(Of));
}
