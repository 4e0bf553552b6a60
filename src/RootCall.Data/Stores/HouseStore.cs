using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Files;

namespace RootCall.Data.Stores;

/// <summary>
/// What the house has chosen: its rules, its own destinations, its recipes. All are kept as the JSON that can be
/// exported.
/// </summary>
public sealed class HouseStore(IDbContextFactory<RootCallDb> databases)
{
    private const string RulesKey = "house-rules";
    private const string DestinationKey = "destination:";
    private const string RecipeKey = "recipe:";

    public async Task<HouseRules> Rules(CancellationToken stop) =>
        await Read(RulesKey, stop) is { } json ? HouseRules.Read(json, "the house rules") : HouseRules.Standard;

    public Task SetRules(HouseRules rules, CancellationToken stop) => Write(RulesKey, rules.Write(), stop);

    /// <summary>
    /// The plain one, those that ship, and the house's own; one of the house's that has the id of another stands in its
    /// place.
    /// </summary>
    public async Task<ImmutableArray<Destination>> Destinations(CancellationToken stop)
    {
        var own = (await All(DestinationKey, stop)).Select(d => DestinationFiles.Read(d.Json, d.Key)).ToList();
        return [Destination.Plain, .. DestinationFiles.Shipped.Where(s => !own.Exists(o => o.Id == s.Id)), .. own];
    }

    /// <summary>The plain one for an id that is no longer there.</summary>
    public async Task<Destination> DestinationOf(string id, CancellationToken stop) =>
        (await Destinations(stop)).FirstOrDefault(d => d.Id == id) ?? Destination.Plain;

    /// <exception cref="CannotUseException">It has the id of the plain one, or an id that cannot be written in a path.</exception>
    public Task SetDestination(Destination destination, CancellationToken stop)
    {
        if (destination.Id == Destination.Plain.Id || destination.Id.Any(c => !char.IsAsciiLetterOrDigit(c) && c != '-'))
            throw new CannotUseException($"“{destination.Id}” is no id for a destination: letters, digits and hyphens.");
        return Write(DestinationKey + destination.Id, DestinationFiles.Write(destination), stop);
    }

    public Task RemoveDestination(string id, CancellationToken stop) => Remove(DestinationKey + id, stop);

    public async Task<IReadOnlyList<(string Id, Recipe Recipe)>> Recipes(CancellationToken stop) =>
        [.. (await All(RecipeKey, stop)).Select(r => (r.Key, Recipe.Read(r.Json, r.Key)))];

    /// <exception cref="CannotUseException">There is no such recipe.</exception>
    public async Task<Recipe> RecipeOf(string id, CancellationToken stop) =>
        await FindRecipe(id, stop) ?? throw new CannotUseException("There is no such recipe any more.");

    /// <summary>Null when it is no longer there.</summary>
    public async Task<Recipe?> FindRecipe(string id, CancellationToken stop) =>
        await Read(RecipeKey + id, stop) is { } json ? Recipe.Read(json, id) : null;

    public Task SetRecipe(string id, Recipe recipe, CancellationToken stop) => Write(RecipeKey + id, recipe.Write(), stop);

    public Task RemoveRecipe(string id, CancellationToken stop) => Remove(RecipeKey + id, stop);

    private async Task<string?> Read(string key, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return (await db.Settings.AsNoTracking().FirstOrDefaultAsync(s => s.Key == key, stop))?.Value.RootElement.GetRawText();
    }

    private async Task<List<(string Key, string Json)>> All(string prefix, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return
        [
            .. (await db.Settings.AsNoTracking().Where(s => s.Key.StartsWith(prefix)).OrderBy(s => s.Key).ToListAsync(stop)).Select(s =>
                (s.Key[prefix.Length..], s.Value.RootElement.GetRawText())
            ),
        ];
    }

    private async Task Write(string key, string json, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var row = await db.Settings.FirstOrDefaultAsync(s => s.Key == key, stop);
        if (row is null)
            db.Settings.Add(new() { Key = key, Value = JsonDocument.Parse(json) });
        else
            row.Value = JsonDocument.Parse(json);
        await db.SaveChangesAsync(stop);
        await Turns.Tell(db, SceneEvent.All, SceneChange.Findings, stop);
    }

    private async Task Remove(string key, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Settings.Where(s => s.Key == key).ExecuteDeleteAsync(stop);
        await Turns.Tell(db, SceneEvent.All, SceneChange.Findings, stop);
    }
}
