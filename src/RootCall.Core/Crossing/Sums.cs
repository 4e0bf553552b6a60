using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing;

/// <summary>
/// Reckons with what is carried over. Numbers are worked out at once, in doubles; where something varies, a node of MaterialX's standard
/// library is put there that does the same for each place, so that a formula is said once for both.
/// </summary>
internal sealed class Sums
{
    private readonly List<ShaderNode> nodes = [];

    /// <summary>The nodes that were put, in their order.</summary>
    public IEnumerable<ShaderNode> Nodes => nodes;

    public Carried Add(Carried a, Carried b) => Pair("add", a, b, (x, y) => x + y);

    public Carried Subtract(Carried a, Carried b) => b.Is(0) ? Both(a, b) : Pair("subtract", a, b, (x, y) => x - y);

    public Carried Multiply(Carried a, Carried b) =>
        a.Is(1) ? Both(b, a)
        : b.Is(1) ? Both(a, b)
        : Pair("multiply", a, b, (x, y) => x * y);

    /// <summary>0 where it would be divided by nothing.</summary>
    public Carried Divide(Carried a, Carried b) =>
        b.Is(1) ? Both(a, b) : Pair("divide", a, b.IsNumber ? b : Max(b, 1e-6), (x, y) => y == 0 ? 0 : x / y);

    public Carried Power(Carried a, double by) => by == 1 ? a : Pair("power", a, Carried.Of(by), (x, y) => Math.Pow(Math.Max(0, x), y));

    public Carried Root(Carried a) => Power(a, 0.5);

    public Carried Max(Carried a, double least) => Pair("max", a, Carried.Of(least), Math.Max);

    public Carried Min(Carried a, double most) => Pair("min", a, Carried.Of(most), Math.Min);

    public Carried Clamp(Carried a, double least, double most) => Min(Max(a, least), most);

    /// <summary>1 less it.</summary>
    public Carried Invert(Carried a) => Subtract(Carried.Of(1), a);

    /// <summary><paramref name="b"/> where <paramref name="share"/> is 1, <paramref name="a"/> where it is 0.</summary>
    public Carried Mix(Carried a, Carried b, Carried share) =>
        share.Is(0) ? Both(a, share)
        : share.Is(1) ? Both(b, share)
        : Add(Multiply(a, Invert(share)), Multiply(b, share));

    /// <summary>One of two, by whether a number reaches a limit.</summary>
    public Carried AtLeast(Carried number, double limit, Carried then, Carried otherwise)
    {
        if (number.Number is { } known)
            return Both(known >= limit ? then : otherwise, number);
        var (from, kind, how) = then.With(number);
        var made = Put(
            "ifgreatereq",
            then.Type,
            then,
            Input("value1", number),
            Given("value2", InputType.Float, limit),
            Input("in1", then),
            Input("in2", then.Type.Numbers > otherwise.Type.Numbers ? Wide(otherwise) : otherwise)
        );
        return made with { From = from, Kind = kind, How = how };
    }

    /// <summary>Weighted sum of red, green and blue.</summary>
    public Carried Sum(Carried colour, double red, double green, double blue) =>
        Add(
            Add(Multiply(Part(colour, 0), Carried.Of(red)), Multiply(Part(colour, 1), Carried.Of(green))),
            Multiply(Part(colour, 2), Carried.Of(blue))
        );

    /// <summary>The largest of red, green and blue.</summary>
    public Carried Largest(Carried colour) =>
        colour.Type.Numbers < 3 ? colour : Pair("max", Pair("max", Part(colour, 0), Part(colour, 1), Math.Max), Part(colour, 2), Math.Max);

    /// <summary>One of its numbers.</summary>
    public Carried Part(Carried of, int place)
    {
        if (of.IsNumber)
            return of with { Numbers = [of.Numbers[Math.Min(place, of.Numbers.Length - 1)]], Type = InputType.Float };
        if (of.Type.Numbers < 2)
            return of;
        return Put("extract", InputType.Float, of, new ShaderInput("in", of.Type, null, of.Wire), Given("index", InputType.Integer, place));
    }

    /// <summary>A colour of one number.</summary>
    public Carried Wide(Carried of) =>
        of.Type.Numbers >= 3 ? of
        : of.IsNumber ? of with { Numbers = [of.Numbers[0], of.Numbers[0], of.Numbers[0]], Type = InputType.Color3 }
        : Put("convert", InputType.Color3, of, new ShaderInput("in", of.Type, null, of.Wire));

    /// <summary>What varies, as another type of so many numbers or of more.</summary>
    public Carried As(Carried of, InputType type) =>
        of.Type == type || of.IsNumber || type.Numbers == 0 ? of
        : of.Type.Numbers > type.Numbers && type.Numbers == 1 ? Part(of, 0)
        : Put("convert", type, of, new ShaderInput("in", of.Type, null, of.Wire));

    /// <summary>A node with one output; what it is made of is that of <paramref name="of"/>.</summary>
    public Carried Put(string type, InputType output, Carried of, params ReadOnlySpan<ShaderInput> inputs)
    {
        // What was worked out already is not worked out again.
        var wanted = inputs.ToArray();
        var known = nodes.Find(n => n.Type == type && n.Output == output && n.Inputs.AsSpan().SequenceEqual(wanted));
        if (known is null)
            nodes.Add(known = new($"crossed {nodes.Count + 1}", type, [.. wanted]) { Output = output });
        return of with { Numbers = [], Wire = new(known.Name, "out"), Type = output };
    }

    public static ShaderInput Given(string name, InputType type, params ReadOnlySpan<double> numbers) =>
        new(name, type, ShaderValue.Of(numbers));

    /// <summary>The value of one that the other had a part in.</summary>
    private static Carried Both(Carried value, Carried other)
    {
        var (from, kind, how) = value.With(other);
        return value with { From = from, Kind = kind, How = how };
    }

    private Carried Pair(string type, Carried a, Carried b, Func<double, double, double> of)
    {
        var (from, kind, how) = a.With(b);
        var count = Math.Max(a.Type.Numbers, b.Type.Numbers);
        if (a.IsNumber && b.IsNumber)
        {
            double At(Carried c, int i) => c.Numbers[Math.Min(i, c.Numbers.Length - 1)];
            return new(
                [.. Enumerable.Range(0, count).Select(i => of(At(a, i), At(b, i)))],
                null,
                InputType.OfNumbers(count),
                from,
                kind,
                how
            );
        }

        // The library's nodes take a number beside a colour only as the second.
        if (a.Type.Numbers < count)
            a = Wide(a);
        var output = a.Type.Numbers == count ? a.Type : b.Type;
        if (b.Type.Numbers == count)
            (a, b) = (Like(a, output), Like(b, output));
        var made = Put(type, output, a, Input("in1", a), Input("in2", b));
        return made with { From = from, Kind = kind, How = how };
    }

    /// <summary>Colours and vectors are not mixed.</summary>
    private Carried Like(Carried of, InputType type) => of.IsNumber ? of with { Type = type } : As(of, type);

    private static ShaderInput Input(string name, Carried of) =>
        of.IsNumber ? new(name, of.Type, new ShaderValue(of.Numbers)) : new(name, of.Type, null, of.Wire);
}
