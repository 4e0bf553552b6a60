using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing.Fitting;

/// <summary>
/// An input of a crossed look that a fit may give other numbers: one that is a number everywhere and is seen. Whether a thing is there,
/// gives off light, or lets light through is no matter of a fit.
/// </summary>
/// <param name="Numbers">What the formula says.</param>
internal sealed record FreeInput(ModelInput Input, ImmutableArray<double> Numbers)
{
    /// <summary>Always worth a try; what weighs a layer, only where the formula has that layer.</summary>
    private static readonly ImmutableHashSet<Role> Plain =

        [
            Role.BaseColour,
            Role.Metalness,
            Role.Roughness,
            Role.Glossiness,
            Role.SpecularExponent,
            Role.Specular,
            Role.SpecularColour,
            Role.IndexOfRefraction,
            Role.DiffuseRoughness,
        ],
        Layers = [Role.Coat, Role.CoatRoughness, Role.CoatColour, Role.Sheen, Role.SheenColour, Role.SheenRoughness, Role.Anisotropy];

    /// <summary>Largest numbers that mean something where the model gives no bound: of an index, and of a colour.</summary>
    private const double MostIndex = 3,
        MostColour = 1;

    public static ImmutableArray<FreeInput> Of(CrossedMaterial crossed)
    {
        var (model, surface) = (ShadingModels.Find(crossed.To)!, crossed.Graph.SurfaceNode!);
        ImmutableArray<double> Standing(ModelInput input) =>
            surface.Input(input.Name) is { } said
                ? said.From is null
                    ? said.Effective?.Numbers ?? input.Default
                    : []
                : input.Default;
        bool IsSeen(ModelInput input) =>
            input.Gate is not { } gate || surface.Input(gate)?.From is not null || !Standing(model.Input(gate)!).All(n => n == 0);
        return
        [
            .. from input in model.Inputs
            where input.Role is { } role && (Plain.Contains(role) || Layers.Contains(role))
            let numbers = Standing(input)
            where numbers.Length is 1 or 3 && numbers.All(double.IsFinite) && IsSeen(input)
            where Plain.Contains(input.Role!.Value) || numbers.Any(n => n > 0)
            // An index of 1,000 says a mirror: it is no number of the thing.
            where input.Role != Role.IndexOfRefraction || numbers[0] is >= 1 and <= MostIndex
            select new FreeInput(input, numbers),
        ];
    }

    /// <summary>Its numbers as places from 0 to 1.</summary>
    public IEnumerable<double> Places => Numbers.Select(n => Math.Clamp(Place(n), 0, 1));

    /// <summary>Numbers at places, rounded to what a person would write.</summary>
    public SetInput At(ReadOnlySpan<double> places)
    {
        var numbers = ImmutableArray.CreateBuilder<double>(places.Length);
        foreach (var place in places)
            numbers.Add(Math.Round(Number(place), IsExponent ? 1 : 4));
        return new(Input.Name, new ShaderValue(numbers.ToImmutable())) { IsFitted = true };
    }

    private bool IsExponent => Input.Role == Role.SpecularExponent;

    private double Least => Input.Role == Role.IndexOfRefraction ? Math.Max(1, Input.Min ?? 1) : Input.Min ?? 0;

    private double Most => Input.Role == Role.IndexOfRefraction ? Math.Min(MostIndex, Input.Max ?? MostIndex) : Input.Max ?? MostColour;

    /// <summary>The step from 10 to 20 shows as much as that from 100 to 200.</summary>
    private double Place(double number) => IsExponent ? Math.Log(1 + number) / Math.Log(1 + Most) : (number - Least) / (Most - Least);

    private double Number(double place) => IsExponent ? Math.Pow(1 + Most, place) - 1 : Least + (place * (Most - Least));
}
