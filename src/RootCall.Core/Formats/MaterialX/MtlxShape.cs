using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>How a material of MaterialX takes values and images.</summary>
internal sealed class MtlxShape : GraphShape
{
    protected override GraphEdit Edit(SceneDraft draft, int material) => new(draft, material, g => GraphEdit.Pruned(MtlxImages.Derived(g)));

    protected override string NoSurface(string material) => $"The surface shader of {material} is not there.";

    /// <summary>What inherits from the shader changes with it; what it inherits shows where it says nothing any more.</summary>
    protected override bool Reaches(SceneDraft draft, Material material, ShaderNode surface, bool takesOut) =>
        (takesOut && surface.Template is not null)
        || draft.Materials.Any(m => m.Template == material.Name || m.Graph.Nodes.Any(n => n.Template == surface.Name));

    public override string? WhyNoNodes(ShaderNode surface) => null;

    /// <summary>What is read across graphs is an output of one, which names its node.</summary>
    protected override bool MayJoin(ShaderNode reader, Connection from) => GraphOf(reader.Name) == GraphOf(from.Node);

    /// <summary>The graph that a node stands in; empty for the document.</summary>
    internal static string GraphOf(string node) => node.LastIndexOf('/') is > 0 and var slash ? node[..slash] : string.Empty;

    protected override ShaderNode Standard(ShaderNode node) => node;

    protected override string Stem(ShaderNode surface, string wanted) => $"{surface.Name}_{wanted}";

    protected override InputType TypeOf(SceneDraft draft, ShaderNode surface, string input, ShaderValue? value) =>
        surface.Input(input)?.Type is { IsSaid: true } known
            ? known
            : ShadingModels.OfType(surface.Type)?.Input(input)?.Type ?? ElsewhereSaid(draft, surface.Type, input) ?? Likely(input, value);

    /// <summary>The type that another node of the same kind gives the input.</summary>
    private static InputType? ElsewhereSaid(SceneDraft draft, string node, string input) =>
        draft
            .Materials.SelectMany(m => m.Graph.Nodes)
            .Where(n => n.Type == node)
            .Select(n => n.Input(input)?.Type)
            .FirstOrDefault(t => t is { IsSaid: true });

    private static InputType Likely(string input, ShaderValue? value) =>
        value is { Text: not null } ? InputType.Text
        : value is not null ? InputType.OfNumbers(value.Numbers.Length)
        : input.Contains("normal", StringComparison.Ordinal) ? InputType.Vector3
        : input.Contains("color", StringComparison.Ordinal) ? InputType.Color3
        : InputType.Float;

    /// <summary>A truth value is a word.</summary>
    protected override ShaderValue Spelled(InputType type, ShaderValue value) =>
        type == InputType.Boolean && value.Numbers is [var truth] ? ShaderValue.OfText(truth == 0 ? "false" : "true") : value;

    protected override string? Change(
        SceneDraft draft,
        GraphEdit edit,
        ShaderNode surface,
        ShaderInput there,
        ShaderNode image,
        ImageUse from,
        ImageUse to
    )
    {
        var pick = from.Channels != to.Channels;
        var between = Between(edit.Graph, there, image.Name);
        var extract = between.Find(n => n.Type == "extract" && edit.IsOnlyFor(n.Name, there.Name));
        if (pick && extract is not null && to.Channels.Place() is { } place)
        {
            edit.Put(GraphEdit.With(extract, "index", InputType.Integer, ShaderValue.Of(place)));
            pick = false;
        }

        if (!pick && edit.IsOnlyFor(image.Name, there.Name))
            return Reread(draft, edit, image, from, to);
        if (!pick && SameReading(from, to))
            return null;
        if (between.Exists(n => n.Type is not ("extract" or "normalmap")))
            return $"{image.Name} feeds other inputs too, and this one through nodes of its own; it was left as it is.";
        var channel =
            pick || extract is null ? to.Channels
            : extract.Input("index")?.Value?.Numbers is [var i, ..] ? ChannelWords.At(i) ?? to.Channels
            : to.Channels;
        return New(draft, edit, surface, there, there.Name, to with { Channels = channel });
    }

