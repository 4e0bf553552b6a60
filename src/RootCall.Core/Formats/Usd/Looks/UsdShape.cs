using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>
/// How a UsdShade material takes values and images: in the inputs of its shader, or through textures before it. A texture that
/// feeds other inputs too is left as it is, and the input gets one of its own.
/// </summary>
internal sealed class UsdShape : GraphShape
{
    protected override GraphEdit Edit(SceneDraft draft, int material) => new(draft, material, UsdImages.Derived) { NamesAreShared = false };

    protected override string NoSurface(string material) => $"{material} has no surface shader.";

    /// <summary>
    /// What is inherited or referenced from elsewhere changes there too; what lies outside the material may be
    /// anybody's.
    /// </summary>
    protected override bool Reaches(SceneDraft draft, Material material, ShaderNode surface, bool takesOut) =>
        surface.Name.StartsWith('/') || material.IsTemplate || draft.Materials.Any(m => m.Template == material.Id);

    /// <summary>UsdMtlx, "MaterialX in USD": nodes of its library stand before surfaces of its library.</summary>
    public override string? WhyNoNodes(ShaderNode surface) =>
        UsdSpelling.IsStandard(surface)
            ? null
            : $"{surface.Type} reads a texture straight: its scale and bias multiply and shift it, and no other node has a place.";

    /// <summary>What an id says is not said again.</summary>
    protected override ShaderNode Standard(ShaderNode node) => node with { Type = StandardIds.Of(node), Output = default };

    protected override string Stem(ShaderNode surface, string wanted) => wanted.Replace(':', '_');

    protected override InputType TypeOf(SceneDraft draft, ShaderNode surface, string input, ShaderValue? value) =>
        surface.Input(input)?.Type is { IsSaid: true } known
            ? known
            : UsdPreview.Input(surface.Type, input)?.Type
                ?? ShadingModels.OfType(surface.Type)?.Input(input)?.Type
                ?? (
                    value is { } v
                        ? v.Text is not null
                            ? InputType.Text
                            : v.Numbers.Length == 4
                                ? InputType.Vector4
                                : InputType.OfNumbers(v.Numbers.Length)
                        : input.Contains("ormal", StringComparison.Ordinal)
                            ? InputType.Vector3
                            : input.Contains("olor", StringComparison.Ordinal)
                                ? InputType.Color3
                                : InputType.Float
                );

    protected override int NumbersOf(InputType type) => type == InputType.Boolean ? 1 : base.NumbersOf(type);

    /// <summary>Inputs of UsdPreviewSurface have the default of its specification.</summary>
    protected override ShaderNode Typed(ShaderNode surface, string input) =>
        surface.Input(input) is { Default: null } there && UsdPreview.Input(surface.Type, input) is { } known
            ? surface with
            {
                Inputs = surface.Inputs.Replace(there, there with { Default = known.Default }),
            }
            : surface;

    protected override string? Change(
        SceneDraft draft,
        GraphEdit edit,
        ShaderNode surface,
        ShaderInput there,
        ShaderNode texture,
        ImageUse from,
        ImageUse to
    )
    {
        var same = from.Reference == to.Reference && from.SameReading(to);
        var pick = from.Channels != to.Channels;
        if (pick && to.Channels != Channels.Rgb && to.Channels.Place() is null)
            return $"{there.Name} cannot take {to.Channels.Word()} of an image.";
        var direct = there.From?.Node == texture.Name;
        if (pick && !direct)
            return $"{there.Name} takes the image through other nodes; its channel was left as it is.";
        if (pick && texture.Type != UsdImages.Texture)
            return $"{texture.Name} gives its channels as one; they were left as they are.";
        if (same)
        {
            if (pick)
                edit.Put(GraphEdit.With(surface, there.Name, there.Type, there.Value, new(texture.Name, to.Channels.Word())));
            return null;
        }

        if (edit.IsOnlyFor(texture.Name, there.Name))
        {
            if (Reread(draft, edit, texture, from, to) is { } why)
                return why;
            if (pick)
                edit.Put(GraphEdit.With(surface, there.Name, there.Type, there.Value, new(texture.Name, to.Channels.Word())));
            return null;
        }

        if (!direct || texture.Type != UsdImages.Texture)
            return $"{texture.Name} feeds other inputs too, and this one through nodes of its own; it was left as it is.";
        return New(
            draft,
            edit,
            surface,
            there,
            there.Name,
            pick ? to : to with { Channels = ChannelWords.Of(there.From!.Output) ?? to.Channels }
        );
    }

