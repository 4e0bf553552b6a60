using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.RegularExpressions;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Looks;

/// <summary>What can be done to a scene of some formats and not of others.</summary>
public enum SceneAct
{
    SetValue,
    SetImage,

    /// <summary>Lay nodes between an input and what feeds it, and set them.</summary>
    LayNode,
    Assign,
    Extract,
    Carry,
    MakeLibrary,
    SelectVariant,

    /// <summary>Have a place of shared geometry no longer share it.</summary>
    MakeOwn,
    SetAsset,
    RenameMaterial,
    RenameMesh,
    RenameNode,
    CopyMaterial,
    RemoveMaterial,
}

/// <summary>The parts of a UV transform.</summary>
[Flags]
public enum UvParts
{
    None = 0,
    Scale = 1,
    Offset = 2,
    Rotation = 4,
    All = Scale | Offset | Rotation,
}

/// <summary>How a format lets an image be tagged with a colour space.</summary>
public enum SpaceTags
{
    /// <summary>The input decides; nothing is written.</summary>
    None,

    /// <summary>Any name may be written.</summary>
    Any,
}

/// <summary>
/// What a format can say of looks: asked before an edit is offered, and when it is applied. Sentences say why not, in the
/// words of the format's specification.
/// </summary>
public sealed record FormatCapabilities
{
    /// <summary>The format as sentences call it.</summary>
    public required string Name { get; init; }

    /// <summary>Why scenes are read and not written; null when they are written.</summary>
    public string? ReadOnlyBecause { get; init; }

    /// <summary>What cannot be said at all, with the reason.</summary>
    public FrozenDictionary<SceneAct, string> Refused { get; init; } = FrozenDictionary<SceneAct, string>.Empty;

    public UvParts Uv { get; init; } = UvParts.All;

    public SpaceTags Spaces { get; init; }

    /// <summary>Wrap modes that an image can have; another one is refused.</summary>
    public ImmutableArray<WrapMode> Wraps { get; init; } = [WrapMode.Repeat, WrapMode.Mirror, WrapMode.Clamp];

    /// <summary>The names that things may have; null for any.</summary>
    public Regex? Names { get; init; }

    public ReferenceLife References { get; init; } = ReferenceLife.Listed;

    /// <summary>Parts know the id of their material, so that materials of one name are told apart.</summary>
    public bool AssignsById { get; init; }

    /// <summary>Geometry lies elsewhere and is only named: why it is not measured. Null where the scene holds its geometry.</summary>
    public string? NamesGeometry { get; init; }

    /// <summary>A part with a material of its own keeps it when its mesh is given another one.</summary>
    public bool PartsKeepTheirs { get; init; }

    /// <summary>A path as it reads back after it was written.</summary>
    public Func<string, string> Written { get; init; } = static path => path;

    /// <summary>An assignment says more than the material (which UV set an image reads): it must be read again.</summary>
    public bool AssignRipples { get; init; }

    /// <summary>Ending of a library of materials that a scene may have beside it; null for none.</summary>
    public string? Library { get; init; }

    /// <summary>Why a file cannot be carried inside a scene; null where nothing can be.</summary>
    public Func<string, string?>? MayCarry { get; init; }

    /// <summary>How a material says values and images; null for a format without materials.</summary>
    public IMaterialShape? Shape { get; init; }

    /// <summary>How a look that comes from elsewhere becomes a material; null where none can be added.</summary>
    public ILookMaker? Maker { get; init; }

    /// <summary>Null when the format can do it.</summary>
    public string? WhyNot(SceneAct act) => ReadOnlyBecause is { } only ? $"{only}." : Refused.GetValueOrDefault(act);

    /// <summary>Null when nodes can lie before that surface.</summary>
    public string? WhyNoNodes(ShaderNode surface) =>
        WhyNot(SceneAct.LayNode) ?? (Shape is INodeShape shape ? shape.WhyNoNodes(surface) : $"{Name} has no nodes.");

    /// <summary>Null when the format can write that UV transform in place of the other.</summary>
    public string? WhyNot(UvTransform from, UvTransform to)
    {
        var changed =
            (from.ScaleU != to.ScaleU || from.ScaleV != to.ScaleV ? UvParts.Scale : 0)
            | (from.OffsetU != to.OffsetU || from.OffsetV != to.OffsetV ? UvParts.Offset : 0)
            | (from.Rotation != to.Rotation ? UvParts.Rotation : 0);
        return (changed & ~Uv) switch
        {
            UvParts.None => null,
            UvParts.Rotation => $"{Name} has no rotation of UV coordinates.",
            _ => $"{Name} has no UV transform.",
        };
    }

    public string? WhyNotName(string name) =>
        name.Length == 0 ? "A name is needed."
        : Names?.IsMatch(name) == false ? $"“{name}” cannot be a name in {Name}."
        : null;
}

/// <summary>
/// How the materials of a format take a value or an image: what their graph looks like afterwards. It must be the graph that
/// the format's reader makes of what its writer writes.
/// </summary>
public interface IMaterialShape
{
    /// <param name="value">Null to let the default hold.</param>
    /// <returns>Why it cannot be said; null when it was done.</returns>
    string? SetValue(SceneDraft draft, int material, string input, ShaderValue? value);

    /// <param name="from">What feeds the input now; null when a new image is asked for, whatever feeds it.</param>
    /// <param name="to">Null to disconnect.</param>
    /// <returns>Why it cannot be said; null when it was done.</returns>
    string? SetImage(SceneDraft draft, int material, string input, ImageUse? from, ImageUse? to);
}

/// <summary>How materials of nodes take one between an input and what feeds it.</summary>
public interface INodeShape : IMaterialShape
{
    /// <summary>Why nodes of the standard library have no place before a surface; null when they have.</summary>
    string? WhyNoNodes(ShaderNode surface);

    /// <summary>Lays a node right before an input that something feeds.</summary>
    /// <param name="values">Of its parts, where they are not as the standard leaves them.</param>
    /// <returns>Why it cannot be said; null when it was done.</returns>
    string? LayNode(SceneDraft draft, int material, string input, LaidNode node, ImmutableArray<NodeValue> values);

    /// <summary>Takes out a node on the way to an input; what fed it feeds what it fed.</summary>
    /// <returns>Why it cannot be said; null when it was done.</returns>
    string? TakeNode(SceneDraft draft, int material, string input, string node);

    /// <summary>Sets a value of a node on the way to an input.</summary>
    /// <param name="value">Null to let the default hold.</param>
    /// <returns>Why it cannot be said; null when it was done.</returns>
    string? SetNode(SceneDraft draft, int material, string input, string node, string part, ShaderValue? value);
}
