using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace RootCall.Data;

/// <summary>Lets <c>dotnet ef migrations add</c> build the model; no database is contacted for that.</summary>
internal sealed class DesignTimeDb : IDesignTimeDbContextFactory<RootCallDb>
{
    public RootCallDb CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<RootCallDb>().UseNpgsql("Host=127.0.0.1;Database=rootcall").UseSnakeCaseNamingConvention().Options);
}
