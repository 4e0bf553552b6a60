using System.Numerics;
using RootCall.Core.Shading;
using RootCall.Core.Shading.Evaluation;

namespace RootCall.Core.Tests.Rendering;

/// <summary>A shading model with some of its inputs given, at one point.</summary>
/// <param name="Given">By name; the others have the model's defaults.</param>
internal sealed record ModelPoint(string Model, params (string Name, float[] Value)[] Given)
{
    private readonly Dictionary<string, string> words = [];

    public ModelPoint Saying(string name, string word)
    {
        var said = this with { };
        said.words[name] = word;
        return said;
    }

    public Surface At(Vector3 view, bool isInside = false)
    {
        var model = ShadingModels.Find(Model)!;
        var given = Given.ToDictionary(g => g.Name, g => g.Value);
        var values = model
            .Inputs.Select(i => Of(given.TryGetValue(i.Name, out var v) ? v : [.. i.Default.Select(d => (float)d)]))
            .ToArray();
        var slots = new Slots(model, words.GetValueOrDefault, n => given.ContainsKey(n) || words.ContainsKey(n));
        return Evaluations.Of(model, slots)!.At(new Inputs(values), new(view, isInside));
    }

    private static Vector4 Of(float[] v) =>
        v.Length switch
        {
            0 => Vector4.Zero,
            1 => new(v[0]),
            _ => new(v[0], v[1], v.Length > 2 ? v[2] : 0, v.Length > 3 ? v[3] : 0),
        };

    public override string ToString() => $"{Model} {string.Join(' ', Given.Select(g => $"{g.Name}={string.Join(',', g.Value)}"))}";
}
