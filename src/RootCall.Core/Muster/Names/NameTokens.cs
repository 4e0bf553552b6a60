namespace RootCall.Core.Muster;

internal enum TokenKind : byte
{
    Body,
    Role,
    Resolution,
    Version,
    Tile,
    Frame,
    Colour,
    Skin,
}

/// <summary>A run of characters of a stem: letters and digits between separators, or one hump of camel case.</summary>
internal readonly record struct NameToken(short Start, short Length, TokenKind Kind);

/// <summary>Cuts a stem into tokens and tells what each says. Works on spans, since an index asks for every file.</summary>
internal static class NameTokens
{
    public const int Most = 48;
    private const int MostJoined = 3;
    private const int LongestWord = 32;

    /// <param name="stem">As written: capitals are needed to see humps.</param>
    /// <param name="lower">The same in lower case, same length.</param>
    /// <returns>How many tokens were written; what is beyond the last one belongs to the body as it stands.</returns>
    public static int Read(ReadOnlySpan<char> stem, ReadOnlySpan<char> lower, NameDictionary names, Span<NameToken> tokens)
    {
        var count = Cut(stem, tokens);
        var role = -1;
        for (var i = 0; i < count; i++)
        {
            if (tokens[i].Kind != TokenKind.Body)
                continue;
            var word = Text(lower, tokens[i]);
            if (word.Length >= 4 && word[0] == '<' && word[^1] == '>')
            {
                tokens[i] = tokens[i] with { Kind = word is "<udim>" or "<uvtile>" ? TokenKind.Tile : TokenKind.Frame };
                continue;
            }

            // The first token names the thing: "half_timber.png" is not half of "timber".
            if (i == 0)
                continue;
            if (
                word[0] == 'u'
                && NameDictionary.IsDigits(word[1..])
                && i + 1 < count
                && Text(lower, tokens[i + 1]) is ['v', .. var v]
                && NameDictionary.IsDigits(v)
            )
            {
                tokens[i] = new(tokens[i].Start, (short)(tokens[i + 1].Start + tokens[i + 1].Length - tokens[i].Start), TokenKind.Tile);
                tokens[(i + 2)..count].CopyTo(tokens[(i + 1)..]);
                count--;
                continue;
            }

            if (Joined(lower, names, tokens, i, count) is var joined and > 0)
            {
                // The last role counts; one that came before it is part of the thing's own name: "brushed_metal_normal".
                if (role >= 0)
                    tokens[role] = tokens[role] with { Kind = TokenKind.Body };
                role = i;
                if (joined > 1)
                {
                    var last = tokens[i + joined - 1];
                    tokens[i] = new(tokens[i].Start, (short)(last.Start + last.Length - tokens[i].Start), TokenKind.Role);
                    tokens[(i + joined)..count].CopyTo(tokens[(i + 1)..]);
                    count -= joined - 1;
                }
                else
                {
                    tokens[i] = tokens[i] with { Kind = TokenKind.Role };
                }

                continue;
            }

            tokens[i] = tokens[i] with { Kind = Kind(stem, word, tokens, i, count, names) };
        }

        Alone(lower, names, tokens[..count]);
        return count;
    }

    public static ReadOnlySpan<char> Text(ReadOnlySpan<char> lower, NameToken token) => lower.Slice(token.Start, token.Length);

    /// <summary>A role's spelling with separators and humps taken out: "base_Color" is "basecolor".</summary>
    public static ReadOnlySpan<char> Squeeze(ReadOnlySpan<char> lower, NameToken token, Span<char> buffer)
    {
        var n = 0;
        foreach (var c in Text(lower, token))
            if (!IsSeparator(c) && n < buffer.Length)
                buffer[n++] = c;
        return buffer[..n];
    }

