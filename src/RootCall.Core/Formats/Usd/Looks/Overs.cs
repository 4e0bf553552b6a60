using System.Text;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>A tree of prims to be said anew, or for the first time.</summary>
internal sealed class Overs(string name)
{
    public string Name => name;

    public string Definition { get; set; } = "over";

    public List<string> Metadata { get; } = [];

    public List<string> Statements { get; } = [];

    public List<Overs> Children { get; } = [];

    public Overs At(string path)
    {
        var at = this;
        foreach (var part in path.Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            var child = at.Children.Find(c => c.Name == part);
            if (child is null)
                at.Children.Add(child = new(part));
            at = child;
        }

        return at;
    }

    public void Write(StringBuilder text, string indent, string unit, string newLine)
    {
        text.Append(indent).Append(Definition).Append(" \"").Append(name).Append('"');
        if (Metadata.Count > 0)
            text.Append(" (")
                .Append(newLine)
                .Append(indent)
                .Append(unit)
                .AppendJoin(newLine + indent + unit, Metadata)
                .Append(newLine)
                .Append(indent)
                .Append(')');
        text.Append(newLine).Append(indent).Append('{').Append(newLine);
        foreach (var statement in Statements)
            text.Append(indent).Append(unit).Append(statement).Append(newLine);
        foreach (var child in Children)
            child.Write(text, indent + unit, unit, newLine);
        text.Append(indent).Append('}').Append(newLine);
    }
}
