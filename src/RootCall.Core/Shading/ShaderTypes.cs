using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;

namespace RootCall.Core.Shading;

/// <summary>Where a type of shader comes from and what to do about it.</summary>
/// <param name="Pattern">A pattern for type names: <c>*</c> stands for anything.</param>
/// <param name="Provider">Library or plug-in that brings it.</param>
/// <param name="Status"><c>available</c>, <c>superseded</c> or <c>retired</c>.</param>
/// <param name="Advice">What to do, in one sentence.</param>
/// <param name="Model">The shading model it can be carried from; null when there is no crossing.</param>
public sealed record ShaderType(string Pattern, string Provider, string Status, string Advice, string? Model = null)
{
    public bool Fits(string type) => Wildcard.Fits(Pattern, type);
}

/// <summary>The registry of shader types that ships; house rules add to it, and come first.</summary>
public static class ShaderTypes
{
    public static ImmutableArray<ShaderType> Shipped { get; } = Read();

    public static ShaderType? Find(string type, ImmutableArray<ShaderType> house) =>
        house.Concat(Shipped).FirstOrDefault(t => t.Fits(type));

    private static ImmutableArray<ShaderType> Read()
    {
        using var stream = typeof(ShaderTypes).Assembly.GetManifestResourceStream("RootCall.Core.shader-types.json")!;
        return JsonSerializer.Deserialize(stream, ShaderTypeContext.Default.ImmutableArrayShaderType);
    }
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(ImmutableArray<ShaderType>))]
internal sealed partial class ShaderTypeContext : JsonSerializerContext;