    private static TokenKind Kind(
        ReadOnlySpan<char> stem,
        ReadOnlySpan<char> word,
        Span<NameToken> tokens,
        int i,
        int count,
        NameDictionary names
    )
    {
        if (NameDictionary.IsDigits(word))
        {
            var dotted = tokens[i].Start > 0 && stem[tokens[i].Start - 1] == '.';
            // 1024 is a size and a tile; after a dot tiles and frames stand (common practice).
            if (word.Length == 4 && word[0] == '1' && !word.SequenceEqual("1000") && (dotted || !names.IsSize(word)))
                return TokenKind.Tile;
            if (names.IsSize(word) && !dotted)
                return TokenKind.Resolution;
            return i == count - 1 && word.Length >= 3 ? TokenKind.Frame : TokenKind.Body;
        }

        if (names.IsSize(word))
            return TokenKind.Resolution;
        if (word.Length is >= 2 and <= 6 && word[0] == 'v' && NameDictionary.IsDigits(word[1..]))
            return TokenKind.Version;
        if (word.Trim('#').IsEmpty || (word[0] == '%' && word[^1] == 'd'))
            return TokenKind.Frame;
        if (names.IsColour(word))
            return TokenKind.Colour;
        return names.IsSkin(word) ? TokenKind.Skin : TokenKind.Body;
    }

    /// <summary>How many tokens from here on spell a role together; 0 for none. "base", "color" spell one.</summary>
    private static int Joined(ReadOnlySpan<char> lower, NameDictionary names, Span<NameToken> tokens, int at, int count)
    {
        Span<char> word = stackalloc char[LongestWord];
        for (var n = Math.Min(MostJoined, count - at); n > 0; n--)
        {
            var length = 0;
            for (var i = at; i < at + n && length >= 0; i++)
            {
                var part = Text(lower, tokens[i]);
                if (length + part.Length > word.Length)
                    length = -1;
                else
                {
                    part.CopyTo(word[length..]);
                    length += part.Length;
                }
            }

            if (length > 0 && names.Role(word[..length]) is not null)
                return n;
        }

        return 0;
    }

    /// <summary>A name that says nothing but its role: "normal_2k.png". Then the first token is the role.</summary>
    private static void Alone(ReadOnlySpan<char> lower, NameDictionary names, Span<NameToken> tokens)
    {
        if (tokens.Length == 0 || tokens[0].Kind != TokenKind.Body)
            return;
        var hasRole = false;
        for (var i = 1; i < tokens.Length; i++)
        {
            if (tokens[i].Kind == TokenKind.Body)
                return;
            hasRole |= tokens[i].Kind == TokenKind.Role;
        }

        if (!hasRole && names.Role(Text(lower, tokens[0])) is not null)
            tokens[0] = tokens[0] with { Kind = TokenKind.Role };
        // "base_color.png": the role took all but its first word.
        else if (hasRole && tokens.Length > 1 && tokens[1].Kind == TokenKind.Role)
        {
            var both = new NameToken(tokens[0].Start, (short)(tokens[1].Start + tokens[1].Length - tokens[0].Start), TokenKind.Role);
            Span<char> word = stackalloc char[LongestWord];
            if (names.Role(Squeeze(lower, both, word)) is not null)
                (tokens[0], tokens[1]) = (both, new(tokens[1].Start, 0, TokenKind.Role));
        }
    }

    private static int Cut(ReadOnlySpan<char> stem, Span<NameToken> tokens)
    {
        var count = 0;
        var start = -1;
        for (var i = 0; i <= stem.Length; i++)
        {
            var ends = i == stem.Length || IsSeparator(stem[i]);
            var hump =
                !ends
                && start >= 0
                && i > start
                && char.IsUpper(stem[i])
                && (char.IsLower(stem[i - 1]) || (char.IsUpper(stem[i - 1]) && i + 1 < stem.Length && char.IsLower(stem[i + 1])));
            if (start >= 0 && (ends || hump))
            {
                if (count == Most)
                {
                    // A name of more words than anyone writes: the rest stays together.
                    tokens[^1] = new(tokens[^1].Start, (short)(stem.Length - tokens[^1].Start), TokenKind.Body);
                    return count;
                }

                tokens[count++] = new((short)start, (short)(i - start), TokenKind.Body);
                start = -1;
            }

            if (start < 0 && !ends)
                start = i;
        }

        return count;
    }

    private static bool IsSeparator(char c) => c is '_' or '-' or ' ' or '.';
}
