using System.Globalization;
using System.Text;
using RootCall.Core.Shading;

namespace RootCall.Core.Scenes;

/// <summary>
/// Whether two scenes say the same. Aside are byte spans, the order of references and nodes, names of nodes within a graph,
/// and what a reader noted: two readings of the same content may differ in those.
/// </summary>
public static class SceneComparison
{
    private const int Digits = 9;

    public static bool AreSame(Scene a, Scene b) => ReferenceEquals(a, b) || !Differences(a, b).Any();

    /// <summary>Where they differ, one short text each: what, in the first, in the second.</summary>
    public static IEnumerable<string> Differences(Scene a, Scene b)
    {
        foreach (var text in Lists("material", a.Materials, b.Materials, m => m.Id, Of))
            yield return text;
        foreach (var text in Lists("mesh", a.Meshes, b.Meshes, m => m.Id, Of))
            yield return text;
        foreach (var text in Lists("reference", a.References.Where(r => !StandsOn(r)), b.References.Where(r => !StandsOn(r)), KeyOf, Of))
            yield return text;
        var (nodesA, nodesB) = (
            string.Join('|', a.Nodes.Select(n => $"{n.Name} {n.Parent} {n.Mesh}")),
            string.Join('|', b.Nodes.Select(n => $"{n.Name} {n.Parent} {n.Mesh}"))
        );
        if (nodesA != nodesB)
            yield return $"nodes: {nodesA} <> {nodesB}";
        if (a.Counts != b.Counts)
            yield return $"counts: {a.Counts} <> {b.Counts}";
        if (!a.Instances.Order(StringComparer.Ordinal).SequenceEqual(b.Instances.Order(StringComparer.Ordinal)))
            yield return $"instances: {string.Join(' ', a.Instances)} <> {string.Join(' ', b.Instances)}";
        var (chosenA, chosenB) = (
            string.Join('|', a.Variants.Select(v => $"{v.Place} {v.Set} {v.Selected}")),
            string.Join('|', b.Variants.Select(v => $"{v.Place} {v.Set} {v.Selected}"))
        );
        if (chosenA != chosenB)
            yield return $"variants: {chosenA} <> {chosenB}";
    }

    /// <summary>An overriding layer that comes into being calls the scene that it stands on.</summary>
    private static bool StandsOn(Reference reference) =>
        reference.Kind == ReferenceKind.Layer && Path.GetFileName(reference.Written) == Path.GetFileName(reference.Key.File);

    private static IEnumerable<string> Lists<T>(string what, IEnumerable<T> a, IEnumerable<T> b, Func<T, string> key, Func<T, string> text)
        where T : class
    {
        var (left, right) = (
            a.Select(x => (Key: key(x), Thing: x)).ToLookup(x => x.Key, x => x.Thing, StringComparer.Ordinal),
            b.Select(x => (Key: key(x), Thing: x)).ToLookup(x => x.Key, x => x.Thing, StringComparer.Ordinal)
        );
        foreach (var group in left)
        {
            if (group.Count() != right[group.Key].Count())
            {
                yield return $"{what} {group.Key}: {group.Count()} <> {right[group.Key].Count()}";
                continue;
            }

            foreach (var (x, y) in group.Zip(right[group.Key]))
                if (!ReferenceEquals(x, y) && text(x) is var one && text(y) is var other && one != other)
                    yield return $"{what} {group.Key}: {one} <> {other}";
        }

        foreach (var group in right.Where(g => !left.Contains(g.Key)))
            yield return $"{what} {group.Key}: none <> {text(group.First())}";
    }

    /// <summary>A carried image is called by its name, and by a number where several share one.</summary>
    private static string KeyOf(Reference reference) =>
        $"{reference.Kind} {reference.Key.File} {(reference.Carried is null ? reference.Written : Unnumbered(reference.Written))}";

    private static string Unnumbered(string name) =>
        name.EndsWith(')') && name.LastIndexOf(" (", StringComparison.Ordinal) is > 0 and var at ? name[..at] : name;

    private static string Of(Reference reference) =>
        $"{(reference.Carried is null ? "called" : "carried")} "
        + $"{string.Join(", ", reference.UsedBy.Select(u => $"{u.Material}.{u.Input}").Distinct().Order(StringComparer.Ordinal))}";

    private static string Of(Mesh mesh) =>
        $"{mesh.Name} {mesh.Vertices} {mesh.Triangles} {string.Join(", ", mesh.Parts.Select(p => $"{p.Name}={p.Material}"))}";

    private static string Of(Material material) => $"{material.Name} {material.IsTemplate} {material.Template} {TextOf(material.Graph)}";

    /// <summary>A graph as what feeds each input, so that names of nodes do not matter.</summary>
    public static string TextOf(ShaderGraph graph)
    {
        if (graph.SurfaceNode is not { } surface)
            return "none";
        var text = new StringBuilder();
        var read = new HashSet<string>(StringComparer.Ordinal);
        Node(text, graph, surface, read, 0);
        // Nodes that reach nothing are part of the material too.
        foreach (var other in graph.Nodes.Where(n => !read.Contains(n.Name)).Select(n => Alone(graph, n)).Order(StringComparer.Ordinal))
            text.Append(" / ").Append(other);
        return text.ToString();
    }

    private static string Alone(ShaderGraph graph, ShaderNode node)
    {
        var text = new StringBuilder();
        Node(text, graph, node, new HashSet<string>(StringComparer.Ordinal), 0);
        return text.ToString();
    }

    private static void Node(StringBuilder text, ShaderGraph graph, ShaderNode node, HashSet<string> read, int depth)
    {
        read.Add(node.Name);
        text.Append(node.Type).Append(':').Append(node.Output.Word);
        if (node.Image is { } image)
            text.Append('[').Append(Of(image)).Append(']');
        text.Append('(');
        foreach (
            var input in node
                .Inputs.Where(i => i.Value is not null || i.From is not null || i.Dangling is not null)
                .OrderBy(i => i.Name, StringComparer.Ordinal)
        )
        {
            text.Append(input.Name).Append(':').Append(input.Type.Word).Append('=').Append(Of(input.Value)).Append(input.Dangling);
            if (input.From is { } from && graph.Node(from.Node) is { } source && depth < 64)
            {
                text.Append('<').Append(from.Output).Append(' ');
                Node(text, graph, source, read, depth + 1);
            }

            text.Append(' ');
        }

        text.Append(')');
    }

    private static string Of(ShaderValue? value) => value is null ? string.Empty : value.Text ?? Numbers(value.Numbers);

    private static string Numbers(IEnumerable<double> numbers) => string.Join(',', numbers.Select(Number));

    /// <summary>Degrees go through radians, scales through their inverse: the last digits may differ.</summary>
    private static string Number(double number) =>
        number.ToString("G" + Digits.ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture) is "-0"
            ? "0"
            : number.ToString("G" + Digits.ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);

    private static string Of(ImageUse i)
    {
        var (t, spaces) = (i.Transform, $"{i.DeclaredSpace} {i.EffectiveSpace}");
        var placed = $"{Numbers([t.OffsetU, t.OffsetV, t.Rotation, t.ScaleU, t.ScaleV])} {t.Order} {i.WrapU} {i.WrapV}";
        var values = $"{i.Channels.Word()} {Numbers(i.Scale)} {Numbers(i.Bias)} {Numbers(i.Default)}";
        return $"{i.Reference.File} {i.Reference.Written} {i.Slot} {i.UvSet} {placed} {spaces} {values}";
    }
}
