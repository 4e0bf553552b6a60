using System.Globalization;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>An index of 200,000 files, and 20,000 references resolved against it.</summary>
internal static class MusterBench
{
    private const int Folders = 2_000;
    private const int FilesInEach = 100;
    private const int References = 20_000;

    public static void Run(Place place)
    {
        var library = place.At("lib");
        for (var folder = 0; folder < Folders; folder++)
        {
            Directory.CreateDirectory(Folder(library, folder));
            for (var file = 0; file < FilesInEach; file++)
                File.WriteAllBytes(Path.Join(Folder(library, folder), Name(folder, file)), Pictures.Png(8, 8, (byte)file));
        }

        var scope = new RootScope([library]);
        double Find() => Measure.Best(() => Tool.Run("sh", ["-c", $"find '{library}' -type f -printf '%p %s %T@\\n' > /dev/null"]));
        // An index that cannot be asked is none: the lookup by name is part of it.
        TreeIndex Make(TreeIndex? known)
        {
            var made = TreeWalk.Make(library, scope, known).Index;
            _ = made.Named("none.png").Any();
            return made;
        }

        var find = Find();
        Measure.Print(
            $"index of {Folders * FilesInEach:N0} files, first time",
            Measure.Best(() => Make(null)),
            "find -printf '%p %s %T@'",
            find
        );
        var known = Make(null);
        var store = IndexStoreBench.Open();
        if (store is not null)
            Measure.Print(
                "first time, with writing it into PostgreSQL",
                Measure.Best(
                    () =>
                    {
                        var made = TreeWalk.Make(library, scope);
                        IndexStoreBench.Save(IndexStoreBench.Open()!, made.Index, made.Changed);
                    },
                    3
                ) - Measure.Best(() => IndexStoreBench.Open(), 3),
                "find -printf",
                find
            );
        if (store is not null)
            IndexStoreBench.Save(store, known, known.Listings);
        var random = new Random(7);
        for (var n = 0; n < Folders * FilesInEach / 100; n++)
        {
            var (folder, file) = (random.Next(Folders), random.Next(FilesInEach));
            File.WriteAllBytes(Path.Join(Folder(library, folder), Name(folder, file)), Pictures.Png(9, 9, (byte)n));
        }

        Measure.Print("second time, 1 % of the files written over in place", Measure.Best(() => Make(known)), "find -printf", find);
        if (store is not null)
        {
            var clock = System.Diagnostics.Stopwatch.StartNew();
            var (index, changed) = TreeWalk.Make(library, scope, known);
            IndexStoreBench.Save(store, index, changed);
            Measure.Print(
                $"second time, with writing the {changed.Length:N0} folders that hold a changed file",
                clock.Elapsed.TotalMilliseconds,
                "find -printf",
                find
            );
            Measure.Print(
                "reading it back from PostgreSQL",
                Measure.Best(() => store.Load(library, CancellationToken.None).GetAwaiter().GetResult(), 3),
                "find -printf",
                find
            );
        }

        Measure.Print(
            "the times of folders alone",
            Measure.Best(() => TreeWalk.Make(library, scope, known, Refresh.Folders)),
            "find -printf",
            find
        );

        WholeProcess(place, library);
        Resolve(place, library, Make(known));
        Probe(library);
    }

    /// <summary>The command line on an OBJ of 20,000 materials whose maps moved, from its start to the last byte of JSON.</summary>
    private static void WholeProcess(Place place, string library)
    {
        var (obj, mtl) = (new StringBuilder("mtllib s.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\n"), new StringBuilder());
        for (var i = 0; i < References; i++)
        {
            var (folder, file) = (i % Folders, i / Folders);
            var map = $"D:/jobs/2231/tex/{Path.GetFileName(Folder(library, folder))}/{Name(folder, file)}";
            mtl.Append(CultureInfo.InvariantCulture, $"newmtl m{i}\nKd 0.8 0.8 0.8\nmap_Kd {map}\n");
            obj.Append(CultureInfo.InvariantCulture, $"g p{i}\nusemtl m{i}\nf 1 2 3\n");
        }

        place.Put("whole/s.mtl", mtl.ToString());
        var scene = place.Put("whole/s.obj", obj.ToString());
        Measure.Compare(
            $"muster of {References:N0} moved references, whole process, JSON out",
            () => Tool.RootCall("muster", scene, "--root", library, "--format", "json"),
            "find -printf '%p %s %T@'",
            () => Tool.Run("sh", ["-c", $"find '{library}' -type f -printf '%p %s %T@\n' > /dev/null"])
        );
    }

    private static void Probe(string library)
    {
        string[] images =
        [
            .. Enumerable
                .Range(0, 50)
                .SelectMany(f => Enumerable.Range(0, FilesInEach).Select(n => Path.Join(Folder(library, f), Name(f, n)))),
        ];
        Measure.Compare(
            $"probing {images.Length:N0} image headers",
            () => Array.ForEach(images, i => ImageProbe.File(i)),
            "identify -ping",
            () => Tool.Run("identify", ["-ping", .. images])
        );
    }

    private static void Resolve(Place place, string library, TreeIndex index)
    {
        string Uri(int i)
        {
            var (folder, file) = (i / 10 % Folders, i % 10);
            return i % 2 == 0
                ? $"{Folder(library, folder)}/{Name(folder, file)}"
                : $"D:/jobs/{folder / 50}/tex/{folder}/{Name(folder, file)}";
        }

        var scene = place.Put("scene/rows.gltf", Look.Gltf([.. Enumerable.Range(0, References).Select(Uri)]));
        var read = Look.Read(scene, library);
        var scope = CurrentScene.Scope(scene, [library]);
        MusterReport? report = null;
        void Act()
        {
            report = Core.Muster.Mustering.Run(read, new(scope, new([index]), new()));
            _ = RelocationRules.Infer(report.References).Length;
        }

        var best = Measure.Best(Act);
        var before = GC.GetTotalAllocatedBytes(precise: true);
        Act();
        var allocated = GC.GetTotalAllocatedBytes(precise: true) - before;
        Measure.Print(
            $"resolving {References:N0} references, {report!.References.Count(r => r.State == ReferenceState.Elsewhere):N0} "
                + $"of them moved, with rules",
            best,
            "a second",
            1000
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"             allocated {allocated / 1e6:0} MB; {RelocationRules.Infer(report.References).Length} rules"
            )
        );
    }

    private static string Folder(string library, int folder) => Path.Join(library, $"job_{folder / 50:00}", $"{folder}");

    private static string Name(int folder, int file) => $"panel_{folder:0000}_{(char)('a' + (file % 26))}{file:00}_basecolor_2k.png";
}
