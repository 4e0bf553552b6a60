using System.Globalization;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Geometry;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Geometry;

/// <summary>A corner of a triangle with what hangs on it; what it lacks is empty.</summary>
internal sealed record Corner(float[] Point, float[] Normal, float[] Uv)
{
    public const float Tolerance = 1e-3f;

    /// <summary>Everything is equal but for what writing it as text takes away.</summary>
    public bool Matches(Corner other) =>
        Close(Point, other.Point, Math.Max(1, Point.Max(Math.Abs))) && Close(Normal, other.Normal, 1) && Close(Uv, other.Uv, 1);

    /// <summary>Where it lies on a grid.</summary>
    public (int, int, int) Cell(float size) =>
        ((int)MathF.Floor(Point[0] / size), (int)MathF.Floor(Point[1] / size), (int)MathF.Floor(Point[2] / size));

    public override string ToString() =>
        string.Join(
            " | ",
            new[] { Point, Normal, Uv }.Select(v => string.Join(' ', v.Select(n => n.ToString("0.####", CultureInfo.InvariantCulture))))
        );

    /// <summary>One that the other library does not give either is not asked for.</summary>
    private static bool Close(float[] a, float[] b, float size) =>
        a.Length == 0 || b.Length == 0 || (a.Length == b.Length && a.Zip(b).All(p => Math.Abs(p.First - p.Second) <= Tolerance * size));
}

/// <summary>Corners of another origin to find ours among.</summary>
internal sealed class CornerSet
{
    private readonly Dictionary<(int, int, int), List<Corner>> cells = [];
    private readonly float size;

    public CornerSet(IReadOnlyCollection<Corner> corners)
    {
        // Those that match lie in the same cell or in one beside it.
        size = Corner.Tolerance * Math.Max(1, corners.Max(c => c.Point.Max(Math.Abs)));
        foreach (var corner in corners)
        {
            var cell = corner.Cell(size);
            if (!cells.TryGetValue(cell, out var there))
                cells[cell] = there = [];
            there.Add(corner);
        }
    }

    public bool Has(Corner corner)
    {
        var (x, y, z) = corner.Cell(size);
        for (var dx = -1; dx <= 1; dx++)
        for (var dy = -1; dy <= 1; dy++)
        for (var dz = -1; dz <= 1; dz++)
            if (cells.TryGetValue((x + dx, y + dy, z + dz), out var there) && there.Exists(corner.Matches))
                return true;
        return false;
    }
}

/// <summary>Reads the geometry of a scene as whoever renders it does.</summary>
internal static class Shapes
{
    private static readonly MeshDecoder Decoder = new(Bounds.Default);

    public static IEnumerable<(Mesh Mesh, MeshGeometry Geometry)> Of(string path) => Of(Look.Read(path));

    public static IEnumerable<(Mesh Mesh, MeshGeometry Geometry)> Of(Scene scene)
    {
        using var source = SceneFormats.Of(scene.Path).Geometry(scene, new(CurrentScene.Scope(scene.Path, []), Bounds.Default), Decoder);
        for (var i = 0; i < scene.Meshes.Length; i++)
            yield return (scene.Meshes[i], source.Read(i));
    }

    /// <summary>Each corner of each triangle; by default with the first set of texture coordinates.</summary>
    public static IEnumerable<Corner> Corners(MeshGeometry geometry, string? uvSet = null)
    {
        var (normals, uvs) = (
            geometry.Stream(GeometryUse.Normal),
            uvSet is null ? geometry.Stream(GeometryUse.Uv) : geometry.Streams.FirstOrDefault(s => s.Name == uvSet)
        );
        foreach (var corner in geometry.Triangles())
            yield return new(
                geometry.Points.Slice(geometry.Corners.Span[corner] * 3, 3).ToArray(),
                normals is null ? [] : normals.At(geometry, corner).ToArray(),
                uvs is null ? [] : uvs.At(geometry, corner).ToArray()
            );
    }
}