    private static bool SameReading(ImageUse a, ImageUse b) => a.Reference == b.Reference && a.SameReading(b);

    /// <summary>The node "tiledimage" of the standard library has no address modes (MaterialX 1.39, standard nodes).</summary>
    private const string TiledRepeats = "MaterialX has no tiled image that does not repeat; it was left as it is.";

    /// <summary>The nodes on the straight way from an input to an image, nearest first.</summary>
    private static List<ShaderNode> Between(ShaderGraph graph, ShaderInput input, string image)
    {
        var way = new List<ShaderNode>();
        var at = input.From;
        while (at is not null && at.Node != image && way.Count < 64 && graph.Node(at.Node) is { } node)
        {
            way.Add(node);
            at = node
                .Inputs.FirstOrDefault(i => i.From is not null && (i.From.Node == image || GraphEdit.Behind(graph, i).Contains(image)))
                ?.From;
        }

        return way;
    }

    /// <summary>Reads another file, or the same in another way, in the node that is there.</summary>
    private static string? Reread(SceneDraft draft, GraphEdit edit, ShaderNode node, ImageUse from, ImageUse to)
    {
        var file = node.Inputs.FirstOrDefault(i => i.Type == InputType.FileName);
        if (file is null)
            return $"{node.Name} reads its file from outside its graph; change it there.";
        var image = node.Image!;
        if (from.Reference != to.Reference)
        {
            var key = KeyOf(draft, edit.Material, to.Reference);
            node = GraphEdit.With(node, file.Name, InputType.FileName, ShaderValue.OfText(key.Written)) with
            {
                Read = node.IsMade ? null : node.Read ?? image.Reference,
            };
            image = image with { Reference = key };
        }

        if (from.DeclaredSpace != to.DeclaredSpace)
        {
            image = image with { DeclaredSpace = to.DeclaredSpace };
            // What passes the file on says its space too, and would be heard first.
            if (file.IsPassedOn)
                node = GraphEdit.With(node, file.Name, InputType.FileName, node.Input(file.Name)!.Value);
        }

        if (node.Type == "tiledimage" && (from.WrapU, from.WrapV) != (to.WrapU, to.WrapV))
            return TiledRepeats;
        if (from.WrapU != to.WrapU)
            node = GraphEdit.With(node, "uaddressmode", InputType.Text, ShaderValue.OfText(MtlxImages.Word(to.WrapU)));
        if (from.WrapV != to.WrapV)
            node = GraphEdit.With(node, "vaddressmode", InputType.Text, ShaderValue.OfText(MtlxImages.Word(to.WrapV)));
        node = node with { Image = image };
        if (from.UvSet != to.UvSet)
            return $"{node.Name} takes its UV coordinates from other nodes; its UV set was left as it is.";
        return from.Transform == to.Transform ? Put(edit, node) : Tile(edit, node, from.Transform, to.Transform);
    }

    private static string? Put(GraphEdit edit, ShaderNode node)
    {
        edit.Put(node);
        return null;
    }

