using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing.Baking;

/// <summary>A crossed look of which some inputs read images that were made for them.</summary>
public static class BakedLook
{
    /// <summary>The same look, these inputs fed by these images and by nothing else.</summary>
    public static ShaderGraph Of(ShaderGraph look, IEnumerable<BakedInput> baked)
    {
        var surface = look.SurfaceNode!;
        var model = ShadingModels.OfType(surface.Type)!;
        var nodes = new List<ShaderNode>();
        foreach (var (name, use) in baked)
        {
            if (model.Input(name) is not { } data)
                continue;
            var from = Fed(nodes, name, data, use, model.IsTangentSpace);
            var input = new ShaderInput(name, data.Type, null, from) { Default = data.Default.IsEmpty ? null : new(data.Default) };
            var there = surface.Input(name);
            surface = surface with { Inputs = there is null ? surface.Inputs.Add(input) : surface.Inputs.Replace(there, input) };
        }

        return look with
        {
            Nodes = [.. look.Nodes.Select(n => n.Name == surface.Name ? surface : n), .. nodes],
        };
    }

    private static Connection Fed(List<ShaderNode> nodes, string input, ModelInput data, ImageUse use, bool inTangentSpace)
    {
        Connection Put(string type, InputType output, params ReadOnlySpan<ShaderInput> inputs)
        {
            nodes.Add(new($"baked {input} {nodes.Count + 1}", type, [.. inputs]) { Output = output });
            return new(nodes[^1].Name, "out");
        }

        var isNormal = data.Role is Role.Normal or Role.CoatNormal;
        var stored =
            use.Channels.Place() is not null ? InputType.Color4
            : isNormal ? InputType.Vector3
            : InputType.Color3;
        nodes.Add(
            new($"baked {input} image", "image", [new("file", InputType.FileName, ShaderValue.OfText(use.Reference.Written))], use)
            {
                Output = stored,
            }
        );
        var image = new Connection(nodes[^1].Name, "out");
        if (use.Channels.Place() is { } place)
            return Put("extract", InputType.Float, new("in", stored, null, image), new("index", InputType.Integer, ShaderValue.Of(place)));
        if (!isNormal)
            return image;
        if (!inTangentSpace)
            return Put("normalmap", InputType.Vector3, new("in", stored, null, image), new("scale", InputType.Float, ShaderValue.Of(1)));
        var twice = Put("multiply", stored, new("in1", stored, null, image), new("in2", stored, ShaderValue.Of(2, 2, 2)));
        return Put("add", stored, new("in1", stored, null, twice), new("in2", stored, ShaderValue.Of(-1, -1, -1)));
    }
}
