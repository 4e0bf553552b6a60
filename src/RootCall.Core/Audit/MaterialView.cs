using System.Collections.Immutable;
using RootCall.Core.Audit.Roles;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>
/// A material as rules see it: under any model's names, with the images that arrive at each input and what is known of
/// them.
/// </summary>
public sealed class MaterialView
{
    private readonly Dictionary<string, InputView> byName;

    /// <param name="users">Parts of meshes that it is assigned to.</param>
    internal MaterialView(Material material, AuditScene scene, ImmutableArray<(Mesh Mesh, MeshPart Part)> users)
    {
        Users = users;
        Material = material;
        Name = scene.NameOf(material);
        Type = material.Graph.SurfaceNode?.Type ?? string.Empty;
        Model = ShadingModels.OfType(Type);
        Inputs = [.. (material.Graph.SurfaceNode?.Inputs ?? []).Select(i => new InputView(this, i, scene))];
        Maps = [.. Inputs.SelectMany(i => i.Maps)];
        byName = Inputs.DistinctBy(i => i.Name).ToDictionary(i => i.Name, StringComparer.Ordinal);
    }

    public Material Material { get; }

    /// <summary>What edits call it by: its name, or its id where several share the name.</summary>
    public string Name { get; }

    /// <summary>The format's own type of the surface shader; empty when there is none.</summary>
    public string Type { get; }

    /// <summary>Null for a type that no model is known for.</summary>
    public ShadingModel? Model { get; }

    public ImmutableArray<InputView> Inputs { get; }

    /// <summary>Every image on every input.</summary>
    public ImmutableArray<MapView> Maps { get; }

    /// <summary>Parts of meshes that it is assigned to.</summary>
    public ImmutableArray<(Mesh Mesh, MeshPart Part)> Users { get; }

    /// <summary>To find others that look the same; made once.</summary>
    internal MaterialPrint Print => print ??= MaterialPrint.Of(this);

    private MaterialPrint? print;

    /// <summary>A view of the same material in that scene would show the very same.</summary>
    internal bool IsSoIn(AuditScene scene, IEnumerable<(Mesh Mesh, MeshPart Part)> users)
    {
        foreach (var map in Maps)
        {
            var answer = scene.Answer(map.Use.Reference);
            if (!ReferenceEquals(answer, map.Answer) || !ReferenceEquals(scene.Pixels(answer), map.Pixels))
                return false;
        }

        return scene.NameOf(Material) == Name && users.SequenceEqual(Users, SameUse.Instance);
    }

    /// <summary>Every image that it calls for came, and every wire leads somewhere: nothing of its look is unknown.</summary>
    public bool IsWhole => Maps.All(m => m.HasCome) && Material.Graph.Nodes.All(n => n.Inputs.All(i => i.Dangling is null));

    public InputView? Input(string name) => byName.GetValueOrDefault(name);

    /// <summary>The input that plays a role, one with an image first.</summary>
    public InputView? Role(Role role)
    {
        InputView? found = null;
        foreach (var input in Inputs)
            if (input.Role == role && (found is null || (found.Maps.IsEmpty && !input.Maps.IsEmpty)))
                found = input;
        return found;
    }

    /// <summary>What that role's value is, written or by the model's default; null when the model has no such input.</summary>
    public double? Number(Role role) =>
        Role(role) is { } input ? input.Number
        : Model?.Input(role)?.Default is [var n, ..] ? n
        : null;

    /// <summary>The name that this material's model has for a role; null when it has none.</summary>
    public string? NameOf(Role role) => Role(role)?.Name ?? Model?.Input(role)?.Name;

    /// <summary>A map of that role, wherever it is wired.</summary>
    public MapView? Named(Role mapRole) => Maps.FirstOrDefault(m => m.Role == mapRole);

    public string? Text(string input) => Input(input)?.Input.Effective?.Text;

    public bool IsGltf => Type.StartsWith("gltf-", StringComparison.Ordinal);

    public bool IsPreview => Type.Contains("UsdPreviewSurface", StringComparison.Ordinal);
}

/// <summary>An input of the surface shader.</summary>
public sealed class InputView
{
    internal InputView(MaterialView material, ShaderInput input, AuditScene scene)
    {
        Material = material;
        Input = input;
        Spec = material.Model?.Input(input.Name);
        if (input.From is null)
            return;
        var trace = InputTrace.Of(material.Material.Graph, input);
        Maps = [.. trace.Images.Select(t => new MapView(this, t, scene))];
        Factor = trace.Factor;
        IsCyclic = trace.IsCyclic;
    }