    private static string? Tile(GraphEdit edit, ShaderNode node, UvTransform from, UvTransform to)
    {
        if (to.ScaleU == 0 || to.ScaleV == 0)
            return "A tiling of 0 shows one point of the image.";
        var coordinates = node.Input("texcoord");
        if (node.Type == "tiledimage" && to.Rotation == from.Rotation)
            return Put(edit, Tiled(node, from, to));
        if (coordinates?.From is { } at && edit.Node(at.Node) is { Type: "place2d" } place)
        {
            if (!edit.IsOnlyReadBy(place.Name, node.Name))
            {
                // Other images are placed by it too.
                place = edit.Add(place with { Name = edit.Free($"{node.Name}_place") });
                node = GraphEdit.With(node, "texcoord", InputType.Vector2, null, new(place.Name, at.Output));
            }

            if (from.ScaleU != to.ScaleU || from.ScaleV != to.ScaleV)
                place = GraphEdit.With(place, "scale", InputType.Vector2, ShaderValue.Of(1 / to.ScaleU, 1 / to.ScaleV));
            if (from.Rotation != to.Rotation)
                place = GraphEdit.With(place, "rotate", InputType.Float, ShaderValue.Of(to.Rotation));
            if (from.OffsetU != to.OffsetU || from.OffsetV != to.OffsetV)
                place = GraphEdit.With(place, "offset", InputType.Vector2, ShaderValue.Of(0 - to.OffsetU, 0 - to.OffsetV));
            edit.Put(place);
            return Put(edit, node);
        }

        // A tiled image is an image with two more inputs.
        if (node.Type == "image" && to.Rotation == 0 && coordinates is null)
            return node.Input("uaddressmode") is not null || node.Input("vaddressmode") is not null
                ? TiledRepeats
                : Put(edit, Tiled(node with { Type = "tiledimage" }, from, to));
        return $"{node.Name} takes its UV coordinates from other nodes; its tiling was left as it is.";
    }

    private static ShaderNode Tiled(ShaderNode node, UvTransform from, UvTransform to)
    {
        if (from.ScaleU != to.ScaleU || from.ScaleV != to.ScaleV)
            node = GraphEdit.With(node, "uvtiling", InputType.Vector2, ShaderValue.Of(to.ScaleU, to.ScaleV));
        if (from.OffsetU != to.OffsetU || from.OffsetV != to.OffsetV)
            node = GraphEdit.With(node, "uvoffset", InputType.Vector2, ShaderValue.Of(to.OffsetU, to.OffsetV));
        return node;
    }

    /// <summary>
    /// An image node before the shader, with a channel taken out of it or a normal-map node behind it where the input
    /// needs one.
    /// </summary>
    protected override string? New(SceneDraft draft, GraphEdit edit, ShaderNode surface, ShaderInput? there, string name, ImageUse to)
    {
        var type = TypeOf(draft, surface, name, null);
        if (!type.TakesImage)
            return $"{name} takes no image.";
        var t = to.Transform;
        if (t.Rotation != 0)
            return "A rotation of UV coordinates is not written into a new node.";
        if (t.ScaleU == 0 || t.ScaleV == 0)
            return "A tiling of 0 shows one point of the image.";
        if (!t.IsIdentity && (to.WrapU, to.WrapV) != (WrapMode.Repeat, WrapMode.Repeat))
            return TiledRepeats;
        // One channel of several: the image is read as a colour, and the channel taken out of it.
        var pick = type == InputType.Float && to.Channels.Place() is > 0 and var place ? place : -1;
        var stored =
            pick < 0 ? type
            : pick == 3 ? InputType.Color4
            : InputType.Color3;
        var at = surface.Name.LastIndexOf('/') is >= 0 and var slash ? surface.Name[..(slash + 1)] : string.Empty;
        var stem = $"{surface.Name}_{name}";
        var node = Image(draft, edit, at, stem, stored, to);
        if (pick >= 0)
            node = Extract(edit, stem, node, stored, pick);
        if (type == InputType.Vector3 && name.Contains("normal", StringComparison.Ordinal))
            node = edit.Add(
                new(edit.Free($"{stem}_map"), "normalmap", [new("in", InputType.Vector3, null, new(node.Name, "out"))])
                {
                    Output = InputType.Vector3,
                }
            );
        edit.Put(GraphEdit.With(surface, name, type, null, new(node.Name, "out")));
        return null;
    }

    private static ShaderNode Extract(GraphEdit edit, string stem, ShaderNode image, InputType stored, int channel) =>
        edit.Add(
            new(
                edit.Free($"{stem}_channel"),
                "extract",
                [new("in", stored, null, new(image.Name, "out")), new("index", InputType.Integer, ShaderValue.Of(channel))]
            )
            {
                Output = InputType.Float,
            }
        );

