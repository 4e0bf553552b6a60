using System.Collections.Immutable;

namespace RootCall.Core.Formats;

/// <summary>What there is to know of a scene that was written in another format without looks.</summary>
/// <param name="Told">What could not be taken along, in sentences.</param>
/// <param name="Sets">What UV sets are called there, by the place of the material that is worn and by name.</param>
/// <param name="FirstSet">What the first UV set is called, or would be.</param>
/// <param name="Ids">
/// Ids that materials have once they are there, by place; empty where each is there already, by its name alone.
/// </param>
public sealed record BareScene(
    ImmutableArray<string> Told,
    IReadOnlyDictionary<(int Material, string Set), string> Sets,
    string FirstSet,
    ImmutableArray<string> Ids
);
