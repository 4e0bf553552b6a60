using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing.Baking;

/// <summary>
/// Works out what feeds inputs of a surface for each texel of an image, in linear values, by the same program that draws them. Every
/// texel of the square is worked out, those between the islands of a mesh too: nothing has to be padded.
/// </summary>
public sealed class Baker
{
    private readonly GraphProgram program;
    private readonly Bake bake;
    private readonly ImmutableArray<int> results;
    private readonly int count;
    private readonly bool isNormal;

    /// <param name="look">A look whose surface the inputs are of, and of which they can be baked (<see cref="Bakeable"/>).</param>
    public Baker(ShaderGraph look, Bake bake, ITextureSource textures)
    {
        this.bake = bake;
        Reading = BakedReading.Of(bake.Uses(look).FirstOrDefault());
        var graph = InImage(look);
        var model = ShadingModels.OfType(look.SurfaceNode!.Type)!;
        List<ShaderInput> inputs = [.. bake.Inputs];
        isNormal = inputs.Exists(i => model.Input(i.Name)?.Role is Role.Normal or Role.CoatNormal);
        var told = new SortedSet<string>(StringComparer.Ordinal);
        program = GraphCompiler.Compile(graph, textures, inputs.Select(i => (graph.SurfaceNode!.Input(i.Name), Vector4.Zero)), told);
        count = inputs.Count;
        results = [.. bake.Channels.Select(c => inputs.FindIndex(i => i.Name == c.Input?.Name))];
        Told = [.. told];
    }

    /// <summary>How the image is read: as the ones that it is made of, so that their tiling stays outside.</summary>
    public BakedReading Reading { get; }

    /// <summary>What was left out or is not known, in sentences.</summary>
    public ImmutableArray<string> Told { get; }

    /// <summary>Gives rows of the image.</summary>
    /// <param name="values">Row by row, channels together, as they are stored.</param>
    public void Fill(int width, int height, int first, int rows, Memory<float> values, int threads, CancellationToken stop) =>
        Parallel.For(0, rows, new() { MaxDegreeOfParallelism = threads, CancellationToken = stop }, y =>
        {
            var channels = bake.Channels.Length;
            var row = values.Span.Slice(y * width * channels, width * channels);
            // Columns are worked out some at a time, so that the program's steps stay at hand.
            const int Some = 64;
            Span<ShadingPoint> points = stackalloc ShadingPoint[Some];
            var found = new Vector4[Some * Math.Max(1, count)];
            for (var x = 0; x < width; x += Some)
            {
                var here = Math.Min(Some, width - x);
                for (var i = 0; i < here; i++)
                    points[i] = At((x + i + 0.5f) / width, 1 - ((first + y + 0.5f) / height), 1f / width);
                program.Run(points[..here], found.AsSpan(0, here * count));
                for (var i = 0; i < here; i++)
                for (var c = 0; c < channels; c++)
                    row[((x + i) * channels) + c] = Stored(c, found.AsSpan(i * count, count));
            }
        });

    /// <summary>The plane of the image itself: what is bent there is bent against its own axes.</summary>
    private static ShadingPoint At(float u, float v, float footprint) =>
        new(Vector3.Zero, Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, new(u, v), footprint * 0.5f, Vector3.UnitZ);

    private float Stored(int channel, ReadOnlySpan<Vector4> found)
    {
        var part = bake.Channels[channel];
        var value = results[channel] < 0 ? (float)part.Otherwise : found[results[channel]][part.Number];
        if (!float.IsFinite(value))
            value = 0;
        if (isNormal)
            return (value + 1) / 2;
        return bake.IsColour && channel < 3 ? SrgbCurve.ToEncodedFloat(value) : value;
    }

    /// <summary>The same with every image read as it lies.</summary>
    private static ShaderGraph InImage(ShaderGraph look) =>
        look with
        {
            Nodes =
            [
                .. look.Nodes.Select(n =>
                    n.Image is not { } use
                        ? n
                        : n with
                        {
                            Type = n.Type.Contains("tiledimage", StringComparison.Ordinal) ? "image" : n.Type,
                            Image = use with { Transform = UvTransform.Identity },
                            Inputs = n.Inputs.RemoveAll(i => i.Name is "st" or "texcoord" or "uvtiling" or "uvoffset"),
                        }
                ),
            ],
        };
}

/// <summary>How an image that was baked is read.</summary>
public sealed record BakedReading(string UvSet, UvTransform Transform, WrapMode WrapU, WrapMode WrapV)
{
    /// <param name="like">One of the images that it is made of; null where there is none.</param>
    public static BakedReading Of(ImageUse? like) =>
        like is null
            ? new(string.Empty, UvTransform.Identity, WrapMode.Repeat, WrapMode.Repeat)
            : new(like.UvSet, like.Transform, like.WrapU, like.WrapV);

    public ImageUse Use(ReferenceKey image, Channels channels, bool isColour) =>
        new(image)
        {
            UvSet = UvSet,
            Transform = Transform,
            WrapU = WrapU,
            WrapV = WrapV,
            Channels = channels,
            EffectiveSpace = isColour ? ColourSpace.Srgb : ColourSpace.Data,
        };
}
