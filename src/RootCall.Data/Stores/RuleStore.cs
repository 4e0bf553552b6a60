using Microsoft.EntityFrameworkCore;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>Relocation rules that were approved, by the root they lead into; the next scene is offered them.</summary>
public sealed class RuleStore(IDbContextFactory<RootCallDb> databases)
{
    public async Task<List<PathRewrite>> Approved(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var rows = await db
            .ApprovedRules.AsNoTracking()
            .OrderByDescending(r => r.Times)
            .ThenByDescending(r => r.ApprovedAt)
            .ToListAsync(stop);
        return [.. rows.Select(r => new PathRewrite(r.From, r.To))];
    }

    /// <summary>Remembers the rules that these entries applied. A rule of relative paths says nothing about another scene.</summary>
    public async Task Remember(IEnumerable<LedgerEntry> applied, IReadOnlyList<RootRow> roots, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        foreach (
            var rule in applied
                .Select(e => e.Rule)
                .OfType<PathRewrite>()
                .Distinct()
                .Where(r => WrittenPath.Parse(r.From + "/x").Origin != PathOrigin.Relative)
        )
        {
            if (roots.Where(r => RootScope.IsInside(r.Folder, rule.To)).MaxBy(r => r.Folder.Length) is not { } root)
                continue;
            var row = await db.ApprovedRules.FirstOrDefaultAsync(
                r => r.Root == root.Folder && r.From == rule.From && r.To == rule.To,
                stop
            );
            if (row is null)
                db.ApprovedRules.Add(
                    row = new()
                    {
                        Id = Guid.CreateVersion7(),
                        Root = root.Folder,
                        From = rule.From,
                        To = rule.To,
                    }
                );
            row.Times++;
            row.ApprovedAt = DateTimeOffset.UtcNow;
        }

        await db.SaveChangesAsync(stop);
    }

    public async Task Forget(string from, string to, CancellationToken stop)
    {
        // No path has a zero character, and PostgreSQL's text takes none.
        if (from.Contains('\0', StringComparison.Ordinal) || to.Contains('\0', StringComparison.Ordinal))
            return;
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.ApprovedRules.Where(r => r.From == from && r.To == to).ExecuteDeleteAsync(stop);
    }
}
