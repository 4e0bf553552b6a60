using System.Collections.Immutable;
using System.Text.Json;

namespace RootCall.Core.Shading;

/// <summary>A shading model as data.</summary>
/// <param name="Id">As the command line takes it: <c>open-pbr</c>.</param>
/// <param name="Types">What formats call its surface shader.</param>
/// <param name="Source">The published specification.</param>
public sealed record ShadingModel(string Id, string Name, ImmutableArray<string> Types, string Source, ImmutableArray<ModelInput> Inputs)
{
    public ModelInput? Input(string name) => Inputs.FirstOrDefault(i => i.Name == name);
}

/// <param name="Type">MaterialX type.</param>
/// <param name="Default">Empty when the specification gives none.</param>
/// <param name="Min">Least value that means something; null for no limit.</param>
/// <param name="Max">Most.</param>
public sealed record ModelInput(string Name, string Type, ImmutableArray<double> Default, double? Min = null, double? Max = null);

/// <summary>The models that are known.</summary>
public static class ShadingModels
{
    public static ImmutableArray<ShadingModel> All { get; } = Read();

    private static readonly Dictionary<string, ShadingModel> ByType = All.SelectMany(m => m.Types.Select(t => (t, m)))
        .ToDictionary(p => p.t, p => p.m, StringComparer.OrdinalIgnoreCase);

    /// <summary>The model of a surface shader type; null for one that is not known.</summary>
    public static ShadingModel? OfType(string type) => ByType.GetValueOrDefault(type);

    public static ShadingModel? Find(string id) => All.FirstOrDefault(m => m.Id == id);

    private static ImmutableArray<ShadingModel> Read()
    {
        using var stream = typeof(ShadingModels).Assembly.GetManifestResourceStream("RootCall.Core.models.json")!;
        return JsonSerializer.Deserialize<ImmutableArray<ShadingModel>>(stream, JsonSerializerOptions.Web);
    }
}
