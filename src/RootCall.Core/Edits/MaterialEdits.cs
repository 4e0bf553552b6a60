namespace RootCall.Core.Edits;

/// <summary>Gives a thing of the scene another name; everything that calls it by name follows.</summary>
/// <param name="Kind"><c>material</c>, <c>mesh</c> or <c>node</c>.</param>
/// <param name="Id">Identity within the scene; the name where the format has no more.</param>
public sealed record Rename(string Kind, string Id, string From, string To) : LookEdit
{
    public override string Target => $"name of {Kind} {Id}";

    public override EditText Text => new("name", Kind, From, To);

    public override string Describe() => $"Rename {Kind} {From} to {To}";

    public override Edit Invert() => this with { From = To, To = From };
}

/// <summary>Adds a material that is like another one.</summary>
/// <param name="From">Name of the one that is copied.</param>
/// <param name="To">A name that no material has.</param>
public sealed record CopyMaterial(string From, string To) : LookEdit
{
    public override string Target => $"material {To}";

    public override EditText Text => new("material", To, "none", $"a copy of {From}");

    public override string Describe() => $"Copy material {From} as {To}";

    public override Edit Invert() => new RemoveMaterial(To);
}

/// <summary>Takes out a material that nothing uses.</summary>
public sealed record RemoveMaterial(string Material) : LookEdit
{
    public override string Target => $"material {Material}";

    public override EditText Text => new("material", Material, "there", "taken out");

    public override string Describe() => $"Take out material {Material}";

    public override Edit Invert() => throw new NotSupportedException("A material is put back by taking the entry off the ledger.");
}
