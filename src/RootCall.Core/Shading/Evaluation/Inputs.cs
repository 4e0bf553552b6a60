using System.Numerics;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>Where the value of an input stands among the values of a point; found once for a material.</summary>
internal readonly record struct Slot(int Place);

/// <summary>The values of a model's inputs at one point, in the order of the model.</summary>
public readonly ref struct Inputs(ReadOnlySpan<Vector4> values)
{
    private readonly ReadOnlySpan<Vector4> values = values;

    internal float Number(Slot slot) => Finite(values[slot.Place].X);

    /// <summary>From 0 to 1.</summary>
    internal float Share(Slot slot) => Math.Clamp(Number(slot), 0, 1);

    internal bool Is(Slot slot) => values[slot.Place].X > 0.5f;

    /// <summary>Three numbers, none below 0.</summary>
    internal Vector3 Colour(Slot slot) => Vector3.Max(Vector3.Zero, Vector(slot));

    /// <summary>Three numbers from 0 to 1.</summary>
    internal Vector3 Reflectance(Slot slot) => Vector3.Clamp(Vector(slot), Vector3.Zero, Vector3.One);

    internal Vector3 Vector(Slot slot)
    {
        var v = values[slot.Place];
        return new(Finite(v.X), Finite(v.Y), Finite(v.Z));
    }

    private static float Finite(float value) => float.IsFinite(value) ? Math.Clamp(value, -1e9f, 1e9f) : 0;
}

/// <summary>Finds the inputs of a model by name.</summary>
/// <param name="written">The word that the material writes for an input; null where it writes none.</param>
/// <param name="isSaid">The material gives the input: a value, or something that feeds it.</param>
public sealed class Slots(ShadingModel model, Func<string, string?> written, Func<string, bool> isSaid)
{
    internal Slot this[string name]
    {
        get
        {
            for (var i = 0; i < model.Inputs.Length; i++)
                if (model.Inputs[i].Name == name)
                    return new(i);
            throw new ArgumentException($"The model {model.Id} has no input {name}.", nameof(name));
        }
    }

    internal bool IsSaid(string name) => isSaid(name);

    internal string? Word(string name) => written(name);
}

/// <summary>The side from which a point is seen.</summary>
/// <param name="View">Towards the viewer, in the frame of the shading normal; z is above 0.</param>
/// <param name="Inside">The viewer is inside the solid.</param>
public readonly record struct Seen(Vector3 View, bool Inside);

/// <summary>A shading model that is evaluated by its own equations, with a material's inputs found.</summary>
public interface IShadingModel
{
    Surface At(in Inputs inputs, Seen seen);
}
