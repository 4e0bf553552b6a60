using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Rendering.Tracing;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Viewing;

/// <summary>The lights of a scene, in the space that is drawn.</summary>
/// <param name="Told">What of them is not shown, in sentences.</param>
internal sealed record OwnLights(FrameLight Light, ImmutableArray<string> Told)
{
    /// <summary>Cells around that light from a file has.</summary>
    private const int Side = 512;

    /// <summary>Rows of the picture that the exposure is measured in, and paths for each of its pixels.</summary>
    private const int Rows = 48,
        Paths = 16;

    /// <exception cref="CannotUseException">It has none.</exception>
    public static OwnLights Of(MusterReport report, DrawnGeometry drawn, FrameTools tools, CancellationToken stop)
    {
        var scene = report.Scene;
        var told = ImmutableArray.CreateBuilder<string>();
        var world = Transforms.Worlds(scene);
        var all = scene.Lamps.Select(l => (Lamp: l, Space: new Space(world[l.Node], drawn.FromScene))).ToList();
        var placed = all.Where(l => l.Lamp.Shape != LampShape.Around).Select(l => Placed(l.Lamp, l.Space)).OfType<PlacedLamp>().ToList();
        var domes = all.Where(l => l.Lamp.Shape == LampShape.Around).ToList();
        var references = new ReferencesByKey(report);
        var images = domes.Select(d => d.Lamp.Image).OfType<ReferenceKey>().Distinct().Select(references.Find).OfType<MusteredReference>();
        var textures = new OrderedTextures(
            images.Select(i => OrderedImage.Of(i, scene.Path)),
            new TextureCache(tools.Decoder, tools.TextureBytes, Side),
            tools.Moment,
            stop
        );
        var around = domes.Select(d => Dome(d.Lamp, d.Space, textures, told)).OfType<EnvironmentMap>().ToList();
        if (around.Count > 1)
            told.Add("Of several lights that come from all around the first is shown.");
        var light = new FrameLight(around.FirstOrDefault(), placed, drawn.Geometry.Radius);
        if (!light.HasAny)
            throw new CannotUseException(
                scene.Lights.IsEmpty
                    ? "The scene has no lights of its own."
                    : Invariant($"None of the scene's {scene.Lights.Length:N0} lights is of a kind that is drawn by, or gives light.")
            );
        var kinds = scene.Lights.Length - scene.Lamps.Length;
        if (kinds > 0 && scene.Lamps.Length > 0)
            told.Add(Invariant($"{kinds:N0} of its {scene.Lights.Length:N0} lights stand nowhere, or are of a kind that is not drawn by."));
        return new(light, told.ToImmutable());
    }

    /// <summary>
    /// Files give light in units of their own, so that white paper may be any number. What the camera sees is measured as if all of it were
    /// grey and matte; of what is lit, one in ten is to be as bright as paper in the studio. Materials have no say, so that a frame before
    /// and one after an edit can be held beside each other.
    /// </summary>
    /// <exception cref="CannotUseException">Nothing that the camera sees is lit, or it takes too long.</exception>
    public static float Exposure(
        FrameGeometry geometry,
        FrameCamera camera,
        FrameLight light,
        IRayTracer tracer,
        FrameView view,
        CancellationToken stop
    )
    {
        var grey = new PlainSurfaces();
        var columns = Math.Clamp(Rows * view.Width / view.Height, 1, Rows * Rows);
        ISurfaces[] materials = [.. Enumerable.Repeat(grey, geometry.Materials.Max() + 1)];
        var painter = new FramePainter(geometry, materials, grey, camera, light, tracer, columns, Rows)
        {
            MostRadiance = float.PositiveInfinity,
            Field = Vector3.Zero,
        };
        try
        {
            painter.Advance(Paths, view.Threads, view.Most == Timeout.InfiniteTimeSpan ? null : view.Most, stop);
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            throw new CannotUseException($"The scene takes longer than {view.Most.TotalSeconds:0} s to be measured in its own light.");
        }

        float[] lit = [.. painter.Picture().Select(p => (p.X + p.Y + p.Z) / 3).Where(l => l > 0).Order()];
        if (lit.Length == 0)
            throw new CannotUseException("None of the scene's lights reaches what is seen.");
        return Studio.Paper * PlainSurfaces.Albedo / lit[lit.Length * 9 / 10];
    }

    /// <summary>From the space of a node into the one that is drawn.</summary>
    private sealed class Space(double[] world, ImmutableArray<double> fromScene)
    {
        private readonly double[] whole = Transforms.Multiply(world, fromScene.AsSpan());

        public Vector3 At => Of(Vector3.Zero);

        public Vector3 Along(Vector3 way) => Of(way) - At;

        private Vector3 Of(Vector3 place)
        {
            var (x, y, z) = Transforms.Apply(whole, place.X, place.Y, place.Z);
            return new((float)x, (float)y, (float)z);
        }
    }

    /// <returns>Null for one at no place, or without light.</returns>
    private static PlacedLamp? Placed(Lamp lamp, Space space)
    {
        var ahead = Vector3.Normalize(space.Along(-Vector3.UnitZ));
        var half = lamp.Shape == LampShape.Rectangle ? new Vector2((float)lamp.Width, (float)lamp.Height) / 2 : new((float)lamp.Width / 2);
        var placed = new PlacedLamp(lamp.Shape, space.At, ahead, Strength(lamp))
        {
            Right = space.Along(Vector3.UnitX) * half.X,
            Up = space.Along(Vector3.UnitY) * half.Y,
            Cone = lamp.Cone is { } c ? (Cosine(c.Inner), Cosine(c.Outer), (float)c.Focus) : null,
            Falloff = new((float)lamp.Falloff.Constant, (float)lamp.Falloff.Linear, (float)lamp.Falloff.Square),
        };
        var all = placed.At + placed.Ahead + placed.Light + placed.Right + placed.Up + placed.Falloff;
        var isPlace = float.IsFinite(all.X + all.Y + all.Z);
        return isPlace && placed.Light != Vector3.Zero ? placed : null;
    }

    private static float Cosine(double degrees) => MathF.Cos(float.DegreesToRadians((float)Math.Clamp(degrees, 0, 180)));

    private static Vector3 Strength(Lamp lamp)
    {
        var (r, g, b) = lamp.Light;
        var own = Vector3.Max(Vector3.Zero, new((float)r, (float)g, (float)b));
        return lamp.Temperature is { } kelvin ? own * BlackBody.Hue((float)kelvin) : own;
    }

    /// <returns>Null for one without light.</returns>
    private static EnvironmentMap? Dome(Lamp lamp, Space space, OrderedTextures textures, ImmutableArray<string>.Builder told)
    {
        var strength = Strength(lamp);
        if (strength == Vector3.Zero || !float.IsFinite(strength.LengthSquared()))
            return null;
        if (lamp.Image is not { } key)
            return Even(strength);
        if (textures.Find(key) is not { } image)
        {
            told.Add("The image of its light from all around is not there or does not decode; the light is the same from everywhere.");
            return Even(strength);
        }

        Vector3 x = Vector3.Normalize(space.Along(Vector3.UnitX)),
            y = Vector3.Normalize(space.Along(Vector3.UnitY)),
            z = Vector3.Normalize(space.Along(Vector3.UnitZ));
        var turned = EnvironmentMap.Of(image).Turned(d => new(Vector3.Dot(d, x), Vector3.Dot(d, y), Vector3.Dot(d, z)), strength);
        return turned.Mean > 0 ? turned : null;
    }

    private static EnvironmentMap Even(Vector3 radiance) => new(1, 1, [radiance]);
}
