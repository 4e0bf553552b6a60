using System.Security.Cryptography;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>SHA-256 of files, and a quick sample of them.</summary>
public static class ContentHash
{
    private const int Buffer = 1 << 20;
    private const int SampleBytes = 4096;

    /// <summary>Files up to this size are sampled whole.</summary>
    internal const int SampledWhole = SampleBytes * 3;

    /// <summary>In lower-case hex.</summary>
    /// <exception cref="IOException">The file cannot be read.</exception>
    public static string Of(string path)
    {
        if (RegularFile.IsEmpty(path))
            return Convert.ToHexStringLower(SHA256.HashData([]));
        using var stream = new FileStream(
            path,
            new FileStreamOptions
            {
                Access = FileAccess.Read,
                Share = FileShare.ReadWrite | FileShare.Delete,
                Options = FileOptions.SequentialScan,
                BufferSize = 0,
            }
        );
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var buffer = System.Buffers.ArrayPool<byte>.Shared.Rent(Buffer);
        try
        {
            int read;
            while ((read = stream.Read(buffer)) > 0)
                hash.AppendData(buffer, 0, read);
            return Convert.ToHexStringLower(hash.GetHashAndReset());
        }
        finally
        {
            System.Buffers.ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    /// <summary>A fingerprint of the first, middle and last bytes: files that differ in it differ.</summary>
    /// <exception cref="IOException">The file cannot be read.</exception>
    public static UInt128 Sample(string path)
    {
        if (RegularFile.IsEmpty(path))
            return System.IO.Hashing.XxHash128.HashToUInt128([]);
        using var file = File.OpenHandle(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        var length = RandomAccess.GetLength(file);
        Span<byte> buffer = stackalloc byte[SampledWhole];
        var read = 0;
        if (length <= buffer.Length)
            read = RandomAccess.Read(file, buffer, 0);
        else
            foreach (var at in (ReadOnlySpan<long>)[0L, length / 2, length - SampleBytes])
                read += RandomAccess.Read(file, buffer.Slice(read, SampleBytes), at);
        return System.IO.Hashing.XxHash128.HashToUInt128(buffer[..read]);
    }
}
