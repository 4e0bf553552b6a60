namespace RootCall.Data.Stores;

/// <summary>What became another of a scene.</summary>
public enum SceneChange
{
    /// <summary>It arrived, or was mustered again.</summary>
    Muster,

    /// <summary>Something was decided, applied or taken back.</summary>
    Ledger,

    /// <summary>What a list shows of it was counted, and is another number.</summary>
    Counted,

    /// <summary>Findings are told otherwise: something was waived, or another destination or house rule counts.</summary>
    Findings,

    /// <summary>Somebody said of materials that they are right, or are not.</summary>
    Marks,

    /// <summary>It is no longer there.</summary>
    Removed,
}

/// <summary>Announced on a channel of the database, for all web processes.</summary>
public sealed record SceneEvent(Guid Scene, SceneChange Change)
{
    public const string Channel = "rootcall_scene";

    /// <summary>Stands for all scenes.</summary>
    public static Guid All => Guid.Empty;

    public string Text => $"{Scene} {Change}";

    public static SceneEvent Parse(string text) => new(Guid.Parse(text[..36]), Enum.Parse<SceneChange>(text[37..]));
}
