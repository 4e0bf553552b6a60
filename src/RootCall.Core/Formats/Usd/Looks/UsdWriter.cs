using System.Globalization;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Formats.Usd.Text;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>
/// Writes what differs between two states of a scene into its own layer: what stands there is replaced, what stands in another
/// layer, a crate or an archive is said anew as an over. A scene that is no text gets an overriding layer that stands on it.
/// </summary>
internal sealed class UsdWriter
{
    private readonly Scene before;
    private readonly Scene now;
    private readonly byte[] bytes;
    private readonly UsdLayer layer;
    private readonly List<ByteEdit> edits = [];
    private readonly Overs overs = new(string.Empty);
    private readonly HashSet<string> handled = new(StringComparer.Ordinal);
    private readonly bool isNew;
    private readonly string newLine;
    private readonly string unit;

    public UsdWriter(Scene before, Scene now)
    {
        (this.before, this.now) = (before, now);
        using var stream = before.Files[0].Open();
        bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        isNew = !UsdaParser.IsUsda(bytes);
        if (isNew)
        {
            var name = Path.GetFileName(before.Path);
            var up = before.UpAxis is { } axis ? $"    upAxis = \"{axis}\"\n" : string.Empty;
            bytes = Encoding.UTF8.GetBytes(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"#usda 1.0\n(\n    metersPerUnit = {before.MetresPerUnit ?? 0.01}\n{up}    subLayers = [@./{name}@]\n)\n"
                )
            );
        }

