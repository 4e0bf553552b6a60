using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>Writes current scenes in another format, every look carried to a model that it says.</summary>
public sealed class SceneCrossing(
    ISceneShelf scenes,
    ILedgers ledgers,
    IHouse house,
    SceneReading reading,
    IStorePlaces places,
    FrameTools tools,
    IImageEncoder encoder
)
{
    /// <param name="folder">Absolute; where the file goes, and a folder of textures where it needs one.</param>
    /// <param name="work">Folder for what is needed on the way; it must stay as long as what is read is used.</param>
    /// <exception cref="CannotUseException">The scene cannot be said so, or a file of that name is there. Nothing was kept.</exception>
    public async Task<(SceneRead Read, CrossedFileResult File)> Write(
        Guid sceneId,
        CrossInto into,
        string folder,
        string work,
        IAttempt attempt,
        CancellationToken stop
    )
    {
        var form = CrossedForm.Find(into.Form) ?? throw new CannotUseException($"Nothing is written as “{into.Form}”.");
        var arrival = await scenes.Demand(sceneId, stop);
        var ledger = await ledgers.Read(sceneId, stop);
        var edited = Path.Combine(work, "edited");
        var read = await reading.Read(arrival.Path, sceneId, ledger, relinks: true, edited, null, attempt, stop);
        // What is only offered is nobody's decision yet.
        var session = read.Session with { Report = ChangedLooks.Decided(read.Report) };
        var looks = into.Looks.Looks(session.Report, ledger, l => MovedLook.Read(places.Crossing(l.Print))).ToList();
        var textures = new TextureCache(tools.Decoder, tools.TextureBytes, LookBaking.LargestSide);
        var baking = new LookBaking(session.Report, textures, encoder, places.Moment, CrossedFile.TexturesOf(folder), form.Maker)
        {
            Called = (await house.Rules(stop)).Baked(await house.Names(stop)),
            Begun = name => attempt.Report("baking", name),
        };
        IEnumerable<LookToCarry> Told()
        {
            foreach (var (look, at) in looks.Select((l, i) => (l, i)))
            {
                attempt.Report("crossing", look.Material.Name, at, looks.Count);
                yield return look;
            }

            attempt.Report("writing", $"{Path.GetFileNameWithoutExtension(arrival.Path)}.{form.Ending}");
        }

        return (read, new CrossedFile(session, form, baking, tools.Meshes, folder).Write(Told(), into.Looks.Model, stop));
    }
}
