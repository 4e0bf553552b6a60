using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Bench;

/// <summary>An input of the material in hand.</summary>
/// <param name="What">What it is for, in words; its name where that is not known.</param>
/// <param name="Numbers">How many it takes; 0 for text and for what has no value.</param>
/// <param name="Now">Its value, written or by default; of a connected one what the map is multiplied by. Empty when none is known.</param>
/// <param name="Text">Its value where that is a word; null for numbers.</param>
/// <param name="Default">By the model's specification; empty when it gives none.</param>
/// <param name="Min">Least value that means something; null for no limit.</param>
/// <param name="Unit">Of its number; null for a plain one.</param>
/// <param name="IsColour">Linear, with the primaries that the model is given in.</param>
/// <param name="Differs">It is not as the specification leaves it: written otherwise, or fed.</param>
/// <param name="Unseen">The input at 0 that hides it; null where it shows.</param>
/// <param name="Maps">Images that feed it.</param>
/// <param name="Nodes">On the way to it, nearest first.</param>
public sealed record HeldInput(
    string Name,
    string What,
    int Numbers,
    ImmutableArray<double> Now,
    string? Text,
    ImmutableArray<double> Default,
    double? Min,
    double? Max,
    string? Unit,
    bool IsColour,
    bool TakesImage,
    bool Differs,
    string? Unseen,
    ImmutableArray<HeldMap> Maps,
    ImmutableArray<HeldNode> Nodes
);

/// <summary>An image that arrives at an input.</summary>
/// <param name="Image">Name of the first node that reads the same file in the same way.</param>
/// <param name="Channel">What of it arrives.</param>
/// <param name="Through">Words for the nodes between, nearest to the input first; the pick of a channel shows in the channel.</param>
/// <param name="Mean">Of what is stored in that channel, 0 to 1 for whole numbers; null when it was not looked at.</param>
public sealed record HeldMap(string Image, Channels Channel, ImmutableArray<string> Through, double? Mean);

/// <summary>A part of an object that wears it.</summary>
/// <param name="Mesh">What edits call it by.</param>
/// <param name="Part">Empty for the whole.</param>
/// <param name="Places">How often the object stands in the scene.</param>
/// <param name="Instances">Places that share it with others, the first of them.</param>
public sealed record Wearer(string Mesh, string Name, string Part, long Triangles, int Places, ImmutableArray<Instance> Instances)
{
    /// <summary>Places that are named.</summary>
    public const int Named = 100;
}

/// <summary>One material on the bench: its inputs as its model orders them, and who wears it.</summary>
public sealed record HeldMaterial(MaterialView Material, ImmutableArray<HeldInput> Inputs, ImmutableArray<Wearer> Wearers)
{
    public static HeldMaterial Of(AuditScene scene, MaterialView material)
    {
        var model = material.Model?.Inputs ?? [];
        var known = model.Select(i => i.Name).ToHashSet(StringComparer.Ordinal);
        var inputs = model
            .Select(spec => material.Input(spec.Name) is { } there ? Held(scene, material, there) : Held(material, spec))
            // What the model does not know comes last, as it is written.
            .Concat(material.Inputs.Where(i => !known.Contains(i.Name)).Select(i => Held(scene, material, i)));
        var places = scene
            .Scene.Nodes.Where(n => n.Mesh >= 0)
            .GroupBy(n => n.Mesh)
            .ToDictionary(g => scene.Scene.Meshes[g.Key].Id, g => g.ToList(), StringComparer.Ordinal);
        return new(
            material,
            [.. inputs],
            [
                .. material
                    .Users.Select(u => (User: u, Nodes: places.GetValueOrDefault(u.Mesh.Id) ?? []))
                    .Select(u => new Wearer(
                        u.User.Mesh.Id,
                        u.User.Mesh.Name,
                        u.User.Part.Name,
                        u.User.Part.Triangles,
                        u.Nodes.Sum(n => n.Copies),
                        [.. Instance.Of(scene.Scene, u.User.Mesh, u.Nodes).Take(Wearer.Named)]
                    ))
                    .OrderByDescending(w => w.Triangles * Math.Max(1, w.Places)),
            ]
        );
    }

    private static HeldInput Held(AuditScene scene, MaterialView material, InputView input)
    {
        var nodes = input.IsConnected ? HeldNode.Of(scene, input) : [];
        // Beside a map a value says nothing, unless the format multiplies by it; a node that multiplies has its own.
        var now =
            !input.IsConnected ? input.Numbers
            : SceneFormats.Of(scene.Scene.Path).Capabilities.Shape is INodeShape ? []
            : input.Factor?.Numbers ?? [];
        var standard = input.Spec?.Default ?? input.Input.Default?.Numbers ?? [];
        var text = input.Input.Effective?.Text;
        return new(
            input.Name,
            input.What,
            input.Type.Numbers,
            now,
            text,
            standard,
            input.Spec?.Min,
            input.Spec?.Max,
            input.Spec?.Unit?.Word(),
            input.Spec?.IsColour ?? input.Type.IsColour,
            input.Type.TakesImage,
            input.IsConnected || (text is null ? !now.SequenceEqual(standard) : input.Input.Value is not null),
            Unseen(material, input.Spec),
            [.. input.Maps.Select(m => Held(material, m))],
            nodes
        );
    }

    private static HeldInput Held(MaterialView material, ModelInput spec) =>
        new(
            spec.Name,
            spec.Role?.Word() ?? spec.Name,
            spec.Type.Numbers,
            spec.Default,
            null,
            spec.Default,
            spec.Min,
            spec.Max,
            spec.Unit?.Word(),
            spec.IsColour,
            spec.Type.TakesImage,
            false,
            Unseen(material, spec),
            [],
            []
        );

    private static HeldMap Held(MaterialView material, MapView map) =>
        new(
            ImageOf(material, map).Node.Name,
            map.Channel,
            [.. map.Through.Select(NodeWord.Of).Where(w => w != NodeWord.Channel)],
            map.Stats?.Mean
        );

    /// <summary>The first that reads the same file from the same place in it: formats may need a node for each channel.</summary>
    public static MapView ImageOf(MaterialView material, MapView map) => material.Maps.First(m => m.Use.SameFile(map.Use));

    private static string? Unseen(MaterialView material, ModelInput? spec)
    {
        if (spec?.Gate is not { } gate)
            return null;
        var weight = material.Input(gate);
        if (weight is { IsConnected: true })
            return null;
        var numbers = weight?.Numbers ?? material.Model?.Input(gate)?.Default ?? [];
        return numbers.Length > 0 && numbers.All(n => n == 0) ? gate : null;
    }
}
