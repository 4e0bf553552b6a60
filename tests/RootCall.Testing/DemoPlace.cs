using System.Text.Json;
using RootCall.Demo;

namespace RootCall.Testing;

/// <summary>The demo, written once a process for all tests that read it, however many at once. Nobody writes into it.</summary>
public sealed class DemoPlace
{
    private static readonly Lazy<Place> Written = new(Write);

    private readonly Place place = Written.Value;

    public string Folder => place.Folder;

    public string Library => place.At(DemoWriter.Library);

    public string At(string name) => place.At(name);

    public IReadOnlyList<DemoAnswer> Answers()
    {
        using var key = JsonDocument.Parse(File.ReadAllBytes(At(DemoWriter.AnswerKey)));
        return
        [
            .. key
                .RootElement.GetProperty("scenes")
                .EnumerateArray()
                .Select(s => new DemoAnswer(
                    s.GetProperty("name").GetString()!,
                    At(s.GetProperty("arrived").GetString()!),
                    At(s.GetProperty("clean").GetString()!),
                    [
                        .. s.GetProperty("references")
                            .EnumerateArray()
                            .Select(r => new DemoReference(
                                r.GetProperty("written").GetString()!,
                                r.GetProperty("state").GetString()!,
                                [.. r.GetProperty("flags").EnumerateArray().Select(f => f.GetString()!)]
                            )),
                    ],
                    [
                        .. s.GetProperty("transfer")
                            .EnumerateArray()
                            .Select(t =>
                                string.Join(
                                    ' ',
                                    new[] { "kind", "name", "what", "input" }
                                        .Where(k => t.TryGetProperty(k, out _))
                                        .Select(k => t.GetProperty(k).GetString())
                                )
                            ),
                    ],
                    [
                        .. s.GetProperty("findings")
                            .EnumerateArray()
                            .Select(f => $"{f.GetProperty("rule").GetString()}: {f.GetProperty("target").GetString()}"),
                    ]
                )),
        ];
    }

    private static Place Write()
    {
        var place = new Place();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => place.Dispose();
        DemoWriter.Write(place.Folder);
        return place;
    }
}

public sealed record DemoAnswer(
    string Name,
    string Arrived,
    string Clean,
    IReadOnlyList<DemoReference> References,
    IReadOnlyList<string> Losses,
    IReadOnlyList<string> Findings
);

public sealed record DemoReference(string Written, string State, IReadOnlyList<string> Flags);
