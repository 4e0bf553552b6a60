using System.Globalization;

namespace RootCall.Core.Formats.Usd.Authoring;

/// <summary>Writes a text layer of USD, statement by statement, so that a mesh of millions of points is never one string.</summary>
internal sealed class UsdaText(TextWriter writer)
{
    private int depth;

    public void Line(string line)
    {
        for (var i = 0; i < depth && line.Length > 0; i++)
            writer.Write("    ");
        writer.Write(line);
        writer.Write('\n');
    }

    /// <summary>A prim with what <paramref name="inside"/> writes.</summary>
    public void Prim(string head, Action inside, params IReadOnlyList<string> metadata)
    {
        Line(string.Empty);
        Line(metadata.Count > 0 ? $"{head} (" : head);
        if (metadata.Count > 0)
        {
            depth++;
            foreach (var line in metadata)
                Line(line);
            depth--;
            Line(")");
        }

        Line("{");
        depth++;
        inside();
        depth--;
        Line("}");
    }

    public void Whole(string what, int count, Func<int, int> value)
    {
        Begin(what);
        for (var i = 0; i < count; i++)
        {
            writer.Write(i > 0 ? ", " : string.Empty);
            writer.Write(value(i).ToString(CultureInfo.InvariantCulture));
        }

        writer.Write("]\n");
    }

    /// <param name="interpolation">Of a primvar; null for what is none.</param>
    public void Numbers(string what, int width, ReadOnlySpan<float> values, string? interpolation = null)
    {
        Begin(what);
        Span<char> digits = stackalloc char[32];
        for (var i = 0; i < values.Length; i++)
        {
            writer.Write(
                i % width > 0 ? ", "
                : i > 0 ? ", ("
                : "("
            );
            var value = float.IsFinite(values[i]) ? values[i] : 0;
            value.TryFormat(digits, out var length, "R", CultureInfo.InvariantCulture);
            writer.Write(digits[..length]);
            if (i % width == width - 1)
                writer.Write(')');
        }

        writer.Write(interpolation is null ? "]\n" : "] (\n");
        if (interpolation is null)
            return;
        depth++;
        Line($"interpolation = \"{interpolation}\"");
        depth--;
        Line(")");
    }

    private void Begin(string what)
    {
        for (var i = 0; i < depth; i++)
            writer.Write("    ");
        writer.Write(what);
        writer.Write(" = [");
    }
}
