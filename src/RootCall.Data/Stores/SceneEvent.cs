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
}

/// <summary>Announced on a channel of the database, for all web processes.</summary>
public sealed record SceneEvent(Guid Scene, SceneChange Change)
{
    public const string Channel = "rootcall_scene";

    public string Text => $"{Scene} {Change}";

    public static SceneEvent Parse(string text) => new(Guid.Parse(text[..36]), Enum.Parse<SceneChange>(text[37..]));
}
