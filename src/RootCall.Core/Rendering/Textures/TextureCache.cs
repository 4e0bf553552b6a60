using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Textures;

/// <summary>
/// Textures that are in use or were lately: each image is decoded once, however many materials read it, and the ones that were not asked
/// for the longest go when all together are larger than a bound.
/// </summary>
/// <param name="bound">In bytes.</param>
/// <param name="side">Most pixels along the longer side of each.</param>
/// <param name="house">Knows colour spaces that only their names tell; null for none.</param>
public sealed class TextureCache(IImageDecoder decoder, long bound, int side, HouseColours? house = null)
{
    /// <summary>A file in the state that it is in.</summary>
    /// <param name="Place">Where in the file; empty for the whole.</param>
    /// <param name="Named">A space of the house's; null for one that all know.</param>
    public readonly record struct Key(string Path, string Place, long Bytes, DateTime ModifiedUtc, ColourSpace Space, string? Named = null);

    public HouseColours? House => house;

    private sealed record Entry(Lazy<Texture?> Texture)
    {
        public long Asked { get; set; }
    }

    private readonly Lock gate = new();
    private readonly Dictionary<Key, Entry> entries = [];
    private long clock;

    /// <summary>Images that were decoded so far.</summary>
    public int Decoded { get; private set; }

    /// <summary>Null for an image that does not decode.</summary>
    /// <exception cref="UndecodedException">The decoder failed, which says nothing of the image: it may be tried again.</exception>
    public Texture? Of(Key key, string path, CancellationToken stop) => Of(key, () => Decode(path, key, stop));

    /// <param name="taken">Makes a file of the image; it is removed when it was decoded.</param>
    public Texture? Of(Key key, Func<string> taken, CancellationToken stop) => Of(key, () =>
        {
            var path = taken();
            try
            {
                return Decode(path, key, stop);
            }
            finally
            {
                File.Delete(path);
            }
        });

    private Texture? Of(Key key, Func<Texture?> decode)
    {
        Entry entry;
        lock (gate)
        {
            if (!entries.TryGetValue(key, out entry!))
                entries[key] = entry = new(new(decode));
            entry.Asked = ++clock;
        }

        try
        {
            return entry.Texture.Value;
        }
        catch
        {
            // Cancelled: whoever asks next decodes it.
            lock (gate)
                entries.Remove(key);
            throw;
        }
        finally
        {
            Shrink();
        }
    }

    private Texture? Decode(string path, Key key, CancellationToken stop)
    {
        try
        {
            Texture.Converting? converting = key.Named is { } named ? rgb => house!.ToLinear(named, rgb, stop) : null;
            return Texture.Of(decoder, path, key.Space, side, stop, converting);
        }
        catch (UndecodedException e) when (e.Undecoded.Fault is not (DecodeFault.NoDecoder or DecodeFault.EndedDecoder))
        {
            return null;
        }
        finally
        {
            lock (gate)
                Decoded++;
        }
    }

    private void Shrink()
    {
        lock (gate)
        {
            var sum = entries.Values.Sum(Bytes);
            foreach (var (key, entry) in entries.OrderBy(e => e.Value.Asked).ToList())
            {
                if (sum <= bound)
                    break;
                sum -= Bytes(entry);
                entries.Remove(key);
            }
        }
    }

    private static long Bytes(Entry entry) => entry.Texture.IsValueCreated ? entry.Texture.Value?.Bytes ?? 0 : 0;
}
