namespace RootCall.Core.Audit.Rules;

public sealed class TexturePattern() : PatternRule("texture", "textures")
{
    protected override IEnumerable<(string Name, string Id)> Names(AuditScene scene) =>
        scene.Images.Where(r => r.Resolved is not null).Select(r => (Path.GetFileName(r.Pattern ?? r.Resolved!), r.Resolved!));
}
