using System.Numerics;
using RootCall.Core.Formats;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Viewing;

/// <summary>
/// The images of an order. Where one did not come, an image of colours is the hatch with its number, and any other has the default of its
/// use.
/// </summary>
/// <param name="moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
public sealed class OrderedTextures(IEnumerable<OrderedImage> images, TextureCache cache, string moment, CancellationToken stop)
    : ITextureSource
{
    private readonly Dictionary<ReferenceKey, OrderedImage> images = images.ToDictionary(i => i.Reference);
    private readonly SortedSet<int> missing = [];

    /// <summary>Numbers of the references that did not come, or do not decode.</summary>
    public IReadOnlyCollection<int> Missing => missing;

    public ITexture? Find(ImageUse use)
    {
        if (!images.TryGetValue(use.Reference, out var image))
            return null;
        if (Read(image, use) is { } texture)
            return new Wrapped(texture, use.WrapU, use.WrapV);
        missing.Add(image.Number);
        return use.EffectiveSpace == ColourSpace.Data ? null : new Hatch(image.Number);
    }

    /// <summary>An image that no material uses; null for one that did not come or does not decode.</summary>
    public Texture? Find(ReferenceKey reference) =>
        images.TryGetValue(reference, out var image) ? Read(image, SpaceOf(ColourSpace.Auto, image), null) : null;

    private Texture? Read(OrderedImage image, ImageUse use) =>
        // An alpha is the same in every space: it is taken from where the colours are.
        use.Channels == Channels.A
            ? Read(image, ColourSpace.Srgb, null)
            : Read(image, SpaceOf(use.EffectiveSpace, image), use.EffectiveSpace == ColourSpace.Other ? House(use.DeclaredSpace) : null);

    private string? House(string space) => cache.House?.Known(space);

    private Texture? Read(OrderedImage image, ColourSpace space, string? named)
    {
        if (image.File is not { } file)
            return null;
        var place = $"{image.Carried?.Start} {image.Carried?.DataUri?.Start}";
        var key = new TextureCache.Key(file.Path, place, file.Stamp.Bytes, file.Stamp.ModifiedUtc, space, named);
        return image.Carried is { } carried ? cache.Of(key, () => Taken(image.ScenePath!, carried), stop) : cache.Of(key, file.Path, stop);
    }

    /// <summary>An image that the scene carries, as a file of its own; whoever asked removes it.</summary>
    private string Taken(string scene, CarriedData carried)
    {
        var path = Path.Combine(Directory.CreateDirectory(moment).FullName, Guid.NewGuid().ToString("N"));
        using var to = File.Create(path);
        using var from = SceneFormats.Of(scene).OpenCarried(carried);
        from.CopyTo(to);
        return path;
    }

    /// <summary>
    /// What the numbers of an image are where the format leaves it to the file: 8 bits of colour are encoded, all else is linear
    /// (UsdPreviewSurface 2.6, sourceColorSpace: auto). A space that only its name tells, and no config knows, is taken for the usual one.
    /// </summary>
    private static ColourSpace SpaceOf(ColourSpace space, OrderedImage image) =>
        space switch
        {
            ColourSpace.Auto or ColourSpace.Unsaid => image.IsEncodedColour ? ColourSpace.Srgb : ColourSpace.Linear,
            ColourSpace.Other => image.IsFloat ? ColourSpace.Linear : ColourSpace.Srgb,
            _ => space,
        };

    private sealed class Wrapped(Texture texture, WrapMode wrapU, WrapMode wrapV) : ITexture
    {
        public Vector4 Sample(Vector2 uv, float footprint) => texture.Sample(uv, footprint, wrapU, wrapV);
    }
}
