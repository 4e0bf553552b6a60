using Microsoft.EntityFrameworkCore;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Data.Stores;

/// <summary>The house's own dictionary of texture names; what ships until somebody edits it.</summary>
public sealed class NameStore(IDbContextFactory<RootCallDb> databases)
{
    private const string Key = "names";
    private (string Json, NameDictionary Names)? known;

    public async Task<NameDictionary> Read(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        if (await db.Settings.AsNoTracking().FirstOrDefaultAsync(s => s.Key == Key, stop) is not { } row)
            return NameDictionary.Standard;
        var json = row.Value.RootElement.GetRawText();
        // One instance for one text: indexes keep their lookups by it.
        if (known is { } k && k.Json == json)
            return k.Names;
        var names = NameDictionary.Kept(json);
        known = (json, names);
        return names;
    }

    /// <exception cref="CannotUseException">It is no such dictionary.</exception>
    public async Task Write(NameWords words, CancellationToken stop)
    {
        var json = NameDictionary.Of(words).ToJson();
        await using var db = await databases.CreateDbContextAsync(stop);
        var row = await db.Settings.FirstOrDefaultAsync(s => s.Key == Key, stop);
        if (row is null)
            db.Settings.Add(new() { Key = Key, Value = System.Text.Json.JsonDocument.Parse(json) });
        else
            row.Value = System.Text.Json.JsonDocument.Parse(json);
        await db.SaveChangesAsync(stop);
    }
}
