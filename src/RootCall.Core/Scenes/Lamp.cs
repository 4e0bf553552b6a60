namespace RootCall.Core.Scenes;

/// <summary>What the light of a lamp comes from.</summary>
public enum LampShape
{
    /// <summary>A place without extent.</summary>
    Point,

    /// <summary>From so far away that all of it comes from one direction.</summary>
    Parallel,

    /// <summary>One side of a rectangle.</summary>
    Rectangle,

    /// <summary>One side of a disk.</summary>
    Disk,

    /// <summary>The outside of a sphere.</summary>
    Sphere,

    /// <summary>From all around.</summary>
    Around,
}

/// <summary>
/// A light of a scene where it stands; it shines along -z of its node (KHR_lights_punctual; UsdLux; COLLADA 1.4.1, light).
/// </summary>
/// <param name="Node">Index into <see cref="Scene.Nodes"/>.</param>
/// <param name="Light">
/// Red, green and blue, linear: of a point per steradian; of a parallel one what falls on a surface that faces it; of the others what a
/// part of them gives off. Only its ratio to the scene's other lights counts.
/// </param>
public sealed record Lamp(int Node, LampShape Shape, (double Red, double Green, double Blue) Light)
{
    /// <summary>Width of a rectangle, or what a disk or sphere is across, in units of its node.</summary>
    public double Width { get; init; }

    /// <summary>Of a rectangle, along y.</summary>
    public double Height { get; init; }

    public LampCone? Cone { get; init; }

    /// <summary>A point's light is divided by this, by 1, the distance, and its square.</summary>
    public (double Constant, double Linear, double Square) Falloff { get; init; } = (0, 0, 1);

    /// <summary>In kelvin: the light has the hue of a black body, besides its own.</summary>
    public double? Temperature { get; init; }

    /// <summary>Its light by direction: an image in longitude and latitude.</summary>
    public ReferenceKey? Image { get; init; }
}

/// <summary>What of a lamp's directions has light.</summary>
/// <param name="Inner">Degrees away from its axis up to which all of it is there.</param>
/// <param name="Outer">From where on there is none; between the two it fades.</param>
/// <param name="Focus">Power of the cosine to the axis that it fades by; 0 for no fading.</param>
public sealed record LampCone(double Inner, double Outer, double Focus = 0);