    private static string? Reread(SceneDraft draft, GraphEdit edit, ShaderNode node, ImageUse from, ImageUse to)
    {
        var file = node.Inputs.FirstOrDefault(i => i.Type == InputType.FileName);
        var preview = node.Type == UsdImages.Texture;
        var image = node.Image!;
        if (from.Reference != to.Reference)
        {
            if (file is null)
                return $"{node.Name} reads its file from elsewhere; change it there.";
            if (KeyOf(draft, to.Reference, out var key) is { } why)
                return why;
            var (old, property) = (image.Reference, Property(edit.Material, node, file));
            edit.Then(() =>
            {
                draft.Ripples |= file.IsPassedOn;
                draft.Give(old, property, gives: false);
                draft.Give(key, property, gives: true);
            });
            image = image with { Reference = key };
            node = GraphEdit.With(node, file.Name, InputType.FileName, ShaderValue.OfText(key.Written));
        }

        if (from.DeclaredSpace != to.DeclaredSpace)
        {
            if (!preview)
                return $"{node.Name} is tagged where its file is; its colour space was left as it is.";
            image = image with { DeclaredSpace = string.Empty };
            node =
                to.DeclaredSpace.Length == 0
                    ? GraphEdit.Without(node, "sourceColorSpace")
                    : GraphEdit.With(node, "sourceColorSpace", InputType.Text, ShaderValue.OfText(to.DeclaredSpace));
        }

        var (u, v) = preview ? ("wrapS", "wrapT") : ("uaddressmode", "vaddressmode");
        if (from.WrapU != to.WrapU)
            node = GraphEdit.With(node, u, InputType.Text, ShaderValue.OfText(Wrap(preview, to.WrapU)));
        if (from.WrapV != to.WrapV)
            node = GraphEdit.With(node, v, InputType.Text, ShaderValue.OfText(Wrap(preview, to.WrapV)));
        if (!from.Scale.SequenceEqual(to.Scale))
        {
            if (!preview || Four(to.Scale, 1) is not { } scale)
                return $"{node.Name} scales all four channels or none.";
            node = GraphEdit.With(node, "scale", InputType.Vector4, scale);
        }

        if (!from.Bias.SequenceEqual(to.Bias))
        {
            if (!preview || Four(to.Bias, 0) is not { } bias)
                return $"{node.Name} shifts all four channels or none.";
            node = GraphEdit.With(node, "bias", InputType.Vector4, bias);
        }

        node = node with { Image = image };
        if (from.UvSet != to.UvSet)
        {
            if (!preview || node.Input("st")?.From is { } st && edit.Node(st.Node)?.Type == UsdImages.Place)
                return $"{node.Name} takes its UV coordinates from other nodes; its UV set was left as it is.";
            node = GraphEdit.With(node, "st", InputType.Vector2, null, new(Reader(edit, node.Name, to.UvSet).Name, "result"));
        }

        return from.Transform == to.Transform ? Put(edit, node) : Place(draft, edit, node, from.Transform, to.Transform);
    }

    private static string? Put(GraphEdit edit, ShaderNode node)
    {
        edit.Put(node);
        return null;
    }

    private static string Wrap(bool preview, WrapMode mode) => preview ? UsdImages.Word(mode) : MaterialX.MtlxImages.Word(mode);

    private static ShaderValue? Four(IReadOnlyList<double> numbers, double standard) =>
        numbers.Count switch
        {
            0 => ShaderValue.Of(standard, standard, standard, standard),
            4 => new([.. numbers]),
            _ => null,
        };

