using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Layers;

namespace RootCall.Core.Formats.Usd.Crate;

/// <summary>Puts the specs of a crate into a layer.</summary>
internal sealed class CrateSpecs(UsdLayer layer, CrateValues values, ICollection<string> errors)
{
    private const int Attribute = 1;
    private const int Prim = 6;
    private const int PseudoRoot = 7;
    private const int Relationship = 8;
    private const int Variant = 10;
    private readonly Dictionary<PathNode, UsdPrimSpec> prims = new() { [PathNode.Root] = layer.Root };

    public void Add(PathNode path, int type, IEnumerable<(string Name, ulong Value)> fields)
    {
        switch (type)
        {
            case PseudoRoot:
                foreach (var (name, value) in fields)
                {
                    var read = Read(name, value);
                    if (name == "subLayers")
                        layer.SubLayers.AddRange(read?.AsNames.Select(n => new UsdAsset(n, -1, 0)) ?? []);
                    else if (read is not null)
                        layer.Metadata[name] = read;
                }

                break;
            case Prim or Variant:
                if (Spec(path) is { } prim)
                    foreach (var (name, value) in fields)
                        Field(prim, name, value);
                break;
            case Attribute or Relationship:
                if (path.Parent is { } owner && Spec(owner) is { } holder)
                    Property(holder, path.Element, type == Relationship, fields);
                break;
            default:
                break;
        }
    }

    /// <summary>The spec of a prim or variant path; parents come into being with it.</summary>
    private UsdPrimSpec? Spec(PathNode path)
    {
        if (prims.TryGetValue(path, out var known))
            return known;
        if (path.Parent is null || path.IsProperty || Spec(path.Parent) is not { } parent)
            return null;
        UsdPrimSpec spec;
        if (!path.IsVariant)
            parent.Children.Add(spec = new(path.Element, UsdSpecifier.Over, string.Empty));
        else
        {
            var parts = path.Element.Trim('{', '}').Split('=', 2);
            if (!parent.VariantSets.TryGetValue(parts[0], out var variants))
                parent.VariantSets[parts[0]] = variants = [];
            if (parts.Length < 2 || parts[1].Length == 0)
                return null; // The set itself.
            variants.Add(spec = new(parts[1], UsdSpecifier.Over, string.Empty));
        }

        return prims[path] = spec;
    }

    private void Field(UsdPrimSpec prim, string name, ulong value)
    {
        try
        {
            switch (name)
            {
                case "specifier":
                    prim.Specifier = CrateValues.Payload(value) switch
                    {
                        0 => UsdSpecifier.Def,
                        1 => UsdSpecifier.Over,
                        _ => UsdSpecifier.Class,
                    };
                    break;
                case "typeName":
                    prim.TypeName = values.Read(value)?.AsText ?? string.Empty;
                    break;
                case "references":
                    prim.References = values.Arcs(value);
                    break;
                case "payload":
                    prim.Payloads = values.Arcs(value);
                    break;
                case "inheritPaths":
                    prim.Inherits = Own(values.Paths(value));
                    break;
                case "specializes":
                    prim.Specializes = Own(values.Paths(value));
                    break;
                case "variantSelection":
                    foreach (var (set, variant) in values.Selections(value))
                        prim.Selections[set] = variant;
                    break;
                case "primChildren" or "properties" or "variantSetChildren" or "variantChildren":
                    break; // The tree itself says so.
                default:
                    if (Read(name, value) is { } read)
                        prim.Metadata[name] = read;
                    break;
            }
        }
        catch (CannotUseException e)
        {
            Tell($"{name} of {prim.Name}: {e.Message}");
        }
    }

    private static UsdListOp<UsdArc> Own(UsdListOp<string> paths)
    {
        static ImmutableArray<UsdArc> Arcs(ImmutableArray<string> list) => [.. list.Select(p => new UsdArc(null, p))];
        return new(paths.IsExplicit, Arcs(paths.Prepended), Arcs(paths.Appended), Arcs(paths.Deleted));
    }

    private void Property(UsdPrimSpec prim, string name, bool relationship, IEnumerable<(string Name, ulong Value)> fields)
    {
        var property = new UsdPropertySpec(name, string.Empty, relationship);
        prim.Properties.Add(property);
        foreach (var (field, value) in fields)
        {
            try
            {
                switch (field)
                {
                    case "typeName":
                        property.TypeName = values.Read(value)?.AsText ?? string.Empty;
                        break;
                    case "default":
                        property.Value = values.Read(value);
                        break;
                    case "timeSamples":
                        property.FirstSample = values.FirstSample(value);
                        break;
                    case "connectionPaths" or "targetPaths":
                        property.Targets = values.Paths(value);
                        break;
                    case "connectionChildren" or "targetChildren":
                        break;
                    default:
                        if (Read(field, value) is { } read)
                            property.Metadata[field] = read;
                        break;
                }
            }
            catch (CannotUseException e)
            {
                Tell($"{field} of {prim.Name}.{name}: {e.Message}");
            }
        }
    }

    private UsdValue? Read(string name, ulong value)
    {
        try
        {
            return values.Read(value);
        }
        catch (CannotUseException e)
        {
            Tell($"{name}: {e.Message}");
            return null;
        }
    }

    private void Tell(string what)
    {
        if (errors.Count < 50)
            errors.Add(what);
    }
}
