using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Fbx;

/// <summary>Models as nodes, their geometry as meshes.</summary>
internal sealed class FbxHierarchy(FbxDocument document, List<ReadNote> notes, string name)
{
    private readonly ImmutableArray<SceneNode>.Builder nodes = ImmutableArray.CreateBuilder<SceneNode>();
    private readonly ImmutableArray<Mesh>.Builder meshes = ImmutableArray.CreateBuilder<Mesh>();
    private readonly Dictionary<string, int> known = new(StringComparer.Ordinal);

    public (ImmutableArray<SceneNode> Nodes, ImmutableArray<Mesh> Meshes) Read()
    {
        var models = document.Objects.Values.Where(o => o.Node.Name == "Model").ToList();
        var parents = document
            .Connections.Where(c => c.Property.Length == 0 && document.Objects.TryGetValue(c.Source, out var s) && s.Node.Name == "Model")
            .DistinctBy(c => c.Source)
            .ToDictionary(
                c => c.Source,
                c => document.Objects.TryGetValue(c.Destination, out var d) && d.Node.Name == "Model" ? d.Id : string.Empty
            );
        var children = models.ToLookup(m => parents.GetValueOrDefault(m.Id, string.Empty));
        var placed = new HashSet<string>(StringComparer.Ordinal);
        // Models that only a circle of connections holds come last, at the top.
        foreach (var start in children[string.Empty].Concat(models))
        {
            var open = new Stack<(FbxObject Model, int Parent)>();
            if (!placed.Contains(start.Id))
                open.Push((start, -1));
            while (open.TryPop(out var step))
            {
                if (!placed.Add(step.Model.Id))
                    continue;
                nodes.Add(new(step.Model.Name, step.Parent, MeshOf(step.Model)) { Transform = Transforms.Pack(Transform(step.Model)) });
                var index = nodes.Count - 1;
                foreach (var child in children[step.Model.Id].Reverse())
                    open.Push((child, index));
            }
        }

        return (nodes.ToImmutable(), meshes.ToImmutable());
    }

    /// <summary>The record that holds a model's polygons: its geometry, or the model itself before 7.0.</summary>
    public static FbxNode? GeometryOf(FbxDocument document, FbxObject model) =>
        document
            .Into(model.Id)
            .Select(i => i.Object)
            .FirstOrDefault(o => o.Node.Name == "Geometry" && o.Node.Child("PolygonVertexIndex") is not null)
            ?.Node
        ?? (model.Node.Child("PolygonVertexIndex") is not null ? model.Node : null);

    public static IReadOnlyList<string> MaterialsOf(FbxDocument document, FbxObject model) =>
        [.. document.Into(model.Id).Where(i => i.Object.Node.Name == "Material").Select(i => i.Object.Name)];

    private int MeshOf(FbxObject model)
    {
        if (GeometryOf(document, model) is not { } geometry)
            return -1;
        var materials = MaterialsOf(document, model);
        var key = $"{geometry.Start} {string.Join('|', materials)}";
        if (known.TryGetValue(key, out var index))
            return index;
        try
        {
            meshes.Add(new FbxGeometry(geometry).Measure(model.Name, model.Id, materials));
        }
        catch (CannotUseException e)
        {
            notes.Add(new($"The geometry of {model.Name} could not be read: {e.Message}", name));
            meshes.Add(
                new(model.Name, 0, 0, 0, [], [new(string.Empty, materials.Count > 0 ? materials[0] : string.Empty, 0)])
                {
                    Id = model.Id,
                    Unmeasured = e.Message,
                }
            );
        }

        return known[key] = meshes.Count - 1;
    }

    /// <summary>
    /// Translation, rotation and scaling with their pivots and offsets, in the order the format defines them; what applies
    /// first stands first here, since vectors are rows.
    /// </summary>
    public static double[] Transform(FbxObject model)
    {
        double[] Vector(string property, double standard = 0) =>
            model.Numbers(property) is { Length: >= 3 } n ? n : [standard, standard, standard];
        double[] Move(string property, double sign = 1) =>
            Vector(property) is [var x, var y, var z, ..] ? Transforms.Translation(sign * x, sign * y, sign * z) : Transforms.Identity;
        double[] Turn(string property, string order = "XYZ") =>
            Vector(property) is [var x, var y, var z, ..] ? Transforms.Euler(order, x, y, z) : Transforms.Identity;
        var order = model.Numbers("RotationOrder") is [var o, ..]
            ? o switch
            {
                1 => "XZY",
                2 => "YZX",
                3 => "YXZ",
                4 => "ZXY",
                5 => "ZYX",
                _ => "XYZ",
            }
            : "XYZ";
        var scale = Vector("Lcl Scaling", 1);
        var post = Vector("PostRotation");
        double[][] steps =
        [
            Move("ScalingPivot", -1),
            Transforms.Scaling(scale[0], scale[1], scale[2]),
            Move("ScalingPivot"),
            Move("ScalingOffset"),
            Move("RotationPivot", -1),
            Transforms.Euler("ZYX", -post[0], -post[1], -post[2]),
            Turn("Lcl Rotation", order),
            Turn("PreRotation"),
            Move("RotationPivot"),
            Move("RotationOffset"),
            Move("Lcl Translation"),
        ];
        return steps.Aggregate((a, b) => Transforms.Multiply(a, b));
    }
}
