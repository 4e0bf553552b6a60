using Microsoft.EntityFrameworkCore;
using RootCall.Data.Rows;

namespace RootCall.Data;

/// <summary>The database: scenes, arrivals, references, roots, ledger entries, packages and tasks.</summary>
public sealed class RootCallDb(DbContextOptions<RootCallDb> options) : DbContext(options)
{
    public DbSet<SceneRow> Scenes => Set<SceneRow>();

    public DbSet<ArrivalRow> Arrivals => Set<ArrivalRow>();

    public DbSet<ReferenceRow> References => Set<ReferenceRow>();

    public DbSet<RootRow> Roots => Set<RootRow>();

    public DbSet<LedgerEntryRow> LedgerEntries => Set<LedgerEntryRow>();

    public DbSet<PackageRow> Packages => Set<PackageRow>();

    public DbSet<IndexTreeRow> IndexTrees => Set<IndexTreeRow>();

    public DbSet<IndexFolderRow> IndexFolders => Set<IndexFolderRow>();

    public DbSet<KnownFileRow> KnownFiles => Set<KnownFileRow>();

    public DbSet<SeenFileRow> SeenFiles => Set<SeenFileRow>();

    public DbSet<ApprovedRuleRow> ApprovedRules => Set<ApprovedRuleRow>();

    public DbSet<SettingRow> Settings => Set<SettingRow>();

    public DbSet<MarkRow> Marks => Set<MarkRow>();
    public DbSet<WaiverRow> Waivers => Set<WaiverRow>();

    public DbSet<WorkRow> Work => Set<WorkRow>();

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<SceneRow>(e => e.HasMany(s => s.Arrivals).WithOne().HasForeignKey(a => a.SceneId));
        modelBuilder.Entity<ArrivalRow>(e =>
        {
            e.HasIndex(a => new { a.SceneId, a.Version }).IsUnique();
            e.HasIndex(a => a.Path);
            e.HasMany(a => a.References).WithOne().HasForeignKey(r => r.ArrivalId);
        });
        modelBuilder.Entity<ReferenceRow>(e =>
        {
            e.HasKey(r => new { r.ArrivalId, r.Number });
            e.HasIndex(r => new { r.ArrivalId, r.State });
        });
        modelBuilder.Entity<RootRow>(e => e.HasIndex(r => r.Folder).IsUnique());
        modelBuilder.Entity<RootRow>(e => e.Property(r => r.Purpose).HasDefaultValue("search"));
        modelBuilder.Entity<IndexTreeRow>(e => e.HasIndex(t => t.Folder).IsUnique());
        modelBuilder.Entity<IndexFolderRow>(e =>
        {
            e.HasKey(f => new { f.TreeId, f.Path });
            e.HasOne<IndexTreeRow>().WithMany().HasForeignKey(f => f.TreeId);
        });
        modelBuilder.Entity<KnownFileRow>(e => e.HasKey(f => f.Path));
        modelBuilder.Entity<SeenFileRow>(e =>
        {
            e.HasKey(s => new { s.SceneId, s.Reference });
            e.HasOne<SceneRow>().WithMany().HasForeignKey(s => s.SceneId);
        });
        modelBuilder.Entity<ApprovedRuleRow>(e =>
            e.HasIndex(r => new
                {
                    r.Root,
                    r.From,
                    r.To,
                })
                .IsUnique()
        );
        modelBuilder.Entity<SceneRow>(e => e.Property(s => s.Destination).HasDefaultValue("plain"));
        modelBuilder.Entity<WaiverRow>(e =>
        {
            e.HasKey(w => new { w.SceneId, w.Cause });
            e.HasOne<SceneRow>().WithMany().HasForeignKey(w => w.SceneId);
        });
        modelBuilder.Entity<MarkRow>(e =>
        {
            e.HasKey(m => new { m.SceneId, m.Material });
            e.Property(m => m.Kind).HasConversion<string>();
            e.HasOne<SceneRow>().WithMany().HasForeignKey(m => m.SceneId);
        });
        modelBuilder.Entity<SettingRow>(e => e.HasKey(s => s.Key));
        modelBuilder.Entity<LedgerEntryRow>(e =>
        {
            e.HasIndex(l => new { l.SceneId, l.Sequence }).IsUnique();
            e.HasOne<SceneRow>().WithMany().HasForeignKey(l => l.SceneId);
        });
        modelBuilder.Entity<PackageRow>(e => e.HasOne<SceneRow>().WithMany().HasForeignKey(p => p.SceneId));
        modelBuilder.Entity<WorkRow>(e => e.HasIndex(w => new { w.State, w.CreatedAt }));
    }
}
