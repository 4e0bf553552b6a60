using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace RootCall.Core.Shading;

/// <summary>A shading model as data: what each of its inputs means.</summary>
/// <param name="Id">As the command line takes it: <c>open-pbr</c>.</param>
/// <param name="Types">What formats call its surface shader; <c>*</c> stands for anything.</param>
/// <param name="Source">The published specification.</param>
public sealed record ShadingModel(string Id, string Name, ImmutableArray<string> Types, string Source, ImmutableArray<ModelInput> Inputs)
{
    /// <summary>What a swatch does otherwise than the specification, by the input that asks for it.</summary>
    public ImmutableArray<Approximation> Approximated
    {
        get;
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Its normals are vectors in tangent space; those of all other models are in that of the scene.</summary>
    [JsonIgnore]
    public bool IsTangentSpace => Id == "usd-preview-surface";

    private readonly Dictionary<string, ModelInput> byName = Inputs.ToDictionary(i => i.Name, StringComparer.Ordinal);
    private readonly ILookup<Role, ModelInput> byRole = Inputs.Where(i => i.Role is not null).ToLookup(i => i.Role!.Value);

    public ModelInput? Input(string name) => byName.GetValueOrDefault(name);

    /// <summary>The input that plays a role; null when the model has none.</summary>
    public ModelInput? Input(Role role) => byRole[role].FirstOrDefault();

    public bool Has(Role role) => byRole.Contains(role);
}

/// <param name="How">What is done instead, in a sentence.</param>
public sealed record Approximation(string Input, string How);

/// <summary>What one input of a shading model means.</summary>
/// <param name="Role">Null for one that no other model has.</param>
/// <param name="Type">MaterialX type.</param>
/// <param name="Default">Empty when the specification gives none.</param>
/// <param name="Min">Least value that means something; null for no limit.</param>
/// <param name="Max">Most.</param>
/// <param name="Unit">Of its number; null for a plain one.</param>
/// <param name="Channels">The channels of an image that arrive, where the specification fixes them.</param>
/// <param name="Data">Its three numbers are no colour.</param>
/// <param name="Gate">The input that weighs it: at 0 nothing of this one is seen. Null where nothing does.</param>
public sealed record ModelInput(
    string Name,
    InputType Type,
    Role? Role = null,
    ImmutableArray<double> Default = default,
    double? Min = null,
    double? Max = null,
    InputUnit? Unit = null,
    Channels? Channels = null,
    bool Data = false,
    string? Gate = null
)
{
    public ImmutableArray<double> Default { get; init; } = Default.IsDefault ? [] : Default;

    /// <summary>Its images hold encoded colours.</summary>
    public bool IsColour => Type.IsColour && !Data;
}

public enum InputUnit
{
    SceneLength,
    Nanometre,
    Micrometre,
    Radian,
    Turn,

    /// <summary>Candela per square metre.</summary>
    Nit,
}

public static class InputUnits
{
    /// <summary>As it stands behind a number.</summary>
    public static string Word(this InputUnit unit) =>
        unit switch
        {
            InputUnit.SceneLength => "scene units",
            InputUnit.Nanometre => "nm",
            InputUnit.Micrometre => "µm",
            InputUnit.Radian => "rad",
            InputUnit.Turn => "turns",
            _ => "cd/m²",
        };
}
