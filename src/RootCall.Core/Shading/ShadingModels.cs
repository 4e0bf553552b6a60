using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;

namespace RootCall.Core.Shading;

/// <summary>The models that are known: one JSON file each, under <c>Shading/Models</c>.</summary>
public static class ShadingModels
{
    private const string Folder = "RootCall.Core.models.";

    public static ImmutableArray<ShadingModel> All { get; } =
    [
        .. typeof(ShadingModels)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith(Folder, StringComparison.Ordinal))
            .Order(StringComparer.Ordinal)
            .Select(Read),
    ];

    private static readonly Dictionary<string, ShadingModel> ByType = All.SelectMany(m => m.Types.Select(t => (t, m)))
        .ToDictionary(p => p.t, p => p.m, StringComparer.OrdinalIgnoreCase);

    private static readonly ImmutableArray<(string Pattern, ShadingModel Model)> Patterns =
    [
        .. ByType.Where(t => t.Key.Contains('*', StringComparison.Ordinal)).Select(t => (t.Key, t.Value)),
    ];

    /// <summary>The model of a surface shader type; null for one that is not known.</summary>
    public static ShadingModel? OfType(string type)
    {
        if (ByType.TryGetValue(type, out var model))
            return model;
        foreach (var (pattern, fitting) in Patterns)
            if (Wildcard.Fits(pattern, type))
                return fitting;
        return null;
    }

    public static ShadingModel? Find(string id) => All.FirstOrDefault(m => m.Id == id);

    private static ShadingModel Read(string resource)
    {
        using var stream = typeof(ShadingModels).Assembly.GetManifestResourceStream(resource)!;
        return JsonSerializer.Deserialize(stream, ModelContext.Default.ShadingModel)!;
    }
}

/// <summary>Generated readers: reflection would cost every start of a process more than the models themselves.</summary>
[JsonSourceGenerationOptions(
    JsonSerializerDefaults.Web,
    UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    Converters = [typeof(UnitConverter)]
)]
[JsonSerializable(typeof(ShadingModel))]
internal sealed partial class ModelContext : JsonSerializerContext;

/// <summary>Units as words in JSON.</summary>
internal sealed class UnitConverter() : JsonStringEnumConverter<InputUnit>(new Words())
{
    private sealed class Words : JsonNamingPolicy
    {
        public override string ConvertName(string name) => SnakeCaseLower.ConvertName(name).Replace('_', ' ');
    }
}
