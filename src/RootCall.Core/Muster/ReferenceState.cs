namespace RootCall.Core.Muster;

/// <summary>Each reference is in exactly one state.</summary>
public enum ReferenceState
{
    /// <summary>Answers where it is called.</summary>
    Present,

    /// <summary>Carried inside the scene file.</summary>
    Embedded,

    /// <summary>One clear candidate in the roots.</summary>
    Elsewhere,

    /// <summary>Several candidates too close to call.</summary>
    Contested,

    /// <summary>No candidate.</summary>
    Missing,

    /// <summary>Found, but unreadable, truncated or not what its ending says.</summary>
    Damaged,

    /// <summary>Points outside every root; not looked at.</summary>
    Outside,
}

[Flags]
public enum ReferenceFlags
{
    None = 0,
    Absolute = 1,
    ForeignPath = 2,
    CaseDiffers = 4,
    TransientPlace = 8,
    NameClash = 16,
    Duplicate = 32,
    Changed = 64,
    NotPortable = 128,
    Remote = 256,
    OtherResolution = 512,

    /// <summary>Answered by a neutral picture that stands in for one that is missing.</summary>
    StandIn = 1024,
}

/// <summary>The words of states and flags as the command line and the files write them.</summary>
public static class ReferenceWords
{
    public static string Word(this ReferenceState state) => state.ToString().ToLowerInvariant();

    public static IEnumerable<string> Words(this ReferenceFlags flags) =>
        Enum.GetValues<ReferenceFlags>().Where(f => f != ReferenceFlags.None && flags.HasFlag(f)).Select(f => Kebab(f.ToString()));

    /// <summary>Whether the scene gets its data from this reference as it stands.</summary>
    public static bool Answers(this ReferenceState state) => state is ReferenceState.Present or ReferenceState.Embedded;

    public static string Word(this Scenes.ReferenceKind kind) => Kebab(kind.ToString());

    private static string Kebab(string name) =>
        string.Concat(name.Select((c, i) => char.IsUpper(c) ? (i > 0 ? "-" : string.Empty) + char.ToLowerInvariant(c) : c.ToString()));
}
