using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing;

/// <summary>The inputs of a material's surface, as its shading model means them.</summary>
/// <param name="graph">The surface's; it tells what feeds an input.</param>
internal sealed class Source(ShadingModel model, ShaderNode surface, ShaderGraph graph)
{
    private readonly HashSet<string> read = new(StringComparer.Ordinal);

    /// <summary>The material gives it: a value, or something that feeds it.</summary>
    public bool IsSaid(string input)
    {
        read.Add(input);
        return surface.Input(input) is { } i && (i.From is not null || i.Value is not null);
    }

    public string? Word(string input)
    {
        read.Add(input);
        return surface.Input(input)?.Effective?.Text;
    }

    /// <summary>What an input is: what feeds it, its value, or what the model says where nothing is written.</summary>
    public Carried this[string input, params ReadOnlySpan<double> otherwise]
    {
        get
        {
            read.Add(input);
            var data = model.Input(input) ?? throw new ArgumentException($"The model {model.Id} has no input {input}.", nameof(input));
            var given = surface.Input(input);
            if (given?.From is { } wire)
                return new([], wire, data.Type, [input], MappingKind.Exact, []);
            if (given?.Effective is { Text: "true" or "false" } word)
                return Number([word.Text == "true" ? 1 : 0], data, given.Value is not null, input);
            if (given?.Effective is { Numbers.IsDefaultOrEmpty: false } value)
                return Number(value.Numbers, data, given.Value is not null, input);
            return Number(data.Default.IsDefaultOrEmpty ? [.. otherwise] : data.Default, data, false, input);
        }
    }

    private static Carried Number(ImmutableArray<double> numbers, ModelInput data, bool isSaid, string input) =>
        numbers.IsEmpty
            ? throw new ArgumentException($"The input {input} has no default.", nameof(numbers))
            : new(
                numbers.Length > data.Type.Numbers && data.Type.Numbers > 0 ? [.. numbers.Take(data.Type.Numbers)] : numbers,
                null,
                data.Type.Numbers > 0 ? data.Type : InputType.Float,
                isSaid ? [input] : [],
                MappingKind.Exact,
                []
            );

    /// <summary>The model does not read an input as the others are set.</summary>
    public void Pass(string input) => read.Add(input);

    /// <summary>Inputs that the material gives and that have a part in its look, and that were not read.</summary>
    public IEnumerable<ShaderInput> Left =>
        surface.Inputs.Where(i =>
            !read.Contains(i.Name)
            && (i.From is not null || (i.Value is { } v && v != i.Default))
            && model.Input(i.Name) is { } data
            && !(data.Gate is { } gate && model.Input(gate) is not null && this[gate, 1].Is(0))
        );

    /// <summary>What feeds an input, as people read it: the files of its images, or how many nodes.</summary>
    public static string Feeding(ShaderGraph graph, ShaderInput input)
    {
        var files = graph.ImagesOf(input).Select(i => Path.GetFileName(i.Reference.Written.Replace('\\', '/'))).Distinct().ToList();
        return files.Count > 0 ? string.Join(", ", files) : "nodes";
    }

    /// <summary>As a row shows it.</summary>
    public string Shown(IEnumerable<string> inputs) =>
        string.Join(
            ", ",
            inputs
                .Select(i =>
                    surface.Input(i) is not { } given ? string.Empty
                    : given.From is not null ? Feeding(graph, given)
                    : $"{given.Effective}"
                )
                .Where(s => s.Length > 0)
        );
}
