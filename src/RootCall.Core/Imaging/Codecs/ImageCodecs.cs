using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Diagnostics.CodeAnalysis;
using RootCall.Core.Files;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>The image formats that are known. Each is one file; those of this assembly are found by themselves.</summary>
[UnconditionalSuppressMessage("Trimming", "IL2026", Justification = AssemblyParts.Kept)]
[UnconditionalSuppressMessage("Trimming", "IL2067", Justification = AssemblyParts.Kept)]
public static class ImageCodecs
{
    /// <summary>In the order of <see cref="ImageFormat"/>.</summary>
    public static ImmutableArray<ImageCodec> All { get; } =
    [
        .. typeof(ImageCodec)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(ImageCodec)))
            .Select(t => (ImageCodec)Activator.CreateInstance(t)!)
            .OrderBy(c => c.Format),
    ];

    private static readonly FrozenDictionary<string, ImageFormat> ByExtension = All.SelectMany(c =>
            c.Extensions.Select(e => KeyValuePair.Create(e, c.Format))
        )
        .ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    public static ImageCodec Of(ImageFormat format) => All[(int)format];

    /// <summary>The format a file's ending promises, or null when the ending is none that is known.</summary>
    public static ImageFormat? Promised(string fileName) =>
        ByExtension.GetAlternateLookup<ReadOnlySpan<char>>().TryGetValue(Path.GetExtension(fileName.AsSpan()), out var format)
            ? format
            : null;
}
