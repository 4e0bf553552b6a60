using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Fbx;

/// <summary>FBX, binary and text. It is read, never written: what is changed goes out as glTF.</summary>
public sealed class FbxFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".fbx"];

    public FormatCapabilities Capabilities { get; } =
        new() { Name = "FBX", ReadOnlyBecause = "FBX is read and not written; what is changed goes out as glTF" };

    public Scene Read(string path, ReadContext context) => new FbxReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths) =>
        throw new CannotUseException($"{Capabilities.ReadOnlyBecause}.");

    public OwnChanges Changes(Scene before, Scene now) => throw new CannotUseException($"{Capabilities.ReadOnlyBecause}.");

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder) =>
        new FbxShapes(FbxReader.Open(scene.Path, context.Bounds), scene, context.Bounds);

    public Stream OpenCarried(CarriedData carried)
    {
        using var stream = RegularFile.Open(carried.File);
        var (start, length) = carried.DataUri is { } site ? (site.Start, site.Length) : (carried.Start, carried.Length);
        if (start + length > stream.Length)
            throw new CannotUseException(Invariant($"The data at byte {start:N0} is cut off by the end of the file."));
        var bytes = new byte[length];
        stream.Position = start;
        stream.ReadExactly(bytes);
        if (carried.DataUri is null)
            return new MemoryStream(bytes);
        try
        {
            return new MemoryStream(Convert.FromBase64String(System.Text.Encoding.ASCII.GetString(bytes)));
        }
        catch (FormatException e)
        {
            throw new CannotUseException(Invariant($"The data at byte {start:N0} is not valid base64."), e);
        }
    }
}
