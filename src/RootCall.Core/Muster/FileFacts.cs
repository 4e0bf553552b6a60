using System.Collections.Concurrent;
using System.Security.Cryptography;
using RootCall.Core.Imaging;

namespace RootCall.Core.Muster;

/// <summary>What tells one state of a file from another without reading it.</summary>
public readonly record struct FileStamp(long Bytes, DateTime ModifiedUtc);

/// <summary>
/// Headers and content hashes of files, read when first asked for and kept while size and time stay the same. One
/// instance serves many scenes and threads.
/// </summary>
public sealed class FileFacts
{
    private readonly ConcurrentDictionary<string, (FileStamp Stamp, ProbeResult Probe)> probes = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, (FileStamp Stamp, string Hash)> hashes = new(StringComparer.Ordinal);

    /// <summary>Size and time, or null when there is no such file.</summary>
    public static FileStamp? Stamp(string path)
    {
        var info = new FileInfo(path);
        return info.Exists ? new FileStamp(info.Length, info.LastWriteTimeUtc) : null;
    }

    public ProbeResult Probe(string path, FileStamp stamp)
    {
        if (probes.TryGetValue(path, out var known) && known.Stamp == stamp) return known.Probe;
        var probe = ImageProbe.File(path);
        probes[path] = (stamp, probe);
        return probe;
    }

    /// <summary>SHA-256 of the contents in lower-case hex.</summary>
    /// <exception cref="IOException">The file cannot be read.</exception>
    public string Hash(string path, FileStamp stamp)
    {
        if (hashes.TryGetValue(path, out var known) && known.Stamp == stamp) return known.Hash;
        using var stream = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 17);
        var hash = Convert.ToHexStringLower(SHA256.HashData(stream));
        hashes[path] = (stamp, hash);
        return hash;
    }

    /// <summary>Whether two files hold the same bytes; their hashes are only made when their sizes agree.</summary>
    public bool SameContents(string a, FileStamp stampA, string b, FileStamp stampB)
    {
        if (a == b) return true;
        if (stampA.Bytes != stampB.Bytes) return false;
        try
        {
            return Hash(a, stampA) == Hash(b, stampB);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    }
}