        layer = UsdaParser.Read(bytes, []);
        newLine = bytes.AsSpan().IndexOf("\r\n"u8) >= 0 ? "\r\n" : "\n";
        unit = layer
            .Root.Children.Select(c => c.BodyEnd > 0 ? c : null)
            .OfType<UsdPrimSpec>()
            .SelectMany(c => c.Children)
            .Where(c => c.BodyEnd > 0)
            .Select(c => IndentOf(c.BodyEnd))
            .FirstOrDefault(i => i.Length > 0)
            ?? "    ";
    }

    public OwnChanges Write()
    {
        var current = now.Materials.DistinctBy(m => m.Id).ToDictionary(m => m.Id, StringComparer.Ordinal);
        foreach (var old in before.Materials)
        {
            if (!current.TryGetValue(old.Id, out var material))
                Metadata(old.Id, "active = false");
            else if (!ReferenceEquals(old.Graph, material.Graph))
                Graph(material, old.Graph, material.Graph);
        }

        var known = before.Materials.Select(m => m.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var material in now.Materials.Where(m => !known.Contains(m.Id)))
            Add(material);
        foreach (var (old, mesh) in before.Meshes.Zip(now.Meshes).Where(m => !ReferenceEquals(m.First, m.Second)))
            Assign(old, mesh);
        foreach (var own in before.Instances.Except(now.Instances, StringComparer.Ordinal))
            MakeOwn(own);
        foreach (var (old, choice) in before.Variants.Zip(now.Variants).Where(v => v.First.Selected != v.Second.Selected))
            Select(choice);
        Properties();
        Place(overs, layer.Root, string.Empty);
        if (!isNew)
            return OwnChanges.Of(edits.Select(e => (0, e)));

        // The overriding layer takes the scene's place; the scene itself lies beside it, untouched.
        using var whole = new MemoryStream();
        SplicedCopy.Write(new MemoryStream(bytes), whole, edits);
        return new(
            Array.Empty<(int, ByteEdit)>().ToLookup(e => e.Item1, e => e.Item2),
            new Dictionary<string, byte[]> { [before.Path] = whole.ToArray() }
        );
    }

    private void Add(Material material)
    {
        var prim = overs.At(material.Id);
        prim.Definition = "def Material";
        // UsdMtlx, "MaterialX in USD": surfaces of its library stand in a render context of their own.
        var (context, output) = material.Graph.SurfaceNode!.Type.StartsWith("ND_", StringComparison.Ordinal)
            ? ("mtlx:surface", "out")
            : ("surface", "surface");
        prim.Statements.Add($"token outputs:{context}.connect = <{material.Id}/{material.Graph.Surface}.outputs:{output}>");
        Graph(material, ShaderGraph.Empty, material.Graph);
        overs.At($"{material.Id}/{material.Graph.Surface}").Statements.Add($"token outputs:{output}");
    }

    private void Graph(Material material, ShaderGraph old, ShaderGraph graph)
    {
        foreach (var node in graph.Nodes)
        {
            var known = old.Node(node.Name);
            if (ReferenceEquals(known, node))
                continue;
            var prim = UsdShape.PrimOf(material, node.Name);
            if (known is null)
            {
                var fresh = overs.At(prim);
                fresh.Definition = "def Shader";
                fresh.Statements.Insert(0, $"uniform token info:id = {UsdSpelling.Quoted(node.Type)}");
            }

            foreach (var input in node.Inputs)
                Input(material, prim, known?.Input(input.Name), input, node);
            foreach (var gone in (known?.Inputs ?? []).Where(i => node.Input(i.Name) is null))
                Input(material, prim, gone, null, node);
        }

        var told = old.Nodes.SelectMany(n => n.Inputs).Select(i => i.From).OfType<Connection>().ToHashSet();
        foreach (var input in graph.Nodes.SelectMany(n => n.Inputs).Where(i => i.From is not null && told.Add(i.From)))
        {
            var prim = UsdShape.PrimOf(material, input.From!.Node);
            if (layer.Find(prim)?.Property($"outputs:{input.From.Output}") is null)
                overs.At(prim).Statements.Add($"{UsdSpelling.OutputOf(graph.Node(input.From.Node), input)} outputs:{input.From.Output}");
        }
    }

    private void Input(Material material, string prim, ShaderInput? old, ShaderInput? input, ShaderNode node)
    {
        var name = $"inputs:{(input ?? old)!.Name}";
        var type = UsdSpelling.TypeOf((input ?? old)!.Type, (input ?? old)!.Name, node.IsMade && UsdSpelling.IsStandard(node));
        var own = old is { IsPassedOn: true } ? null : old?.Value;
        if (!Equals(own, input is { IsPassedOn: true } ? null : input?.Value))
        {
            handled.Add($"{prim}.{name}");
            Attribute(prim, name, type, input?.Value is { } value ? UsdSpelling.Value(value, type) + Tag(node, input, type) : null);
        }

        if (input?.From is { } from)
        {
            if (from != old?.From)
                Connect(prim, name, type, $"{UsdShape.PrimOf(material, from.Node)}.outputs:{from.Output}");
        }
        else if (
            old is not null
            && (old.From is not null || old.Dangling is not null || old.IsPassedOn)
            && input?.IsPassedOn != true
            && input?.Dangling is null
        )
            Disconnect(prim, name, type);
    }

    /// <summary>The colour space of an image, where a node of MaterialX reads it.</summary>
    private static string Tag(ShaderNode node, ShaderInput input, string type) =>
        type == "asset"
        && node is { IsMade: true, Image.DeclaredSpace: { Length: > 0 } space }
        && UsdSpelling.IsStandard(node)
        && input.From is null
            ? $" (colorSpace = {UsdSpelling.Quoted(space)})"
            : string.Empty;

    /// <summary>Paths of attributes that no material reads (the texture of a light).</summary>
    private void Properties()
    {
        var was = before
            .References.SelectMany(r => r.Properties.Select(p => (p, r.Key)))
            .DistinctBy(p => p.p)
            .ToDictionary(p => p.p, p => p.Key, StringComparer.Ordinal);
        foreach (var (property, key) in now.References.SelectMany(r => r.Properties.Select(p => (p, r.Key))))
            if (!handled.Contains(property) && was.TryGetValue(property, out var old) && old != key)
                Attribute(
                    property[..property.LastIndexOf('.')],
                    property[(property.LastIndexOf('.') + 1)..],
                    "asset",
                    UsdSpelling.Asset(key.Written)
                );
    }

    /// <summary>Gives an attribute a value; null lets nothing hold.</summary>
    private void Attribute(string prim, string name, string type, string? value)
    {
        var here = layer.Find(prim)?.Property(name);
        if (here is { ValueStart: >= 0 })
        {
            if (value is null && IsAlone(prim))
                Cut(here.Start, here.End);
            else
                edits.Add(new(here.ValueStart, here.ValueEnd - here.ValueStart, Encoding.UTF8.GetBytes(value ?? "None")));
        }
        else if (value is not null || !IsAlone(prim))
        {
            overs.At(prim).Statements.Add($"{(here?.TypeName is { Length: > 0 } known ? known : type)} {name} = {value ?? "None"}");
        }
    }

    private void Disconnect(string prim, string name, string type)
    {
        var here = layer.Find(prim)?.Property(name);
        if (here is { TargetsStart: >= 0 } && IsAlone(prim))
            Cut(here.TargetsStart, here.TargetsEnd);
        else
            Target(prim, name, $"{(here?.TypeName is { Length: > 0 } known ? known : type)} {name}.connect = None");
    }

    private void Connect(string prim, string name, string type, string target)
    {
        var here = layer.Find(prim)?.Property(name);
        Target(prim, name, $"{(here?.TypeName is { Length: > 0 } known ? known : type)} {name}.connect = <{target}>");
    }

    private void Target(string prim, string name, string statement)
    {
        var here = layer.Find(prim)?.Property(name);
        if (here is { TargetsStart: >= 0 })
            edits.Add(new(here.TargetsStart, here.TargetsEnd - here.TargetsStart, Encoding.UTF8.GetBytes(statement)));
        else
            overs.At(prim).Statements.Add(statement);
    }

    /// <summary>Nothing but this layer's own statement speaks of the prim: what is taken out there is gone.</summary>
    private bool IsAlone(string prim)
    {
        if (isNew || before.Files.Length > 1 || layer.SubLayers.Count > 0)
            return false;
        var spec = layer.Root;
        foreach (var name in prim.Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            if (spec.Child(name) is not { } child)
                return true;
            spec = child;
            if (
                spec.References is not null
                || spec.Payloads is not null
                || spec.Inherits is not null
                || spec.Specializes is not null
                || spec.VariantSets.Count > 0
            )
                return false;
        }

        return true;
    }

    private void Cut(int start, int end)
    {
        var (line, behind) = (start, end);
        while (line > 0 && bytes[line - 1] is (byte)' ' or (byte)'\t')
            line--;
        while (behind < bytes.Length && bytes[behind] is (byte)' ' or (byte)'\t' or (byte)'\r')
            behind++;
        var alone = line > 0 && bytes[line - 1] == (byte)'\n' && behind < bytes.Length && bytes[behind] == (byte)'\n';
        edits.Add(alone ? new(line, behind + 1 - line, []) : new(start, end - start, []));
    }

    private void Assign(Mesh old, Mesh mesh)
    {
        var whole = false;
        for (var p = 0; p < mesh.Parts.Length; p++)
        {
            var part = mesh.Parts[p];
            if (part == old.Parts[p])
                continue;
            var subset = part.Name.Length > 0 && part.Bound == BoundBy.Itself;
            if (!subset && whole)
                continue;
            whole |= !subset;
            Target(
                subset ? $"{mesh.Id}/{part.Name}" : mesh.Id,
                "material:binding",
                part.Material.Length == 0 ? "rel material:binding = None" : $"rel material:binding = <{PathOf(part)}>"
            );
        }
    }

    private string PathOf(MeshPart part) =>
        part.MaterialId.Length > 0
            ? part.MaterialId
            : now.Materials.FirstOrDefault(m => m.Name == part.Material)?.Id
                ?? throw new CannotUseException($"The scene has no material {part.Material}.");

    private void Select(VariantChoice choice)
    {
        var here = layer.Find(choice.Place);
        if (here is not null && here.SelectionSpans.TryGetValue(choice.Set, out var span))
            edits.Add(new(span.Start, span.End - span.Start, Encoding.UTF8.GetBytes(UsdSpelling.Quoted(choice.Selected))));
        else
            Metadata(choice.Place, $"variants = {{ string {choice.Set} = {UsdSpelling.Quoted(choice.Selected)} }}");
    }

    private void MakeOwn(string prim)
    {
        if (layer.Find(prim)?.InstanceableSpan is { } said)
            edits.Add(new(said.Start, said.End - said.Start, "false"u8.ToArray()));
        else
            Metadata(prim, "instanceable = false");
    }

    private void Metadata(string prim, string statement)
    {
        var here = layer.Find(prim);
        if (here is { MetadataEnd: >= 0 })
        {
            var line = LineStart(here.MetadataEnd);
            var alone = bytes.AsSpan(line, here.MetadataEnd - line).Trim(" \t"u8).Length == 0;
            edits.Add(
                alone
                    ? new(line, 0, Encoding.UTF8.GetBytes($"{IndentOf(here.MetadataEnd)}{unit}{statement}{newLine}"))
                    : new(
                        here.MetadataEnd,
                        0,
                        Encoding.UTF8.GetBytes(
                            $"{newLine}{IndentOf(here.MetadataEnd)}{unit}{statement}{newLine}{IndentOf(here.MetadataEnd)}"
                        )
                    )
            );
        }
        else if (here is { NameEnd: >= 0 })
            edits.Add(
                new(
                    here.NameEnd,
                    0,
                    Encoding.UTF8.GetBytes($" ({newLine}{IndentOf(here.NameEnd)}{unit}{statement}{newLine}{IndentOf(here.NameEnd)})")
                )
            );
        else
            overs.At(prim).Metadata.Add(statement);
    }

    /// <summary>Writes the overs into the deepest prims that stand in the layer already.</summary>
    private void Place(Overs at, UsdPrimSpec spec, string indent)
    {
        var text = new StringBuilder();
        var inside = spec == layer.Root ? string.Empty : indent + unit;
        foreach (var statement in at.Statements)
            text.Append(inside).Append(statement).Append(newLine);
        foreach (var child in at.Children)
        {
            if (spec.Child(child.Name) is { BodyEnd: >= 0 } there)
                Place(child, there, IndentOf(there.BodyEnd));
            else
                child.Write(text, inside, unit, newLine);
        }

        if (text.Length == 0)
            return;
        var position = spec == layer.Root ? bytes.Length : spec.BodyEnd;
        var lineStart = spec == layer.Root ? bytes.Length : LineStart(position);
        // Before the closing brace's own line where it stands alone, otherwise right before it.
        var alone = bytes.AsSpan(lineStart, position - lineStart).Trim(" \t"u8).Length == 0;
        if (!alone)
            text.Insert(0, newLine).Append(indent);
        if (spec == layer.Root && bytes.Length > 0 && bytes[^1] != (byte)'\n')
            text.Insert(0, newLine);
        edits.Add(new(alone ? lineStart : position, 0, Encoding.UTF8.GetBytes(text.ToString())));
    }

    private int LineStart(int at)
    {
        while (at > 0 && bytes[at - 1] != (byte)'\n')
            at--;
        return at;
    }

    private string IndentOf(int at)
    {
        var start = LineStart(at);
        var end = start;
        while (end < bytes.Length && bytes[end] is (byte)' ' or (byte)'\t')
            end++;
        return Encoding.ASCII.GetString(bytes.AsSpan(start, end - start));
    }
}
