namespace RootCall.Testing.Trial;

/// <summary>The ways a texture is broken in the trial, and what the truth is afterwards.</summary>
public enum Break
{
    /// <summary>Moved with its folder; the scene still calls the old place.</summary>
    MovedFolder,

    /// <summary>Moved alone into another folder.</summary>
    MovedAlone,

    /// <summary>Written in another case.</summary>
    Case,

    /// <summary>Hyphens for underscores, or humps for both.</summary>
    Separators,

    /// <summary>Converted to another format.</summary>
    Ending,

    /// <summary>Only another resolution was delivered.</summary>
    Resolution,

    /// <summary>Published as the next version.</summary>
    Version,

    /// <summary>Converted and delivered at another resolution.</summary>
    TwoDifferences,

    /// <summary>Its role is spelled another way.</summary>
    RoleSpelling,

    /// <summary>Decomposed Unicode.</summary>
    Unicode,

    /// <summary>Called by another name altogether, remembered by its contents.</summary>
    RenamedSeen,

    /// <summary>Called by another name with the rest of its set, told by its role.</summary>
    RenamedInSet,

    /// <summary>All tiles moved.</summary>
    Tiles,

    /// <summary>A name that says only its role, in a folder of the set's own name.</summary>
    GenericName,

    /// <summary>Copied twice with the same contents: either will do.</summary>
    Copied,

    /// <summary>Truth: none. Deleted.</summary>
    Deleted,

    /// <summary>Truth: none. Deleted; only an older version is left.</summary>
    OnlyOlder,

    /// <summary>Truth: none. Deleted; only another colour is left.</summary>
    OnlyOtherColour,

    /// <summary>Truth: none. Deleted; another set has a map of the same generic name.</summary>
    OnlyOtherSet,

    /// <summary>Truth: undecidable. Two files of its name with other contents, nothing tells them apart.</summary>
    TwoOfOneName,

    /// <summary>Truth: undecidable. Only two other resolutions are left.</summary>
    TwoResolutions,
}

public static class Breaks
{
    /// <summary>There is a right answer, and it can be known.</summary>
    public static bool CanBeFound(this Break kind) => kind < Break.Deleted;
}
