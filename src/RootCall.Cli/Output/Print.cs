using System.Buffers;
using System.Globalization;
using System.IO.Pipelines;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;

namespace RootCall.Cli.Output;

internal static class Print
{
    private const int Page = 1 << 18;

    public static void Json<T>(T value, JsonTypeInfo<T> type)
    {
        using var stream = Console.OpenStandardOutput();
        // In pages: one buffer that grows would copy tens of megabytes again and again.
        var pages = PipeWriter.Create(stream, new(minimumBufferSize: Page));
        // Paths are read by people too: no escapes where JSON needs none.
        using (var writer = new Utf8JsonWriter(pages, new() { Indented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }))
            JsonSerializer.Serialize(writer, value, type);
        pages.Write("\n"u8);
        pages.Complete();
    }

    public static string Count(long n, string what) =>
        $"{n.ToString("N0", CultureInfo.InvariantCulture)} {what}{(n == 1 ? string.Empty : "s")}";

    /// <summary>Decimal units, as the interface writes them.</summary>
    public static string Bytes(long bytes)
    {
        var (value, unit) = bytes switch
        {
            >= 1_000_000_000 => (bytes / 1e9, "GB"),
            >= 1_000_000 => (bytes / 1e6, "MB"),
            >= 1_000 => (bytes / 1e3, "kB"),
            _ => (bytes, "B"),
        };
        return string.Create(CultureInfo.InvariantCulture, $"{value:0.#} {unit}");
    }

    public static string Facts(ImageFacts f) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{ImageCodecs.Of(f.Format).Name} {f.Width} × {f.Height}, {f.Channels} × {f.BitDepth} "
                + $"bit{(f.IsFloat ? " float" : string.Empty)}{(f.Colour is null ? string.Empty : ", " + f.Colour)}"
        );
}
