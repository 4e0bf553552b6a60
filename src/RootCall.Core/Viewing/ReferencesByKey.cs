using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>The references of a scene as they were mustered, by their key: looked up for each of thousands of materials.</summary>
public sealed class ReferencesByKey(MusterReport report)
{
    private readonly Dictionary<ReferenceKey, MusteredReference> all = report
        .References.DistinctBy(r => r.Reference.Key)
        .ToDictionary(r => r.Reference.Key);

    public string ScenePath => report.Scene.Path;

    public MusteredReference? Find(ReferenceKey key) => all.GetValueOrDefault(key);
}
