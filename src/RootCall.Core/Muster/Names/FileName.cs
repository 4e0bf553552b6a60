using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>
/// A texture's file name taken apart, so that the same map is recognised under another resolution, version, spelling of
/// its role, separators or case.
/// </summary>
/// <param name="Text">As written.</param>
/// <param name="Folded">The whole name, NFC, lower case.</param>
/// <param name="Stem">Without its ending, folded.</param>
/// <param name="Extension">With its dot, folded; empty when there is none.</param>
/// <param name="Body">The words that name the thing, in lower case without separators; empty for a name that says only its role.</param>
/// <param name="Role">What the role token says, in one spelling; null when there is none.</param>
/// <param name="RoleToken">The role token as written, lower case without separators; null when there is none.</param>
/// <param name="Resolution">The resolution token, lower case; null when there is none.</param>
/// <param name="Version">The number of the version token; null when there is none.</param>
/// <param name="Tile">A UDIM number, <c>u1_v1</c>, or the token that stands for all tiles; null when there is none.</param>
/// <param name="Frame">The number of a frame in a sequence, or the pattern that stands for all; null when there is none.</param>
/// <param name="Colour">A colour word that tells variants apart; null when there is none.</param>
/// <param name="Skin">A skin or variant token; null when there is none.</param>
public sealed record FileName(
    string Text,
    string Folded,
    string Stem,
    string Extension,
    string Body,
    Role? Role,
    string? RoleToken,
    string? Resolution,
    int? Version,
    string? Tile,
    string? Frame,
    string? Colour,
    string? Skin
)
{
    private const int LongestOnStack = 256;

    /// <summary>What stays when resolution, version, colour and skin are taken off: the same map has the same core.</summary>
    public string Core => Tile is null && Frame is null ? Family : $"{Family}|{Tile}{Frame}";

    /// <summary>
    /// The role token ends the name, but for what tells resolution, version, tile or variant: before that it is a word of the thing's
    /// own name, as in <c>metal_box</c>.
    /// </summary>
    public bool EndsWithRole { get; init; }

    /// <summary>
    /// What it is a map of: all words but the role or the single letter at the end. In <c>old_metal_box</c> metal belongs to it.
    /// </summary>
    public string Thing { get; init; } = string.Empty;

    /// <summary>
    /// All words: what it is a picture of when its end is no role, as in <c>scrap_metal</c> beside <c>scrap_metal_normal</c>.
    /// </summary>
    public string Whole => EndsWithRole ? Thing + RoleToken : Thing + Letter;

    /// <summary>It is a map of that thing, or called like it alone.</summary>
    public bool IsOf(string thing) => Thing == thing || Whole == thing;

    /// <summary>Both are maps of one thing, in one colour and skin.</summary>
    public bool IsOfSet(FileName other) =>
        Colour == other.Colour
        && Skin == other.Skin
        && Thing.Length > 0
        && (IsOf(other.Thing) || (Thing == other.Whole && other.Thing.Length > 0));

    /// <summary>
    /// The last word when it is a single letter that says no role by itself: <c>n</c> of <c>bark_n</c>; null for any other.
    /// </summary>
    public char? Letter { get; init; }

    /// <summary>Where green points, as the role token of a normal map says; null when it says nothing.</summary>
    public NormalConvention? Convention =>
        Role != Shading.Role.Normal || RoleToken is not { } token ? null
        : token.EndsWith("gl", StringComparison.Ordinal) || token.EndsWith("yup", StringComparison.Ordinal) ? NormalConvention.YUp
        : token.EndsWith("dx", StringComparison.Ordinal)
        || token.EndsWith("directx", StringComparison.Ordinal)
        || token.EndsWith("ydown", StringComparison.Ordinal)
            ? NormalConvention.YDown
        : null;

    /// <summary>The core without tile and frame: all files of a tiled image or a sequence have the same.</summary>
    public string Family => $"{Body}|{Role?.Word()}";

    /// <summary>It says what the map is for, but not of what: <c>normal.png</c> may belong to anything.</summary>
    public bool SaysOnlyItsRole => Body.Length == 0;

    /// <summary>The tile or frame stands for all of them.</summary>
    public bool IsPattern => Tile is ['<', ..] || (Frame is { Length: > 0 } f && !char.IsAsciiDigit(f[^1]));

    public static FileName Of(string name) => Of(name, NameDictionary.Standard);

    public static FileName Of(string name, NameDictionary names)
    {
        var composed = Composition.Of(name);
        var folded = composed.ToLowerInvariant();
        var stem = StemOf(folded);
        Span<NameToken> tokens = stackalloc NameToken[NameTokens.Most];
        var count = NameTokens.Read(composed.AsSpan(0, stem.Length), stem, names, tokens);
        var body = new StringBuilder(stem.Length);
        Role? role = null;
        string? roleToken = null,
            resolution = null,
            tile = null,
            frame = null,
            colour = null,
            skin = null;
        int? version = null;
        var ends = false;
        char? letter = null;
        var thing = new StringBuilder(stem.Length);
        var roleAt = 0;
        Span<char> word = stackalloc char[LongestOnStack];
        foreach (var token in tokens[..count])
        {
            var text = NameTokens.Text(stem, token);
            switch (token.Kind)
            {
                case TokenKind.Body:
                    letter = text is [>= 'a' and <= 'z'] && body.Length > 0 ? text[0] : null;
                    ends = false;
                    body.Append(text);
                    thing.Append(text);
                    break;
                case TokenKind.Role when token.Length > 0:
                    (ends, letter, roleAt) = (true, null, thing.Length);
                    thing.Append(NameTokens.Squeeze(stem, token, word));
                    (roleToken, role) = (
                        NameTokens.Squeeze(stem, token, word).ToString(),
                        names.Role(NameTokens.Squeeze(stem, token, word))
                    );
                    break;
                case TokenKind.Resolution:
                    resolution = text.ToString();
                    break;
                case TokenKind.Version:
                    version = int.Parse(text[1..], System.Globalization.CultureInfo.InvariantCulture);
                    break;
                case TokenKind.Tile:
                    tile = text.ToString();
                    break;
                case TokenKind.Frame:
                    frame = text.ToString();
                    break;
                case TokenKind.Colour:
                    colour = text.ToString();
                    break;
                case TokenKind.Skin:
                    skin = text.ToString();
                    break;
                default:
                    break;
            }
        }

        return new(
            name,
            folded,
            stem,
            folded[stem.Length..],
            body.ToString(),
            role,
            roleToken,
            resolution,
            version,
            tile,
            frame,
            colour,
            skin
        )
        {
            EndsWithRole = ends,
            Letter = letter,
            Thing = thing.ToString(
                0,
                ends ? roleAt
                    : letter is null ? thing.Length
                    : thing.Length - 1
            ),
        };
    }

    /// <summary>The same for all names that have the same <see cref="Core"/>, or <see cref="Family"/>, without making one.</summary>
    internal static ulong CoreHash(string name, NameDictionary names, bool ofFamily)
    {
        var composed = Composition.Of(name);
        if (composed.Length > LongestOnStack)
            return Of(name, names) is var parsed && ofFamily ? Hash(parsed.Family) : Hash(parsed.Core);
        Span<char> lower = stackalloc char[composed.Length];
        composed.AsSpan().ToLowerInvariant(lower);
        var stem = lower[..StemLength(lower)];
        Span<NameToken> tokens = stackalloc NameToken[NameTokens.Most];
        var count = NameTokens.Read(composed.AsSpan(0, stem.Length), stem, names, tokens);
        var core = new SpanText(stackalloc char[LongestOnStack * 2]);
        Span<char> word = stackalloc char[LongestOnStack];
        Role? role = null;
        var (tile, frame) = (default(NameToken), default(NameToken));
        foreach (var token in tokens[..count])
        {
            switch (token.Kind)
            {
                case TokenKind.Role when token.Length > 0:
                    role = names.Role(NameTokens.Squeeze(stem, token, word));
                    break;
                case TokenKind.Body:
                    core.Append(NameTokens.Text(stem, token));
                    break;
                case TokenKind.Tile:
                    tile = token;
                    break;
                case TokenKind.Frame:
                    frame = token;
                    break;
                default:
                    break;
            }
        }

        core.Append("|");
        core.Append(role?.Word());
        if (!ofFamily && (tile.Length > 0 || frame.Length > 0))
        {
            core.Append("|");
            core.Append(NameTokens.Text(stem, tile));
            core.Append(NameTokens.Text(stem, frame));
        }

        return Hash(core.Text);
    }

    /// <summary>The same for all names that differ only in case or Unicode composition.</summary>
    internal static ulong FoldedHash(string name)
    {
        var composed = Composition.Of(name);
        if (composed.Length > LongestOnStack)
            return Hash(composed.ToLowerInvariant());
        Span<char> lower = stackalloc char[composed.Length];
        composed.AsSpan().ToLowerInvariant(lower);
        return Hash(lower);
    }

    public static string Fold(string name) => Composition.Of(name).ToLowerInvariant();

    internal static ulong Hash(ReadOnlySpan<char> text) =>
        System.IO.Hashing.XxHash3.HashToUInt64(System.Runtime.InteropServices.MemoryMarshal.AsBytes(text));

    private ref struct SpanText(Span<char> room)
    {
        private readonly Span<char> room = room;
        private int length;

        public readonly ReadOnlySpan<char> Text => room[..length];

        public void Append(ReadOnlySpan<char> text)
        {
            text.CopyTo(room[length..]);
            length += text.Length;
        }
    }

    private static string StemOf(string folded) => folded[..StemLength(folded)];

    private static int StemLength(ReadOnlySpan<char> name) => name.LastIndexOf('.') is > 0 and var dot ? dot : name.Length;
}
