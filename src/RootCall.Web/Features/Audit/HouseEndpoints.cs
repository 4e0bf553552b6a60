using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Files;
using RootCall.Data.Stores;

namespace RootCall.Web.Features.Audit;

/// <summary>A text as it is exported and imported.</summary>
internal sealed record JsonDocumentText(string Text);

/// <summary>Another choice for a rule: null leaves it to the rule.</summary>
/// <param name="Severity"><c>off</c>, <c>note</c>, <c>warning</c> or <c>blocker</c>.</param>
internal sealed record ChooseRule(string? Severity, IReadOnlyDictionary<string, double>? Thresholds);

/// <summary>Rules, house rules and destinations.</summary>
internal static class HouseEndpoints
{
    public static void MapHouse(this IEndpointRouteBuilder api)
    {
        var rules = api.MapGroup("/rules").WithTags("Rules");
        rules.MapGet(string.Empty, async (HouseStore house, CancellationToken stop) =>
        {
            var choice = await house.Rules(stop);
            return TypedResults.Ok(RuleCatalog.All.Select(r => AuditShapes.Rule(r.Descriptor, choice)));
        });
        rules.MapPatch("/{rule}", async (string rule, ChooseRule choose, HouseStore house, CancellationToken stop) =>
        {
            var descriptor = RuleCatalog.Find(rule)?.Descriptor ?? throw new CannotUseException($"There is no rule “{rule}”.");
            var now = await house.Rules(stop);
            var usual = choose.Severity is null || choose.Severity == descriptor.Severity.Word();
            var changed = now with
            {
                Severities = usual ? now.Severities.Remove(rule) : now.Severities.SetItem(rule, choose.Severity!),
                Thresholds = (choose.Thresholds ?? new Dictionary<string, double>()).Aggregate(now.Thresholds, (t, c) =>
                    t.SetItem($"{rule}/{c.Key}", c.Value)
                ),
            };
            // Read back, so that what cannot be read is refused before it is kept.
            await house.SetRules(HouseRules.Read(changed.Write(), "the house rules"), stop);
            return TypedResults.Ok(AuditShapes.Rule(descriptor, changed));
        });
        var choice = api.MapGroup("/house-rules").WithTags("Rules");
        choice.MapGet(string.Empty, async (HouseStore house, CancellationToken stop) =>
            TypedResults.Ok(new JsonDocumentText((await house.Rules(stop)).Write()))
        );
        choice
            .MapGet("/file", async (HouseStore house, CancellationToken stop) =>
                File(await house.Rules(stop) is var r ? r.Write() : string.Empty, "house-rules.json")
            )
            .ExcludeFromDescription();
        choice.MapPut(string.Empty, async (JsonDocumentText text, HouseStore house, CancellationToken stop) =>
        {
            await house.SetRules(HouseRules.Read(text.Text, "the text"), stop);
            return TypedResults.Ok(text);
        });
        var destinations = api.MapGroup("/destinations").WithTags("Destinations");
        destinations.MapGet("/{id}", async (string id, HouseStore house, CancellationToken stop) =>
            TypedResults.Ok(new JsonDocumentText(DestinationFiles.Write(await house.DestinationOf(id, stop))))
        );
        destinations
            .MapGet("/{id}/file", async (string id, HouseStore house, CancellationToken stop) =>
                File(DestinationFiles.Write(await house.DestinationOf(id, stop)), $"{id}.json")
            )
            .ExcludeFromDescription();
        destinations.MapPut(string.Empty, async (JsonDocumentText text, HouseStore house, CancellationToken stop) =>
        {
            var read = DestinationFiles.Read(text.Text, "the text");
            await house.SetDestination(read, stop);
            return TypedResults.Ok(AuditShapes.Destination(read));
        });
        destinations.MapDelete("/{id}", async (string id, HouseStore house, CancellationToken stop) =>
        {
            await house.RemoveDestination(id, stop);
            return TypedResults.NoContent();
        });
    }

    internal static IResult File(string json, string name) => Results.File(Encoding.UTF8.GetBytes(json + "\n"), "application/json", name);
}
