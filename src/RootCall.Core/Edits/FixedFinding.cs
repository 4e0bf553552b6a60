namespace RootCall.Core.Edits;

/// <summary>What an entry of the ledger fixed, so that a recipe can look for the same thing elsewhere.</summary>
/// <param name="Cause">Key of the family.</param>
/// <param name="Kind">Kind of the target.</param>
public sealed record FixedFinding(string Rule, string Cause, string Kind, string Name, string? Part, string? Image)
{
    /// <summary>The finding's key in an audit.</summary>
    public string Key => $"{Rule}|{Kind}|{Name}|{Part}|{Cause}";
}
