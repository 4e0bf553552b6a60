using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Crate;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Formats.Usd.Text;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Composition;

/// <summary>A layer that was read.</summary>
/// <param name="Path">Absolute path of its file.</param>
/// <param name="Inner">Its name in an archive; null for a file of its own.</param>
/// <param name="File">Index into the scene's own files.</param>
/// <param name="IsText">It can be written: text, and not inside an archive.</param>
internal sealed record LoadedLayer(UsdLayer Layer, string Path, string? Inner, int File, bool IsText)
{
    public string Label => System.IO.Path.GetFileName(Path) + (Inner is null ? string.Empty : $"[{Inner}]");
}

/// <summary>
/// Reads layers, finds the layers they call, and lists every asset path on the way. A relative path starts at the layer
/// that writes it; one without a leading dot is looked for in the roots too, as a search path.
/// </summary>
internal sealed class UsdLayers(string scenePath, ReadContext context, ReferenceListBuilder builder, List<ReadNote> notes)
{
    private const int MaxLayers = 20_000;
    private readonly Dictionary<string, LoadedLayer?> loaded = new(StringComparer.Ordinal);
    private readonly Dictionary<string, (UsdzArchive Archive, byte[] Bytes, int File)> archives = new(StringComparer.Ordinal);
    private readonly Dictionary<(LoadedLayer, string), ReferenceKey> keys = [];

    public List<SourceFile> Files { get; } = [];

    /// <summary>Prim specs in all layers that were read so far.</summary>
    public int Specs { get; private set; }

    /// <exception cref="CannotUseException">The scene's own layer is none.</exception>
    public LoadedLayer Open() => Load(scenePath, null, null, isScene: true)!;

    public ReferenceKey? KeyOf(LoadedLayer layer, UsdAsset asset) => keys.TryGetValue((layer, asset.Path), out var key) ? key : null;

    /// <summary>The layer that an asset path in another calls; null when it is not there.</summary>
    public LoadedLayer? Called(LoadedLayer from, UsdAsset asset)
    {
        var key = KeyOf(from, asset);
        var (file, inner) = PackagePath(asset.Path);
        if (from.Inner is not null && archives.TryGetValue(from.Path, out var archive))
        {
            var name = Joined(Path.GetDirectoryName(from.Inner) ?? string.Empty, asset.Path);
            if (archive.Archive.Find(name) is not null)
                return Load(from.Path, name, key);
        }

        var relinked = key is { } k ? context.Relinked?.GetValueOrDefault(k) : null;
        foreach (var place in relinked is not null ? [relinked] : Places(from, file))
        {
            if (context.Enter(place) is not { } real || !File.Exists(real))
                continue;
            // An overriding layer stands on the scene as it arrived, which has its own name.
            if (real == from.Path && from.Inner is null && context.EditedCopy(real) is not null && from.File == 0)
                return Load(real, string.Empty, key);
            return Load(real, inner, key);
        }

        return null;
    }

    private IEnumerable<string> Places(LoadedLayer from, string path)
    {
        var written = WrittenPath.Parse(path);
        if (written.Locate(Path.GetDirectoryName(from.Path)!) is { } anchored)
            yield return anchored;
        if (written.Origin != PathOrigin.Relative || path.StartsWith('.'))
            yield break;
        foreach (var root in context.Scope.Folders)
            if (written.Locate(root) is { } found)
                yield return found;
    }

    /// <summary>"archive.usdz[inner/layer.usda]" names a file in an archive.</summary>
    private static (string File, string? Inner) PackagePath(string path)
    {
        var bracket = path.IndexOf('[', StringComparison.Ordinal);
        return bracket > 0 && path.EndsWith(']') ? (path[..bracket], path[(bracket + 1)..^1]) : (path, null);
    }

    private static string Joined(string folder, string path)
    {
        var full = Path.GetFullPath(Path.Combine("/", folder, path));
        return full[1..];
    }

    /// <param name="inner">Name in an archive; empty for the file as it arrived under an overriding layer.</param>
    private LoadedLayer? Load(string path, string? inner, ReferenceKey? calledBy, bool isScene = false)
    {
        var id = inner is null ? path : $"{path}[{inner}]";
        if (loaded.TryGetValue(id, out var known))
            return known;
        if (loaded.Count >= MaxLayers)
        {
            notes.Add(new(Invariant($"More than {MaxLayers:N0} layers are called; the rest were left out."), Path.GetFileName(path)));
            return null;
        }

        context.Stop.ThrowIfCancellationRequested();
        context.Progress?.Invoke($"reading {Path.GetFileName(path)}");
        loaded[id] = null; // A layer that calls itself finds nothing.
        try
        {
            return loaded[id] = Read(path, inner, calledBy);
        }
        catch (CannotUseException e) when (!isScene)
        {
            notes.Add(new($"A layer could not be read: {e.Message}", Path.GetFileName(path)));
            return null;
        }
    }

    private LoadedLayer? Read(string path, string? inner, ReferenceKey? calledBy)
    {
        var asArrived = inner is { Length: 0 };
        var edited = asArrived ? null : context.EditedCopy(path);
        if (archives.TryGetValue(path, out var known))
            return Inside(known, path, inner is { Length: > 0 } ? inner : known.Archive.Entries[0].Name, known.File);

        var bytes = RegularFile.Bytes(edited ?? path, context.Bounds.TextBytes);
        var file = Files.Count;
        var overriding = edited is not null && UsdaParser.IsUsda(bytes) && !IsTextFile(path);
        Files.Add(
            new(path, bytes.Length, calledBy)
            {
                Edited = edited,
                WrittenAs = overriding ? Path.ChangeExtension(Path.GetFileName(path), null) + "_look.usda" : null,
            }
        );
        if (!UsdzArchive.IsZip(bytes))
            return Layer(bytes, path, null, file);
        var errors = new List<string>();
        var archive = UsdzArchive.Read(bytes, Path.GetFileName(path), errors);
        notes.AddRange(errors.Select(e => new ReadNote(e, Path.GetFileName(path))));
        if (archive.Entries.Count == 0)
            throw new CannotUseException($"“{Path.GetFileName(path)}” is a USDZ without files.");
        archives[path] = (archive, bytes, file);
        return Inside(archives[path], path, inner is { Length: > 0 } ? inner : archive.Entries[0].Name, file);
    }

