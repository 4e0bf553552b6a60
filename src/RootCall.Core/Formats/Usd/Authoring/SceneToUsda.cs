using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Formats.Usd.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd.Authoring;

/// <summary>
/// Writes a scene of any format as a text layer of USD whose meshes name their materials; what those look like is said afterwards, as in
/// any scene of USD. Polygons stay as they are, and so do units and axes, which the stage declares. A mesh that stands several times
/// is written once and referenced. Gives up: lights, animation, instancers.
/// </summary>
public static class SceneToUsda
{
    /// <param name="isCarried">A material whose look is written afterwards; any other is a material without one.</param>
    /// <param name="isGltf">V of its UV sets grows downwards.</param>
    /// <exception cref="Files.CannotUseException">A mesh cannot be read.</exception>
    public static BareScene Write(
        Scene scene,
        IGeometrySource source,
        Func<int, bool> isCarried,
        bool isGltf,
        Stream output,
        CancellationToken stop
    )
    {
        using var writer = new StreamWriter(output, new UTF8Encoding(false), 1 << 16, leaveOpen: true);
        return new Stage(scene, source, new(writer), isGltf, stop).Write(isCarried);
    }

    private sealed class Stage
    {
        private readonly Scene scene;
        private readonly IGeometrySource source;
        private readonly UsdaText text;
        private readonly bool isGltf;
        private readonly CancellationToken stop;
        private readonly string root;
        private readonly ImmutableArray<string> materials;
        private readonly MaterialPlaces places;
        private readonly Dictionary<int, string> shared = [];
        private readonly ILookup<int, int> children;
        private readonly ILookup<int, SceneCamera> cameras;
        private readonly SortedSet<string> told = new(StringComparer.Ordinal);
        private readonly Dictionary<(int Material, string Set), string> sets = [];

        public Stage(Scene scene, IGeometrySource source, UsdaText text, bool isGltf, CancellationToken stop)
        {
            (this.scene, this.source, this.text, this.isGltf, this.stop) = (scene, source, text, isGltf, stop);
            var (looks, meshes) = (new HashSet<string>(), new HashSet<string>());
            root = Name(Path.GetFileNameWithoutExtension(scene.Path), "scene", []);
            materials = [.. scene.Materials.Select(m => $"/{root}/Looks/{Name(m.Name, "material", looks)}")];
            places = new(scene);
            children = Enumerable.Range(0, scene.Nodes.Length).ToLookup(i => scene.Nodes[i].Parent);
            cameras = scene.Cameras.ToLookup(c => c.Node);
            foreach (var mesh in scene.Nodes.Where(n => n.Mesh >= 0).GroupBy(n => n.Mesh).Where(g => g.Skip(1).Any()).Select(g => g.Key))
                shared[mesh] = Name(scene.Meshes[mesh].Name, "mesh", meshes);
        }

        public BareScene Write(Func<int, bool> isCarried)
        {
            text.Line("#usda 1.0");
            text.Line("(");
            text.Line($"    defaultPrim = \"{root}\"");
            text.Line($"    metersPerUnit = {NumberText.Of(scene.MetresPerUnit ?? 1)}");
            // A stage has Y or Z up; what has X up is turned by the prim above all.
            text.Line($"    upAxis = \"{(IsTurned ? "Y" : scene.UpAxis ?? "Y")}\"");
            text.Line(")");
            text.Prim($"def Xform \"{root}\"", () =>
            {
                if (IsTurned)
                    Place(Transforms.Upright(scene.UpAxis));
                HashSet<string> names = ["Looks"];
                foreach (var node in children[-1])
                    Node(node, names, 0);
                text.Prim("def Scope \"Looks\"", () =>
                {
                    foreach (var (path, place) in materials.Select((m, i) => (m, i)))
                        if (!isCarried(place))
                            text.Prim($"def Material \"{path[(path.LastIndexOf('/') + 1)..]}\"", () => { });
                });
            });
            // Not shown itself: what stands several times refers to it.
            if (shared.Count > 0)
                text.Prim("class \"Meshes\"", () =>
                {
                    foreach (var (mesh, name) in shared.OrderBy(s => s.Value, StringComparer.Ordinal))
                        text.Prim($"def Mesh \"{name}\"", () => Geometry(mesh));
                });
            return new([.. told], sets, UsdaMesh.SetName(0), materials);
        }

        private bool IsTurned => scene.UpAxis is not (null or "Y" or "Z");

        /// <summary>Scenes nest as deep as their readers let them; a stage is written no deeper.</summary>
        private const int Deepest = 180;

        private void Node(int index, HashSet<string> among, int depth)
        {
            stop.ThrowIfCancellationRequested();
            var node = scene.Nodes[index];
            if (depth > Deepest)
                throw new Files.CannotUseException($"Nodes lie more than {Deepest} deep; “{node.Name}” is one of them.");
            var name = Name(node.Name, "node", among);
            text.Prim(
                $"def Xform \"{name}\"",
                () =>
                {
                    if (!node.Transform.IsEmpty)
                        Place([.. node.Transform]);
                    var names = new HashSet<string>();
                    if (node.Mesh >= 0)
                        Mesh(node.Mesh, names);
                    foreach (var camera in cameras[index])
                        Camera(camera, names);
                    foreach (var child in children[index])
                        Node(child, names, depth + 1);
                },
                name == node.Name || node.Name.Length == 0 ? [] : [$"displayName = {UsdSpelling.Quoted(node.Name)}"]
            );
        }

