using System.Collections.Immutable;
using RootCall.Core.Files;

namespace RootCall.Core.Imaging.Colours;

/// <summary>A config of OpenColorIO: the colour spaces that a house has, and how it looks at light.</summary>
/// <param name="Path">Absolute.</param>
/// <param name="Names">
/// What a space may be called by (its name, aliases, roles), each with the space's name; in any case of letters.
/// </param>
/// <param name="Views">The one that is meant where none is chosen comes first.</param>
public sealed record ColourConfig(string Path, ImmutableDictionary<string, string> Names, ImmutableArray<ColourView> Views);

/// <summary>How linear light is shown on a kind of display.</summary>
public sealed record ColourView(string Display, string Name)
{
    /// <summary>As a setting writes it.</summary>
    public override string ToString() => $"{Display}/{Name}";
}

/// <summary>Reads configs and converts colours by them; it works behind a wall, since a config calls for tables of its own.</summary>
public interface IColourEngine
{
    /// <summary>Pixels that are converted at once, at most.</summary>
    int Most { get; }

    /// <exception cref="CannotUseException">It cannot be read; the sentence tells why.</exception>
    ColourConfig Read(string path, CancellationToken stop);

    /// <summary>Converts from one space of the config to another.</summary>
    /// <param name="rgb">Red, green and blue of each pixel.</param>
    /// <exception cref="CannotUseException">It has no such spaces, or no way between them.</exception>
    void Convert(ColourConfig config, string from, string to, Span<float> rgb, CancellationToken stop);

    /// <summary>Converts to what a display is sent.</summary>
    /// <inheritdoc cref="Convert" path="/*[not(self::summary)]"/>
    void Show(ColourConfig config, ColourView view, string from, Span<float> rgb, CancellationToken stop);
}
