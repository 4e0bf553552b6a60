using RootCall.Core.Files;

namespace RootCall.Core.Formats.Fbx;

/// <summary>An object with its identity: a number from 7.0 on, before that its name.</summary>
public sealed record FbxObject(string Id, string Name, string Class, FbxNode Node)
{
    private Dictionary<string, FbxNode>? values;

    /// <summary>The object's own properties by name, each a record whose values follow its type and flags.</summary>
    public IReadOnlyDictionary<string, FbxNode> Values
    {
        get
        {
            if (values is not null)
                return values;
            var list = Node.Child("Properties70")?.All("P") ?? Node.Child("Properties60")?.All("Property") ?? [];
            return values = list.DistinctBy(p => p.Text(0)).ToDictionary(p => p.Text(0), StringComparer.Ordinal);
        }
    }

    /// <summary>The numbers of a property, from 7.0 on behind four descriptive texts, before that behind three.</summary>
    public double[] Numbers(string property) => Values.TryGetValue(property, out var p) ? NumbersOf(p) : [];

    public static double[] NumbersOf(FbxNode property) =>
        [.. property.Properties.Skip(property.Name == "P" ? 4 : 3).Where(v => v is FbxInteger or FbxReal).Select(v => v.AsNumber)];

    public static string TextOf(FbxNode property) => property.Text(property.Name == "P" ? 4 : 3);
}

/// <summary>A connection: the source belongs to the destination, or feeds one of its properties.</summary>
/// <param name="Property">The property's name for a connection from object to property; empty otherwise.</param>
public sealed record FbxConnection(string Source, string Destination, string Property);

/// <summary>The objects of a file and how they are connected.</summary>
public sealed class FbxDocument
{
    private readonly ILookup<string, FbxConnection> byDestination;

    private FbxDocument(FbxNode root, uint version, IReadOnlyList<string> errors)
    {
        Root = root;
        Version = version;
        Errors = errors;
        Objects = (root.Child("Objects")?.Children ?? [])
            .Select(Object)
            .Where(o => o is not null)
            .Select(o => o!)
            .DistinctBy(o => o.Id)
            .ToDictionary(o => o.Id, StringComparer.Ordinal);
        Connections =
        [
            .. (root.Child("Connections")?.Children ?? [])
                .Where(c => c.Name is "C" or "Connect")
                .Select(c => new FbxConnection(
                    Key(c.Property(1)),
                    Key(c.Property(2)),
                    c.Text(0) is "OP" or "PP" ? c.Text(c.Properties.Length > 3 ? 3 : 0) : string.Empty
                )),
        ];
        byDestination = Connections.ToLookup(c => c.Destination, StringComparer.Ordinal);
    }

    public FbxNode Root { get; }

    /// <summary>7400 for 7.4; 0 when the file does not say.</summary>
    public uint Version { get; }

    public IReadOnlyList<string> Errors { get; }

    public IReadOnlyDictionary<string, FbxObject> Objects { get; }

    public IReadOnlyList<FbxConnection> Connections { get; }

    /// <exception cref="CannotUseException">Neither the binary nor the text form.</exception>
    public static FbxDocument Read(ReadOnlyMemory<byte> bytes, string name)
    {
        var errors = new List<string>();
        if (FbxBinary.IsBinary(bytes.Span))
            return new(FbxBinary.Read(bytes, errors), FbxBinary.VersionOf(bytes.Span), errors);
        if (bytes.Length > 18 && bytes.Span[8..18].SequenceEqual("FBX Binary"u8))
            throw new CannotUseException(
                $"“{name}” is a binary FBX that was sent as text: its zeros became other characters at byte 20, and nothing "
                    + $"in it can be read."
            );
        if (!FbxAscii.IsAscii(bytes.Span))
            throw new CannotUseException($"“{name}” is not FBX: it begins neither as its binary nor as its text form.");
        var root = FbxAscii.Read(bytes, errors);
        var version = root.Child("FBXHeaderExtension")?.Child("FBXVersion")?.Property(0)?.AsNumber ?? 0;
        return new(root, (uint)version, errors);
    }

    /// <summary>What is connected to an object or one of its properties, in the order of the file.</summary>
    public IEnumerable<(FbxObject Object, string Property)> Into(string id)
    {
        foreach (var connection in byDestination[id])
            if (Objects.TryGetValue(connection.Source, out var source))
                yield return (source, connection.Property);
    }

    private static FbxObject? Object(FbxNode node)
    {
        if (node.Properties.IsEmpty)
            return null;
        var numbered = node.Properties[0] is FbxInteger;
        var full = node.Text(numbered ? 1 : 0);
        return new(Key(node.Properties[0]), NameOf(full), node.Text(numbered ? 2 : 1), node);
    }

    private static string Key(FbxProperty? property) => property?.AsText ?? string.Empty;

    /// <summary>Binary files write "name 00 01 class", text files "class::name".</summary>
    private static string NameOf(string full)
    {
        var cut = full.IndexOf("\0\u0001", StringComparison.Ordinal);
        if (cut >= 0)
            return full[..cut];
        cut = full.IndexOf("::", StringComparison.Ordinal);
        return cut >= 0 ? full[(cut + 2)..] : full;
    }
}
