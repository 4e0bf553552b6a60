using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing;

/// <summary>The surface that a material gets in another shading model.</summary>
internal sealed class Target(ShadingModel model, Source source, Sums sums)
{
    private readonly List<ShaderInput> inputs = [];
    private readonly List<Mapping> rows = [];

    public ShadingModel Model => model;

    public ImmutableArray<Mapping> Rows => [.. rows];

    /// <summary>Gives an input its value. What is the model's own default is not written.</summary>
    public void Set(string input, Carried value)
    {
        var data = model.Input(input) ?? throw new ArgumentException($"The model {model.Id} has no input {input}.", nameof(input));
        var (isClamped, isWritten) = (false, true);
        if (value.IsNumber)
        {
            var wanted = data.Type.Numbers;
            ImmutableArray<double> numbers =
            [
                .. Enumerable.Range(0, wanted).Select(i => value.Numbers[Math.Min(i, value.Numbers.Length - 1)]),
            ];
            ImmutableArray<double> kept = [.. numbers.Select(n => Math.Min(Math.Max(n, data.Min ?? n), data.Max ?? n))];
            isClamped = !kept.SequenceEqual(numbers);
            value = value with { Numbers = kept };
            isWritten = !kept.SequenceEqual(data.Default);
            if (isWritten)
                inputs.Add(new(input, data.Type, new ShaderValue(kept)) { Default = Standard(data) });
        }
        else
        {
            value = sums.As(value, data.Type);
            inputs.Add(new(input, data.Type, null, value.Wire) { Default = Standard(data) });
        }

        if (value.From.IsEmpty && !isWritten)
            return;
        var kind = isClamped && value.Kind == MappingKind.Exact ? MappingKind.Approximate : value.Kind;
        rows.Add(new(value.From, input, kind, string.Join("; ", value.How), source.Shown(value.From), Shown(value), isClamped));
    }

    /// <summary>Gives an input a word.</summary>
    public void Say(string input, InputType type, string word) => inputs.Add(new(input, type, ShaderValue.OfText(word)));

    /// <summary>Tells what cannot be said.</summary>
    public void Lose(IEnumerable<string> from, string what)
    {
        ImmutableArray<string> names = [.. from];
        rows.Add(new(names, string.Empty, MappingKind.Lost, what, source.Shown(names), string.Empty, false));
    }

    public ShaderNode Surface(string name) => new(name, model.Types.First(t => !t.Contains('*', StringComparison.Ordinal)), [.. inputs]);

    private static ShaderValue? Standard(ModelInput data) => data.Default.IsEmpty ? null : new(data.Default);

    private static string Shown(Carried value) =>
        value.Wire is { } wire
            ? wire.Node
            : string.Join(' ', value.Numbers.Select(n => n.ToString("0.####", CultureInfo.InvariantCulture)));
}
