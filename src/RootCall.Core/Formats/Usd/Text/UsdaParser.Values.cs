using System.Collections.Immutable;
using RootCall.Core.Formats.Usd.Layers;

namespace RootCall.Core.Formats.Usd.Text;

/// <summary>The values of a text layer: what stands right of an equals sign.</summary>
public static partial class UsdaParser
{
    private ref partial struct Parsing
    {
        private UsdValue? Samples(string type)
        {
            if (!Expect('{'))
                return null;
            UsdValue? first = null;
            while (lexer.Kind == UsdaToken.Number)
            {
                lexer.Next();
                if (!Expect(':'))
                    break;
                var value = Typed(type);
                first ??= value;
            }

            lastEnd = lexer.End;
            if (!Expect('}'))
                Skip("time samples are not closed");
            return first;
        }

        /// <summary>A value whose type is known: arrays of numbers are passed over and read when they are asked for.</summary>
        private UsdValue? Typed(string type)
        {
            var width = UsdTypes.Width(type);
            if (width == 0 || !lexer.Is('['))
            {
                var value = Value().Whole;
                return value is UsdKnownNumbers numbers && width > 1 ? numbers with { Width = width } : value;
            }

            var start = lexer.End;
            var close = memory.Span[start..].IndexOf((byte)']');
            var stop = close < 0 ? memory.Length : start + close;
            if (close < 0)
                Tell("an array is not closed");
            lastEnd = Math.Min(memory.Length, stop + 1);
            lexer.MoveTo(lastEnd);
            var text = memory[start..stop];
            return UsdaNumbers.Lazy(text, width);
        }

        /// <summary>A value with the asset paths in it.</summary>
        private readonly record struct Read(UsdValue Whole, ImmutableArray<UsdAsset> Assets);

        private Read Value() => Value(0);

        private Read Value(int depth)
        {
            if (depth > MaxDepth)
            {
                lexer.MoveTo(memory.Length);
                return new(new UsdBlock(), []);
            }

            switch (lexer.Kind)
            {
                case UsdaToken.String:
                    return Taken(new UsdText(lexer.Text()));
                case UsdaToken.Asset:
                    var asset = AssetHere();
                    lastEnd = lexer.End;
                    lexer.Next();
                    if (lexer.Kind == UsdaToken.Path)
                        lexer.Next();
                    // In a list of sublayers the offset follows; behind a property's value its metadata does.
                    if (depth > 0 && lexer.Is('('))
                        Metadata(static (ref Parsing p, string key, string op) => false, []);
                    return new(asset, [asset]);
                case UsdaToken.Path:
                    return Taken(new UsdText(lexer.Text()));
                case UsdaToken.Number:
                    return Taken(new UsdKnownNumbers([UsdaNumbers.One(lexer.Content)], 1));
                case UsdaToken.Word:
                    return Taken(
                        lexer.Is("None"u8) ? new UsdBlock()
                        : lexer.Is("true"u8) ? new UsdKnownNumbers([1], 1)
                        : lexer.Is("false"u8) ? new UsdKnownNumbers([0], 1)
                        : lexer.Is("inf"u8) || lexer.Is("nan"u8) ? new UsdKnownNumbers([UsdaNumbers.One(lexer.Content)], 1)
                        : new UsdText(lexer.Text())
                    );
                case UsdaToken.Symbol when lexer.Is('(') || lexer.Is('['):
                    return Items(depth);
                case UsdaToken.Symbol when lexer.Is('{'):
                    return Dictionary(depth);
                default:
                    Skip("a value is not understood");
                    return new(new UsdBlock(), []);
            }
        }

        private Read Taken(UsdValue value)
        {
            lastEnd = lexer.End;
            lexer.Next();
            return new(value, []);
        }

        private Read Items(int depth)
        {
            var close = lexer.Is('(') ? ')' : ']';
            lexer.Next();
            var items = ImmutableArray.CreateBuilder<UsdValue>();
            var assets = ImmutableArray.CreateBuilder<UsdAsset>();
            while (lexer.Kind != UsdaToken.End && !lexer.Is(close) && !lexer.Is('}'))
            {
                var at = lexer.Start;
                var item = Value(depth + 1);
                items.Add(item.Whole);
                assets.AddRange(item.Assets);
                if (lexer.Start == at)
                    lexer.Next();
            }

            lastEnd = lexer.End;
            if (!Expect(close))
                Tell("a list is not closed");
            return items.Count > 0 && items.All(i => i is UsdKnownNumbers)
                ? new(
                    new UsdKnownNumbers(
                        [.. items.SelectMany(i => ((UsdKnownNumbers)i).Values)],
                        close == ')' ? items.Sum(i => ((UsdKnownNumbers)i).Values.Length) : 1
                    ),
                    []
                )
                : new(new UsdList(items.ToImmutable()), assets.ToImmutable());
        }

        /// <summary><c>{ type key = value }</c>; a type of <c>dictionary</c> nests.</summary>
        private Read Dictionary(int depth)
        {
            lexer.Next();
            var entries = ImmutableDictionary.CreateBuilder<string, UsdValue>(StringComparer.Ordinal);
            var assets = ImmutableArray.CreateBuilder<UsdAsset>();
            while (lexer.Kind is UsdaToken.Word or UsdaToken.String or UsdaToken.Number)
            {
                if (lexer.Kind == UsdaToken.Number)
                {
                    // A table of times, as splines and clips have it.
                    lexer.Next();
                    if (Expect(':'))
                        Value(depth + 1);
                    continue;
                }

                if (lexer.Kind == UsdaToken.Word)
                    lexer.Next();
                if (lexer.Is('['))
                {
                    lexer.Next();
                    Expect(']');
                }

                if (lexer.Kind is not (UsdaToken.Word or UsdaToken.String))
                    break;
                var key = lexer.Text();
                lexer.Next();
                if (!Expect('='))
                    break;
                var value = Value(depth + 1);
                entries[key] = value.Whole;
                assets.AddRange(value.Assets);
            }

            lastEnd = lexer.End;
            if (!Expect('}'))
                Skip("a dictionary is not understood");
            return new(new UsdDictionary(entries.ToImmutable()), assets.ToImmutable());
        }
    }
}
