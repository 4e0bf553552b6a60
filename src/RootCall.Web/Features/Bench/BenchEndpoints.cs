using System.Text.Json;
using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Shading;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Audit;
using RootCall.Web.Features.Ledger;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Bench;

/// <summary>Stage four: how each material looks, and where its values come from.</summary>
internal static class BenchEndpoints
{
    /// <summary>Letters of values that are tried; a material has a few dozen inputs.</summary>
    private const int MostTried = 8_000;

    public static void MapBench(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/bench").WithTags("Bench");
        group.MapGet(string.Empty, async (Guid id, Benches benches, CancellationToken stop) =>
            TypedResults.Ok(await benches.View(id, stop))
        );
        group.MapGet("/looks", async (Guid id, Benches benches, CancellationToken stop) => TypedResults.Ok(await benches.Looks(id, stop)));
        group.MapPost("/looks", async (Guid id, CurrentScenes current, WorkDispatcher work, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            var title = $"Measure the looks of {Path.GetFileName(state.Arrival.Path)}";
            return TypedResults.Ok(await work.Begin(new MeasureLooks(id), title, id, stop));
        });
        group.MapPost("/marks", async (Guid id, MarkThese these, Benches benches, CancellationToken stop) =>
        {
            await benches.Mark(id, these, stop);
            return TypedResults.Ok(await benches.View(id, stop));
        });
        group.MapGet("/material", async (Guid id, string name, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            return TypedResults.Ok(HeldViews.Of(id, state, Called(state, name)));
        });
        group.MapGet("/draft", Draft).ExcludeFromDescription();
        group.MapPost("/values", async (Guid id, TakeValues take, Audits audits, CancellationToken stop) =>
        {
            if (take.Values.Count == 0)
                throw new CannotUseException("No value was changed.");
            var decision = new HandMany([.. take.Values.Select(v => HeldNode.Set(v.Key, v.Value))]);
            return TypedResults.Ok(await Put(id, decision, take.Material, take.Seen, audits, stop));
        });
        group.MapGet("/wires", async (Guid id, string name, string input, string? channel, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            return TypedResults.Ok(
                WireChoices.Of(state.Scene, Called(state, name), input, channel is null ? null : ChannelWords.Of(channel))
            );
        });
        group.MapPost("/wires", async (Guid id, LayWire lay, Audits audits, CancellationToken stop) =>
            TypedResults.Ok(
                await Put(id, WireChoices.Decision(lay.Act, lay.Input, lay.To, lay.Channel), lay.Material, lay.Seen, audits, stop)
            )
        );
        group.MapPost("/assign/preview", async (Guid id, AssignTo assign, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            return TypedResults.Ok(AuditShapes.Fix(Plan(state, Worn(assign), assign.Material)));
        });
        group.MapPost("/assign", async (Guid id, AssignTo assign, Audits audits, CancellationToken stop) =>
            TypedResults.Ok(await Put(id, Worn(assign), assign.Material, assign.Seen, audits, stop))
        );
        group.MapPost("/own", async (Guid id, OwnInstance own, Audits audits, CancellationToken stop) =>
            TypedResults.Ok(await Put(id, new HandOwn(own.Mesh, own.Instance), own.Material, own.Seen, audits, stop))
        );
        group.MapPost("/copy/preview", async (Guid id, CopyInputs copy, Audits audits, CancellationToken stop) =>
        {
            var plan = Copied(await audits.Get(id, stop), copy);
            var left = plan.Left.GroupBy(l => Reason(l.Finding, l.Reason), l => l.Finding.Target.Name).Select(g => new LeftGroup(g.Key, g));
            return TypedResults.Ok(new CopyView(copy.To.Count, copy.To.Count - plan.Left.Length, AuditShapes.Fix(plan), left));
        });
        group.MapPost("/copy", async (Guid id, CopyInputs copy, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            var entry = Copied(state, copy).Entry(Decision(copy), DateTimeOffset.UtcNow);
            return TypedResults.Ok(await audits.Put(id, state, entry, copy.Seen, stop));
        });
    }

    private static HandCopy Decision(CopyInputs copy) => new(copy.From, [.. copy.Inputs]);

    private static FixPlan Copied(AuditState state, CopyInputs copy) =>
        copy.Inputs.Count == 0
            ? throw new CannotUseException("Choose an input first.")
            : HandPlan.Make(state.Scene, Decision(copy), HandPlaces.Of(state.Scene, copy.To));

    /// <summary>Reasons that differ in the name of the material alone are one.</summary>
    private static string Reason(Finding finding, string reason) =>
        reason.Replace($"{finding.Target.Name} has no", "It has no", StringComparison.Ordinal);

    private static HandWear Worn(AssignTo assign) =>
        assign.To.Trim() is not { Length: > 0 } to ? throw new CannotUseException("Choose a material first.")
        : assign.IsSplit ? new HandSplit(to, [.. assign.Wearers])
        : new HandAssign(to, [.. assign.Wearers]);

    private static FixPlan Plan(AuditState state, HandDecision decision, string material) =>
        HandPlan.Make(state.Scene, decision, HandPlaces.Of(state.Scene, [Called(state, material).Name]));

    /// <summary>A decision about one material, as an entry of the ledger.</summary>
    private static async Task<LedgerView> Put(
        Guid id,
        HandDecision decision,
        string material,
        Guid? seen,
        Audits audits,
        CancellationToken stop
    )
    {
        var state = await audits.Get(id, stop);
        var plan = Plan(state, decision, material);
        if (plan.Left is [var (_, why), ..])
            throw new CannotUseException(why);
        return await audits.Put(id, state, plan.Entry(decision, DateTimeOffset.UtcNow), seen, stop);
    }

    /// <param name="values">Values that are tried, by input, as JSON: <c>{"roughness":[0.4]}</c>.</param>
    private static async Task<IResult> Draft(
        Guid id,
        string name,
        string values,
        string? light,
        int? side,
        string? shape,
        HttpResponse response,
        Audits audits,
        DiskStore disk,
        SwatchRequests swatches,
        Views views,
        CancellationToken stop
    )
    {
        var state = await audits.Get(id, stop);
        var material = Called(state, name);
        var place = new Target("material", material.Name);
        var edits = Values(values).SelectMany(v => HeldNode.Set(v.Key, v.Value).Edits(state.Scene, place));
        var order = DraftLook.Of(state.Scene, material.Name, edits, SwatchEndpoints.Lit(light), SwatchEndpoints.Side(side));
        // How far both lie apart is told on the sphere alone: it is what all differences are measured on.
        if (order is not null && views.On(order, shape, state.Current, material.Material) is { } shown)
            order = shown is { Shape: SwatchShape.Sphere, On: null } ? shown : shown with { Before = null };
        return SwatchEndpoints.Answer(order, response, disk, swatches);
    }

    private static Dictionary<string, double[]> Values(string json)
    {
        try
        {
            return json.Length <= MostTried && JsonSerializer.Deserialize<Dictionary<string, double[]>>(json) is { } values
                ? values
                : throw new CannotUseException("The values that are tried are no list of numbers by input.");
        }
        catch (JsonException)
        {
            throw new CannotUseException("The values that are tried are no list of numbers by input.");
        }
    }

    private static MaterialView Called(AuditState state, string name) =>
        state.Scene.Called(name) ?? throw new CannotUseException($"The scene has no material {name}.");
}