    private static string? Place(SceneDraft draft, GraphEdit edit, ShaderNode node, UvTransform from, UvTransform to)
    {
        var st = node.Input("st")?.From;
        var place = st is null ? null : edit.Node(st.Node);
        if (place?.Type == UsdImages.Place && !edit.IsOnlyReadBy(place.Name, node.Name))
        {
            // Other textures are placed by it too.
            place = edit.Add(place with { Name = edit.Free($"{node.Name}_place") });
            node = GraphEdit.With(node, "st", InputType.Vector2, null, new(place.Name, "result"));
        }

        if (place?.Type != UsdImages.Place)
        {
            if (node.Type != UsdImages.Texture)
                return $"{node.Name} takes its UV coordinates from other nodes; its tiling was left as it is.";
            // A transform moves coordinates that somebody reads: of the mesh's first set where nothing was said.
            st ??= new(Reader(edit, node.Name, draft.Meshes.SelectMany(m => m.UvSets).FirstOrDefault() ?? "st").Name, "result");
            place = edit.Add(new(edit.Free($"{node.Name}_place"), UsdImages.Place, [new("in", InputType.Vector2, null, st)]));
            node = GraphEdit.With(node, "st", InputType.Vector2, null, new(place.Name, "result"));
            from = UvTransform.Identity;
        }

        if (from.ScaleU != to.ScaleU || from.ScaleV != to.ScaleV)
            place = GraphEdit.With(place, "scale", InputType.Vector2, ShaderValue.Of(to.ScaleU, to.ScaleV));
        if (from.OffsetU != to.OffsetU || from.OffsetV != to.OffsetV)
            place = GraphEdit.With(place, "translation", InputType.Vector2, ShaderValue.Of(to.OffsetU, to.OffsetV));
        if (from.Rotation != to.Rotation)
            place = GraphEdit.With(place, "rotation", InputType.Float, ShaderValue.Of(to.Rotation));
        edit.Put(place);
        return Put(edit, node);
    }

    /// <summary>
    /// A texture, its transform where it needs one, and a reader of its UV set; one that reads the image so already is
    /// taken.
    /// </summary>
    protected override string? New(SceneDraft draft, GraphEdit edit, ShaderNode surface, ShaderInput? there, string name, ImageUse to)
    {
        var type = TypeOf(draft, surface, name, null);
        if (!type.TakesImage)
            return $"{name} takes no image.";
        if (KeyOf(draft, to.Reference, out var key) is { } why)
            return why;
        var space =
            to.DeclaredSpace.Length > 0 ? to.DeclaredSpace
            : type == InputType.Color3 ? string.Empty
            : "raw";
        var scale =
            to.Scale.Length == 4 ? to.Scale
            : type == InputType.Vector3 ? [2, 2, 2, 1]
            : [];
        var bias =
            to.Bias.Length == 4 ? to.Bias
            : type == InputType.Vector3 ? [-1, -1, -1, 0]
            : [];
        var set = to.UvSet.Length > 0 ? to.UvSet : draft.Meshes.SelectMany(m => m.UvSets).FirstOrDefault() ?? "st";
        var wanted = to with
        {
            Reference = key,
            DeclaredSpace = space,
            Scale = scale,
            Bias = bias,
            UvSet = set,
            Transform = to.Transform with { Order = UvTransform.Identity.Order },
        };
        var channel =
            type == InputType.Float
                ? to.Channels.Place() is not null
                    ? to.Channels
                    : Channels.R
                : Channels.Rgb;
        var texture = edit.Graph.Nodes.FirstOrDefault(n =>
            n.Type == UsdImages.Texture && n.Image is { } i && (i.Reference == key || i.Reference == to.Reference) && i.SameReading(wanted)
        )
            ?? Spare(draft, edit, to.Reference, wanted, to.UvSet.Length > 0)
            ?? Texture(draft, edit, name, wanted);
        edit.Put(Typed(GraphEdit.With(surface, name, type, there?.Value, new(texture.Name, channel.Word())), name));
        return null;
    }

