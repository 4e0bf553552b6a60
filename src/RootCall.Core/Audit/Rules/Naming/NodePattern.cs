namespace RootCall.Core.Audit.Rules;

public sealed class NodePattern() : PatternRule("node", "nodes")
{
    protected override IEnumerable<(string Name, string Id)> Names(AuditScene scene) => scene.Scene.Nodes.Select(n => (n.Name, n.Name));
}