        /// <summary>Apertures and focal lengths are tenths of the scene's unit (OpenUSD, “UsdGeomCamera”).</summary>
        private void Camera(SceneCamera camera, HashSet<string> among) =>
            text.Prim($"def Camera \"{Name(camera.Name, "camera", among)}\"", () =>
            {
                const double Focal = 50,
                    Usual = 1.5;
                var tall = camera.Half * 2 * (camera.IsParallel ? 10 : Focal);
                text.Line($"token projection = \"{(camera.IsParallel ? "orthographic" : "perspective")}\"");
                text.Line($"float focalLength = {NumberText.Of(Focal)}");
                text.Line($"float horizontalAperture = {NumberText.Of(tall * (camera.Aspect ?? Usual))}");
                text.Line($"float verticalAperture = {NumberText.Of(tall)}");
            });

        /// <summary>Rows are multiplied from the left, as here (OpenUSD, “GfMatrix4d”).</summary>
        private void Place(IReadOnlyList<double> m)
        {
            var rows = Enumerable.Range(0, 4).Select(r => $"({NumberText.Join(", ", m.Skip(r * 4).Take(4))})");
            text.Line($"matrix4d xformOp:transform = ( {string.Join(", ", rows)} )");
            text.Line("uniform token[] xformOpOrder = [\"xformOp:transform\"]");
        }

        private void Mesh(int index, HashSet<string> among)
        {
            var mesh = scene.Meshes[index];
            var name = Name(mesh.Name, "mesh", among);
            var whole = mesh.Parts.Length == 1 ? MaterialOf(mesh.Parts[0]) : -1;
            List<string> metadata = [];
            if (whole >= 0)
                metadata.Add("prepend apiSchemas = [\"MaterialBindingAPI\"]");
            if (shared.TryGetValue(index, out var once))
                metadata.Add($"prepend references = </Meshes/{once}>");
            text.Prim(
                $"def Mesh \"{name}\"",
                () =>
                {
                    if (once is null)
                        Geometry(index);
                    if (whole >= 0)
                        Bound(whole);
                    if (once is not null && mesh.Parts.Length > 1)
                        Parts(mesh);
                },
                metadata
            );
        }

        private void Geometry(int index)
        {
            var (mesh, geometry) = (scene.Meshes[index], source.Read(index, stop));
            foreach (var note in geometry.Notes)
                told.Add($"“{mesh.Name}”: {note}");
            if (geometry.Stream(GeometryUse.Colour) is not null)
                told.Add("Vertex colours are kept as displayColor, which materials do not multiply by.");
            foreach (var part in mesh.Parts)
            foreach (var (set, number) in geometry.Streams.Where(s => s.Use == GeometryUse.Uv).Select((s, i) => (s.Name, i)))
                sets.TryAdd((MaterialOf(part), set), UsdaMesh.SetName(number));
            new UsdaMesh(geometry, isGltf).Write(text);
            if (mesh.Parts.Length < 2)
                return;
            var faces = Enumerable.Range(0, geometry.FaceCount).ToLookup(geometry.PartOf);
            foreach (var (name, part) in PartNames(mesh))
            {
                var worn = shared.ContainsKey(index) ? -1 : MaterialOf(mesh.Parts[part]);
                text.Prim(
                    $"def GeomSubset \"{name}\"",
                    () =>
                    {
                        int[] own = [.. faces[part]];
                        text.Line("uniform token elementType = \"face\"");
                        text.Line("uniform token familyName = \"materialBind\"");
                        text.Whole("int[] indices", own.Length, i => own[i]);
                        if (worn >= 0)
                            Bound(worn);
                    },
                    Binding(worn >= 0)
                );
            }
        }

        /// <summary>Who wears a shared mesh says what its parts wear: a reference reaches nothing outside of what it refers to.</summary>
        private void Parts(Mesh mesh)
        {
            foreach (var (name, part) in PartNames(mesh))
                if (MaterialOf(mesh.Parts[part]) is >= 0 and var worn)
                    text.Prim($"over \"{name}\"", () => Bound(worn), Binding(true));
        }

        private static IReadOnlyList<string> Binding(bool isBound) => isBound ? ["prepend apiSchemas = [\"MaterialBindingAPI\"]"] : [];

        private static IEnumerable<(string Name, int Part)> PartNames(Mesh mesh)
        {
            var names = new HashSet<string>();
            return [.. mesh.Parts.Select((p, i) => (Name(p.Name, "part", names), i))];
        }

        /// <summary>The name that comes nearest and is free among its siblings, which is then taken.</summary>
        private static string Name(string name, string otherwise, HashSet<string> among) =>
            StandardNames.Unique(name.Length > 0 ? name : otherwise, among);

        private void Bound(int material) => text.Line($"rel material:binding = <{materials[material]}>");

        private int MaterialOf(MeshPart part) => places.Of(part);
    }
}
