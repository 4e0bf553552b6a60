using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;

namespace RootCall.Core.Edits;

/// <summary>A ledger as a file: every entry with its edits and their type, so that it can be read again.</summary>
public static class LedgerFile
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        NewLine = "\n",
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public static byte[] Write(IEnumerable<LedgerEntry> entries) => JsonSerializer.SerializeToUtf8Bytes(entries.ToList(), Options);

    /// <param name="from">What the file is called in a message.</param>
    /// <exception cref="CannotUseException">It is no ledger; the sentence says where.</exception>
    public static ImmutableArray<LedgerEntry> Read(ReadOnlySpan<byte> json, string from)
    {
        try
        {
            var entries = JsonSerializer.Deserialize<List<LedgerEntry>>(json, Options) ?? [];
            return
            [
                .. entries.Select(e =>
                    e with
                    {
                        State = EntryState.Applied,
                        Edits = e.Edits.IsDefault ? [] : e.Edits,
                        Fixed = e.Fixed.IsDefault ? [] : e.Fixed,
                    }
                ),
            ];
        }
        catch (Exception e) when (e is JsonException or NotSupportedException)
        {
            var place = e is JsonException { LineNumber: { } line } ? $", line {line + 1}" : string.Empty;
            throw new CannotUseException($"{from} is no ledger{place}: {e.Message.Split(". Path")[0].TrimEnd('.')}.", e);
        }
    }
}
