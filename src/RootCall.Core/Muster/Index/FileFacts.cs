using System.Collections.Concurrent;
using System.Numerics;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;

namespace RootCall.Core.Muster;

/// <summary>
/// Headers, content hashes and looks of files, read when first asked for and kept while size and time stay the same. One
/// instance serves many scenes and threads; what it learns can be taken out and kept elsewhere.
/// </summary>
/// <param name="decoder">Decodes images; null where no image is decoded.</param>
/// <param name="pictures">Keeps what to look at of each image that is decoded; null where nobody looks.</param>
public sealed class FileFacts(IImageDecoder? decoder = null, IPictureStore? pictures = null)
{
    private const int Expected = 40_000;
    private const int Stripes = 64;

    // Sized for a scene of thousands, so that it is not rehashed under the hands of many threads.
    private readonly ConcurrentDictionary<string, KnownFile> known = new(Stripes, Expected, StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, byte> learned = new(Stripes, Expected, StringComparer.Ordinal);
    private readonly LookIndex looks = new();
    private readonly ConcurrentDictionary<FileState, object> inHand = new();

    // Of each content the file that was decoded.
    private readonly ConcurrentDictionary<string, FileState> decoded = new(StringComparer.Ordinal);

    /// <summary>Size and time, or null when there is no such file.</summary>
    public static FileStamp? Stamp(string path)
    {
        var info = new FileInfo(path);
        return info.Exists ? new FileStamp(info.Length, info.LastWriteTimeUtc) : null;
    }

    /// <summary>Takes in what others learned; what is known already stays.</summary>
    public void Add(IEnumerable<KnownFile> files)
    {
        foreach (var file in files)
        {
            var had = Known(new(file.Path, file.Stamp))?.Look;
            var now = known.AddOrUpdate(file.Path, file, (_, mine) => mine.Stamp == file.Stamp ? mine.With(file) : mine);
            if (now.Stamp != file.Stamp)
                continue; // Another state of it is known here.
            if (now.Look is { } look && had is null)
                looks.Add(now.Path, look);
            if (now is { Hash: { } hash, IsSettled: true })
                decoded[hash] = new(now.Path, now.Stamp);
        }
    }

    public bool Knows(string path) => known.ContainsKey(path);

    /// <summary>What was learned since this was last called, each file once.</summary>
    public IReadOnlyList<KnownFile> TakeLearned()
    {
        var files = new List<KnownFile>();
        foreach (var path in learned.Keys)
            if (learned.TryRemove(path, out _) && known.TryGetValue(path, out var file))
                files.Add(file);
        return files;
    }

    /// <summary>What the header says, and what decoding found broken where it was decoded.</summary>
    public ProbeResult Probe(string path, FileStamp stamp)
    {
        if (Known(path, stamp) is { Probe: { } probe } file)
            return Judged(probe, file.Undecoded);
        if (stamp.Bytes == 0)
            return ImageProbe.Nothing;
        // A small file is read whole, which gives the sample too.
        UInt128? sample = null;
        probe = ImageProbe.File(path, ContentHash.SampledWhole, bytes => sample = System.IO.Hashing.XxHash128.HashToUInt128(bytes));
        Learn(path, stamp, k => k with { Probe = probe, Sample = sample ?? k.Sample });
        return Judged(probe, Known(path, stamp)?.Undecoded);
    }

    /// <summary>A decoder that does not know the format, or may not spend so much, says nothing against the file.</summary>
    private static ProbeResult Judged(ProbeResult probe, Undecoded? undecoded) =>
        undecoded is { Fault: DecodeFault.Damaged, Reason: var reason } && probe.Damage is null ? probe with { Damage = reason } : probe;

    /// <summary>SHA-256 of the contents in lower-case hex.</summary>
    /// <exception cref="IOException">The file cannot be read.</exception>
    public string Hash(string path, FileStamp stamp)
    {
        if (Known(path, stamp)?.Hash is { } hash)
            return hash;
        hash = ContentHash.Of(path);
        Learn(path, stamp, k => k with { Hash = hash });
        return hash;
    }

    /// <summary>Takes over a hash that somebody made on the way.</summary>
    /// <param name="hash">SHA-256 of the contents in lower-case hex.</param>
    public void Hashed(FileState file, string hash) => Learn(file.Path, file.Stamp, k => k with { Hash = hash });

    /// <summary>The look of a picture, or null when it does not decode or nothing here decodes.</summary>
    public ulong? Look(string path, FileStamp stamp, CancellationToken stop = default) => Decoded(path, stamp, stop)?.Look;

    /// <summary>Statistics of a picture's values, or null when it does not decode or nothing here decodes.</summary>
    public PixelStats? Pixels(string path, FileStamp stamp, CancellationToken stop = default) => Decoded(path, stamp, stop)?.Pixels;

    /// <summary>
    /// One decode for all that is kept of an image, whoever asks first; of files known to hold the same bytes only one is decoded.
    /// Null when nothing here decodes.
    /// </summary>
    public KnownFile? Decoded(string path, FileStamp stamp, CancellationToken stop = default)
    {
        if (Known(path, stamp) is { IsSettled: true } settled)
            return settled;
        if (decoder is null)
            return null;
        // Who comes meanwhile waits for this one.
        var state = new FileState(path, stamp);
        lock (inHand.GetOrAdd(state, _ => new()))
        {
            if (Known(path, stamp) is { IsSettled: true } meanwhile)
                return meanwhile;
            try
            {
                Decode(path, stamp, stop);
            }
            finally
            {
                inHand.TryRemove(state, out _);
            }
        }

        return Known(path, stamp);
    }

    private void Decode(string path, FileStamp stamp, CancellationToken stop)
    {
        if (Known(path, stamp)?.Hash is { } hash && Twin(hash, path) is { } twin)
        {
            pictures?.Share(new(twin.Path, twin.Stamp), new(path, stamp));
            Learn(path, stamp, k => k with { Look = twin.Look, Pixels = twin.Pixels, Undecoded = twin.Undecoded });
        }
        else
            try
            {
                var reduced = decoder!.Reduce(path, IPictureStore.Side, stop);
                var pixels = PixelStats.Of(reduced.Sample);
                pictures?.Put(new(path, stamp), reduced.Picture);
                Learn(path, stamp, k => k with { Look = PictureLook.Of(reduced.Tiny), Pixels = pixels });
            }
            catch (UndecodedException e) when (e.Undecoded.Fault is not (DecodeFault.NoFile or DecodeFault.NoDecoder))
            {
                Learn(path, stamp, k => k with { Undecoded = e.Undecoded });
            }
            catch (UndecodedException)
            {
                return; // Nothing was learned of it: it went away, or nothing decodes here at the moment.
            }

        if (Known(path, stamp) is not { } made)
            return;
        if (made.Look is { } look)
            looks.Add(path, look);
        if (made.Hash is { } contents)
            decoded[contents] = new(path, stamp);
    }

    /// <summary>A file of the same contents that is settled.</summary>
    private KnownFile? Twin(string hash, string path) =>
        decoded.TryGetValue(hash, out var file) && file.Path != path && Known(file) is { IsSettled: true } twin ? twin : null;

    /// <summary>Files whose known look differs from a given one in at most <see cref="EvidenceWeights.AlikeBits"/> bits.</summary>
    public IEnumerable<(KnownFile File, int Bits)> LookAlikes(ulong look) =>
        from path in looks.Near(look)
        let file = known[path]
        let bits = file.Look is { } its ? BitOperations.PopCount(its ^ look) : int.MaxValue
        where bits <= EvidenceWeights.AlikeBits
        select (file, bits);

    /// <summary>
    /// Whether two files hold the same bytes. Sizes are compared first, then a sample of each; only then are they hashed, since
    /// uncompressed images of one resolution all have one size.
    /// </summary>
    public bool SameContents(string a, FileStamp stampA, string b, FileStamp stampB)
    {
        if (a == b)
            return true;
        if (stampA.Bytes != stampB.Bytes)
            return false;
        try
        {
            if (Known(a, stampA)?.Hash is { } hashA && Known(b, stampB)?.Hash is { } hashB)
                return hashA == hashB;
            return Sample(a, stampA) == Sample(b, stampB) && Hash(a, stampA) == Hash(b, stampB);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    }

    /// <exception cref="IOException">The file cannot be read.</exception>
    internal UInt128 Sample(string path, FileStamp stamp)
    {
        if (Known(path, stamp)?.Sample is { } sample)
            return sample;
        sample = ContentHash.Sample(path);
        Learn(path, stamp, k => k with { Sample = sample });
        return sample;
    }

    private KnownFile? Known(FileState file) => Known(file.Path, file.Stamp);

    private KnownFile? Known(string path, FileStamp stamp) => known.TryGetValue(path, out var file) && file.Stamp == stamp ? file : null;

    private void Learn(string path, FileStamp stamp, Func<KnownFile, KnownFile> add)
    {
        known.AddOrUpdate(path, p => add(new(p, stamp)), (p, old) => add(old.Stamp == stamp ? old : new(p, stamp)));
        learned[path] = 0;
    }
}
