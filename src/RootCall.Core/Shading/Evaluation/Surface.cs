using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>A shading model at one point, seen from one direction: what it scatters, gives off and lets pass.</summary>
public sealed class Surface : ILobe
{
    /// <summary>No model has more.</summary>
    private const int Most = 16;

    private readonly record struct Part(Vector3 Weight, ILobe Lobe, float Share);

    private readonly Part[] parts;

    internal Surface(ReadOnlySpan<(Vector3 Weight, ILobe Lobe)> lobes)
    {
        parts = new Part[lobes.Length];
        var sum = 0f;
        foreach (var (weight, _) in lobes)
            sum += Size(weight);
        for (var i = 0; i < parts.Length; i++)
            parts[i] = new(lobes[i].Weight, lobes[i].Lobe, Size(lobes[i].Weight) / sum);
    }

    /// <summary>Radiance that it gives off.</summary>
    public Vector3 Emission { get; init; }

    /// <summary>Share of the point that is there at all, 0 to 1; the rest is passed straight through.</summary>
    public float Opacity { get; init; } = 1;

    /// <summary>What the inside swallows for each unit of length (Beer's law); none where the surface is a wall.</summary>
    public Vector3 Absorption { get; init; }

    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        var sum = Vector3.Zero;
        foreach (var part in parts)
            sum += part.Weight * part.Lobe.Evaluate(view, light);
        return sum;
    }

    public float Density(Vector3 view, Vector3 light)
    {
        var sum = 0f;
        foreach (var part in parts)
            sum += part.Share * part.Lobe.Density(view, light);
        return sum;
    }

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        var left = u.X;
        for (var i = 0; i < parts.Length; i++)
        {
            // One number chooses, and what is left of it is used again.
            if (left < parts[i].Share || i == parts.Length - 1)
                return parts[i].Lobe.Sample(view, u with { X = Math.Clamp(left / parts[i].Share, 0, 0.9999999f) });
            left -= parts[i].Share;
        }

        return null;
    }

    private static float Size(Vector3 weight) => MathF.Max(1e-6f, (weight.X + weight.Y + weight.Z) / 3);

    /// <summary>Collects lobes, those on top first: what lies below gets the light that those let by.</summary>
    internal sealed class Builder(Vector3 view)
    {
        private readonly (Vector3 Weight, ILobe Lobe)[] lobes = new (Vector3, ILobe)[Most];
        private int count;

        public Vector3 View => view;

        public void Add(Vector3 weight, ILobe lobe)
        {
            // What weighs nothing, or what is no number, is not there.
            if (weight.X + weight.Y + weight.Z > 0 && count < Most)
                lobes[count++] = (Vector3.Max(Vector3.Zero, weight), lobe);
        }

        /// <summary>Adds facets that mirror, and tells what they leave to what lies below (albedo scaling).</summary>
        /// <param name="left">What reaches them.</param>
        public Vector3 Cover(Vector3 left, Vector3 weight, FacetLobe lobe)
        {
            Add(left * weight, lobe);
            return left * (Vector3.One - (weight * Largest(lobe.Albedo(view))));
        }

        /// <summary>The same for fibres.</summary>
        public Vector3 Cover(Vector3 left, Vector3 weight, SheenLobe lobe)
        {
            Add(left * weight, lobe);
            return left * (1 - (Largest(weight) * lobe.Albedo(view.Z)));
        }

        public Surface Build(Vector3 emission = default, float opacity = 1, Vector3 absorption = default) =>
            new(lobes.AsSpan(0, count))
            {
                Emission = Vector3.Max(Vector3.Zero, emission),
                Opacity = Math.Clamp(opacity, 0, 1),
                Absorption = Vector3.Max(Vector3.Zero, absorption),
            };

        public static float Largest(Vector3 colour) => MathF.Max(colour.X, MathF.Max(colour.Y, colour.Z));
    }
}
