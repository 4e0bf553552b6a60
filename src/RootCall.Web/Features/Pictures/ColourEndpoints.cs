using Microsoft.Extensions.Options;
using RootCall.Data;

namespace RootCall.Web.Features.Pictures;

/// <summary>How pictures are shown.</summary>
/// <param name="Config">File name of the house's OpenColorIO config; null for none.</param>
/// <param name="View">Which of its views, as <c>display/view</c>; null for the config's own choice.</param>
internal sealed record ColourChoice(string? Config, string? View);

/// <summary>The colours of the house.</summary>
internal static class ColourEndpoints
{
    public static void MapColours(this IEndpointRouteBuilder api) =>
        api.MapGet("/colours", (IOptions<DataOptions> options) =>
            {
                var (config, view) = options.Value.Colours;
                return TypedResults.Ok(new ColourChoice(Said(config) is { } path ? Path.GetFileName(path) : null, Said(view)));
            })
            .WithTags("Pictures");

    private static string? Said(string setting) => setting.Length == 0 ? null : setting;
}
