using System.Collections.Immutable;
using RootCall.Core.Shading;

namespace RootCall.Core.Scenes;

/// <summary>When a format's reference is gone from its files.</summary>
public enum ReferenceLife
{
    /// <summary>The files list images apart from what reads them: a reference stays when nothing reads it any more.</summary>
    Listed,

    /// <summary>A statement calls the image and feeds the input at once: without a use there is no reference.</summary>
    Used,

    /// <summary>A node writes the path: the reference stays as long as a node does, read or not.</summary>
    Written,
}

/// <summary>
/// A scene while edits are made to it. What is not touched is shared with the scene before; references, their uses and
/// the counts follow from what was touched, once, when the scene is built.
/// </summary>
public sealed class SceneDraft
{
    /// <summary>A place that comes into being when the scene is written.</summary>
    private static readonly ReferenceSite ToBe = new(-1, -1, 0, SiteNotation.Plain);

    private ImmutableArray<Material>.Builder? own;
    private List<int>? cameFrom;
    private readonly Dictionary<ReferenceKey, ReferenceKey> renamedKeys = [];
    private readonly Dictionary<ReferenceKey, int> writers = [];
    private readonly Dictionary<ReferenceKey, Reference> put = [];
    private readonly Dictionary<(ReferenceKey Key, string Property), bool> properties = [];
    private readonly List<(string From, string To)> renamedMaterials = [];
    private Dictionary<string, int>? places;
    private ILookup<string, int>? readers;
    private readonly Dictionary<string, string> claims = new(StringComparer.Ordinal);
    private Scene? whole;
    private bool renamed;
    private bool regrouped;

    public SceneDraft(Scene before)
        : this(new SceneIndex(before)) { }

    /// <param name="index">Of the scene before; drafts of one scene may share it.</param>
    public SceneDraft(SceneIndex index)
    {
        Index = index;
        Before = index.Scene;
        (Meshes, Nodes, Variants, Files, Answers) = (Before.Meshes, Before.Nodes, Before.Variants, Before.Files, Before.Answers);
        Instances = Before.Instances;
    }

    public Scene Before { get; }

    /// <summary>Where things of <see cref="Before"/> are found.</summary>
    public SceneIndex Index { get; }

    public FormatInfo Format => Before.Format;

    public IReadOnlyList<Material> Materials => own is null ? Index.Materials : own;

    private ImmutableArray<Material>.Builder Own => own ??= Before.Materials.ToBuilder();

    private List<int> CameFrom => cameFrom ??= [.. Enumerable.Range(0, Before.Materials.Length)];

    public ImmutableArray<Mesh> Meshes { get; set; }

    public ImmutableArray<SceneNode> Nodes { get; set; }

    public ImmutableArray<VariantChoice> Variants { get; set; }

    public ImmutableArray<string> Instances { get; set; }

    public ImmutableArray<SourceFile> Files { get; set; }

    public ImmutableDictionary<ReferenceKey, Answer> Answers { get; set; }

    /// <summary>
    /// What was changed reaches further than can be told without the files (what inherits from a template, what another
    /// variant brings): the scene must be read again from what is written.
    /// </summary>
    public bool Ripples { get; set; }

    /// <summary>
    /// Place of the material of that name, or id where names are shared; one that can be shown before a template. -1
    /// for none.
    /// </summary>
    public int Find(string material) => (renamed ? places ??= SceneIndex.Names(Materials) : Index.Places).GetValueOrDefault(material, -1);

    /// <summary>Places of the materials whose graph has the node of that name.</summary>
    public IEnumerable<int> With(string node) =>
        (regrouped ? readers ??= SceneIndex.NodesOf(Materials) : Index.Readers)[node].Where(i => Materials[i].Graph.Node(node) is not null);

    /// <param name="sharers">
    /// Places of all materials that the same change of shared nodes is put for, this one among them; it counts once, with the last.
    /// </param>
    public void Put(int place, Material material, params IReadOnlyList<int> sharers)
    {
        var old = Materials[place];
        if (old.Name != material.Name || old.Id != material.Id)
            (renamed, places) = (true, null);
        if (old.Name != material.Name)
            renamedMaterials.Add((old.Name, material.Name));
        Own[place] = material;
        if (ReferenceEquals(old.Graph, material.Graph))
            return;
        // Nodes that go are passed over when they are asked for.
        if (material.Graph.Nodes.Any(n => old.Graph.Node(n.Name) is null))
            (regrouped, readers) = (true, null);
        if (sharers.Count == 0 || sharers[^1] == place)
            Count(sharers.Count == 0 ? [place] : sharers, old.Graph, material.Graph);
    }

