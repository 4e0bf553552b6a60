using System.Globalization;
using System.Text;

namespace RootCall.Core.SendOff;

/// <summary>The tag files of a bag, "The BagIt File Packaging Format (V1.0)", RFC 8493.</summary>
internal static class BagIt
{
    public const string Payload = "data/";
    public const string Manifest = "manifest-sha256.txt";
    public const string TagManifest = "tagmanifest-sha256.txt";

    /// <summary>Section 2.1.1.</summary>
    public static string Declaration => "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";

    /// <summary>Section 2.1.3: a line a file, checksum and path; <c>sha256sum -c</c> reads the same lines.</summary>
    public static string ManifestOf(IEnumerable<(string Name, string Sha256)> files)
    {
        var text = new StringBuilder();
        foreach (var (name, hash) in files.OrderBy(f => f.Name, StringComparer.Ordinal))
            text.Append(hash).Append("  ").Append(name).Append('\n');
        return text.ToString();
    }

    /// <summary>Section 2.2.2 allows labels of one's own: which of the payload's files is the scene.</summary>
    public const string SceneLabel = "Root-Call-Scene";

    /// <summary>Section 2.2.2; Payload-Oxum is bytes, a dot, and the number of files.</summary>
    public static string Info(long bytes, int files, string scene, DateTimeOffset at) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"Bag-Software-Agent: Root Call\nBagging-Date: {at:yyyy-MM-dd}\nPayload-Oxum: {bytes}.{files}\n{SceneLabel}: {scene}\n"
        );

    /// <summary>The scene that the tags of a bag name; null when they name none.</summary>
    public static string? SceneIn(string info) =>
        info.Split('\n')
            .Where(l => l.StartsWith(SceneLabel + ":", StringComparison.Ordinal))
            .Select(l => l[(SceneLabel.Length + 1)..].Trim())
            .FirstOrDefault();

    /// <summary>The files of a manifest with their checksums.</summary>
    public static IEnumerable<(string Sha256, string Name)> Read(string manifest) =>
        from line in manifest.Split('\n', StringSplitOptions.RemoveEmptyEntries)
        let parts = line.Split([' ', '\t'], 2, StringSplitOptions.RemoveEmptyEntries)
        where parts.Length == 2
        select (parts[0], parts[1].Trim());
}
