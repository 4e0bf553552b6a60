using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>
/// An edit that changes what the scene's own files say of a look, an assignment or a choice. A format writes it as bytes
/// of its own fields, or refuses with the reason when it cannot say it.
/// </summary>
public abstract record LookEdit : Edit;

/// <summary>Gives an input of the surface shader another value.</summary>
/// <param name="Material">Name of the material, or its id where several share the name.</param>
/// <param name="From">What was written; null when the default held.</param>
/// <param name="To">What is written from now on; null to let the default hold.</param>
public sealed record SetValue(string Material, string Input, ShaderValue? From, ShaderValue? To) : LookEdit
{
    public override string Target => $"{Material}.{Input}";

    public override EditText Text => new("value", $"{Material}, {Input}", From?.ToString() ?? "default", To?.ToString() ?? "default");

    public override string Describe() => To is null ? $"Leave {Material}.{Input} to its default" : $"Set {Material}.{Input} to {To}";

    public override Edit Invert() => this with { From = To, To = From };
}

/// <summary>Connects an image to an input, changes how it is read there, or disconnects it.</summary>
/// <param name="From">What fed the input; null when no image did.</param>
/// <param name="To">What feeds it from now on; its reference's written path is relative to the file that writes it. Null disconnects.</param>
public sealed record SetImage(string Material, string Input, ImageUse? From, ImageUse? To) : LookEdit
{
    public override string Target => $"{Material}.{Input}";

    public override EditText Text => new("image", $"{Material}, {Input}", Short(From), Short(To));

    private static string Short(ImageUse? use) => use is null
        ? "no image"
        : string.Join(", ", new[] { use.Reference.Written, use.Transform.IsIdentity ? string.Empty : use.Transform.ToString(), use.DeclaredSpace }.Where(t => t.Length > 0));

    public override string Describe() => (From, To) switch
    {
        (_, null) => $"Disconnect {From?.Reference.Written ?? "the image"} from {Material}.{Input}",
        (null, _) => $"Connect {To.Reference.Written} to {Material}.{Input}",
        _ when From.Reference.Written != To.Reference.Written => $"Feed {Material}.{Input} from {To.Reference.Written}",
        _ when From.Transform != To.Transform => $"Set the tiling of {Material}.{Input} to {To.Transform.ScaleU:0.####} x {To.Transform.ScaleV:0.####}",
        _ => $"Change how {Material}.{Input} reads {To.Reference.Written}",
    };

    public override Edit Invert() => this with { From = To, To = From };
}

/// <summary>Assigns another material to a mesh or a part of it.</summary>
/// <param name="Part">Name of the part; empty for the whole mesh.</param>
/// <param name="To">Empty to assign none.</param>
public sealed record AssignMaterial(string Mesh, string Part, string From, string To) : LookEdit
{
    public override string Target => $"{Mesh}/{Part}";

    public override EditText Text => new("assignment", $"{Mesh}{(Part.Length > 0 ? ", " + Part : string.Empty)}", From.Length > 0 ? From : "none", To.Length > 0 ? To : "none");

    public override string Describe() => $"Assign {(To.Length > 0 ? To : "no material")} to {Mesh}{(Part.Length > 0 ? "." + Part : string.Empty)}";

    public override Edit Invert() => this with { From = To, To = From };
}

/// <summary>Lets a file beside the scene answer for an image that was carried inside, and takes the carried bytes out.</summary>
/// <param name="File">Absolute path of the extracted file.</param>
/// <param name="Written">Path to write, relative to the scene's folder.</param>
public sealed record ExtractImage(ReferenceKey Image, string File, string Written) : LookEdit
{
    public override string Target => $"image {Image.Written}";

    public override EditText Text => new("image", Image.Written, "carried inside", Written);

    public override string Describe() => $"Extract {Image.Written} to {Written}";

    public override Edit Invert() => new CarryImage(new(ReferenceKind.Image, Image.File, Written), File);
}

/// <summary>Carries an image inside the scene that a file answered for.</summary>
/// <param name="File">Absolute path of the file whose bytes are carried.</param>
public sealed record CarryImage(ReferenceKey Image, string File) : LookEdit
{
    public override string Target => $"image {Image.Written}";

    public override EditText Text => new("image", Image.Written, "called from outside", "carried inside");

    public override string Describe() => $"Carry {Image.Written} inside the scene";

    public override Edit Invert() => new ExtractImage(Image, File, Image.Written);
}

/// <summary>Gives a scene that calls for no material library one of its own, with an entry for each material it uses.</summary>
/// <param name="Written">Name of the library, beside the scene.</param>
public sealed record MakeLibrary(string Written) : LookEdit
{
    public override string Target => "library";

    public override EditText Text => new("library", Written, "none", "made");

    public override string Describe() => $"Make the material library {Written}";

    public override Edit Invert() => throw new NotSupportedException("A library is taken back by taking its entry off the ledger.");
}

/// <summary>Chooses another of the alternatives a file offers.</summary>
public sealed record SelectVariant(string Place, string Set, string From, string To) : LookEdit
{
    public override string Target => $"{Place}{{{Set}}}";

    public override EditText Text => new("variant", Place.Length > 0 ? $"{Place}, {Set}" : Set, From, To);

    public override string Describe() => $"Choose {To} for {Set}{(Place.Length > 0 ? " of " + Place : string.Empty)}";

    public override Edit Invert() => this with { From = To, To = From };
}

/// <summary>Gives an attribute of a composed scene another asset path, in the strongest layer that is written.</summary>
/// <param name="Property">Path of the attribute: <c>/Looks/Tin/Map.inputs:file</c>.</param>
public sealed record SetAsset(string Property, string From, string To) : LookEdit
{
    public override string Target => Property;

    public override EditText Text => new("path", Property, From, To);

    public override string Describe() => $"Call {To} from {Property}";

    public override Edit Invert() => this with { From = To, To = From };
}