    /// <summary>Which paths are written more often now, and which less.</summary>
    private void Count(IReadOnlyList<int> places, ShaderGraph old, ShaderGraph now)
    {
        void Write(ReferenceKey key, int more) => writers[key] = writers.GetValueOrDefault(key) + more;
        foreach (var node in old.Nodes)
        {
            if (node.Image is not { } image)
                continue;
            if (now.Node(node.Name)?.Image is { } other)
            {
                if (other.Reference == image.Reference)
                    continue;
                // What passes a path on to a node goes on writing it when the node has one of its own.
                if (!node.Inputs.Any(i => i.Type == InputType.FileName && i.IsPassedOn))
                    Write(image.Reference, -1);
                Write(other.Reference, 1);
            }
            else if ((node.IsMade || node.Read is not null) && !IsElsewhere(places, node.Name))
            {
                // A node that leaves the graph stays in its file as it was.
                Write(image.Reference, -1);
                if (node.Read is { } was)
                    Write(was, 1);
            }
        }

        foreach (var node in now.Nodes)
        {
            if (
                node.Image is not { } image
                || !(node.IsMade || node.Read is not null)
                || old.Node(node.Name) is not null
                || IsElsewhere(places, node.Name)
            )
                continue;
            Write(image.Reference, 1);
            if (node.Read is { } was)
                Write(was, -1);
        }
    }

    private bool IsElsewhere(IReadOnlyList<int> places, string node) => With(node).Any(i => !places.Contains(i));

    public void Add(Material material)
    {
        Regroup();
        Own.Add(material);
        CameFrom.Add(-1);
    }

    public void RemoveAt(int place)
    {
        Count([place], Materials[place].Graph, ShaderGraph.Empty);
        Regroup();
        Own.RemoveAt(place);
        CameFrom.RemoveAt(place);
    }

    private void Regroup() => (renamed, places, regrouped, readers) = (true, null, true, null);

    /// <summary>A property of the composed scene gives the path, or gives it no longer.</summary>
    public void Give(ReferenceKey key, string property, bool gives) => properties[(key, property)] = gives;

    /// <summary>Puts a reference in place of another one, and everything that reads that one reads it.</summary>
    public void Replace(ReferenceKey old, Reference reference)
    {
        renamedKeys[old] = reference.Key;
        put[reference.Key] = reference with { Arrived = Arrived(old) };
        for (var i = 0; i < Materials.Count; i++)
            if (Materials[i].Graph.Nodes.Any(n => n.Image?.Reference == old) || Materials[i].Others.Any(o => o.Image == old))
                Own[i] = Materials[i] with
                {
                    Graph = Rekeyed(Materials[i].Graph, old, reference.Key),
                    Others = [.. Materials[i].Others.Select(o => o.Image == old ? o with { Image = reference.Key } : o)],
                };
    }

    /// <summary>The key that the files know a reference by; null for one that an edit brought in.</summary>
    private ReferenceKey? Arrived(ReferenceKey key) =>
        Before.References.FirstOrDefault(r => r.Key == key) is not { } there ? null : there.Arrived ?? (IsInFiles(there) ? key : null);

    private bool IsInFiles(Reference reference) =>
        reference.Carried is { } carried
            ? carried.File.Length == 0 || Before.Files.Any(f => f.Path == carried.File || f.Edited == carried.File)
            : reference.Sites.Any(s => s.File >= 0) || reference.Properties.Length > 0;

    /// <summary>Adds a reference that nothing reads.</summary>
    public void Put(Reference reference) => put[reference.Key] = reference;

    /// <summary>What edits say of a reference from now on.</summary>
    public void SetAnswer(ReferenceKey key, Func<Answer, Answer> change)
    {
        var answer = change(Answers.GetValueOrDefault(key) ?? new());
        Answers = answer.IsEmpty ? Answers.Remove(key) : Answers.SetItem(key, answer);
    }

    /// <summary>The scene is another one as a whole; nothing else is changed in the same draft afterwards.</summary>
    public void Become(Scene scene) => whole = scene;

    /// <summary>Says that something will be so when the draft is built.</summary>
    /// <returns>False when somebody said that it will be otherwise.</returns>
    public bool Claim(string what, string value) => claims.TryAdd(what, value) || claims[what] == value;

