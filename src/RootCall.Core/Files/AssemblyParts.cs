namespace RootCall.Core.Files;

/// <summary>Parts of this assembly that are found by what they are, so that adding one touches no list.</summary>
internal static class AssemblyParts
{
    /// <summary>Why a program that is trimmed of what it does not call still finds them.</summary>
    public const string Kept = "Programs that are trimmed keep all of this assembly (TrimmerRootAssembly).";
}
