using RootCall.Core.Shading;
using SharpGLTF.Schema2;

namespace RootCall.Core.Tests.Audit;

/// <summary>
/// The shading models' data against others: SharpGLTF for glTF; the MaterialX definitions are checked where npm has
/// them.
/// </summary>
public sealed class ModelTests
{
    [Theory]
    [InlineData("metallic", "MetallicRoughness", "MetallicFactor")]
    [InlineData("roughness", "MetallicRoughness", "RoughnessFactor")]
    [InlineData("transmission", "Transmission", "TransmissionFactor")]
    [InlineData("clearcoat", "ClearCoat", "ClearCoatFactor")]
    [InlineData("clearcoatRoughness", "ClearCoatRoughness", "RoughnessFactor")]
    [InlineData("sheenRoughness", "SheenRoughness", "RoughnessFactor")]
    [InlineData("iridescence", "Iridescence", "IridescenceFactor")]
    [InlineData("specular", "SpecularFactor", "SpecularFactor")]
    public void Defaults_of_gltf_are_those_of_SharpGLTF(string input, string channel, string parameter)
    {
        var material = ModelRoot.CreateModel().CreateMaterial("m");
        material.InitializePBRMetallicRoughness("Transmission", "ClearCoat", "Sheen", "Iridescence", "Specular");
        var found = material.FindChannel(channel);
        Assert.True(found.HasValue, string.Join(", ", material.Channels.Select(c => c.Key)));
        var value = found.Value.Parameters.First(p => p.Name == parameter).Value;
        Assert.Equal(
            Convert.ToDouble(value, System.Globalization.CultureInfo.InvariantCulture),
            ShadingModels.Find("gltf-metallic-roughness")!.Input(input)!.Default[0],
            6
        );
    }

    [Fact]
    public void Every_default_lies_in_its_range_and_every_type_is_told_once()
    {
        foreach (var model in ShadingModels.All)
        foreach (var input in model.Inputs)
            Assert.All(input.Default, d => Assert.True(!(d < input.Min) && !(d > input.Max), $"{model.Id}.{input.Name}"));
        Assert.Equal(
            ShadingModels.All.Sum(m => m.Types.Length),
            ShadingModels.All.SelectMany(m => m.Types).Distinct(StringComparer.OrdinalIgnoreCase).Count()
        );
    }
}
