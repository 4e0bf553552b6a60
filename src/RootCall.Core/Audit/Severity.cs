namespace RootCall.Core.Audit;

public enum Severity
{
    /// <summary>Worth knowing: costs room, time or order.</summary>
    Note,

    /// <summary>Changes the look.</summary>
    Warning,

    /// <summary>Will not render, or will render wrong.</summary>
    Blocker,
}

public static class Severities
{
    public static string Word(this Severity severity) =>
        severity switch
        {
            Severity.Blocker => "blocker",
            Severity.Warning => "warning",
            _ => "note",
        };

    /// <summary>Null for a word that is none of the three.</summary>
    public static Severity? Parse(string word) =>
        word switch
        {
            "blocker" => Severity.Blocker,
            "warning" => Severity.Warning,
            "note" => Severity.Note,
            _ => null,
        };
}
