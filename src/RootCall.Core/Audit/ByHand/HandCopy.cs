using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>
/// Gives materials what another one has in some of its inputs, values and images alike. Inputs are told by their role, so that one
/// shading model can take from another; what only one model has is told by its name.
/// </summary>
/// <param name="From">What edits call the other one by.</param>
public sealed record HandCopy(string From, ImmutableArray<string> Inputs) : HandDecision
{
    public override string Title =>
        $"Copy {string.Join(", ", Inputs.Take(3))}{(Inputs.Length > 3 ? $" and {Inputs.Length - 3} more" : "")} of {From}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var (source, to) = (Material(scene, new("material", From)), Material(scene, place));
        if (source == to)
            throw new CannotUseException($"{From} has its own inputs already.");
        var lacking = Inputs.Where(i => NameIn(source, i, to) is null).Select(i => What(source, i)).ToList();
        if (lacking.Count > 0)
            throw new CannotUseException($"{to.Name} has no {string.Join(", ", lacking)}.");
        return [.. Inputs.SelectMany(i => One(scene, source, i, to, NameIn(source, i, to)!))];
    }

    private static IEnumerable<Edit> One(AuditScene scene, MaterialView source, string input, MaterialView to, string name)
    {
        var (given, there) = (source.Input(input), WireEnds.There(to, name));
        if (given?.Maps is [_, _, ..])
            throw new CannotUseException($"Several images reach {input} of {source.Name}; only one can be copied.");
        if (given?.Maps is [var map])
        {
            yield return new SetImage(to.Name, name, there, WireEnds.Use(scene, to, map.Use, map.Channel, name));
            foreach (var edit in Between(scene, source, given, to, name))
                yield return edit;
            yield break;
        }

        if (given?.IsConnected == true)
            throw new CannotUseException($"What feeds {input} of {source.Name} is no image; it cannot be copied.");
        if (there is not null)
            yield return new SetImage(to.Name, name, there, null);
        var value = given?.Input.Value
            ?? (given?.Numbers ?? source.Model?.Input(input)?.Default) switch
            {
                { Length: > 0 } numbers => new Scenes.ShaderValue([.. numbers]),
                _ => throw new CannotUseException($"{source.Name} says nothing of {input}."),
            };
        foreach (var edit in new HandValue(name, value).Edits(scene, new("material", to.Name)))
            yield return edit;
    }

    /// <summary>What lies between the image and the input: nodes, or the factor of a format of fields.</summary>
    private static IEnumerable<Edit> Between(AuditScene scene, MaterialView source, InputView given, MaterialView to, string name)
    {
        if (SceneFormats.Of(scene.Scene.Path).Capabilities.Shape is not INodeShape)
        {
            // A value that stood alone would multiply the image from now on.
            var there = to.Input(name) is { IsConnected: false } alone ? alone.Input.Value : to.Input(name)?.Factor;
            if (!Equals(given.Factor, there))
                yield return new SetValue(to.Name, name, there, given.Factor);
            yield break;
        }

        // Farthest from the input first, since each is laid right before it. A channel and a normal map come with the image.
        foreach (var node in NodeWay.Of(source.Material.Graph, given.Input).Where(n => n.Image is null).Reverse())
        {
            var kind = NodeKinds.NameOf(node.Type);
            if (kind == "extract" || (kind == "normalmap" && node.Inputs.Length == 1))
                continue;
            if (LaidNodes.Of(node) is not ({ } laid, var values) || laid == LaidNode.NormalMap)
                throw new CannotUseException($"{node.Name} lies before {given.Name} of {source.Name} and would not come along.");
            yield return new LayNode(to.Name, name, laid, values);
        }
    }

    private static string? NameIn(MaterialView source, string input, MaterialView to)
    {
        if (source.Model == to.Model && source.Type == to.Type)
            return to.Input(input) is not null || to.Model?.Input(input) is not null ? input : null;
        return RoleOf(source, input) is { } role ? to.NameOf(role)
            : to.Input(input) is not null || to.Model?.Input(input) is not null ? input
            : null;
    }

    private static Role? RoleOf(MaterialView source, string input) => (source.Input(input)?.Spec ?? source.Model?.Input(input))?.Role;

    private static string What(MaterialView source, string input) => RoleOf(source, input)?.Word() ?? input;
}
