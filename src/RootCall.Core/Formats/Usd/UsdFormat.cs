using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Usd.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd;

/// <summary>USD: text layers, crates and packages, composed.</summary>
public sealed class UsdFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".usda", ".usdc", ".usd", ".usdz"];

    public Scene Read(string path, ReadContext context) => new UsdSceneReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths)
    {
        var edits = ImmutableArray.CreateBuilder<ByteEdit>();
        using var stream = scene.Files[file].Open();
        foreach (var (site, path) in paths)
        {
            var anchored = UsdShape.Anchored(path);
            // A path that holds an at sign needs three of them around it (USD text syntax).
            var wide = anchored.Contains('@', StringComparison.Ordinal) && !IsWide(stream, site.Start);
            edits.Add(new(site.Start, site.Length, Encoding.UTF8.GetBytes(wide ? $"@@{anchored}@@" : anchored)));
        }

        return edits.DrainToImmutable();
    }

    public FormatCapabilities Capabilities { get; } =
        new()
        {
            Name = "USD",
            Refused = new Dictionary<SceneAct, string>
            {
                [SceneAct.RenameMaterial] =
                    "A name in USD is part of every path that leads through it; it is changed where the layers are made.",
                [SceneAct.RenameMesh] =
                    "A name in USD is part of every path that leads through it; it is changed where the layers are made.",
                [SceneAct.RenameNode] =
                    "A name in USD is part of every path that leads through it; it is changed where the layers are made.",
                [SceneAct.CopyMaterial] = "A material of USD may be spread over layers; it is copied where the layers are made.",
                [SceneAct.Carry] = "A layer of USD carries no images inside.",
                [SceneAct.MakeLibrary] = "A scene of USD holds its materials itself.",
            }.ToFrozenDictionary(),
            Spaces = SpaceTags.Any,
            Wraps = [WrapMode.Repeat, WrapMode.Mirror, WrapMode.Clamp, WrapMode.Black, WrapMode.FromFile],
            References = ReferenceLife.Written,
            Shape = new UsdShape(),
            Maker = new UsdMaker(),
            AssignsById = true,
            PartsKeepTheirs = true,
            Written = UsdShape.Anchored,
        };

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder) => new UsdGeometry(scene, context);

    public OwnChanges Changes(Scene before, Scene now) => new UsdWriter(before, now).Write();

    public Stream OpenCarried(CarriedData carried)
    {
        using var stream = RegularFile.Open(carried.File);
        if (carried.Start + carried.Length > stream.Length)
            throw new CannotUseException(Invariant($"The data at byte {carried.Start:N0} is cut off by the end of the archive."));
        var bytes = new byte[carried.Length];
        stream.Position = carried.Start;
        stream.ReadExactly(bytes);
        return new MemoryStream(bytes);
    }

    private static bool IsWide(FileStream stream, long start)
    {
        if (start < 3)
            return false;
        stream.Position = start - 3;
        Span<byte> before = stackalloc byte[3];
        return stream.ReadAtLeast(before, 3, throwOnEndOfStream: false) == 3 && before.SequenceEqual("@@@"u8);
    }
}
