namespace RootCall.Core.Files;

/// <summary>Limits on what is taken in, so that a hostile or broken delivery costs one clear sentence and no more.</summary>
public sealed record Bounds
{
    public static Bounds Default { get; } = new();

    /// <summary>Bytes of one upload.</summary>
    public long UploadBytes { get; init; } = 8L << 30;

    /// <summary>Files and folders in one delivery.</summary>
    public int Entries { get; init; } = 200_000;

    /// <summary>Bytes of one delivery after unpacking.</summary>
    public long UnpackedBytes { get; init; } = 32L << 30;

    /// <summary>Depth of nested objects and arrays in JSON.</summary>
    public int JsonDepth { get; init; } = 96;

    /// <summary>Bytes of the JSON part of a scene.</summary>
    public long JsonBytes { get; init; } = 512L << 20;

    /// <summary>Bytes of a scene that is read as text in one piece (COLLADA, USD).</summary>
    public long TextBytes { get; init; } = 1L << 30;

    /// <summary>Prims that USD's references, payloads and inherits may make of what the layers say.</summary>
    public int ComposedPrims { get; init; } = 500_000;

    /// <summary>Bytes of memory that the geometry of one mesh may take.</summary>
    public long GeometryBytes { get; init; } = 2L << 30;

    /// <summary>Bytes of memory that unpacking the geometry of one mesh may take.</summary>
    public long MeshMemory { get; init; } = 1L << 30;

    /// <summary>Bytes of an image when decoded: width x height x channels x bytes of one value.</summary>
    public long ImageBytes { get; init; } = 4L << 30;

    /// <summary>Bytes of memory that decoding one image may take; one that is read by rows takes little of it.</summary>
    public long ImageMemory { get; init; } = 640L << 20;

    /// <summary>Seconds of processor time that decoding one image may take.</summary>
    public int ImageSeconds { get; init; } = 30;

    /// <summary>Triangles that are drawn of one scene; what comes after them is left out.</summary>
    public int DrawnTriangles { get; init; } = 2_000_000;

    /// <summary>Bytes of memory that tracing rays through one scene may take.</summary>
    public long RayMemory { get; init; } = 1L << 30;

    /// <summary>Seconds of processor time that building a scene's hierarchy, or one batch of rays, may take.</summary>
    public int RaySeconds { get; init; } = 60;
}
