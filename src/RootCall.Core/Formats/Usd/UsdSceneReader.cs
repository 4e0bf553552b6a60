using System.Collections.Immutable;
using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd;

/// <summary>Reads a USD scene: loads its layers, composes them and walks the prims.</summary>
internal sealed class UsdSceneReader(string path, ReadContext context)
{
    private const int MaxPrims = 2_000_000;
    private const int MaxDepth = 200;
    private readonly List<ReadNote> notes = [];
    private readonly ReferenceListBuilder builder = new(Path.GetDirectoryName(path)!, path);
    private readonly ImmutableArray<SceneNode>.Builder nodes = ImmutableArray.CreateBuilder<SceneNode>();
    private readonly ImmutableArray<Mesh>.Builder meshes = ImmutableArray.CreateBuilder<Mesh>();
    private readonly ImmutableArray<Material>.Builder materials = ImmutableArray.CreateBuilder<Material>();
    private readonly List<string> instances = [];
    private readonly ImmutableArray<VariantChoice>.Builder variants = ImmutableArray.CreateBuilder<VariantChoice>();
    private readonly ImmutableArray<SceneLight>.Builder lights = ImmutableArray.CreateBuilder<SceneLight>();

    private readonly ImmutableArray<SceneCamera>.Builder cameras = ImmutableArray.CreateBuilder<SceneCamera>();
    private readonly ImmutableArray<Lamp>.Builder lamps = ImmutableArray.CreateBuilder<Lamp>();

    public Scene Read()
    {
        var layers = new UsdLayers(path, context, builder, notes);
        var root = layers.Open();
        var stage = new UsdStage(layers, root, context, notes);
        context.Progress?.Invoke($"composing {Path.GetFileName(path)}");
        var shapes = new UsdMeshes(new(stage), notes, Path.GetFileName(path));
        var shaders = new UsdShaders(stage, builder);
        Walk(stage, shapes, shaders);
        LoadTheRest(layers, root);
        builder.UseAll(materials);
        var references = builder.ToImmutable();
        var metadata = root.Layer.Metadata;
        return new(
            path,
            Format(path, root),
            [.. layers.Files],
            materials.ToImmutable(),
            references,
            new(
                nodes.Count,
                meshes.Count,
                materials.Count(m => !m.IsTemplate),
                references.Count(r => r.Kind == ReferenceKind.Image),
                meshes.Sum(m => m.Triangles)
            ),
            [.. notes]
        )
        {
            Nodes = nodes.ToImmutable(),
            Meshes = meshes.ToImmutable(),
            // UsdGeom: centimetres and Y up where the stage does not say.
            MetresPerUnit = metadata.GetValueOrDefault("metersPerUnit")?.AsNumbers is [var metres] ? metres : 0.01,
            UpAxis = metadata.GetValueOrDefault("upAxis")?.AsText ?? "Y",
            Variants = variants.ToImmutable(),
            Instances = [.. instances],
            Lights = lights.ToImmutable(),
            Cameras = cameras.ToImmutable(),
            Lamps = lamps.ToImmutable(),
        };
    }

    private static FormatInfo Format(string path, LoadedLayer root) =>
        root.Inner is not null ? new("usdz", "USD package")
        : root.IsText ? new("usda", "USD text")
        : new("usdc", "USD crate");

