using System.Collections.Immutable;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing.Fitting;

/// <summary>
/// The numbers with which a crossed look comes nearest the one that arrived, where the formulas do not give them: spheres of both are
/// held side by side under some lights, and the numbers moved until the mean ΔE is least. Only numbers move; what an image or a node
/// says stays.
/// </summary>
public static class BestFit
{
    /// <summary>Pixels of each picture's side and places looked at in each: small, since many are drawn.</summary>
    private const int Side = 12,
        Samples = 2;

    /// <summary>Steps as shares of an input's range.</summary>
    private const double FirstStep = 0.125,
        LastStep = 0.015;

    private const int MostPictures = 120;

    /// <summary>What a number costs, in ΔE, that moves over its whole range: one that shows nothing stays.</summary>
    private const double Moving = 0.25;

    /// <summary>A fit has to win by this mean ΔE, or it is not offered: less than this nobody sees.</summary>
    public const double LeastGain = 0.5;

    /// <summary>Worth a try: what lies nearer cannot win by enough.</summary>
    public static bool IsWorthIt(double mean) => mean > LeastGain;

    /// <summary>Mean ΔE of a fit, and of the formulas.</summary>
    public static bool Wins(double fit, double formula) => fit <= formula - LeastGain;

    /// <summary>Empty where nothing that is free makes it better; whether it wins, a larger picture tells.</summary>
    /// <param name="arrived">The look that is to be met.</param>
    /// <param name="lights">Under which they are held.</param>
    /// <param name="textures">Images of both.</param>
    public static ImmutableArray<SetInput> Of(
        ShaderGraph arrived,
        CrossedMaterial crossed,
        IReadOnlyList<EnvironmentMap> lights,
        ITextureSource textures,
        CancellationToken stop
    )
    {
        var free = FreeInput.Of(crossed);
        var eyes = lights.Select(l => new Fidelity(l, Side, Samples)).ToList();
        if (free.IsEmpty || eyes.Select(e => e.Picture(arrived, textures, stop)).ToList() is not { } wanted || wanted.Contains(null))
            return [];

        double[] start = [.. free.SelectMany(f => f.Places)];
        double Apart(double[] at)
        {
            var look = crossed.With(Set(free, at)).Graph;
            var sum = 0.0;
            for (var i = 0; i < eyes.Count; i++)
                sum += eyes[i].Picture(look, textures, stop) is { } picture ? eyes[i].Between(wanted[i], picture).Mean : double.MaxValue;
            return (sum / eyes.Count) + (Moving * at.Zip(start, (a, b) => Math.Abs(a - b)).Sum());
        }

        var (found, least) = DirectSearch.Least(Apart, start, FirstStep, LastStep, MostPictures);
        return least < Apart(start) ? [.. Set(free, found).Where((s, i) => !s.Value.Numbers.SequenceEqual(free[i].Numbers))] : [];
    }

    private static ImmutableArray<SetInput> Set(ImmutableArray<FreeInput> free, double[] at)
    {
        var set = ImmutableArray.CreateBuilder<SetInput>(free.Length);
        var first = 0;
        foreach (var input in free)
        {
            var count = input.Numbers.Length;
            // What did not move says what the formula says, to the last digit.
            var moved = !input.Places.SequenceEqual(at.AsSpan(first, count).ToArray());
            set.Add(moved ? input.At(at.AsSpan(first, count)) : new(input.Input.Name, new ShaderValue(input.Numbers)) { IsFitted = true });
            first += count;
        }

        return set.ToImmutable();
    }
}
