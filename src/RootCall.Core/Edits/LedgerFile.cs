using System.Text.Json;
using System.Text.Json.Serialization;

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
}
