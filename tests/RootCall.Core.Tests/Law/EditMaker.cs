using RootCall.Core.Edits;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Tests.Law;

/// <summary>Makes edits of every kind for whatever scene it is given: sensible ones, odd ones, and some that cannot be made.</summary>
internal sealed class EditMaker(Random random, string picture)
{
    private static readonly string[] Spaces = ["", "raw", "sRGB", "srgb_texture", "lin_rec709", "none"];
    private int made;

    /// <summary>Null for a scene that has nothing to edit.</summary>
    public Edit? Next(Scene scene)
    {
        made++;
        for (var tries = 0; tries < 100; tries++)
        {
            var edit = random.Next(20) switch
            {
                0 or 1 or 2 or 3 => Value(scene),
                4 or 5 or 6 => Reread(scene),
                7 or 8 => Connect(scene),
                9 => Disconnect(scene),
                10 => Assign(scene),
                11 => Name(scene),
                12 => random.Next(2) == 0 ? Copy(scene) : Remove(scene),
                13 => Carry(scene) ?? Asset(scene),
                14 => Variant(scene) ?? Library(scene),
                15 => Cross(scene),
                16 or 17 => Node(scene),
                18 => Own(scene),
                _ => Answer(scene),
            };
            if (edit is not null)
                return edit;
        }

        return null;
    }

    private T? Any<T>(IReadOnlyList<T> list)
        where T : class => list.Count == 0 ? null : list[random.Next(list.Count)];

    private static string NameOf(Scene scene, Material material) =>
        scene.Materials.Count(m => m.Name == material.Name) > 1 || material.Name.Length == 0 ? material.Id : material.Name;

    private Material? AnyMaterial(Scene scene) => Any(scene.Materials);

    private ShaderInput? AnyInput(Material material)
    {
        var there = material.Graph.SurfaceNode?.Inputs ?? [];
        var model = ShadingModels.OfType(material.Graph.SurfaceNode?.Type ?? string.Empty);
        return random.Next(3) == 0 && model is not null && Any(model.Inputs) is { } more
            ? there.FirstOrDefault(i => i.Name == more.Name) ?? new(more.Name, more.Type, null)
            : Any(there);
    }

    private Edit? Value(Scene scene)
    {
        if (AnyMaterial(scene) is not { } material || AnyInput(material) is not { } input)
            return null;
        if (input.Type.Word == "extension")
            return null;
        var to = random.Next(6) == 0 ? null : ValueFor(input);
        return new SetValue(NameOf(scene, material), input.Name, input.Value, to);
    }

    private ShaderValue ValueFor(ShaderInput input) =>
        input.Type.Word switch
        {
            "color3" or "vector3" => ShaderValue.Of(Number(), Number(), Number()),
            "vector2" => ShaderValue.Of(Number(), Number()),
            "color4" or "vector4" => ShaderValue.Of(Number(), Number(), Number(), Number()),
            "integer" => ShaderValue.Of(random.Next(4)),
            "boolean" => input.Value?.Text is null && input.Default?.Text is null
                ? ShaderValue.Of(random.Next(2))
                : ShaderValue.OfText(random.Next(2) == 0 ? "true" : "false"),
            "string" => ShaderValue.OfText(
                input.Name == "alphaMode"
                    ? random.Next(2) == 0
                        ? "MASK"
                        : "BLEND"
                    : "word"
            ),
            "filename" => ShaderValue.OfText("odd.png"),
            _ => ShaderValue.Of(Number()),
        };

    private double Number() =>
        random.Next(5) switch
        {
            0 => 0,
            1 => 1,
            2 => Math.Round(random.NextDouble(), 3),
            3 => random.NextDouble() * 1e-7,
            _ => random.NextDouble() * 40,
        };

    private (Material Material, ShaderInput Input, ImageUse Use)? AnyMap(Scene scene)
    {
        var fed = scene
            .Materials.Where(m => m.Graph.SurfaceNode is not null)
            .SelectMany(m => m.Graph.SurfaceNode!.Inputs.Where(i => i.From is not null).Select(i => (m, i)))
            .ToList();
        if (fed.Count == 0)
            return null;
        var (material, input) = fed[random.Next(fed.Count)];
        return Any([.. material.Graph.ImagesOf(input)]) is { } use ? (material, input, use) : null;
    }