    public MaterialView Material { get; }

    public ShaderInput Input { get; }

    /// <summary>What the published specification says of it; null where it is not known.</summary>
    public ModelInput? Spec { get; }

    public string Name => Input.Name;

    public InputType Type => Input.Type;

    public Role? Role => Spec?.Role;

    /// <summary>What it is for, or its name where that is not known.</summary>
    public string What => Role?.Word() ?? Name;

    public ImmutableArray<MapView> Maps { get; } = [];

    /// <summary>The value that what arrives is multiplied by; null for none.</summary>
    public ShaderValue? Factor { get; }

    public bool IsCyclic { get; }

    public bool IsConnected => Input.From is not null;

    public bool IsScalar => Type.Numbers == 1;

    /// <summary>Written value or default; of a connected input its factor.</summary>
    public ImmutableArray<double> Numbers => (IsConnected ? Factor : Input.Value)?.Numbers ?? Input.Default?.Numbers ?? Spec?.Default ?? [];

    /// <summary>The value of an input that nothing feeds; null for a connected one, or when no default is known.</summary>
    public double? Number => !IsConnected && Numbers is [var n, ..] ? n : null;

    /// <summary>Largest of its numbers; null when it has none.</summary>
    public double? Largest => Numbers is { Length: > 0 } n ? n.Max() : null;
}

/// <summary>An image that arrives at an input.</summary>
public sealed class MapView
{
    internal MapView(InputView input, TracedImage traced, AuditScene scene)
    {
        Input = input;
        Use = traced.Use;
        Node = traced.Node;
        Channel = traced.Channel;
        Through = traced.Through;
        Times = traced.Times;
        Answer = scene.Answer(traced.Use.Reference);
        Pixels = scene.Pixels(Answer);
        Name = scene.FileName(
            Answer?.Resolved is { } path
                ? Path.GetFileName(Answer.Pattern ?? path)
                : WrittenPath.Parse(traced.Use.Reference.Written).FileName
        );
    }

    public InputView Input { get; }

    public MaterialView Material => Input.Material;

    public ImageUse Use { get; }

    public ShaderNode Node { get; }

    /// <summary>What arrives: <c>r</c>, <c>g</c>, <c>b</c>, <c>a</c>, <c>l</c> for the grey of all, or <c>rgb</c>.</summary>
    public Channels Channel { get; }

    /// <summary>Types of the nodes between the image and the input, nearest to the input first.</summary>
    public ImmutableArray<string> Through { get; }

    /// <summary>Number of ways on which the image reaches the input.</summary>
    public int Times { get; }

    public MusteredReference? Answer { get; }

    /// <summary>Its file answers, or is carried inside the scene.</summary>
    public bool HasCome => Answer is { Resolved: not null } or { State: ReferenceState.Embedded };

    public PixelStats? Pixels { get; }

    public ImageFacts? Facts => Answer?.Facts;

    public FileName Name { get; }

    /// <summary>What the end of its name says it is for; null when it says nothing. Its weakest evidence: <see cref="Reading"/>.</summary>
    public Role? Role => Name.EndsWithRole ? Name.Role : null;

    /// <summary>What it is for by all there is.</summary>
    public MapReading Reading(AuditScene scene)
    {
        if (reading is not { } known || known.Beside != scene.Report.Beside)
            reading = known = new(scene.Report.Beside, RoleReader.Of(this, scene));
        return known.Reading;
    }

    private KnownReading? reading;

    /// <summary>Made once for as long as the same files lie beside.</summary>
    private sealed record KnownReading(ImmutableArray<FileBeside> Beside, MapReading Reading);

    /// <summary>As it is called in sentences.</summary>
    public string FileText => Name.Text;

    /// <summary>Statistics of the channel that arrives; of the first for several.</summary>
    public ChannelStats? Stats => Pixels?.Channel(Channel);

    public bool PassesNormalMap => Through.Any(t => t.Contains("normalmap", StringComparison.OrdinalIgnoreCase));

    /// <summary>Reads it another way, or from another file.</summary>
    public Edits.SetImage Read(Func<ImageUse, ImageUse> change) => new(Material.Name, Input.Name, Use, change(Use));

    public Edits.SetImage Disconnect() => new(Material.Name, Input.Name, Use, null);
}