    public Scene Build(ReferenceLife life)
    {
        if (whole is not null)
            return whole;
        var touched = own is null
            ? []
            : Enumerable
                .Range(0, own.Count)
                .Where(i => WasAt(i) is var was && (was < 0 || !ReferenceEquals(own[i], Before.Materials[was])))
                .ToList();
        var gone = cameFrom is not null && cameFrom.Count(c => c >= 0) < Before.Materials.Length;
        var references =
            !gone
            && put.Count == 0
            && writers.Count == 0
            && properties.Count == 0
            && renamedMaterials.Count == 0
            && touched.All(ReadsTheSame)
                ? Before.References
                : References(touched, life);
        if (
            references == Before.References
            && touched.Count == 0
            && !gone
            && Meshes == Before.Meshes
            && Nodes == Before.Nodes
            && Variants == Before.Variants
            && Instances == Before.Instances
            && Files == Before.Files
            && Answers == Before.Answers
        )
            return Before;
        var all = touched.Count == 0 && !gone ? Before.Materials : Own.ToImmutable();
        return Before with
        {
            Materials = all,
            Meshes = Meshes,
            Nodes = Nodes,
            Variants = Variants,
            Instances = Instances,
            Files = Files,
            Answers = Answers,
            References = references,
            Counts = Before.Counts with
            {
                Nodes = Before.Counts.Nodes + Nodes.Length - Before.Nodes.Length,
                Meshes = Before.Counts.Meshes + Meshes.Length - Before.Meshes.Length,
                Triangles = Before.Counts.Triangles + Meshes.Skip(Before.Meshes.Length).Sum(m => m.Triangles),
                Materials = Before.Counts.Materials + all.Count(m => !m.IsTemplate) - Before.Materials.Count(m => !m.IsTemplate),
                Images = Before.Counts.Images + Images(references) - Images(Before.References),
            },
        };
    }

    /// <summary>The index of the scene that was built; the one there was where names and nodes are as they were.</summary>
    public SceneIndex IndexOf(Scene built) =>
        ReferenceEquals(built, Before) ? Index
        : whole is not null || renamed || regrouped ? new(built)
        : new(built, Index);

    internal int WasAt(int place) => cameFrom is null ? place : cameFrom[place];

    /// <summary>The material there was calls for the same images in the same places.</summary>
    private bool ReadsTheSame(int place) =>
        WasAt(place) is >= 0 and var was && Before.Materials[was].Uses().SequenceEqual(Materials[place].Uses());

    private static int Images(ImmutableArray<Reference> references) => references.Count(r => r.Kind == ReferenceKind.Image);

    private static ShaderGraph Rekeyed(ShaderGraph graph, ReferenceKey old, ReferenceKey key) =>
        graph with
        {
            Nodes =
            [
                .. graph.Nodes.Select(n =>
                    n.Image?.Reference != old
                        ? n
                        : n with
                        {
                            Image = n.Image with { Reference = key },
                            Inputs =
                            [
                                .. n.Inputs.Select(i =>
                                    i.Type == InputType.FileName && i.Value is not null
                                        ? i with
                                        {
                                            Value = ShaderValue.OfText(key.Written),
                                        }
                                        : i
                                ),
                            ],
                        }
                ),
            ],
        };

