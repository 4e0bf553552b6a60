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
    public void Core_references_the_framework_and_one_decompressor_alone()
    {
        var others = typeof(Scene).Assembly.GetReferencedAssemblies().Select(a => a.Name!).Where(n => !n.StartsWith("System.", StringComparison.Ordinal) && n != "netstandard");
        Assert.Equal(["K4os.Compression.LZ4"], others);
    }

    [Theory]
    [InlineData("RootCall.Core.Scenes", "RootCall.Core.SendOff")]
    [InlineData("RootCall.Core.Imaging", "RootCall.Core.Muster")]
    [InlineData("RootCall.Core.Muster", "RootCall.Core.SendOff")]
    [InlineData("RootCall.Core.Files", "RootCall.Core.Scenes")]
    public void Stages_of_the_core_build_on_what_lies_below(string lower, string upper)
    {
        var result = Types.InAssembly(typeof(Scene).Assembly).That().ResideInNamespaceStartingWith(lower).ShouldNot().HaveDependencyOn(upper).GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }
}
