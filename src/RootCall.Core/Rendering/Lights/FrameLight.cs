using System.Numerics;
using RootCall.Core.Rendering.Sampling;

namespace RootCall.Core.Rendering.Lights;

/// <summary>All the light of a frame: what comes from around, and lamps that stand in it.</summary>
public sealed class FrameLight
{
    /// <summary>
    /// Lamps that a path may come across by itself; the strongest of those with an extent. All are asked for their light.
    /// </summary>
    public const int MostFound = 64;

    private readonly EnvironmentMap? around;
    private readonly PlacedLamp[] lamps;
    private readonly (PlacedLamp Lamp, float Chance)[] found;

    /// <summary>Of the environment first, then of each lamp: how often each is asked.</summary>
    private readonly float[] sums;

    /// <param name="radius">Of the space that is lit, around the origin.</param>
    public FrameLight(EnvironmentMap? around, IEnumerable<PlacedLamp> lamps, float radius)
    {
        (this.around, this.lamps) = (around, [.. lamps.Where(l => l.Power(radius) > 0).OrderByDescending(l => l.Power(radius))]);
        sums = new float[this.lamps.Length + 2];
        // As Power says for what comes from one direction, from everywhere.
        sums[1] = around is null ? 0 : around.Mean * 4 * MathF.PI * MathF.PI * radius * radius;
        for (var i = 0; i < this.lamps.Length; i++)
            sums[i + 2] = sums[i + 1] + this.lamps[i].Power(radius);
        found = [.. this.lamps.Select((l, i) => (Lamp: l, Chance: Chance(i + 1))).Where(l => l.Lamp.HasExtent).Take(MostFound)];
        isAround = this.lamps.Length == 0;
    }

    /// <summary>There is nothing but the environment: nothing has to be picked.</summary>
    private readonly bool isAround;

    public bool HasAny => around is not null || lamps.Length > 0;

    private float Chance(int at) => (sums[at + 1] - sums[at]) / sums[^1];

    /// <summary>Light from where nothing stands, and how likely <see cref="Sample"/> picks this direction.</summary>
    public (Vector3 Radiance, float Density) From(Vector3 direction)
    {
        if (around is null)
            return (Vector3.Zero, 0);
        var (radiance, density) = around.From(direction);
        return (radiance, isAround ? density : density * Chance(0));
    }

    /// <summary>What stands behind all, for whoever looks straight at it.</summary>
    public Vector3 Smooth(Vector3 direction) => around?.Smooth(direction) ?? Vector3.Zero;

    /// <summary>Picks a direction to a light from a place.</summary>
    /// <param name="pick">Decides which light; 0 to 1, 1 left out.</param>
    /// <returns>Null when the one that was picked gives none there.</returns>
    public LightSample? Sample(Vector3 from, float pick, Vector2 u)
    {
        var at = isAround ? 0 : RunningSums.Find(sums, pick).At;
        if (at == 0)
            return around is null ? null : By(around.Sample(u), isAround ? 1 : Chance(0));
        return lamps[at - 1].Sample(from, u) is { } picked ? By(picked, Chance(at)) : null;
    }

    private static LightSample By(LightSample picked, float chance) => picked with { Density = picked.Density * chance };

    /// <summary>The lamps that a ray comes across before it meets a surface.</summary>
    /// <param name="density">How likely the ray's direction was picked; 0 for one that whoever looks has chosen.</param>
    public Vector3 Met(Vector3 origin, Vector3 direction, float before, float density)
    {
        var sum = Vector3.Zero;
        foreach (var (lamp, chance) in found)
            if (lamp.Met(origin, direction) is { } met && met.Distance < before)
                sum += met.Radiance * (density > 0 ? Balance.Share(density, met.Density * chance) : 1);
        return sum;
    }
}