    private void Walk(UsdStage stage, UsdMeshes shapes, UsdShaders shaders)
    {
        var open = new Stack<(UsdPrim Prim, int Parent, int Depth, bool Placed)>(
            stage.Root.Children.Reverse().Select(p => (p, -1, 0, true))
        );
        while (open.TryPop(out var step))
        {
            var (prim, parent, depth, placed) = step;
            if ((nodes.Count & 0xFFF) == 0)
                context.Stop.ThrowIfCancellationRequested();
            if (nodes.Count + materials.Count > MaxPrims)
            {
                notes.Add(new(Invariant($"The scene has more than {MaxPrims:N0} prims; the rest were left out."), prim.Path));
                return;
            }

            if (depth > MaxDepth)
            {
                notes.Add(
                    new(
                        $"Prims lie more than {MaxDepth} deep; reading stopped at {prim.Path[..Math.Min(80, prim.Path.Length)]}.",
                        Path.GetFileName(path)
                    )
                );
                continue;
            }

            if (!prim.IsActive)
                continue;
            Choices(prim);
            var type = prim.TypeName;
            if (type == "Material")
            {
                materials.Add(shaders.Read(prim));
                continue;
            }

            // An over that nothing defines and a class are not shown, but materials below them may be templates.
            placed = placed && prim.Specifier == UsdSpecifier.Def;
            if (placed && prim.IsInstance)
                instances.Add(prim.Path);
            var index = parent;
            if (placed && type is not ("GeomSubset" or "Shader" or "NodeGraph"))
            {
                var mesh = -1;
                if (UsdMeshes.IsShape(type))
                {
                    meshes.Add(shapes.Read(prim));
                    mesh = meshes.Count - 1;
                }

                var copies =
                    type == "PointInstancer" && prim.Value("protoIndices") is UsdNumbers instances
                        ? (int)Math.Min(int.MaxValue, instances.Count)
                        : 1;
                nodes.Add(new(prim.Name, parent, mesh) { Transform = UsdMeshes.Transform(prim), Copies = copies });
                index = nodes.Count - 1;
                if (type == "Camera")
                    cameras.Add(UsdCameras.Of(prim, index));
                if (type.EndsWith("Light", StringComparison.Ordinal))
                    Light(prim, type, index, stage);
            }

            foreach (var child in prim.Children.Reverse())
                open.Push((child, index, depth + 1, placed));
        }
    }

    private void Choices(UsdPrim prim)
    {
        var specs = prim.Specs.Select(s => s.Spec).ToList();
        foreach (var set in specs.SelectMany(s => s.VariantSets.Keys).Distinct())
        {
            var options = specs
                .SelectMany(s => s.VariantSets.GetValueOrDefault(set) ?? [])
                .Select(v => v.Name)
                .Distinct()
                .ToImmutableArray();
            var selected = context.Chosen.GetValueOrDefault((prim.Path, set))
                ?? specs.Select(s => s.Selections.GetValueOrDefault(set)).FirstOrDefault(s => s is not null)
                ?? string.Empty;
            variants.Add(new(prim.Path, set, options, selected));
        }
    }

    private void Light(UsdPrim prim, string type, int node, UsdStage stage)
    {
        lights.Add(new(prim.Name, type));
        const string File = "inputs:texture:file";
        ReferenceKey? image = null;
        if (
            prim.ValueOpinion(File) is { } opinion
            && (opinion.Spec.Value ?? opinion.Spec.FirstSample) is UsdAsset asset
            && stage.Layers.KeyOf(opinion.Layer, asset) is { } key
        )
        {
            builder.Property(key, $"{prim.Path}.{File}");
            builder.Use(key, new(prim.Name, "texture:file") { Role = Role.Environment });
            image = key;
        }

        if (UsdLamps.Of(prim, type, node) is { } lamp)
            lamps.Add(lamp with { Image = lamp.Shape == LampShape.Around ? image : null });
    }

    /// <summary>Layers of variants that are not chosen belong to the scene too: a package must hold them.</summary>
    private static void LoadTheRest(UsdLayers layers, LoadedLayer root)
    {
        var open = new Stack<LoadedLayer>([root]);
        var seen = new HashSet<LoadedLayer>();
        while (open.TryPop(out var layer))
        {
            if (!seen.Add(layer))
                continue;
            foreach (
                var asset in layer.Layer.SubLayers.Concat(
                    layer
                        .Layer.Root.Descendants()
                        .SelectMany(s => (s.References?.Items ?? []).Concat(s.Payloads?.Items ?? []))
                        .Select(a => a.Asset)
                        .OfType<UsdAsset>()
                )
            )
                if (layers.Called(layer, asset) is { } called)
                    open.Push(called);
        }
    }
}