    /// <summary>A node of the material that reads the image so already, or a new one.</summary>
    private static ShaderNode Image(SceneDraft draft, GraphEdit edit, string at, string stem, InputType stored, ImageUse to)
    {
        var t = to.Transform;
        var key = KeyOf(draft, edit.Material, to.Reference);
        var tiled = !t.IsIdentity;
        var use = new ImageUse(key) { DeclaredSpace = to.DeclaredSpace };
        var inputs = new List<ShaderInput> { new("file", InputType.FileName, ShaderValue.OfText(key.Written)) };
        if (tiled)
            inputs.Add(new("uvtiling", InputType.Vector2, ShaderValue.Of(t.ScaleU, t.ScaleV)));
        if (t.OffsetU != 0 || t.OffsetV != 0)
            inputs.Add(new("uvoffset", InputType.Vector2, ShaderValue.Of(t.OffsetU, t.OffsetV)));
        if (to.WrapU != WrapMode.Repeat)
            inputs.Add(new("uaddressmode", InputType.Text, ShaderValue.OfText(MtlxImages.Word(to.WrapU))));
        if (to.WrapV != WrapMode.Repeat)
            inputs.Add(new("vaddressmode", InputType.Text, ShaderValue.OfText(MtlxImages.Word(to.WrapV))));
        if (to.UvSet.Length > 0)
            inputs.Add(new("texcoord", InputType.Vector2, null, new(Coordinates(edit, at, to.UvSet).Name, "out")));
        var fresh = new ShaderNode(string.Empty, tiled ? "tiledimage" : "image", [.. inputs], use) { Output = stored };
        var nodes = edit.Graph.Nodes.DistinctBy(n => n.Name).ToDictionary(n => n.Name, StringComparer.Ordinal);
        foreach (var input in inputs.Select(i => i.From).OfType<Connection>())
            nodes[input.Node] = edit.Node(input.Node)!;
        var wanted = MtlxImages.Of(use, fresh, nodes);
        var before = draft.Before.Materials.FirstOrDefault(m => m.Id == edit.Material.Id)?.Graph ?? edit.Graph;
        foreach (var graph in new[] { edit.Graph, before })
        {
            if (
                graph.Nodes.FirstOrDefault(n =>
                    n.Output == stored
                    && n.Name.StartsWith(at, StringComparison.Ordinal)
                    && n.Name.LastIndexOf('/') < Math.Max(1, at.Length)
                    && n.Image is { } i
                    && i.Reference == key
                    && i.SameReading(wanted)
                )
                is not { } same
            )
                continue;
            edit.Revive(same, graph);
            return same;
        }

        return edit.Add(fresh with { Name = edit.Free(stem) });
    }

    private static ShaderNode Coordinates(GraphEdit edit, string at, string set)
    {
        var index =
            set.StartsWith("index ", StringComparison.Ordinal)
            && int.TryParse(set.AsSpan(6), System.Globalization.CultureInfo.InvariantCulture, out var n)
                ? n
                : -1;
        ShaderNode fresh =
            index >= 0
                ? new(string.Empty, "texcoord", [new("index", InputType.Integer, ShaderValue.Of(index))]) { Output = InputType.Vector2 }
                : new(string.Empty, "geompropvalue", [new("geomprop", InputType.Text, ShaderValue.OfText(set))])
                {
                    Output = InputType.Vector2,
                };
        var there = edit.Graph.Nodes.FirstOrDefault(n =>
            n.Name.StartsWith(at, StringComparison.Ordinal)
            && n.Type == fresh.Type
            && n.Inputs.Length == 1
            && n.Inputs[0].Name == fresh.Inputs[0].Name
            && Equals(n.Inputs[0].Value, fresh.Inputs[0].Value)
        );
        var suffix = index >= 0 ? $"{index}" : new([.. set.Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_')]);
        return there ?? edit.Add(fresh with { Name = edit.Free($"{at}uv_{suffix}") });
    }

    /// <summary>The reference as the document of the material would write it.</summary>
    private static ReferenceKey KeyOf(SceneDraft draft, Material material, ReferenceKey key)
    {
        var file = Path.GetRelativePath(draft.Before.Folder, draft.Files[material.File].Path);
        return ReferencePaths.In(draft.Before, key, file);
    }
}
