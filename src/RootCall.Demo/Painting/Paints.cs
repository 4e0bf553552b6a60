namespace RootCall.Demo.Painting;

/// <summary>The surfaces of The Tin Orchard, each as the maps a delivery would hold.</summary>
internal static class Paints
{
    private const int Full = 512;

    /// <summary>Small stand-ins that libraries keep beside their maps.</summary>
    private const int Proxy = 128;

    private static readonly string[] WithProxy =
    [
        "brass_basecolor.png",
        "brass_normal.png",
        "verdigris_basecolor.png",
        "tin_leaf_basecolor.png",
        "tin_leaf_normal.png",
    ];

    public static IEnumerable<(string Name, Func<byte[]> Make)> All =>
        [
            .. Of(Full),
            .. Of(Proxy)
                .Where(p => WithProxy.Contains(p.Name))
                .Select(p => (Path.GetFileNameWithoutExtension(p.Name) + "_proxy.png", p.Make)),
        ];

    private static IEnumerable<(string Name, Func<byte[]> Make)> Of(int size) =>
        [
            .. Leaf(size),
            .. Verdigris(size),
            .. Terracotta(size),
            .. Moss(size),
            .. Enamel(size),
            .. Brass(size),
            .. Lamp(size),
            .. Iron(size),
            .. SeedTins(),
            .. Bark(size),
            ("noise_fine.png", () => Picture.Png(256, 1, (u, v) => Colour.Grey(Noise.Fbm(u, v, 32, 4, 3)))),
            ("noise_broad.png", () => Picture.Png(256, 1, (u, v) => Colour.Grey(Noise.Fbm(u, v, 4, 5, 9)))),
            ("dusk_04.hdr", () => Picture.Hdr(512, Dusk)),
        ];

    private static IEnumerable<(string, Func<byte[]>)> Leaf(int size)
    {
        static float Inside(float u, float v)
        {
            float y = (0.95f - v) / 0.9f,
                half = 0.36f * MathF.Pow(Math.Max(0, MathF.Sin(MathF.PI * Math.Clamp(y, 0, 1))), 0.8f) * (1.15f - (0.5f * y));
            var stem = Math.Abs(u - 0.5f) < 0.012f && v > 0.93f ? 1 : 0;
            return Math.Max(stem, y is < 0 or > 1 ? 0 : Noise.Step(half + 0.006f, half - 0.006f, Math.Abs(u - 0.5f)));
        }

        static float Veins(float u, float v)
        {
            float side = Math.Abs(u - 0.5f),
                rib = Noise.Step(0.012f, 0, side);
            var branch = MathF.Abs(MathF.Sin(((v + (side * 0.9f)) * 9 * MathF.PI) + 0.4f));
            return Math.Max(rib, Noise.Step(0.12f, 0, branch) * Noise.Step(0.4f, 0.05f, side));
        }

        static float Hammered(float u, float v) => (Noise.Cells(u, v, 14, 5) * 0.6f) + (Veins(u, v) * 0.9f);
        yield return ("tin_leaf_basecolor.png", () => Picture.Png(size, 4, (u, v) =>
            {
                var tin = Colour.Mix(Colour.Hex(0x8f979d), Colour.Hex(0xc9cfd2), Noise.Fbm(u, v, 6, 5, 1));
                var patina = Noise.Step(0.58f, 0.75f, Noise.Fbm(u, v, 5, 4, 8));
                return Colour.Mix(Colour.Mix(tin, Colour.Hex(0x6f8f86), patina * 0.7f), Colour.Hex(0x4c5357), Veins(u, v) * 0.7f) with
                {
                    A = Inside(u, v),
                };
            }));
        yield return ("tin_leaf_normal.png", () => Picture.NormalPng(size, 6, Hammered));
        yield return ("tin_leaf_metallicroughness.png", () =>
            Picture.Png(size, 3, (u, v) => new(0, 0.28f + (0.4f * Noise.Fbm(u, v, 8, 4, 2)), Inside(u, v)))
        );
    }

