using System.IO.Compression;
using System.Security.Cryptography;
using RootCall.Core.Imaging.Codecs;

namespace RootCall.Core.SendOff;

/// <summary>Where a package's files go: a folder or a zip.</summary>
internal abstract class PackageSink : IDisposable
{
    /// <summary>Writes one file.</summary>
    /// <returns>Its SHA-256 in lower-case hex and its length in bytes.</returns>
    public (string Sha256, long Bytes) Add(string name, Action<Stream> write)
    {
        using var target = Open(name);
        using var hash = SHA256.Create();
        using var hashing = new CryptoStream(target, hash, CryptoStreamMode.Write);
        var counting = new CountingStream(hashing);
        write(counting);
        hashing.FlushFinalBlock();
        return (Convert.ToHexStringLower(hash.Hash!), counting.Count);
    }

    public virtual void Dispose() => GC.SuppressFinalize(this);

    protected abstract Stream Open(string name);

    public sealed class InFolder(string folder) : PackageSink
    {
        protected override Stream Open(string name)
        {
            var path = Path.Combine(folder, name);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            return new FileStream(path, FileMode.CreateNew);
        }
    }

    /// <summary>A serialised bag holds one top folder (RFC 8493, section 4.1 of its practical considerations).</summary>
    public sealed class InZip(Stream stream, string top) : PackageSink
    {
        private readonly ZipArchive archive = new(stream, ZipArchiveMode.Create, leaveOpen: true);

        protected override Stream Open(string name) =>
            archive.CreateEntry($"{top}/{name}", IsCompressed(name) ? CompressionLevel.NoCompression : CompressionLevel.Fastest).Open();

        public override void Dispose()
        {
            archive.Dispose();
            base.Dispose();
        }

        // Deflating these again costs time and saves next to nothing.
        private static bool IsCompressed(string name) =>
            ImageCodecs.Promised(name) is { } format
                ? ImageCodecs.Of(format).IsCompressed
                : name.EndsWith(".zip", StringComparison.OrdinalIgnoreCase);
    }

    private sealed class CountingStream(Stream inner) : Stream
    {
        public long Count { get; private set; }

        public override bool CanRead => false;

        public override bool CanSeek => false;

        public override bool CanWrite => true;

        public override long Length => Count;

        public override long Position
        {
            get => Count;
            set => throw new NotSupportedException();
        }

        public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

        public override void Write(ReadOnlySpan<byte> buffer)
        {
            inner.Write(buffer);
            Count += buffer.Length;
        }

        public override void Flush() => inner.Flush();

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();
    }
}
