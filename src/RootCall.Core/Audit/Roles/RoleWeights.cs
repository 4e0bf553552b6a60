namespace RootCall.Core.Audit.Roles;

/// <summary>
/// What each kind of evidence counts for a role, in bits: one bit makes it twice as likely. docs/map-roles.md explains them, and a
/// test holds its table beside these.
/// </summary>
public static class RoleWeights
{
    /// <summary>The input that an image feeds: of 32 wires one is wrong.</summary>
    public const int Wired = 5;

    /// <summary>One image gives several inputs a channel each: it is packed.</summary>
    public const int WiredAsPacked = 5;

    /// <summary>Values that only this content has.</summary>
    public const int PixelsDecide = 8;

    /// <summary>A picture in colours, for what is a picture.</summary>
    public const int PixelsColourful = 3;

    /// <summary>Grey, for what is one number.</summary>
    public const int PixelsGrey = 1;

    /// <summary>Channels that have nothing to do with each other, for what is packed.</summary>
    public const int PixelsApart = 2;

    /// <summary>The last word of a name whose set ends in such words.</summary>
    public const int NameInSeries = 6;

    /// <summary>The last letter of a name whose set ends in such letters.</summary>
    public const int LetterInSeries = 5;

    /// <summary>Nearly all between the ends, for metalness: places are metal or they are not.</summary>
    public const int PixelsHalfway = -2;

    /// <summary>The last word of a name that stands alone among maps of other sets, which all feed what their names say.</summary>
    public const int NameAmongSuch = 4;

    /// <summary>The last word of a name that stands alone.</summary>
    public const int NameAlone = 2;

    /// <summary>The other maps of the set feed what their names say.</summary>
    public const int SetAgrees = 2;

    /// <summary>The other maps of the set feed other inputs than their names say: these names say nothing.</summary>
    public const int SetDisagrees = -4;

    /// <summary>The input would be left without the one map it cannot be without.</summary>
    public const int NothingElseForIt = -3;

    /// <summary>So much more has to speak for another role than for the one it is wired for.</summary>
    public const int Margin = 2;

    /// <summary>A name alone is asked about when no more than this speaks against it.</summary>
    public const int Question = -3;
}