    private Edit? Reread(Scene scene)
    {
        if (AnyMap(scene) is not var (material, input, use))
            return null;
        var to = use;
        for (var n = random.Next(1, 3); n > 0; n--)
            to = random.Next(8) switch
            {
                0 => to with
                {
                    Transform = to.Transform with { ScaleU = Math.Round(0.5 + (random.NextDouble() * 6), 2), ScaleV = random.Next(1, 5) },
                },
                1 => to with
                {
                    Transform = to.Transform with
                    {
                        OffsetU = Math.Round(random.NextDouble(), 2),
                        Rotation = random.Next(2) == 0 ? to.Transform.Rotation : random.Next(-180, 180),
                    },
                },
                2 => to with { WrapU = (WrapMode)random.Next(5) },
                3 => to with { WrapU = WrapMode.Clamp, WrapV = WrapMode.Clamp },
                4 => to with { DeclaredSpace = Spaces[random.Next(Spaces.Length)] },
                5 => to with { Channels = Channels.R + random.Next(4) },
                6 => to with { Reference = Image(scene, use.Reference.File) },
                _ => to with { Scale = [Math.Round(random.NextDouble(), 2)], UvSet = random.Next(3) == 0 ? "TEXCOORD_1" : to.UvSet },
            };
        return new SetImage(NameOf(scene, material), input.Name, use, to);
    }

    private Edit? Own(Scene scene)
    {
        var places = scene
            .Meshes.SelectMany((m, i) => Instance.Of(scene, m, [.. scene.Nodes.Where(n => n.Mesh == i)]).Select(at => (m, at)))
            .ToList();
        return places.Count > 0 && places[random.Next(places.Count)] is var (mesh, at) ? new MakeOwn(mesh.Id, at.Id, $"own_{made}") : null;
    }

    private Edit? Node(Scene scene)
    {
        if (AnyMap(scene) is not var (material, input, _))
            return null;
        var (name, way) = (NameOf(scene, material), NodeWay.Of(material.Graph, input));
        if (random.Next(2) == 0 || way.IsEmpty)
            return new LayNode(name, input.Name, (LaidNode)random.Next(4), []);
        var node = way[random.Next(way.Length)];
        if (random.Next(2) == 0 || Any(LaidNodes.Parts(node)) is not { } part)
            return new TakeNode(name, input.Name, node.Name);
        var value = random.Next(5) == 0 ? null : new ShaderValue([.. Enumerable.Range(0, part.Type.Numbers).Select(_ => Number())]);
        return new SetNode(name, input.Name, node.Name, part.Name, node.Input(part.Name)?.Value, value);
    }

    private ReferenceKey Image(Scene scene, string file)
    {
        var images = scene.References.Where(r => r.Kind == ReferenceKind.Image).Select(r => r.Key).ToList();
        return random.Next(2) == 0 && images.Count > 0
            ? images[random.Next(images.Count)]
            : new(ReferenceKind.Image, file, $"textures/new & {made} map.png");
    }

    private Edit? Connect(Scene scene)
    {
        if (AnyMaterial(scene) is not { } material || AnyInput(material) is not { } input)
            return null;
        var use = new ImageUse(Image(scene, Path.GetRelativePath(scene.Folder, scene.Files[material.File].Path)))
        {
            Channels = input.Type == InputType.Float ? Channels.R + random.Next(4) : Channels.Rgb,
            Transform = random.Next(3) == 0 ? UvTransform.Identity with { ScaleU = 3, ScaleV = 2, OffsetV = 0.25 } : UvTransform.Identity,
            WrapU = random.Next(3) == 0 ? WrapMode.Mirror : WrapMode.Repeat,
            DeclaredSpace = random.Next(2) == 0 ? string.Empty : Spaces[random.Next(Spaces.Length)],
        };
        return new SetImage(NameOf(scene, material), input.Name, null, use);
    }

