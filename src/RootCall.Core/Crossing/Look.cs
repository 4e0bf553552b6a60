namespace RootCall.Core.Crossing;

/// <summary>
/// What a material looks like, in terms that all models share; what is not there is as if it were nothing. Colours are linear; a metal's
/// base colour is what it mirrors at normal incidence; roughness is the root of GGX's alpha; lengths are in units of the scene, films in
/// nanometres, turns of 1 all around.
/// </summary>
internal sealed class Look
{
    private readonly Dictionary<LookPart, Carried> parts = [];
    private readonly HashSet<LookPart> taken;

    public Look()
        : this([]) { }

    private Look(HashSet<LookPart> taken) => this.taken = taken;

    /// <summary>
    /// What is mirrored at normal incidence, as a colour, where the model says this in place of an index; null otherwise.
    /// </summary>
    public Carried? Mirrored { get; init; }

    /// <summary>It gives off its base colour and nothing else.</summary>
    public bool IsUnlit { get; set; }

    public Carried this[LookPart part]
    {
        set => parts[part] = value;
    }

    /// <summary>Takes a part along.</summary>
    /// <param name="nothing">What it is where the material has none.</param>
    public Carried Take(LookPart part, params ReadOnlySpan<double> nothing)
    {
        taken.Add(part);
        return parts.TryGetValue(part, out var value) ? value : Carried.Of(nothing);
    }

    /// <summary>Looks at a part and does not take it along: for whoever reads.</summary>
    public Carried Peek(LookPart part, params ReadOnlySpan<double> nothing) =>
        parts.TryGetValue(part, out var value) ? value : Carried.Of(nothing);

    /// <summary>Null where the material has none.</summary>
    public Carried? Find(LookPart part)
    {
        taken.Add(part);
        return parts.GetValueOrDefault(part);
    }

    /// <summary>Takes parts away that are said otherwise.</summary>
    public void Drop(params ReadOnlySpan<LookPart> gone)
    {
        foreach (var part in gone)
            parts.Remove(part);
    }

    /// <summary>What nobody took.</summary>
    public IEnumerable<(LookPart Part, Carried Value)> Left => parts.Where(p => !taken.Contains(p.Key)).Select(p => (p.Key, p.Value));

    /// <summary>The same look, some of it said otherwise.</summary>
    public Look With(Carried? mirrored, params ReadOnlySpan<(LookPart Part, Carried Value)> changes)
    {
        var look = new Look(taken) { Mirrored = mirrored, IsUnlit = IsUnlit };
        foreach (var (part, value) in parts)
            look[part] = value;
        foreach (var (part, value) in changes)
            look[part] = value;
        return look;
    }
}
