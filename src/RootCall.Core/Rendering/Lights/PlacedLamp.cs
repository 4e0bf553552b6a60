using System.Numerics;
using RootCall.Core.Scenes;

namespace RootCall.Core.Rendering.Lights;

/// <summary>A lamp in the space that is drawn. Lamps stand in nobody's way: light and sight pass through them.</summary>
/// <param name="Ahead">The way it shines, of length 1.</param>
/// <param name="Light">As <see cref="Lamp.Light"/> says; none below 0.</param>
public sealed record PlacedLamp(LampShape Shape, Vector3 At, Vector3 Ahead, Vector3 Light)
{
    /// <summary>From the middle to the right edge; <see cref="Up"/> to the upper one. Of a sphere, its length is the radius.</summary>
    public Vector3 Right { get; init; }

    public Vector3 Up { get; init; }

    /// <summary>In terms of cosines to the axis.</summary>
    public (float Inner, float Outer, float Focus)? Cone { get; init; }

    /// <summary>Constant, linear and square part of what a point's light is divided by.</summary>
    public Vector3 Falloff { get; init; } = Vector3.UnitZ;

    public bool HasExtent => Shape is LampShape.Rectangle or LampShape.Disk or LampShape.Sphere;

    private float Area =>
        Shape switch
        {
            LampShape.Rectangle => 4 * Vector3.Cross(Right, Up).Length(),
            LampShape.Disk => MathF.PI * Vector3.Cross(Right, Up).Length(),
            LampShape.Sphere => 4 * MathF.PI * Right.LengthSquared(),
            _ => 0,
        };

    /// <summary>What it sends into a space of this radius, in all; it only decides how often it is asked.</summary>
    public float Power(float radius)
    {
        var light = (Light.X + Light.Y + Light.Z) / 3;
        var power = Shape switch
        {
            LampShape.Point => 4 * MathF.PI * light,
            LampShape.Parallel => MathF.PI * radius * radius * light,
            _ => MathF.PI * Area * light,
        };
        return MathF.Min(power, MostPower);
    }

    /// <summary>Many of them are still a number when they are added up.</summary>
    private const float MostPower = 1e30f;

    /// <summary>Picks a place on it, as it is seen from another one.</summary>
    /// <returns>Null when none of its light goes there.</returns>
    public LightSample? Sample(Vector3 from, Vector2 u)
    {
        switch (Shape)
        {
            case LampShape.Parallel:
                return new(-Ahead, float.PositiveInfinity, Light, 1, IsFound: false);
            case LampShape.Sphere:
                return OfSphere(from, u);
            case LampShape.Point:
            {
                var way = At - from;
                var distance = way.Length();
                var divided = Vector3.Dot(Falloff, new(1, distance, distance * distance));
                if (!(distance > 0) || !(divided > 0))
                    return null;
                var direction = way / distance;
                return Some(new(direction, distance, Light * (Within(-direction) / divided), 1, IsFound: false));
            }
            default:
            {
                var (x, y) = Shape == LampShape.Disk ? OnDisk(u) : ((2 * u.X) - 1, (2 * u.Y) - 1);
                var way = At + (x * Right) + (y * Up) - from;
                var distance = way.Length();
                if (!(distance > 0))
                    return null;
                var direction = way / distance;
                return Some(new(direction, distance, Radiance(-direction), Density(direction, distance), IsFound: true));
            }
        }
    }

    /// <summary>Where a ray comes across it.</summary>
    /// <returns>Its radiance there, and how likely <see cref="Sample"/> picks this direction; null when it does not.</returns>
    public (float Distance, Vector3 Radiance, float Density)? Met(Vector3 origin, Vector3 direction)
    {
        if (Shape == LampShape.Sphere)
            return MetSphere(origin, direction);
        var slope = Vector3.Dot(direction, Ahead);
        // Its back is not there.
        if (!HasExtent || !(slope < 0))
            return null;
        var distance = Vector3.Dot(At - origin, Ahead) / slope;
        var beside = origin + (direction * distance) - At;
        float x = Vector3.Dot(beside, Right) / Right.LengthSquared(),
            y = Vector3.Dot(beside, Up) / Up.LengthSquared();
        var isOn = Shape == LampShape.Disk ? (x * x) + (y * y) <= 1 : MathF.Abs(x) <= 1 && MathF.Abs(y) <= 1;
        return distance > 0 && isOn ? (distance, Radiance(-direction), Density(direction, distance)) : null;
    }

    private LightSample? OfSphere(Vector3 from, Vector2 u)
    {
        var way = At - from;
        var distance = way.Length();
        if (Cap(distance) is not { } cap)
            return null;
        // The same everywhere in the cone that it fills.
        var up = 1 - (u.X * cap);
        var beside = MathF.Sqrt(MathF.Max(0, 1 - (up * up)));
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        var frame = Frame.Around(way / distance);
        var direction = frame.ToWorld(new(beside * cosine, beside * sine, up));
        return MetSphere(from, direction) is { } met ? Some(new(direction, met.Distance, met.Radiance, met.Density, IsFound: true)) : null;
    }

    private (float Distance, Vector3 Radiance, float Density)? MetSphere(Vector3 origin, Vector3 direction)
    {
        var way = At - origin;
        if (Cap(way.Length()) is not { } cap)
            return null;
        var along = Vector3.Dot(way, direction);
        var beside = (way - (direction * along)).LengthSquared();
        var deep = Right.LengthSquared() - beside;
        // Its rim is kept for a direction that was picked and comes out beside it by what single precision leaves open.
        if (along <= 0 || deep < -1e-4f * Right.LengthSquared())
            return null;
        return (along - MathF.Sqrt(MathF.Max(0, deep)), Radiance(-direction), 1 / (2 * MathF.PI * cap));
    }

    /// <summary>1 less the cosine of half the cone that the sphere fills; null from inside, where it gives no light.</summary>
    private float? Cap(float distance)
    {
        var share = Right.Length() / distance;
        return share is > 0 and < 1 ? share * share / (1 + MathF.Sqrt(1 - (share * share))) : null;
    }

    private float Density(Vector3 direction, float distance) => distance * distance / (MathF.Max(0, -Vector3.Dot(direction, Ahead)) * Area);

    private Vector3 Radiance(Vector3 direction) =>
        Shape != LampShape.Sphere && Vector3.Dot(direction, Ahead) <= 0 ? Vector3.Zero : Light * Within(direction);

    /// <summary>What share of its light goes this way.</summary>
    private float Within(Vector3 direction)
    {
        if (Cone is not { } cone)
            return 1;
        var axis = Vector3.Dot(direction, Ahead);
        if (axis < cone.Outer)
            return 0;
        // The ramp of KHR_lights_punctual, “Inner and Outer Cone Angles”.
        var into = axis >= cone.Inner ? 1 : (axis - cone.Outer) / MathF.Max(1e-3f, cone.Inner - cone.Outer);
        return into * into * (cone.Focus > 0 ? MathF.Pow(MathF.Max(0, axis), cone.Focus) : 1);
    }

    private static LightSample? Some(LightSample sample) =>
        sample.Light != Vector3.Zero && sample.Density > 0 && float.IsFinite(sample.Density) ? sample : null;

    private static (float X, float Y) OnDisk(Vector2 u)
    {
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        var radius = MathF.Sqrt(u.X);
        return (radius * cosine, radius * sine);
    }
}
