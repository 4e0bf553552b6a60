using System.Text.Json;
using RootCall.Core.Files;
using RootCall.Demo.Painting;
using RootCall.Demo.Scenes;

namespace RootCall.Demo;

/// <summary>
/// Writes <em>The Tin Orchard</em>: each scene as it arrived with its planted faults, its clean twin, the library where
/// moved files lie, and the answer key. The same bytes every time.
/// </summary>
public static class DemoWriter
{
    public const string Library = "library";
    public const string AnswerKey = "answer-key.json";

    /// <summary>The arrived scenes, from the demo's folder.</summary>
    public static IReadOnlyList<string> ArrivedScenes => [.. Scenes.Select(s => $"{s.Arrived}/{s.File}")];

    /// <summary>Those whose clean twin is what they were before the transfer; in the others faults were planted by hand.</summary>
    public static IReadOnlyList<string> TransferScenes =>
        [.. Scenes.Where(s => s.Losses.Count > 0 || s.Findings.Count == 0).Select(s => $"{s.Arrived}/{s.File}")];

    private static IReadOnlyList<DemoScene> Scenes =>
        [
            BrassGardener.Scene,
            PottingBench.Scene,
            SeedTins.Scene,
            LeanTo.Scene,
            ToolWall.Scene,
            GlasshouseCorner.Scene,
            BrassLamp.Scene,
            EnamelSign.Scene,
            WateringCan.Scene,
            TinPear.Scene,
            TinLantern.Scene,
            SeedDrawer.Scene,
            MothJar.Scene,
            GardenGate.Scene,
            Pebble.Scene,
            DewDrop.Scene,
        ];

    /// <summary>Writes everything; files already there with the same name are written over.</summary>
    /// <returns>Absolute paths of the files.</returns>
    /// <exception cref="CannotUseException">The place is a file.</exception>
    public static IReadOnlyList<string> Write(string folder)
    {
        if (File.Exists(folder))
            throw new CannotUseException($"“{folder}” is a file; the demo needs a folder.");
        var made = Paints.All.ToDictionary(p => p.Name, p => new Lazy<byte[]>(p.Make));
        Parallel.ForEach(made.Values, m => _ = m.Value);
        byte[] Paint(string name) => made[name].Value;
        var written = new List<string>();
        void Put(string path, byte[] bytes)
        {
            var full = Path.Combine(folder, path);
            Directory.CreateDirectory(Path.GetDirectoryName(full)!);
            File.WriteAllBytes(full, bytes);
            if (!written.Contains(full))
                written.Add(full);
        }

        foreach (var scene in Scenes)
        {
            var byId = scene.Calls.ToDictionary(c => c.Id);
            byte[] Bytes(string id) => Paint(byId[id].Paint);
            foreach (var (name, bytes) in scene.Own(id => byId[id].Carried ? null : byId[id].Written, Bytes, true))
                Put($"{scene.Arrived}/{name}", bytes);
            foreach (var (name, bytes) in scene.Own(id => byId[id].Carried ? null : byId[id].Clean, Bytes, false))
                Put($"{scene.CleanFolder}/{name}", bytes);
            foreach (var call in scene.Calls.Where(c => c is { Carried: false, Kind: "image" }))
            {
                Put($"{scene.CleanFolder}/{call.Clean}", Paint(call.Paint));
                foreach (var copy in call.Copies)
                {
                    var bytes = Paint(copy.Paint ?? call.Paint);
                    Put(copy.Path, copy.Damage?.Invoke(bytes) ?? bytes);
                }
            }
        }

        foreach (var image in EnamelSign.ChainImages)
        {
            Put($"{Library}/tin-orchard/tex/{image}", Paint(image));
            Put($"{EnamelSign.Scene.CleanFolder}/textures/{image}", Paint(image));
        }

        // What a library has besides: maps at another resolution; and what a delivery leaves lying about.
        foreach (var proxy in new[] { "brass_basecolor", "brass_normal", "verdigris_basecolor" })
            Put($"{Library}/metals/{proxy}_proxy.png", Paint($"{proxy}_proxy.png"));
        foreach (var proxy in new[] { "tin_leaf_basecolor", "tin_leaf_normal" })
            Put($"{Library}/tin-orchard/tex/{proxy}_proxy.png", Paint($"{proxy}_proxy.png"));
        Put($"{GlasshouseCorner.Scene.Arrived}/textures/pot_glaze_test.png", Paint("noise_fine.png"));
        Put($"{Library}/tin-orchard/mtl/hanging_chain.mtl", EnamelSign.ChainLibrary("../tex"));
        Put($"{EnamelSign.Scene.CleanFolder}/hanging_chain.mtl", EnamelSign.ChainLibrary("textures"));
        Put(AnswerKey, Key());
        return written;
    }

    private static byte[] Key()
    {
        using var buffer = new MemoryStream();
        using (var json = new Utf8JsonWriter(buffer, new() { Indented = true, NewLine = "\n" }))
        {
            json.WriteStartObject();
            json.WriteStartArray("roots");
            json.WriteStringValue(Library);
            json.WriteEndArray();
            json.WriteStartArray("scenes");
            foreach (var scene in Scenes)
            {
                json.WriteStartObject();
                json.WriteString("name", scene.Name);
                json.WriteString("arrived", $"{scene.Arrived}/{scene.File}");
                json.WriteString("clean", $"{scene.CleanFolder}/{scene.File}");
                json.WriteStartArray("references");
                foreach (var call in scene.Calls.Where(c => !c.LeftBehind))
                    Reference(json, call);
                json.WriteEndArray();
                json.WriteStartArray("transfer");
                foreach (var loss in scene.Losses)
                {
                    json.WriteStartObject();
                    json.WriteString("kind", loss.Kind);
                    json.WriteString("name", loss.Name);
                    json.WriteString("what", loss.What);
                    if (loss.Input is not null)
                        json.WriteString("input", loss.Input);
                    json.WriteString("fault", loss.Fault);
                    json.WriteEndObject();
                }

                json.WriteEndArray();
                json.WriteStartArray("findings");
                foreach (var planted in scene.Findings)
                {
                    json.WriteStartObject();
                    json.WriteString("rule", planted.Rule);
                    json.WriteString("target", planted.Target);
                    json.WriteString("fault", planted.Fault);
                    json.WriteEndObject();
                }

                json.WriteEndArray();
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        return buffer.ToArray();
    }

    private static void Reference(Utf8JsonWriter json, Call call)
    {
        json.WriteStartObject();
        json.WriteString("kind", call.Kind);
        json.WriteString("written", call.Written);
        json.WriteString("state", call.State);
        json.WriteStartArray("flags");
        foreach (var flag in call.Flags)
            json.WriteStringValue(flag);
        json.WriteEndArray();
        if (call.Fault is not null)
            json.WriteString("fault", call.Fault);
        json.WriteEndObject();
    }
}