    /// <summary>A texture of that image that nothing reads: it is read, as is wanted, so that nothing is left behind.</summary>
    private static ShaderNode? Spare(SceneDraft draft, GraphEdit edit, ReferenceKey asked, ImageUse wanted, bool sets)
    {
        var spare = edit.Graph.Nodes.FirstOrDefault(n =>
            n.Type == UsdImages.Texture
            && n.Image is { } i
            && (i.Reference == wanted.Reference || i.Reference == asked)
            && edit.Graph.Nodes.All(r => r.Inputs.All(x => x.From?.Node != n.Name))
        );
        if (spare?.Image is not { } image)
            return null;
        return
            Reread(
                draft,
                edit,
                spare,
                image,
                wanted with
                {
                    Reference = image.Reference,
                    Channels = image.Channels,
                    UvSet = sets ? wanted.UvSet : image.UvSet,
                }
            )
                is null
            ? edit.Node(spare.Name)
            : null;
    }

    private static ShaderNode Texture(SceneDraft draft, GraphEdit edit, string name, ImageUse to)
    {
        var stem = edit.Free($"{name}_texture");
        var st = Reader(edit, stem, to.UvSet);
        if (!to.Transform.IsIdentity)
        {
            var t = to.Transform;
            st = edit.Add(
                new(
                    edit.Free($"{stem}_place"),
                    UsdImages.Place,
                    [
                        new("in", InputType.Vector2, null, new(st.Name, "result")),
                        new("scale", InputType.Vector2, ShaderValue.Of(t.ScaleU, t.ScaleV)),
                        new("translation", InputType.Vector2, ShaderValue.Of(t.OffsetU, t.OffsetV)),
                        new("rotation", InputType.Float, ShaderValue.Of(t.Rotation)),
                    ]
                )
            );
        }

        var inputs = new List<ShaderInput> { new("file", InputType.FileName, ShaderValue.OfText(to.Reference.Written)) };
        if (to.DeclaredSpace.Length > 0)
            inputs.Add(new("sourceColorSpace", InputType.Text, ShaderValue.OfText(to.DeclaredSpace)));
        inputs.Add(new("wrapS", InputType.Text, ShaderValue.OfText(UsdImages.Word(to.WrapU))));
        inputs.Add(new("wrapT", InputType.Text, ShaderValue.OfText(UsdImages.Word(to.WrapV))));
        if (to.Scale.Length == 4)
            inputs.Add(new("scale", InputType.Vector4, new(to.Scale)));
        if (to.Bias.Length == 4)
            inputs.Add(new("bias", InputType.Vector4, new(to.Bias)));
        inputs.Add(new("st", InputType.Vector2, null, new(st.Name, "result")));
        var texture = edit.Add(new(stem, UsdImages.Texture, [.. inputs], new(to.Reference)));
        edit.Then(() => draft.Give(to.Reference, Property(edit.Material, texture, texture.Inputs[0]), gives: true));
        return texture;
    }

    private static ShaderNode Reader(GraphEdit edit, string stem, string set) =>
        edit.Add(new(edit.Free($"{stem}_st"), "UsdPrimvarReader_float2", [new("varname", InputType.Text, ShaderValue.OfText(set))]));

    public static string PrimOf(Material material, string node) => node.StartsWith('/') ? node : $"{material.Id}/{node}";

    private static string Property(Material material, ShaderNode node, ShaderInput file) =>
        $"{PrimOf(material, node.Name)}.inputs:{file.Name}";

    /// <summary>The reference as the scene's own layer would write it: anchored to it.</summary>
    internal static string? KeyOf(SceneDraft draft, ReferenceKey wanted, out ReferenceKey key)
    {
        var known = draft.Before.References.FirstOrDefault(r => r.Key == wanted);
        key = wanted;
        if (known?.Carried is not null)
            return $"{wanted.Written} is carried inside the archive; extract it first.";
        // A path that is there already is written as it is there.
        var file = Path.GetFileName(draft.Before.Path);
        if (known is null || wanted.File != file)
            key = ReferencePaths.In(draft.Before, wanted, file) is var here ? here with { Written = Anchored(here.Written) } : wanted;
        return null;
    }

    public static string Anchored(string path) =>
        path.StartsWith('.') || path.StartsWith('/') || path.Length > 1 && path[1] == ':' || path.StartsWith('\\') ? path : "./" + path;
}