    /// <summary>A layer that several scenes may stand on, and what could not be read of it.</summary>
    private sealed record Parsed(UsdLayer Layer, List<string> Errors);

    private static bool IsTextFile(string path)
    {
        Span<byte> head = stackalloc byte[6];
        using var stream = RegularFile.Open(path);
        return stream.ReadAtLeast(head, 6, throwOnEndOfStream: false) == 6 && UsdaParser.IsUsda(head);
    }

    private LoadedLayer? Inside((UsdzArchive Archive, byte[] Bytes, int File) archive, string path, string inner, int file)
    {
        if (archive.Archive.Find(inner) is not { } entry)
            return null;
        var id = $"{path}[{inner}]";
        if (loaded.TryGetValue(id, out var known) && known is not null)
            return known;
        var layer = Layer(archive.Bytes.AsMemory((int)entry.Start, (int)entry.Length), path, inner, file);
        loaded[id] = layer;
        return layer;
    }

    private LoadedLayer Layer(ReadOnlyMemory<byte> bytes, string path, string? inner, int file)
    {
        var label = Path.GetFileName(path) + (inner is null ? string.Empty : $"[{inner}]");
        var isText = UsdaParser.IsUsda(bytes.Span);
        if (!isText && !CrateReader.IsCrate(bytes.Span))
            throw new CannotUseException($"“{label}” is no layer of USD: it begins neither as text nor as a crate.");
        Parsed Parse()
        {
            var met = new List<string>();
            return new(isText ? UsdaParser.Read(bytes, met) : CrateReader.Read(bytes, met), met);
        }

        var (layer, errors) =
            context.Parsed is { } shared && inner is null && Files[file].Edited is null ? shared.Get(path, bytes.Length, Parse) : Parse();
        notes.AddRange(errors.Select(e => new ReadNote($"Part of the layer could not be read: {e}", label)));
        var read = new LoadedLayer(layer, path, inner, file, isText && inner is null);
        Specs += layer.Root.Descendants().Count();
        builder.Enter(path);
        foreach (var sub in layer.SubLayers)
            Add(read, sub, "sublayer");
        foreach (var spec in layer.Root.Descendants())
        {
            foreach (var arc in (spec.References?.Items ?? []).Concat(spec.Payloads?.Items ?? []))
                if (arc.Asset is { } asset)
                    Add(read, asset, "reference");
            foreach (var property in spec.Properties)
                Assets(read, property.Value ?? property.FirstSample, property.Name);
            foreach (var (key, value) in spec.Metadata)
                if (key is "clips" or "assetInfo")
                    Assets(read, value, key);
        }

        return read;
    }

    private void Assets(LoadedLayer layer, UsdValue? value, string use)
    {
        switch (value)
        {
            case UsdAsset asset:
                Add(layer, asset, use);
                break;
            case UsdList list:
                foreach (var item in list.Items)
                    Assets(layer, item, use);
                break;
            case UsdDictionary dictionary:
                // What an asset says of itself (its identifier) calls for nothing.
                foreach (var (key, entry) in dictionary.Entries)
                    if (key != "identifier")
                        Assets(layer, entry, use);
                break;
            default:
                break;
        }
    }

    private void Add(LoadedLayer layer, UsdAsset asset, string use)
    {
        if (asset.Path.Length == 0)
            return;
        var (file, _) = PackagePath(asset.Path);
        var kind = KindOf(file, use);
        builder.Enter(layer.Path);
        if (
            layer.Inner is not null
            && archives.TryGetValue(layer.Path, out var archive)
            && archive.Archive.Find(Joined(Path.GetDirectoryName(layer.Inner) ?? string.Empty, file)) is { } entry
        )
        {
            if (kind == ReferenceKind.Image && !keys.ContainsKey((layer, asset.Path)))
                keys[(layer, asset.Path)] = builder.AddCarried(entry.Name, new(layer.Path, entry.Start, entry.Length), []);
            return;
        }

        ReferenceSite? site =
            layer.IsText && asset.Start >= 0
                ? new(
                    layer.File,
                    asset.Start,
                    file.Length == asset.Path.Length ? asset.Length : System.Text.Encoding.UTF8.GetByteCount(file),
                    SiteNotation.UsdAsset
                )
                : null;
        ImmutableArray<ReferenceUse> uses = kind is ReferenceKind.Image ? [] : [new(string.Empty, use)];
        keys[(layer, asset.Path)] = builder.Add(kind, file, site, uses);
    }

    private static ReferenceKind KindOf(string path, string use) =>
        Path.GetExtension(path).ToLowerInvariant() switch
        {
            ".usd" or ".usda" or ".usdc" or ".usdz" => ReferenceKind.Layer,
            ".mtlx" or ".osl" or ".glslfx" or ".args" => ReferenceKind.Document,
            ".vdb" or ".abc" or ".nvdb" => ReferenceKind.Cache,
            _ => use is "sublayer" or "reference" ? ReferenceKind.Layer : ReferenceKind.Image,
        };
}
