using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Formats.Usd.Layers;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Text;

/// <summary>
/// Reads a text layer (<c>#usda 1.0</c>) into specs that know their bytes. A statement that cannot be understood is told
/// with its line, passed over to the next line, and everything else is kept.
/// </summary>
public static partial class UsdaParser
{
    private const int MaxDepth = 400;

    public static bool IsUsda(ReadOnlySpan<byte> bytes) => bytes.StartsWith("#usda "u8);

    /// <param name="bytes">The whole layer. Number arrays keep it, to be read when asked for.</param>
    /// <param name="errors">What could not be understood, each with its line.</param>
    public static UsdLayer Read(ReadOnlyMemory<byte> bytes, ICollection<string> errors)
    {
        var layer = new UsdLayer();
        var parsing = new Parsing(bytes, layer, errors);
        parsing.Layer();
        return layer;
    }

    private ref partial struct Parsing(ReadOnlyMemory<byte> memory, UsdLayer layer, ICollection<string> errors)
    {
        private UsdaLexer lexer = new(memory.Span);

        public void Layer()
        {
            lexer.MoveTo(memory.Span.IndexOf((byte)'\n') is var n and >= 0 ? n : memory.Length);
            if (lexer.Is('('))
                LayerMetadata();
            Body(layer.Root, 0, top: true);
        }

        private readonly int Line(int at) => 1 + memory.Span[..Math.Min(at, memory.Length)].Count((byte)'\n');

        private readonly void Tell(string what)
        {
            if (errors.Count < 50)
                errors.Add(Invariant($"line {Line(lexer.Start):N0}: {what}"));
        }

        /// <summary>Passes over the rest of a statement that is not understood.</summary>
        private void Skip(string what)
        {
            Tell(what);
            var rest = memory.Span[Math.Min(lexer.End, memory.Length)..];
            var newline = rest.IndexOf((byte)'\n');
            lexer.MoveTo(newline < 0 ? memory.Length : lexer.End + newline);
        }

        private bool Expect(char symbol)
        {
            if (!lexer.Is(symbol))
                return false;
            lexer.Next();
            return true;
        }

        private void LayerMetadata()
        {
            var into = layer;
            Metadata(
                (ref Parsing p, string key, string op) =>
                {
                    if (key != "subLayers")
                        return false;
                    into.SubLayers.AddRange(p.Value().Assets);
                    return true;
                },
                layer.Metadata
            );
        }

        private delegate bool Special(ref Parsing parsing, string key, string op);

        /// <summary>A parenthesised block of <c>key = value</c>; a lone string is documentation.</summary>
        private void Metadata(Special special, Dictionary<string, UsdValue> into)
        {
            lexer.Next();
            while (lexer.Kind != UsdaToken.End && !lexer.Is(')'))
            {
                if (lexer.Kind == UsdaToken.String)
                {
                    into["documentation"] = new UsdText(lexer.Text());
                    lexer.Next();
                    continue;
                }

                if (lexer.Kind != UsdaToken.Word)
                {
                    Skip("metadata is not understood");
                    continue;
                }

                var op = ListOp();
                var key = lexer.Text();
                lexer.Next();
                if (!Expect('='))
                {
                    Tell($"{key} has no value");
                    continue;
                }

                if (!special(ref this, key, op))
                    into[key] = Value().Whole;
            }

            lastEnd = lexer.End;
            Expect(')');
        }

        private string ListOp()
        {
            if (!(lexer.Is("prepend"u8) || lexer.Is("append"u8) || lexer.Is("delete"u8) || lexer.Is("add"u8) || lexer.Is("reorder"u8)))
                return string.Empty;
            var op = lexer.Text();
            lexer.Next();
            return op;
        }

        private void Body(UsdPrimSpec prim, int depth, bool top = false)
        {
            while (lexer.Kind != UsdaToken.End)
            {
                if (!top && lexer.Is('}'))
                    return;
                if (lexer.Is("def"u8) || lexer.Is("over"u8) || lexer.Is("class"u8))
                    Prim(prim, depth);
                else if (lexer.Is("variantSet"u8))
                    VariantSet(prim, depth);
                else if (lexer.Is("reorder"u8))
                    Reorder();
                else if (lexer.Kind == UsdaToken.Word && !top)
                    Property(prim);
                else
                    Skip("a statement is not understood");
            }

            if (!top)
                Tell($"the body of {prim.Name} is not closed");
        }

        private void Reorder()
        {
            lexer.Next();
            lexer.Next();
            if (Expect('='))
                Value();
        }

        private void Prim(UsdPrimSpec parent, int depth)
        {
            var specifier =
                lexer.Is("def"u8) ? UsdSpecifier.Def
                : lexer.Is("class"u8) ? UsdSpecifier.Class
                : UsdSpecifier.Over;
            lexer.Next();
            var type = string.Empty;
            if (lexer.Kind == UsdaToken.Word)
            {
                type = lexer.Text();
                lexer.Next();
            }

            if (lexer.Kind != UsdaToken.String)
            {
                Skip("a prim has no name");
                return;
            }

            var name = lexer.Text();
            var nameEnd = lexer.End;
            lexer.Next();
            var prim = parent.Child(name);
            if (prim is null)
                parent.Children.Add(prim = new(name, specifier, type));
            prim.NameEnd = nameEnd;
            if (type.Length > 0)
                prim.TypeName = type;
            if (specifier != UsdSpecifier.Over)
                prim.Specifier = specifier;
            if (lexer.Is('('))
                PrimMetadata(prim);
            Braces(prim, depth);
        }

        private void Braces(UsdPrimSpec prim, int depth)
        {
            if (!lexer.Is('{'))
            {
                Tell($"{prim.Name} has no body");
                return;
            }

            if (depth > MaxDepth)
            {
                Tell($"prims lie more than {MaxDepth} deep; reading stopped there");
                lexer.MoveTo(memory.Length);
                return;
            }

            lexer.Next();
            Body(prim, depth + 1);
            prim.BodyEnd = lexer.Start;
            Expect('}');
        }

        private void VariantSet(UsdPrimSpec prim, int depth)
        {
            lexer.Next();
            var set = lexer.Kind == UsdaToken.String ? lexer.Text() : string.Empty;
            lexer.Next();
            if (!Expect('=') || !Expect('{'))
            {
                Skip("a variant set has no body");
                return;
            }

            if (!prim.VariantSets.TryGetValue(set, out var variants))
                prim.VariantSets[set] = variants = [];
            while (lexer.Kind == UsdaToken.String)
            {
                var variant = new UsdPrimSpec(lexer.Text(), UsdSpecifier.Over, string.Empty);
                variants.Add(variant);
                lexer.Next();
                if (lexer.Is('('))
                    PrimMetadata(variant);
                Braces(variant, depth + 1);
            }

            if (!Expect('}'))
                Skip($"variant set {set} is not closed");
        }

        private void PrimMetadata(UsdPrimSpec prim)
        {
            PrimFields(prim);
            prim.MetadataEnd = lastEnd - 1;
        }

        private void PrimFields(UsdPrimSpec prim) =>
            Metadata(
                (ref Parsing p, string key, string op) =>
                {
                    switch (key)
                    {
                        case "references":
                            prim.References = Join(prim.References, p.Arcs(), op);
                            return true;
                        case "payload" or "payloads":
                            prim.Payloads = Join(prim.Payloads, p.Arcs(), op);
                            return true;
                        case "inherits":
                            prim.Inherits = Join(prim.Inherits, p.Arcs(), op);
                            return true;
                        case "specializes":
                            prim.Specializes = Join(prim.Specializes, p.Arcs(), op);
                            return true;
                        case "instanceable":
                            prim.InstanceableSpan = (p.lexer.Start, p.lexer.End);
                            return false;
                        case "variants":
                            p.Selections(prim);
                            return true;
                        case "variantSets":
                            foreach (var set in p.Value().Whole.AsNames)
                                prim.VariantSets.TryAdd(set, []);
                            return true;
                        default:
                            return false;
                    }
                },
                prim.Metadata
            );

        /// <summary><c>{ string set = "variant" }</c></summary>
        private void Selections(UsdPrimSpec prim)
        {
            if (!Expect('{'))
                return;
            while (lexer.Is("string"u8))
            {
                lexer.Next();
                var set = lexer.Text();
                lexer.Next();
                if (!Expect('=') || lexer.Kind != UsdaToken.String)
                    break;
                prim.Selections[set] = lexer.Text();
                prim.SelectionSpans[set] = (lexer.Start, lexer.End);
                lexer.Next();
            }

            lastEnd = lexer.End;
            if (!Expect('}'))
                Skip("a selection of variants is not understood");
        }

        private static UsdListOp<T> Join<T>(UsdListOp<T>? known, ImmutableArray<T> items, string op)
        {
            known ??= new(false, [], [], []);
            return op switch
            {
                "prepend" => known with { Prepended = [.. items, .. known.Prepended] },
                "append" or "add" => known with { Appended = [.. known.Appended, .. items] },
                "delete" => known with { Deleted = [.. known.Deleted, .. items] },
                "reorder" => known,
                _ => new(true, items, [], []),
            };
        }

        /// <summary>One arc or a bracketed list: <c>@asset@&lt;/Prim&gt; (offset = 1)</c>, <c>&lt;/Prim&gt;</c>, <c>None</c>.</summary>
        private ImmutableArray<UsdArc> Arcs()
        {
            var arcs = ImmutableArray.CreateBuilder<UsdArc>();
            var list = Expect('[');
            while (lexer.Kind is UsdaToken.Asset or UsdaToken.Path)
            {
                UsdAsset? asset = null;
                if (lexer.Kind == UsdaToken.Asset)
                {
                    asset = AssetHere();
                    lexer.Next();
                }

                var prim = string.Empty;
                if (lexer.Kind == UsdaToken.Path)
                {
                    prim = lexer.Text();
                    lexer.Next();
                }

                arcs.Add(new(asset, prim));
                if (lexer.Is('('))
                    Metadata(static (ref Parsing p, string key, string op) => false, []);
                if (!list)
                    break;
            }

            if (list && !Expect(']'))
                Skip("a list of arcs is not closed");
            if (!list && arcs.Count == 0)
                lexer.Next(); // None
            return arcs.ToImmutable();
        }

        private readonly UsdAsset AssetHere() =>
            new(Encoding.UTF8.GetString(lexer.Content), lexer.ContentStart, lexer.ContentEnd - lexer.ContentStart);

        private void Property(UsdPrimSpec prim)
        {
            var start = lexer.Start;
            var op = ListOp();
            while (lexer.Is("custom"u8) || lexer.Is("uniform"u8) || lexer.Is("varying"u8) || lexer.Is("config"u8))
                lexer.Next();
            if (op.Length == 0)
                op = ListOp();
            var type = lexer.Text();
            var relationship = lexer.Is("rel"u8);
            lexer.Next();
            if (lexer.Is('['))
            {
                lexer.Next();
                if (!Expect(']'))
                {
                    Skip("an array type is not closed");
                    return;
                }

                type += "[]";
            }

            if (lexer.Kind != UsdaToken.Word || lexer.OnNewLine)
            {
                Tell("a property has no name");
                return;
            }

            var name = lexer.Text();
            var isConnection = name.EndsWith(".connect", StringComparison.Ordinal);
            var isSamples = name.EndsWith(".timeSamples", StringComparison.Ordinal);
            var dot = isConnection || isSamples || name.EndsWith(".spline", StringComparison.Ordinal) ? name.LastIndexOf('.') : -1;
            if (dot >= 0)
                name = name[..dot];
            var property = prim.Property(name);
            if (property is null)
                prim.Properties.Add(property = new(name, type, relationship));
            lastEnd = lexer.End;
            lexer.Next();
            if (lexer.Is('='))
            {
                lexer.Next();
                if (isConnection || relationship)
                    property.Targets = Join(property.Targets, Targets(), op);
                else if (isSamples)
                    property.FirstSample = Samples(type);
                else if (dot >= 0)
                    Value();
                else
                {
                    property.ValueStart = lexer.Start;
                    property.Value = Typed(type);
                    property.ValueEnd = lastEnd;
                }
            }

            if (lexer.Is('('))
                Metadata(static (ref Parsing p, string key, string op) => false, property.Metadata);
            if (isConnection || relationship)
                (property.TargetsStart, property.TargetsEnd) = (start, lastEnd);
            else if (dot < 0)
                (property.Start, property.End) = (start, lastEnd);
        }

        private int lastEnd;

        private ImmutableArray<string> Targets()
        {
            var targets = ImmutableArray.CreateBuilder<string>();
            var list = Expect('[');
            while (lexer.Kind == UsdaToken.Path)
            {
                targets.Add(lexer.Text());
                lastEnd = lexer.End;
                lexer.Next();
                if (!list)
                    break;
            }

            if (list)
            {
                lastEnd = lexer.End;
                if (!Expect(']'))
                    Skip("a list of targets is not closed");
            }
            else if (targets.Count == 0)
            {
                lastEnd = lexer.End;
                lexer.Next(); // None
            }

            return targets.ToImmutable();
        }
    }
}