    private static IEnumerable<(string, Func<byte[]>)> Verdigris(int size)
    {
        static float Crust(float u, float v) => Noise.Step(0.42f, 0.6f, Noise.Fbm(u, v, 5, 6, 21));
        static float Relief(float u, float v) => (Crust(u, v) * 0.35f) + (Noise.Fbm(u, v, 24, 3, 23) * 0.3f);
        yield return ("verdigris_basecolor.png", () => Picture.Png(size, 3, (u, v) =>
            {
                var copper = Colour.Mix(Colour.Hex(0x8a4a2a), Colour.Hex(0xd08a5a), Noise.Fbm(u, v, 10, 4, 24));
                var green = Colour.Mix(Colour.Hex(0x3f8d7c), Colour.Hex(0x9fd3c0), Noise.Fbm(u, v, 16, 4, 25));
                return Colour.Mix(copper, green, Crust(u, v));
            }));
        yield return ("verdigris_normal.png", () => Picture.NormalPng(size, 8, Relief));
        yield return ("verdigris_metallicroughness.png", () =>
            Picture.Png(size, 3, (u, v) => new(0, 0.3f + (0.55f * Crust(u, v)), 1 - Crust(u, v)))
        );
    }

    private static IEnumerable<(string, Func<byte[]>)> Terracotta(int size)
    {
        static float Rings(float u, float v) =>
            (0.5f + (0.5f * MathF.Sin(v * MathF.PI * 2 * 26))) * (0.5f + (0.5f * Noise.Value(u, v, 6, 31)));
        static float Bloom(float u, float v) => Noise.Step(0.56f, 0.72f, Noise.Fbm(u, v, 4, 6, 33));
        yield return ("terracotta_pot_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) =>
                Colour
                    .Mix(
                        Colour.Mix(Colour.Hex(0x8e4528), Colour.Hex(0xc8744c), Noise.Fbm(u, v, 9, 5, 32)),
                        Colour.Hex(0xd9cdbd),
                        Bloom(u, v) * 0.75f
                    )
                    .Times(0.9f + (0.1f * Rings(u, v)))
            )
        );
        yield return ("terracotta_pot_normal.png", () =>
            Picture.NormalPng(size, 3, (u, v) => (Rings(u, v) * 0.12f) + (Noise.Fbm(u, v, 40, 3, 34) * 0.25f))
        );
        yield return ("terracotta_pot_metallicroughness.png", () =>
            Picture.Png(size, 3, (u, v) => new(0, 0.78f + (0.15f * Bloom(u, v)), 0))
        );
        yield return ("terracotta_pot_occlusion.png", () => Picture.Png(size, 1, (u, v) => Colour.Grey(0.75f + (0.25f * Rings(u, v)))));
    }

    private static IEnumerable<(string, Func<byte[]>)> Moss(int size)
    {
        static float Clumps(float u, float v) => 1 - Math.Min(1, Noise.Cells(u, v, 22, 41) * 1.25f);
        static float Cover(float u, float v) => Noise.Step(0.38f, 0.55f, Noise.Fbm(u, v, 4, 5, 42));
        Colour Base(float u, float v) =>
            Colour.Mix(
                Colour.Mix(Colour.Hex(0x2b2119), Colour.Hex(0x5a4634), Noise.Fbm(u, v, 18, 4, 43)),
                Colour.Mix(Colour.Hex(0x32481b), Colour.Hex(0x9bb04a), Clumps(u, v)),
                Cover(u, v)
            );
        yield return ("mossy_floor_basecolor.jpg", () => Picture.Jpeg(1024, Base));
        yield return ("mossy_floor_normal.png", () =>
            Picture.NormalPng(size, 7, (u, v) => (Clumps(u, v) * 0.5f * Cover(u, v)) + (Noise.Fbm(u, v, 30, 3, 44) * 0.2f))
        );
        yield return ("mossy_floor_occlusion.png", () => Picture.Png(size, 3, (u, v) => new(0.45f + (0.55f * Clumps(u, v)), 0.92f, 0)));
    }

    private static IEnumerable<(string, Func<byte[]>)> Enamel(int size)
    {
        static float Chips(float u, float v, int seed) =>
            Noise.Step(
                0.69f,
                0.71f,
                Noise.Fbm(u, v, 7, 4, seed) + (0.16f * Noise.Step(0.42f, 0.5f, Math.Max(Math.Abs(u - 0.5f), Math.Abs(v - 0.5f))))
            );
        static Colour Sign(float u, float v, Colour band, int seed)
        {
            var cream = Colour.Hex(0xefe6d2).Times(0.94f + (0.06f * Noise.Fbm(u, v, 6, 4, 52)));
            var edge = Math.Max(Math.Abs(u - 0.5f), Math.Abs(v - 0.5f));
            var inBand = Math.Abs(v - 0.72f) < 0.11f ? 1f : 0;
            var frame = edge is > 0.45f and < 0.47f ? 1f : 0;
            // A tree of three tin discs on a stem.
            float Disc(float x, float y, float r) => Noise.Step(r, r - 0.006f, MathF.Sqrt(((u - x) * (u - x)) + ((v - y) * (v - y))));
            var tree = Math.Max(
                Math.Max(Disc(0.5f, 0.2f, 0.1f), Disc(0.38f, 0.34f, 0.09f)),
                Math.Max(Disc(0.62f, 0.34f, 0.09f), Math.Abs(u - 0.5f) < 0.014f && v is > 0.2f and < 0.56f ? 1 : 0)
            );
            var paint = Colour.Mix(cream, band, Math.Max(Math.Max(inBand, frame), tree));
            var rust = Colour.Mix(Colour.Hex(0x2a1610), Colour.Hex(0x8c4a22), Noise.Fbm(u, v, 20, 4, 54));
            return Colour.Mix(paint, rust, Chips(u, v, seed));
        }

        yield return ("enamel_sign_07_basecolor.png", () => Picture.Png(1024, 3, (u, v) => Sign(u, v, Colour.Hex(0x21407c), 51)));
        yield return ("enamel_sign_07_basecolor_wip.png", () => Picture.Png(size, 3, (u, v) => Sign(u, v, Colour.Hex(0x7a2a2a), 58)));
        yield return ("enamel_sign_07_rough.png", () => Picture.Png(size, 1, (u, v) => Colour.Grey(0.12f + (0.75f * Chips(u, v, 51)))));
        yield return ("enamel_sign_07_metal.tga", () => Picture.Tga(size, 1, (u, v) => Colour.Grey(0.15f * Chips(u, v, 51))));
        yield return ("enamel_sign_07_bump.png", () => Picture.Png(size, 1, (u, v) => Colour.Grey(0.8f - (0.6f * Chips(u, v, 51)))));
        yield return ("tin plate_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) => Colour.Mix(Colour.Hex(0x868b8e), Colour.Hex(0xb9bec0), Noise.Fbm(u * 0.2f, v, 60, 3, 57)))
        );
    }

    private static IEnumerable<(string, Func<byte[]>)> Brass(int size)
    {
        static float Brushed(float u, float v) => Noise.Fbm(u, v * 0.08f, 90, 3, 61);
        yield return ("brass_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) =>
                Colour.Mix(
                    Colour.Mix(Colour.Hex(0x9a742c), Colour.Hex(0xe0bd6a), Brushed(u, v)),
                    Colour.Hex(0x4d3c1e),
                    Noise.Step(0.6f, 0.8f, Noise.Fbm(u, v, 5, 5, 62)) * 0.8f
                )
            )
        );
        yield return ("brass_normal.png", () => Picture.NormalPng(size, 2, (u, v) => Brushed(u, v) * 0.25f));
        yield return ("brass_metallicroughness.png", () => Picture.Png(size, 3, (u, v) => new(0, 0.22f + (0.3f * Brushed(u, v)), 1)));
    }

    private static IEnumerable<(string, Func<byte[]>)> Lamp(int size)
    {
        yield return ("lamp_glass_emissive.png", () => Picture.Png(size, 3, (u, v) =>
            {
                var heat = Noise.Step(0.5f, 0.05f, Math.Abs(v - 0.5f));
                var cell = Noise.Step(0.62f, 0.45f, Noise.Cells(u, v, 10, 71));
                return Colour.Mix(Colour.Hex(0x5a1d08), Colour.Hex(0xffd58a), heat).Times(0.35f + (0.65f * cell));
            }));
        yield return ("lamp_glass_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) => Colour.Mix(Colour.Hex(0xb98a52), Colour.Hex(0xf2ddb0), Noise.Cells(u, v, 10, 71)))
        );
    }

    private static IEnumerable<(string, Func<byte[]>)> Iron(int size)
    {
        yield return ("chain_iron_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) =>
                Colour.Mix(Colour.Hex(0x2c2c2e), Colour.Hex(0x6e3d22), Noise.Step(0.45f, 0.7f, Noise.Fbm(u, v, 9, 5, 81)))
            )
        );
        yield return ("chain_iron_normal.png", () => Picture.NormalPng(size, 5, (u, v) => Noise.Fbm(u, v, 24, 4, 82) * 0.5f));
    }

    /// <summary>Printed tins for seeds: one drawing in twelve inks.</summary>
    private static IEnumerable<(string, Func<byte[]>)> SeedTins()
    {
        const int size = 192;
        uint[] inks =
        [
            0xb4452f,
            0x2f6f62,
            0xd9a441,
            0x6a4c7d,
            0x7f9a3c,
            0x2f4f7d,
            0xc46a8a,
            0x8a5a34,
            0x4aa39a,
            0x9c2f3f,
            0x5a6b78,
            0xd07f33,
        ];
        for (var n = 0; n < inks.Length; n++)
        {
            var (ink, seed) = (Colour.Hex(inks[n]), 200 + (n * 7));
            float Worn(float u, float v) => Noise.Step(0.55f, 0.7f, Noise.Fbm(u, v, 6, 5, seed));
            yield return ($"seed_tin_{n + 1:00}_basecolor.png", () => Picture.Png(size, 3, (u, v) =>
                {
                    var band = v is > 0.22f and < 0.3f or > 0.72f and < 0.8f;
                    var dots = Noise.Step(0.3f, 0.2f, Noise.Cells(u, v, 5 + (seed % 5), seed));
                    var print = band ? Colour.Hex(0xe8dcc0) : Colour.Mix(ink, Colour.Hex(0xf0e6cc), dots * 0.8f);
                    return Colour.Mix(print, Colour.Hex(0x9aa0a4), Worn(u, v) * 0.85f);
                }));
            yield return ($"seed_tin_{n + 1:00}_roughness.png", () =>
                Picture.Png(size, 1, (u, v) => Colour.Grey(0.3f + (0.25f * Noise.Fbm(u, v, 9, 4, seed + 1)) + (0.25f * Worn(u, v))))
            );
        }

        yield return ("seed_tin_normal.png", () => Picture.NormalPng(size, 5, (u, v) => Noise.Cells(u, v, 9, 301) * 0.4f));
    }

    private static IEnumerable<(string, Func<byte[]>)> Bark(int size)
    {
        static float Ridges(float u, float v) => Noise.Fbm(u, v * 0.3f, 14, 5, 311);
        yield return ("bark_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) => Colour.Mix(Colour.Hex(0x3b2d23), Colour.Hex(0x8d7a66), Ridges(u, v)))
        );
        yield return ("bark_normal.png", () => Picture.NormalPng(size, 6, Ridges));
        yield return ("bark_height.png", () => Picture.Png(size, 1, (u, v) => Colour.Grey(Ridges(u, v))));
        yield return ("bark_roughness.png", () => Picture.Png(size, 1, (u, v) => Colour.Grey(0.6f + (0.3f * Ridges(v, u)))));
        yield return ("fern_opacity.png", () =>
            Picture.Png(size, 1, (u, v) => Colour.Grey(MathF.Abs(u - 0.5f) < 0.38f * MathF.Abs(MathF.Sin(v * 40)) * (1 - v) ? 1 : 0))
        );
        yield return ("fern_basecolor.png", () =>
            Picture.Png(size, 3, (u, v) => Colour.Mix(Colour.Hex(0x2f4a26), Colour.Hex(0x86a65a), Noise.Fbm(u, v, 20, 3, 321)))
        );
        yield return ("dusk_sky.png", () =>
            Picture.Png(256, 128, 3, (u, v) => Dusk(u, v) is var c ? new(Math.Min(1, c.R), Math.Min(1, c.G), Math.Min(1, c.B)) : c)
        );
    }

    private static Colour Dusk(float u, float v)
    {
        var up = (0.5f - v) * 2;
        float sun = MathF.Exp(-60 * (((u - 0.32f) * (u - 0.32f)) + ((v - 0.49f) * (v - 0.49f)) * 3));
        var clouds = Noise.Step(0.5f, 0.75f, Noise.Fbm(u, v * 3, 6, 6, 91)) * Noise.Step(0, 0.25f, up);
        var sky =
            up < 0
                ? Colour.Hex(0x17150f).Times(0.4f)
                : Colour.Mix(
                    Colour.Mix(new(1.6f, 0.75f, 0.32f), new(0.42f, 0.32f, 0.46f), Noise.Step(0, 0.3f, up)),
                    new(0.05f, 0.08f, 0.2f),
                    Noise.Step(0.2f, 0.95f, up)
                );
        sky = Colour.Mix(sky, new(0.9f, 0.42f, 0.3f), clouds * 0.6f);
        return new(sky.R + (40 * sun), sky.G + (22 * sun), sky.B + (9 * sun));
    }
}
