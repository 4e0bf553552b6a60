using System.Globalization;
using System.Text.RegularExpressions;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Files of other origins from Debian's package assimp-testmodels, counted by the Assimp library.
/// </summary>
public sealed partial class AssimpTests
{
    private const string Models = "/usr/share/assimp/models";

    [Theory]
    [InlineData("box")]
    [InlineData("box_longline")]
    [InlineData("box_without_lineending")]
    [InlineData("cube_mtllib_after_g")]
    [InlineData("cube_usemtl")]
    [InlineData("cube_with_vertexcolors")]
    [InlineData("multiple_spaces")]
    [InlineData("number_formats")]
    [InlineData("regr_3429812")]
    public void An_OBJ_has_the_triangles_and_materials_that_Assimp_counts(string name)
    {
        var path = $"{Models}/OBJ/{name}.obj";
        // -tri: polygons become triangles, as they are counted here.
        var said = Tool.Run("assimp", ["info", path, "-tri"]).Output;
        var scene = Look.Read(path);
        Assert.Equal(long.Parse(Faces().Match(said).Groups[1].ValueSpan, CultureInfo.InvariantCulture), scene.Counts.Triangles);
        // Assimp always adds a material of its own, and squeezes runs of spaces in names.
        var theirs = Names().Matches(said).Select(m => Squeezed(m.Groups[1].Value)).Where(n => n != "DefaultMaterial").Order(StringComparer.Ordinal);
        Assert.Equal(theirs, scene.Materials.Select(m => Squeezed(m.Name)).Where(n => n != "DefaultMaterial").Order(StringComparer.Ordinal));
    }

    private static string Squeezed(string name) => Spaces().Replace(name, " ");

    [GeneratedRegex(@"Faces:\s+(\d+)")]
    private static partial Regex Faces();

    [GeneratedRegex(@"^\s+'(.*)' \(prop\)", RegexOptions.Multiline)]
    private static partial Regex Names();

    [GeneratedRegex(" +")]
    private static partial Regex Spaces();
}
