using System.Text;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// URIs of glTF 2.0 (section "URIs"): relative references are percent-encoded per RFC 3986. In the wild they often are
/// not, so decoding leaves what is no valid escape as it stands.
/// </summary>
public static class GltfUri
{
    public static bool IsData(string uri) => uri.StartsWith("data:", StringComparison.OrdinalIgnoreCase);

    public static string Decode(string uri) => IsData(uri) ? uri : Uri.UnescapeDataString(uri);

    /// <summary>
    /// A relative path as a relative reference: each segment encoded, slashes kept. Colons are encoded too, so the first
    /// segment never reads as a scheme (RFC 3986, 4.2).
    /// </summary>
    public static string Encode(string path) => string.Join('/', path.Split('/').Select(Segment));

    private static string Segment(string segment)
    {
        var text = new StringBuilder();
        foreach (var c in Encoding.UTF8.GetBytes(segment))
        {
            // pchar of RFC 3986 without the colon.
            if (char.IsAsciiLetterOrDigit((char)c) || "-._~!$&'()*+,;=@".Contains((char)c, StringComparison.Ordinal))
                text.Append((char)c);
            else
                text.Append('%').Append(c.ToString("X2", null));
        }

        return text.ToString();
    }
}
