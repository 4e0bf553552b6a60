using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing;

/// <summary>
/// What bends the surface and what shadows it: found by the role of an input, alike in all models. Vectors in tangent space go as maps
/// store them, so that a node that only unpacks a map is not carried along but made anew.
/// </summary>
internal sealed class Reliefs(ShaderGraph graph, Sums sums)
{
    private const string Unpacked = "a vector from −1 to 1 in place of one from 0 to 1";

    private static readonly (LookPart Part, Role Role)[] Plain =
    [
        (Bump, Role.Bump),
        (Displacement, Role.Displacement),
        (Occlusion, Role.Occlusion),
        (CoatNormal, Role.CoatNormal),
    ];

    public void Read(ShadingModel model, Source from, Look look)
    {
        foreach (var (part, role) in Plain)
            if (model.Input(role) is { } input && from.IsSaid(input.Name))
                look[part] = from[input.Name, [.. Enumerable.Repeat(0.0, input.Type.Numbers)]];
        if (
            model.Input(Role.Normal) is not { } normal
            || !from.IsSaid(normal.Name)
            || from[normal.Name, 0, 0, 1] is not { IsNumber: false } bent
        )
            return;
        if (model.IsTangentSpace)
            look[NormalMap] = sums.Multiply(sums.Add(bent, Carried.Of(1, 1, 1)), Carried.Of(0.5)).Same(Unpacked);
        else if (graph.Node(bent.Wire!.Node) is { Type: "normalmap" or "ND_normalmap_float" } map && map.Input("in")?.From is { } stored)
        {
            look[NormalMap] = bent with { Wire = stored, Type = InputType.Vector3 };
            if (map.Input("scale") is { Value.Numbers: [var strength, ..] } && strength != 1)
                look[NormalStrength] = bent with { Wire = null, Numbers = [strength], Type = InputType.Float };
        }
        else
            look[Normal] = bent;
    }

    public void Write(ShadingModel model, Look look, Target to)
    {
        foreach (var (part, role) in Plain)
            if (part != Bump && model.Input(role) is { } input && look.Find(part) is { } value)
                to.Set(input.Name, value);
        var normal = model.Input(Role.Normal);
        if (normal is not null && look.Find(NormalMap) is { } map)
            to.Set(normal.Name, model.IsTangentSpace ? Signed(map, look) : Mapped(map, look));
        else if (normal is not null && !model.IsTangentSpace && look.Find(Normal) is { } bent)
            to.Set(normal.Name, bent);
        if (model.Input(Role.Bump) is { } bump && Height(model, look) is { } height)
            to.Set(bump.Name, height);
        else if (normal is not null && !model.IsTangentSpace && Height(model, look) is { IsNumber: false } raised)
            to.Set(normal.Name, Raised(raised));
    }

    /// <summary>What is bump, or stands in for a displacement that the model does not have, where nothing else bends the surface.</summary>
    private static Carried? Height(ShadingModel model, Look look) =>
        look.Find(Bump)
        ?? (
            model.Input(Role.Displacement) is null
            && look.Peek(Normal, 0).IsNumber
            && look.Peek(NormalMap, 0).IsNumber
            && look.Peek(Displacement, 0) is { IsNumber: false }
                ? look.Find(Displacement)?.Near("its slopes stay as bump; the form that it gave is lost")
                : null
        );

    private Carried Mapped(Carried map, Look look)
    {
        var strength = look.Take(NormalStrength, 1);
        return sums.Put(
            "normalmap",
            InputType.Vector3,
            map,
            new("in", InputType.Vector3, null, map.Wire),
            Sums.Given("scale", InputType.Float, strength.Number ?? 1)
        );
    }

    private Carried Signed(Carried map, Look look)
    {
        var strength = look.Take(NormalStrength, 1).Number ?? 1;
        var signed = sums.Add(sums.Multiply(map, Carried.Of(2, 2, 2)), Carried.Of(-1, -1, -1));
        return (strength == 1 ? signed : sums.Multiply(signed, Carried.Of(strength, strength, 1))).Same(Unpacked);
    }

    private Carried Raised(Carried height) =>
        sums.Put(
                "bump",
                InputType.Vector3,
                height,
                new("height", InputType.Float, null, sums.Part(height, 0).Wire),
                Sums.Given("scale", InputType.Float, 1)
            )
            .Near("a height becomes the slope of a normal");
}
