using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Edits;

/// <summary>A ledger as a file: every entry with its edits and their type, so that it can be read again.</summary>
public static class LedgerFile
{
    private static readonly LedgerContext Json = new(
        new(JsonSerializerDefaults.Web)
        {
            WriteIndented = true,
            NewLine = "\n",
            Converters =
            {
                Words<EntryState>(),
                Words<ReferenceKind>(),
                Words<SiteNotation>(),
                Words<BoundBy>(),
                Words<WrapMode>(),
                Words<PathStyle>(),
                // By its name here, not by its word: so ledgers that were written before read on.
                Words<Role>(),
            },
            // What an edit tells of itself follows from what it is.
            IgnoreReadOnlyProperties = true,
            DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
            NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
            Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        }
    );

    public static byte[] Write(IEnumerable<LedgerEntry> entries) => JsonSerializer.SerializeToUtf8Bytes([.. entries], Json.ListLedgerEntry);

    /// <param name="from">What the file is called in a message.</param>
    /// <exception cref="CannotUseException">It is no ledger; the sentence says where.</exception>
    public static ImmutableArray<LedgerEntry> Read(ReadOnlySpan<byte> json, string from) =>
        [
            .. JsonText
                .Read(json, from, "ledger", Json.ListLedgerEntry)
                .Select(e => e with { State = EntryState.Applied, Edits = JsonText.Or(e.Edits), Fixed = JsonText.Or(e.Fixed) }),
        ];

    private static JsonStringEnumConverter<T> Words<T>()
        where T : struct, Enum => new(JsonNamingPolicy.KebabCaseLower);
}

[JsonSerializable(typeof(List<LedgerEntry>))]
internal sealed partial class LedgerContext : JsonSerializerContext;