    private Edit? Disconnect(Scene scene) =>
        AnyMap(scene) is var (material, input, use) ? new SetImage(NameOf(scene, material), input.Name, use, null) : null;

    private Edit? Assign(Scene scene)
    {
        if (Any(scene.Meshes) is not { } mesh)
            return null;
        var part = mesh.Parts[random.Next(mesh.Parts.Length)];
        var to =
            random.Next(5) == 0 ? string.Empty
            : AnyMaterial(scene) is { } m ? NameOf(scene, m)
            : "gone";
        return new AssignMaterial(mesh.Id, random.Next(2) == 0 ? string.Empty : part.Name, part.Material, to);
    }

    private Edit? Name(Scene scene) =>
        random.Next(4) switch
        {
            0 when Any(scene.Meshes) is { } mesh => new Rename("mesh", mesh.Id, mesh.Name, $"mesh_{made}"),
            1 when Any(scene.Nodes) is { } node => new Rename("node", node.Name, node.Name, $"node_{made}"),
            _ when AnyMaterial(scene) is { } material => new Rename("material", material.Id, material.Name, $"matter_{made}"),
            _ => null,
        };

    private Edit? Copy(Scene scene) =>
        AnyMaterial(scene) is { } material ? new CopyMaterial(NameOf(scene, material), $"copy_{made}") : null;

    private Edit? Cross(Scene scene) =>
        AnyMaterial(scene) is { } material && SceneFormats.Of(scene.Path).Capabilities.Maker is { } maker
            ? new CrossMaterial(
                NameOf(scene, material),
                maker.Models[random.Next(maker.Models.Length)],
                $"crossed_{made}",
                random.Next(4) == 0 ? [new("roughness", ShaderValue.Of(0.25))] : []
            )
            : null;

    private Edit? Remove(Scene scene) => AnyMaterial(scene) is { } material ? new RemoveMaterial(NameOf(scene, material)) : null;

    private Edit? Carry(Scene scene)
    {
        var images = scene.References.Where(r => r.Kind == ReferenceKind.Image).ToList();
        if (Any(images) is not { } image)
            return null;
        return image.Carried is null
            ? new CarryImage(image.Key, picture)
            : new ExtractImage(image.Key, picture, $"textures/taken_{made}.png");
    }

    private Edit? Asset(Scene scene) =>
        Any([
            .. scene
                .References.SelectMany(r => r.Properties.Select(p => (r, p)))
                .Select(x => new SetAsset(x.p, x.r.Written, $"other/{made}.png")),
        ]);

    private Edit? Variant(Scene scene) =>
        Any(scene.Variants) is { Options.Length: > 0 } set
            ? new SelectVariant(set.Place, set.Set, set.Selected, set.Options[random.Next(set.Options.Length)])
            : null;

    private static Edit? Library(Scene scene) =>
        SceneFormats.Of(scene.Path).Capabilities.Library is { } ending ? new MakeLibrary("made" + ending) : null;

    private Edit? Answer(Scene scene)
    {
        if (Any([.. scene.References.Where(r => !r.Kind.IsOwnFile())]) is not { } reference)
            return null;
        return random.Next(3) switch
        {
            0 => new SetPathStyle(reference.Key, PathStyle.Relative, PathStyle.Absolute),
            1 => new PlaceFile(reference.Key, null, "textures/placed.png"),
            _ => new RelinkReference(reference.Key, null, picture),
        };
    }

    /// <summary>The format can do something of that kind: used to see that each kind was tried.</summary>
    public static bool CanSay(FormatCapabilities can, string kind) =>
        Enum.TryParse<SceneAct>(
            kind switch
            {
                nameof(AssignMaterial) => nameof(SceneAct.Assign),
                nameof(ExtractImage) => nameof(SceneAct.Extract),
                nameof(CarryImage) => nameof(SceneAct.Carry),
                nameof(Rename) => nameof(SceneAct.RenameMaterial),
                _ => kind,
            },
            out var act
        )
            ? can.WhyNot(act) is null
            : kind == nameof(CrossMaterial) && can.Maker is not null;
}
