using NetArchTest.Rules;
using RootCall.Core.Scenes;

namespace RootCall.Core.Tests;

/// <summary>Dependencies point one way: Core knows nobody.</summary>
public sealed class ArchitectureTests
{
    [Theory]
    [InlineData("Microsoft.AspNetCore")]
    [InlineData("Microsoft.EntityFrameworkCore")]
    [InlineData("Npgsql")]
    [InlineData("Hangfire")]
    [InlineData("System.Net.Http")]
    [InlineData("System.Net.Sockets")]
    [InlineData("System.Runtime.InteropServices.NativeLibrary")]
    [InlineData("System.Console")]
    public void Core_uses_no_web_no_database_no_network_and_no_native_code(string unwanted)
    {
        var result = Types.InAssembly(typeof(Scene).Assembly).ShouldNot().HaveDependencyOn(unwanted).GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void Core_references_the_framework_and_two_codecs_alone()
    {
        var others = typeof(Scene)
            .Assembly.GetReferencedAssemblies()
            .Select(a => a.Name!)
            .Where(n => !n.StartsWith("System.", StringComparison.Ordinal) && n != "netstandard");
        Assert.Equal(["K4os.Compression.LZ4", "StbImageWriteSharp"], others.Order(StringComparer.Ordinal));
    }

    /// <summary>Core's folders from the lowest up: each may use those before it, and none after it.</summary>
    private static readonly string[] Folders =
    [
        "Files",
        "Shading",
        "Scenes",
        "Geometry",
        "Imaging",
        "Rendering",
        "Crossing",
        "Formats",
        "Edits",
        "Muster",
        "Viewing",
        "Sessions",
        "Destinations",
        "Audit",
        "Bench",
        "Transfer",
        "SendOff",
        "Jobs",
    ];

    public static TheoryData<string, string> Pairs()
    {
        var pairs = new TheoryData<string, string>();
        for (var lower = 0; lower < Folders.Length; lower++)
        for (var upper = lower + 1; upper < Folders.Length; upper++)
            pairs.Add(Folders[lower], Folders[upper]);
        return pairs;
    }

    [Theory]
    [MemberData(nameof(Pairs))]
    public void A_folder_of_the_core_uses_none_above_it(string lower, string upper)
    {
        var result = Types
            .InAssembly(typeof(Scene).Assembly)
            .That()
            .ResideInNamespaceStartingWith($"RootCall.Core.{lower}")
            .ShouldNot()
            .HaveDependencyOn($"RootCall.Core.{upper}")
            .GetResult();
        Assert.True(result.IsSuccessful, $"{lower} uses {upper}: {string.Join(", ", result.FailingTypeNames ?? [])}");
    }

    [Fact]
    public void Every_folder_of_the_core_has_its_place() =>
        Assert.Equal(
            Folders.Order(),
            Directory
                .GetDirectories(Path.Combine(RootCall.Testing.Tool.Home, "src/RootCall.Core"))
                .Select(d => Path.GetFileName(d)!)
                .Where(d => d is not ("bin" or "obj"))
                .Order()
        );
}
