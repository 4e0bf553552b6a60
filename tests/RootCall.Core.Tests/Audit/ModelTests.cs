using System.Globalization;
using System.Text.Json;
using RootCall.Core.Shading;
using RootCall.Testing;
using SharpGLTF.Schema2;

namespace RootCall.Core.Tests.Audit;

/// <summary>The shading models' data against others: SharpGLTF for glTF, the reference library for MaterialX.</summary>
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

    /// <summary>
    /// Of every surface shader of the reference library's standard definitions: inputs, types, defaults, and the ranges that its
    /// interface shows. A colour of light may go beyond 1 and a rotation around again, where theirs end for the eye only.
    /// </summary>
    [Fact]
    public void Surfaces_of_MaterialX_are_as_its_reference_library_defines_them()
    {
        const string Script = """
            for (const d of library.getNodeDefs()) {
              if (d.getType() !== 'surfaceshader' || ['convert', 'mix', 'dot'].includes(d.getNodeString())) continue;
              if (d.getVersionString() && d.getAttribute('isdefaultversion') !== 'true') continue;
              const inputs = d.getActiveInputs().map((i) =>
                [i.getName(), i.getType(), i.getValueString(), i.getAttribute('uimin'), i.getAttribute('uimax')]);
              console.log(JSON.stringify({ name: d.getName(), node: d.getNodeString(), inputs }));
            }
            """;
        var said = Tool.Run("node", ["-e", MaterialXReference.Script(Script)], Path.Combine(Tool.Home, "web"));
        Assert.True(said.Status == 0, said.Error);
        var surfaces = said
            .Output.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => JsonDocument.Parse(l).RootElement)
            .ToList();
        Assert.True(surfaces.Count >= 7, said.Output);
        foreach (var surface in surfaces)
        {
            var model = ShadingModels.OfType(surface.GetProperty("node").GetString()!);
            Assert.True(model is not null, surface.GetProperty("node").GetString());
            Assert.Same(model, ShadingModels.OfType(surface.GetProperty("name").GetString()!));
            var theirs = surface
                .GetProperty("inputs")
                .EnumerateArray()
                .Select(i => i.EnumerateArray().Select(x => x.GetString()!).ToList());
            Assert.Equal(
                theirs.Select(i => i[0]).Order(StringComparer.Ordinal),
                model.Inputs.Select(i => i.Name).Order(StringComparer.Ordinal)
            );
            foreach (var their in theirs)
            {
                var (ours, what) = (model.Input(their[0])!, $"{model.Id}.{their[0]}");
                Assert.True(their[1] == ours.Type.Word, what);
                if (ours.Type != InputType.Boolean)
                    Assert.True(Numbers(their[2]).SequenceEqual(ours.Default), $"{what}: {their[2]}");
                if (ours.Role is Role.Emission or Role.Normal or Role.AnisotropyRotation)
                    continue;
                // A bound of theirs that is none here would be a value that is silently taken.
                Assert.True(their[3].Length == 0 || Numbers(their[3])[0] == ours.Min, $"{what} from {their[3]}");
                Assert.True(their[4].Length == 0 || Numbers(their[4])[0] == ours.Max, $"{what} to {their[4]}");
            }
        }
    }

    private static double[] Numbers(string text) =>
        [.. text.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(n => double.Parse(n, CultureInfo.InvariantCulture))];

    [Theory]
    [InlineData("gltf-metallic-roughness", Role.Roughness, "roughness")]
    [InlineData("UsdPreviewSurface", Role.BaseColour, "diffuseColor")]
    [InlineData("ND_standard_surface_surfaceshader", Role.Roughness, "specular_roughness")]
    [InlineData("standard_surface", Role.EmissionStrength, "emission")]
    [InlineData("open_pbr_surface", Role.Iridescence, "thin_film_weight")]
    [InlineData("gltf_pbr", Role.Iridescence, "iridescence")]
    [InlineData("gltf-metallic-roughness", Role.Dispersion, "dispersion")]
    [InlineData("mtl-pbr", Role.Emission, "Ke")]
    [InlineData("collada-common", Role.SpecularExponent, "shininess")]
    [InlineData("collada-common", Role.Glossiness, null)]
    [InlineData("mtl-phong", Role.Glossiness, null)]
    [InlineData("phong", Role.Transparency, "TransparencyFactor")]
    [InlineData("never_heard_of", Role.Roughness, null)]
    public void A_role_has_its_input_in_each_model_or_none(string type, Role role, string? input) =>
        Assert.Equal(input, ShadingModels.OfType(type)?.Input(role)?.Name);

    [Fact]
    public void What_weighs_an_input_is_an_input_of_the_same_model()
    {
        foreach (var model in ShadingModels.All)
        foreach (var input in model.Inputs.Where(i => i.Gate is not null))
            Assert.True(model.Input(input.Gate!) is not null, $"{model.Id}.{input.Name} is weighed by {input.Gate}");
        Assert.All(Enum.GetValues<Role>(), r => Assert.Equal(r, Roles.Of(r.Word())));
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
