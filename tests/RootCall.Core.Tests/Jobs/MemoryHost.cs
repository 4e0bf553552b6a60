using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;
using RootCall.Native;

namespace RootCall.Core.Tests.Jobs;

/// <summary>Hosts jobs without a database: what they keep is kept in lists, and their places lie under one folder.</summary>
internal sealed class MemoryHost
    : ISceneShelf,
        ILedgers,
        IRoots,
        ITreeStore,
        ISeenFiles,
        IKnownFiles,
        IHouse,
        IPackages,
        IStorePlaces,
        IJobQueue
{
    private readonly string folder;
    private readonly Dictionary<Guid, Ledger> ledgers = [];
    private readonly Dictionary<Guid, ImmutableDictionary<ReferenceKey, LastSeen>> seen = [];
    private readonly Dictionary<string, TreeIndex> trees = [];

    public MemoryHost(string folder)
    {
        this.folder = folder;
        var indexes = new Indexes(this);
        var decoder = new ImageDecoder(Bounds.Default);
        var facts = new FileFacts(decoder);
        var reading = new SceneReading(this, this, this, indexes, this, this, this, facts, Bounds.Default);
        var followUps = new FollowUps(this);
        Arrive = new(
            new Intake(this, new HardLink(), facts, Bounds.Default),
            this,
            this,
            this,
            reading,
            this,
            followUps,
            TimeProvider.System
        );
        Search = new(this, this, reading, this, followUps, TimeProvider.System);
        Remember = new(this, this, this, new ArrivalRecipes(this, this, TimeProvider.System), this, this, facts, followUps);
        Extract = new(this, this, this, TimeProvider.System);
        var tools = new FrameTools(decoder, new MeshDecoder(Bounds.Default), new RayTracers(Bounds.Default, 1), 64 << 20, Moment);
        var crossing = new SceneCrossing(this, this, this, reading, this, tools, decoder);
        Pack = new(this, this, reading, crossing, this, tools, Bounds.Default, TimeProvider.System);
        Draw = new(this, this, reading, this, tools, ChosenColours.None, TimeProvider.System);
        DrawCrossing = new(this, this, reading, this, tools, TimeProvider.System);
        Copy = new(reading, crossing, this, this);
    }

    public ArriveJob Arrive { get; }
    public SearchJob Search { get; }
    public RememberJob Remember { get; }
    public ExtractJob Extract { get; }
    public PackJob Pack { get; }
    public FrameJob Draw { get; }

    public CrossingFrameJob DrawCrossing { get; }
    public WriteCopyJob Copy { get; }

    public List<(Delivered Scene, Arrival Head)> Arrivals { get; } = [];
    public List<string> Roots { get; } = [];
    public List<Recipe> AllRecipes { get; } = [];
    public List<(BuiltPackage Built, Proof Proof)> Packages { get; } = [];
    public List<JobRequest> Queue { get; } = [];

    /// <summary>Called when a muster is about to be kept: what another hand does meanwhile.</summary>
    public Action? BeforeRemuster { get; set; }

    // Scenes
    Task<Guid?> ISceneShelf.Known(string path, CancellationToken stop) =>
        Task.FromResult(Arrivals.FindLast(a => a.Head.Path == path && !a.Scene.Uploaded).Head?.SceneId);

    Task<Guid> ISceneShelf.Arrive(Delivered delivered, CancellationToken stop)
    {
        if (Arrivals.Find(a => a.Head.Id == delivered.Id).Head is { } there)
            return Task.FromResult(there.SceneId);
        var id = delivered.VersionOf ?? Guid.NewGuid();
        Arrivals.Add((delivered, new(delivered.Id, id, delivered.Mustered.Report.Scene.Path, delivered.Source, 1)));
        return Task.FromResult(id);
    }

    Task<Arrival?> ISceneShelf.Newest(Guid sceneId, CancellationToken stop) =>
        Task.FromResult<Arrival?>(Arrivals.FindLast(a => a.Head.SceneId == sceneId).Head);

    Task<Arrival?> ISceneShelf.Version(Guid sceneId, int version, CancellationToken stop) =>
        Task.FromResult<Arrival?>(Arrivals.Where(a => a.Head.SceneId == sceneId).ElementAtOrDefault(version - 1).Head);

    public MusterReport Report(Guid arrival) => Arrivals.Find(a => a.Head.Id == arrival).Scene.Mustered.Report;

    Task<MusterReport> ISceneShelf.Report(Guid arrival, CancellationToken stop) => Task.FromResult(Report(arrival));

    Task<Scene> ISceneShelf.Scene(Guid arrival, CancellationToken stop) => Task.FromResult(Report(arrival).Scene);

    Task<MusteredReference?> ISceneShelf.Reference(Guid arrival, int number, CancellationToken stop) =>
        Task.FromResult(Report(arrival).References.FirstOrDefault(r => r.Number == number));

    Task<bool> ISceneShelf.Remuster(Arrival started, Mustered mustered, DateTimeOffset at, CancellationToken stop)
    {
        BeforeRemuster?.Invoke();
        var i = Arrivals.FindIndex(a => a.Head == started);
        if (i >= 0)
            Arrivals[i] = (Arrivals[i].Scene with { Mustered = mustered }, started with { MusterRevision = started.MusterRevision + 1 });
        return Task.FromResult(i >= 0);
    }

    // Ledgers
    public Ledger LedgerOf(Guid sceneId) => ledgers.GetValueOrDefault(sceneId, Ledger.Empty);

    Task<Ledger> ILedgers.Read(Guid sceneId, CancellationToken stop) => Task.FromResult(LedgerOf(sceneId));

    public Task<Ledger> Change(Guid sceneId, Func<Ledger, Ledger> change, CancellationToken stop) =>
        Task.FromResult(ledgers[sceneId] = change(LedgerOf(sceneId)));

    // Places
    public RootScope Everything => new([folder]);

    Task<RootScope> IRoots.ScopeOf(string scenePath, Guid? sceneId, CancellationToken stop) =>
        Task.FromResult(CurrentScene.Scope(scenePath, Roots.Concat(sceneId is { } id ? [Extracted(id)] : []).Where(Directory.Exists)));

    Task<RootScope> IRoots.Outputs(CancellationToken stop) =>
        Task.FromResult(new RootScope([Directory.CreateDirectory(At("out")).FullName]));

    private string At(params string[] names) => Path.Combine([folder, "store", .. names]);

    public string Incoming(Guid id) => At("incoming", $"{id:N}");

    public string Arrival(Guid id)
    {
        Directory.CreateDirectory(At("arrivals"));
        return At("arrivals", $"{id:N}");
    }

    public string Blob(string sha256) => At("blobs", sha256);

    public string Edited(Guid sceneId) => At("edited", $"{sceneId:N}");

    public string ToFetch(Guid sceneId, Guid job) => At("copies", $"{job:N}");

    public string Added(Guid sceneId) => At("added", $"{sceneId:N}");

    public string Extracted(Guid sceneId) => At("extracted", $"{sceneId:N}");

    public string Package(Guid token, string name) => At("packages", $"{token:N}", name);

    public string Work(Guid token) => At("work", $"{token:N}");

    public string Moment => At("work", "moments");

    public string Frame(Guid sceneId, FrameLighting light, string? camera) => At("frames", $"{sceneId:N}-{light}{camera}.png");

    public string CrossingFrame(Guid sceneId, WholeCrossing crossing) => At("frames", $"{sceneId:N}-{crossing.Model}");

    public string View(Guid sceneId, string print) => Path.Combine(At("views", $"{sceneId:N}"), print);

    public string MomentFrames(DrawMoments moments) =>
        At("frames", $"{moments.Before.Word(moments.SceneId)}-{moments.After.Word(moments.SceneId)}");

    public string Crossing(string print) => At("crossings", print);

    public string Look(string print) => At("looks", print);

    public string? ColourPrint => null;

    // What is known
    Task<ImmutableDictionary<ReferenceKey, LastSeen>> ISeenFiles.Read(Guid sceneId, CancellationToken stop) =>
        Task.FromResult(seen.GetValueOrDefault(sceneId, ImmutableDictionary<ReferenceKey, LastSeen>.Empty));

    Task ISeenFiles.Put(Guid sceneId, IReadOnlyDictionary<ReferenceKey, LastSeen> files, CancellationToken stop)
    {
        seen[sceneId] = seen.GetValueOrDefault(sceneId, ImmutableDictionary<ReferenceKey, LastSeen>.Empty).SetItems(files);
        return Task.CompletedTask;
    }

    Task IKnownFiles.Load(FileFacts facts, IEnumerable<string> paths, CancellationToken stop, bool again) => Task.CompletedTask;

    Task IKnownFiles.Save(FileFacts facts, CancellationToken stop) => Task.CompletedTask;

    Task<TreeIndex?> ITreeStore.Load(string folder, CancellationToken stop) => Task.FromResult(trees.GetValueOrDefault(folder));

    Task ITreeStore.Save(TreeIndex index, ImmutableArray<FolderListing> changed, CancellationToken stop)
    {
        trees[index.Folder] = index;
        return Task.CompletedTask;
    }

    // House
    Task<HouseRules> IHouse.Rules(CancellationToken stop) => Task.FromResult(HouseRules.Standard);

    Task<NameDictionary> IHouse.Names(CancellationToken stop) => Task.FromResult(NameDictionary.Standard);

    Task<IReadOnlyList<Recipe>> IHouse.Recipes(CancellationToken stop) => Task.FromResult<IReadOnlyList<Recipe>>(AllRecipes);

    Task<IReadOnlyList<PathRewrite>> IHouse.Approved(CancellationToken stop) => Task.FromResult<IReadOnlyList<PathRewrite>>([]);

    Task<Destination> IHouse.DestinationOf(Guid sceneId, CancellationToken stop) => Task.FromResult(Destination.Plain);

    Task<IReadOnlyDictionary<string, Waiver>> IHouse.Waivers(Guid sceneId, CancellationToken stop) =>
        Task.FromResult<IReadOnlyDictionary<string, Waiver>>(new Dictionary<string, Waiver>());

    // Packages and the queue
    Task<bool> IPackages.Has(Guid job, CancellationToken stop) => Task.FromResult(false);

    Task IPackages.Publish(IAttempt attempt, Guid sceneId, BuiltPackage built, Proof proof, CancellationToken stop) =>
        attempt.Held(() => Packages.Add((built, proof)), stop);

    Task IJobQueue.Put(JobRequest request, string title, Guid? sceneId, CancellationToken stop)
    {
        Queue.Add(request);
        return Task.CompletedTask;
    }
}

/// <summary>An attempt that notes its phases, and can be lost.</summary>
internal sealed class Attempt(Guid? job = null) : IAttempt
{
    public Guid Job { get; } = job ?? Guid.NewGuid();

    public Guid Token { get; } = Guid.NewGuid();

    public HashSet<string> Phases { get; } = [];

    public bool IsLost { get; init; }

    public void Report(string phase, string detail = "", long done = 0, long total = 0)
    {
        lock (Phases)
            Phases.Add(phase);
    }

    public Task Held(Action act, CancellationToken stop)
    {
        if (IsLost)
            throw new OperationCanceledException();
        act();
        return Task.CompletedTask;
    }
}
