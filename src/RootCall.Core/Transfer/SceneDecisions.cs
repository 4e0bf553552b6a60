using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Transfer;

/// <summary>The artist's decisions about a scene as a whole, each as one entry for the ledger.</summary>
public static class SceneDecisions
{
    /// <summary>Another option of a variant set.</summary>
    /// <exception cref="CannotUseException">The scene has no such option.</exception>
    public static LedgerEntry Choose(Scene scene, string place, string set, string option, DateTimeOffset at)
    {
        var there = scene.Variants.FirstOrDefault(v => v.Place == place && v.Set == set && v.Options.Contains(option))
            ?? throw new CannotUseException($"The scene has no {set} called {option}.");
        return LedgerEntry.ByHand($"Choose {option} for {set}", [new SelectVariant(place, set, there.Selected, option)], at);
    }

    /// <summary>A material library beside the scene, called like it.</summary>
    public static LedgerEntry MakeLibrary(Scene scene, DateTimeOffset at)
    {
        var name = Path.ChangeExtension(Path.GetFileName(scene.Path), ".mtl");
        return LedgerEntry.ByHand($"Make the material library {name}", [new MakeLibrary(name)], at);
    }
}
