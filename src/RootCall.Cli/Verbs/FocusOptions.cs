using System.CommandLine;
using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Cli.Verbs;

/// <summary>Which materials a verb is about, as the artist's focus in the browser.</summary>
internal sealed class FocusOptions
{
    private readonly Option<string[]> materials = Many("--material", "Only these materials, and what they call for.");
    private readonly Option<string[]> meshes = Many("--mesh", "Only the materials of these meshes, and what they call for.");

    public void AddTo(Command command)
    {
        command.Options.Add(materials);
        command.Options.Add(meshes);
    }

    /// <summary>Null when nothing is named.</summary>
    /// <exception cref="CannotUseException">The scene has none of that name.</exception>
    public AuditFocus? Of(ParseResult call, Scene scene) => AuditFocus.Of(scene, call.GetValue(materials)!, call.GetValue(meshes)!);

    public static Option<string[]> Many(string name, string what) =>
        new(name)
        {
            Description = what,
            AllowMultipleArgumentsPerToken = true,
            DefaultValueFactory = _ => [],
        };
}