    private ImmutableArray<Reference> References(List<int> touched, ReferenceLife life)
    {
        var stale = new HashSet<ReferenceUse>();
        var now = new Dictionary<ReferenceKey, List<ReferenceUse>>();
        var staying = cameFrom?.ToHashSet();
        foreach (
            var before in touched
                .Select(WasAt)
                .Concat(staying is null ? [] : Enumerable.Range(0, Before.Materials.Length).Where(i => !staying.Contains(i)))
        )
            if (before >= 0)
                stale.UnionWith(Before.Materials[before].Uses().Select(u => u.Use));
        foreach (var (key, use) in touched.SelectMany(i => Materials[i].Uses()))
        {
            if (!now.TryGetValue(key, out var uses))
                now[key] = uses = [];
            if (!uses.Contains(use))
                uses.Add(use);
        }

        // Materials may share a name: what another one of that name still reads stays.
        var names = stale.Select(s => s.Material).ToHashSet(StringComparer.Ordinal);
        var twins = Enumerable
            .Range(0, Materials.Count)
            .Except(touched)
            .Where(i => names.Contains(Materials[i].Name))
            .SelectMany(i => Materials[i].Uses())
            .ToHashSet();
        var result = ImmutableArray.CreateBuilder<Reference>(Before.References.Length + put.Count);
        var there = new Dictionary<ReferenceKey, int>();
        void Keep(Reference reference)
        {
            if (there.TryGetValue(reference.Key, out var at))
                result[at] = result[at] with { UsedBy = [.. result[at].UsedBy.Union(reference.UsedBy)] };
            else
            {
                there[reference.Key] = result.Count;
                result.Add(reference);
            }
        }

        foreach (var old in Before.References)
        {
            var reference =
                renamedKeys.TryGetValue(old.Key, out var newKey) && put.Remove(newKey, out var replacement)
                    ? replacement with
                    {
                        Number = old.Number,
                        UsedBy = old.UsedBy,
                    }
                : renamedKeys.ContainsKey(old.Key) ? old with { Key = newKey }
                : old;
            var uses = Renamed(reference.UsedBy).Where(u => !stale.Contains(u) || twins.Contains((reference.Key, u))).ToImmutableArray();
            if (now.Remove(reference.Key, out var added))
                uses = [.. uses.Union(added)];
            if (!uses.SequenceEqual(reference.UsedBy))
                reference = reference with { UsedBy = uses };
            if (!Given(ref reference, life))
                continue;
            Keep(reference);
        }

        foreach (var reference in put.Values.Where(r => !there.ContainsKey(r.Key) || !renamedKeys.ContainsValue(r.Key)).ToList())
        {
            now.Remove(reference.Key, out var uses);
            Keep(reference with { UsedBy = uses is null ? reference.UsedBy : [.. reference.UsedBy.Union(uses)] });
        }

        foreach (
            var key in writers
                .Where(w => w.Value > 0 && life == ReferenceLife.Written)
                .Select(w => w.Key)
                .Where(k => !there.ContainsKey(k) && !now.ContainsKey(k))
        )
            Keep(New(key));
        foreach (var (key, uses) in now)
            Keep(New(key) with { UsedBy = [.. uses] });
        var last = result.Count == 0 ? 0 : result.Max(r => r.Number);
        for (var i = 0; i < result.Count; i++)
        {
            var reference = result[i];
            var more = properties
                .Where(p => p.Value && p.Key.Key == reference.Key && !reference.Properties.Contains(p.Key.Property))
                .Select(p => p.Key.Property)
                .ToList();
            if (more.Count > 0)
                reference = reference with { Properties = reference.Properties.AddRange(more) };
            if (life == ReferenceLife.Written && writers.GetValueOrDefault(reference.Key) is > 0 and var places)
                reference = reference with { Sites = reference.Sites.AddRange(Enumerable.Repeat(ToBe, places)) };
            // What is there keeps its number, so that what people picked stays what they picked.
            result[i] = reference.Number > 0 ? reference : reference with { Number = ++last };
        }

        return result.ToImmutable();
    }

    /// <summary>A reference that comes into being.</summary>
    public Reference New(ReferenceKey key) =>
        new(0, key, key.Written, Path.GetDirectoryName(Path.GetFullPath(key.File, Before.Folder))!, [], []);

    private IEnumerable<ReferenceUse> Renamed(IEnumerable<ReferenceUse> uses) =>
        renamedMaterials.Count == 0
            ? uses
            : uses.Select(u =>
                renamedMaterials.Aggregate(u, (use, r) =>
                    use.Material == r.From && !Materials.Any(m => m.Name == r.From) ? use with { Material = r.To } : use
                )
            );

    /// <summary>False when nothing in the files gives the path any more.</summary>
    private bool Given(ref Reference reference, ReferenceLife life)
    {
        var key = reference.Key;
        if (reference.Kind != ReferenceKind.Image)
            return true;
        // What an edit brought in is written only while something reads it.
        if (life == ReferenceLife.Listed)
            return reference.UsedBy.Length > 0 || reference.Arrived is not null || IsInFiles(reference);
        if (life == ReferenceLife.Used)
            return reference.UsedBy.Length > 0;
        var taken = properties.Where(p => !p.Value && p.Key.Key == key).Select(p => p.Key.Property).ToHashSet(StringComparer.Ordinal);
        if (taken.Count > 0)
        {
            reference = reference with { Properties = [.. reference.Properties.Where(p => !taken.Contains(p))] };
            return reference.Properties.Length > 0 || properties.Any(p => p.Value && p.Key.Key == key);
        }

        if (reference.Carried is not null)
            return true;
        var more = writers.GetValueOrDefault(key);
        if (more < 0)
            reference = reference with { Sites = reference.Sites[..Math.Max(0, reference.Sites.Length + more)] };
        return more >= 0 || reference.Sites.Length > 0;
    }
}
