using System.Buffers.Text;
using RootCall.Core.Formats.Xml;

namespace RootCall.Core.Formats.Collada;

/// <summary>A COLLADA document with its elements by id.</summary>
internal sealed class ColladaDocument(byte[] bytes, XmlTree root)
{
    private readonly Dictionary<string, XmlTree> ids = Ids(root);

    public XmlTree Root => root;

    public ReadOnlySpan<byte> Bytes => bytes;

    public string Text(XmlTree? tree) => tree is null ? string.Empty : tree.Text(bytes).Trim();

    /// <summary>The element a fragment (<c>#id</c>) or plain id names.</summary>
    public XmlTree? Find(string? reference) =>
        reference is null
            ? null
            : ids.GetValueOrDefault(reference.TrimStart('#')) ?? ids.GetValueOrDefault(Uri.UnescapeDataString(reference.TrimStart('#')));

    public IEnumerable<XmlTree> Library(string library, string element) => root.All(library).SelectMany(l => l.All(element));

    /// <summary>The numbers in an element, read without making text of them.</summary>
    public double[] Numbers(XmlTree? tree)
    {
        if (tree is null || tree.ContentEnd <= tree.ContentStart)
            return [];
        var text = Bytes[tree.ContentStart..tree.ContentEnd];
        var numbers = new List<double>();
        var at = 0;
        while (at < text.Length)
        {
            while (at < text.Length && text[at] is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n')
                at++;
            if (at >= text.Length)
                break;
            var end = at;
            while (end < text.Length && text[end] is not ((byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n'))
                end++;
            if (Number(text[at..end]) is { } number)
                numbers.Add(number);
            at = end;
        }

        return [.. numbers];
    }

    /// <summary>Some writers put decimal commas where the format has points.</summary>
    private static double? Number(scoped ReadOnlySpan<byte> token)
    {
        Span<byte> own = stackalloc byte[40];
        if (token.Length <= own.Length && token.Count((byte)',') == 1)
        {
            token.Replace(own, (byte)',', (byte)'.');
            token = own[..token.Length];
        }

        return Utf8Parser.TryParse(token, out double number, out var used) && used > 0 ? number : null;
    }

    private static Dictionary<string, XmlTree> Ids(XmlTree root)
    {
        var ids = new Dictionary<string, XmlTree>(StringComparer.Ordinal);
        foreach (var tree in root.Descendants())
            if (tree["id"] is { Length: > 0 } id)
                ids.TryAdd(id, tree);
        return ids;
    }
}
