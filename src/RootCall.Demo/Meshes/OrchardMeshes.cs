using System.Numerics;

namespace RootCall.Demo.Meshes;

/// <summary>The shapes of The Tin Orchard.</summary>
internal static class OrchardMeshes
{
    public static MeshData Floor() =>
        MeshData.Sheet(48, 48, (u, v) => new((u - 0.5f) * 6, 0.04f * MathF.Sin(u * 17) * MathF.Cos(v * 13), (v - 0.5f) * 6), 4, 4);

    public static MeshData Pot() =>
        MeshData.Lathe(
            48,
            [
                new(0.02f, 0.05f),
                new(0.3f, 0.05f),
                new(0.34f, 0.52f),
                new(0.38f, 0.52f),
                new(0.38f, 0.6f),
                new(0.34f, 0.6f),
                new(0.26f, 0),
                new(0.001f, 0),
            ]
        );

    public static MeshData Trunk()
    {
        var mesh = new MeshData();
        var limb = MeshData.Lathe(20, [new(0.03f, 1.5f), new(0.05f, 0.9f), new(0.07f, 0.4f), new(0.1f, 0)]);
        mesh.Add(limb, Matrix4x4.CreateTranslation(0, 0.5f, 0));
        for (var i = 0; i < 5; i++)
            mesh.Add(
                limb,
                Matrix4x4.CreateScale(0.5f)
                    * Matrix4x4.CreateRotationZ(0.9f)
                    * Matrix4x4.CreateRotationY(i * 1.257f)
                    * Matrix4x4.CreateTranslation(0, 1.3f + (0.1f * i), 0)
            );
        return mesh;
    }

    public static MeshData Leaves(int count)
    {
        var leaf = MeshData.Sheet(4, 6, (u, v) => new((u - 0.5f) * 0.24f, 0.05f * MathF.Sin(v * 3), (1 - v) * 0.24f));
        var mesh = new MeshData();
        for (var i = 0; i < count; i++)
        {
            // The golden angle spreads leaves evenly, as plants do (Vogel 1979).
            float turn = i * 2.39996f,
                high = i / (float)count;
            var out_ = 0.25f + (0.45f * MathF.Sin(high * MathF.PI));
            mesh.Add(
                leaf,
                Matrix4x4.CreateRotationX(0.3f + high)
                    * Matrix4x4.CreateRotationY(turn)
                    * Matrix4x4.CreateTranslation(MathF.Sin(turn) * out_, 1.3f + (0.9f * high), MathF.Cos(turn) * out_)
            );
        }

        return mesh;
    }

    public static MeshData LampBody() =>
        MeshData
            .Lathe(40, [new(0.001f, 0.62f), new(0.05f, 0.6f), new(0.14f, 0.5f), new(0.15f, 0.47f)])
            .Add(
                MeshData.Lathe(
                    40,
                    [new(0.15f, 0.17f), new(0.16f, 0.14f), new(0.1f, 0.06f), new(0.18f, 0.02f), new(0.18f, 0), new(0.001f, 0)]
                ),
                Matrix4x4.Identity
            );

    public static MeshData LampGlass() =>
        MeshData.Lathe(40, [new(0.13f, 0.48f), new(0.17f, 0.4f), new(0.17f, 0.26f), new(0.13f, 0.16f)], 2);

    public static MeshData Sign() =>
        MeshData.Sheet(12, 12, (u, v) => new((u - 0.5f) * 0.6f, (0.5f - v) * 0.6f, 0.02f * MathF.Cos((u - 0.5f) * 3)));

    public static MeshData SignBack() =>
        MeshData.Sheet(12, 12, (u, v) => new((0.5f - u) * 0.6f, (0.5f - v) * 0.6f, -0.01f + (0.02f * MathF.Cos((u - 0.5f) * 3))));

    public static MeshData Chain()
    {
        var link = MeshData.Sheet(24, 10, (u, v) =>
        {
            float a = u * MathF.Tau,
                b = v * MathF.Tau;
            var ring = 0.03f + (0.008f * MathF.Cos(b));
            return new(MathF.Cos(a) * ring, MathF.Sin(a) * ring * 1.5f, 0.008f * MathF.Sin(b));
        });
        var mesh = new MeshData();
        for (var side = -1; side <= 1; side += 2)
        for (var i = 0; i < 8; i++)
            mesh.Add(
                link,
                Matrix4x4.CreateRotationY(i * MathF.PI / 2) * Matrix4x4.CreateTranslation(side * 0.24f, 0.32f + (0.06f * i), 0.01f)
            );
        return mesh;
    }
}
