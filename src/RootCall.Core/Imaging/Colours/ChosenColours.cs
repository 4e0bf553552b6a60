using RootCall.Core.Files;

namespace RootCall.Core.Imaging.Colours;

/// <summary>Which config of OpenColorIO is used, and which of its views.</summary>
/// <param name="Config">A file; empty for none.</param>
/// <param name="View">As <see cref="ColourView.ToString"/> writes it; empty for the config's own choice.</param>
public sealed record ColourSetting(string Config, string View)
{
    /// <summary>The same for the same pictures; null without a config.</summary>
    public string? Print =>
        Config.Length == 0 ? null
        : new FileInfo(Config) is { Exists: true } file ? $"{Config} {file.Length} {file.LastWriteTimeUtc.Ticks} {View}"
        : $"{Config} {View}";
}

/// <summary>A house's colours as they were chosen.</summary>
/// <param name="House">Null without a config, or with one that cannot be used.</param>
/// <param name="Told">What is to be known of pictures that are made so, in a sentence; null for nothing.</param>
public sealed record ChosenColours(HouseColours? House, string? Told)
{
    public static ChosenColours None { get; } = new(null, null);

    /// <summary>One that cannot be used is told, and pictures are made without it.</summary>
    public static ChosenColours Of(ColourSetting setting, Func<IColourEngine> engine)
    {
        if (setting.Config.Length == 0)
            return None;
        try
        {
            var house = new HouseColours(engine(), Path.GetFullPath(setting.Config), setting.View, CancellationToken.None);
            return new(house, house.Told);
        }
        catch (CannotUseException e)
        {
            return new(null, $"{e.Message} Pictures are made without a colour config.");
        }
    }
}
