namespace RootCall.Demo.Scenes;

/// <summary>One thing a demo scene calls for: how the clean twin calls it, how the arrived scene does, and where its file lies.</summary>
/// <param name="Id">Name the scene's author uses for it.</param>
/// <param name="Clean">Path in the clean twin, below its folder.</param>
/// <param name="Written">Path the arrived scene writes.</param>
internal sealed record Call(string Id, string Clean, string Written)
{
    /// <summary>Which picture of <see cref="Painting.Paints"/> it is; its own id unless said otherwise.</summary>
    public string Paint { get; init; } = Id;

    /// <summary>Where files lie in the arrived delivery, from the demo's folder, each perhaps with its bytes changed.</summary>
    public IReadOnlyList<Copy> Copies { get; init; } = [];

    /// <summary>The state a muster with the library as its root must find.</summary>
    public string State { get; init; } = "present";

    public string[] Flags { get; init; } = [];

    /// <summary>What was planted, in words; null where nothing is wrong.</summary>
    public string? Fault { get; init; }

    /// <summary>Carried in the buffer of the scene, under this name.</summary>
    public bool Carried { get; init; }

    /// <summary>Only the clean twin calls for it: it did not come along.</summary>
    public bool LeftBehind { get; init; }

    public string Kind { get; init; } = "image";
}

/// <param name="Path">From the demo's folder.</param>
/// <param name="Paint">Another picture than the call's; null for the call's own.</param>
/// <param name="Damage">Changes the bytes; null leaves them.</param>
internal sealed record Copy(string Path, string? Paint = null, Func<byte[], byte[]>? Damage = null);

/// <summary>A demo scene: its calls and how its own files are written, given the path for each call.</summary>
/// <param name="Own">
/// Makes the own files (name and bytes); the functions give the path for a call's id, or null when it is carried, and
/// its bytes; the last says whether it is the arrived one.
/// </param>
internal sealed record DemoScene(
    string Name,
    string File,
    IReadOnlyList<Call> Calls,
    Func<Func<string, string?>, Func<string, byte[]>, bool, IEnumerable<(string Name, byte[] Bytes)>> Own
)
{
    /// <summary>What the transfer lost, told beside the clean twin.</summary>
    public IReadOnlyList<Loss> Losses { get; init; } = [];

    /// <summary>What the audit must find in the arrived scene at blocker or warning level, all of it.</summary>
    public IReadOnlyList<Planted> Findings { get; init; } = [];

    public string Arrived => $"arrived/{Name}";

    public string CleanFolder => $"clean/{Name}";
}

/// <summary>A planted loss of the transfer, as a row of the transfer check names it.</summary>
internal sealed record Loss(string Kind, string Name, string What, string Fault)
{
    public string? Input { get; init; }
}

/// <summary>A fault planted for the audit.</summary>
/// <param name="Target">What it is about, as a finding says it: <c>tin_leaf, normal</c>.</param>
internal sealed record Planted(string Rule, string Target, string Fault);
