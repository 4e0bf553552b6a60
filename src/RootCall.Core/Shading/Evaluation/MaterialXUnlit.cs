namespace RootCall.Core.Shading.Evaluation;

/// <summary>MaterialX's surface_unlit: gives off its colour; transmission and opacity let pass what is behind.</summary>
internal sealed class MaterialXUnlit(Slots slots) : IShadingModel
{
    private readonly Slot emission = slots["emission"],
        emissionColour = slots["emission_color"],
        transmission = slots["transmission"],
        opacity = slots["opacity"];

    public Surface At(in Inputs inputs, Seen seen) =>
        new Surface.Builder(seen.View).Build(
            inputs.Colour(emissionColour) * MathF.Max(0, inputs.Number(emission)),
            inputs.Share(opacity) * (1 - inputs.Share(transmission))
        );
}
