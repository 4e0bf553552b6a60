using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace RootCall.Native;

/// <summary>
/// A memory file that a child has made. It is read and written, not mapped, so that nothing the child does to it is felt here.
/// </summary>
internal sealed class SharedMemory(int process, int descriptor) : IDisposable
{
    private readonly SafeFileHandle file = File.OpenHandle(
        $"/proc/{process}/fd/{descriptor}",
        FileMode.Open,
        FileAccess.ReadWrite,
        FileShare.ReadWrite
    );

    /// <returns>The place after it.</returns>
    /// <exception cref="EndOfStreamException">The child has cut it off.</exception>
    public long Read<T>(Span<T> to, long at)
        where T : unmanaged
    {
        var bytes = MemoryMarshal.AsBytes(to);
        for (var done = 0; done < bytes.Length; )
        {
            var read = RandomAccess.Read(file, bytes[done..], at + done);
            if (read == 0)
                throw new EndOfStreamException();
            done += read;
        }

        return at + bytes.Length;
    }

    public void Write<T>(ReadOnlySpan<T> from, long at)
        where T : unmanaged => RandomAccess.Write(file, MemoryMarshal.AsBytes(from), at);

    public void Dispose() => file.Dispose();
}
