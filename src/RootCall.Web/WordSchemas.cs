using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using RootCall.Core.Shading;

namespace RootCall.Web;

/// <summary>Tells the API description the words of types that write themselves: of those it knows nothing.</summary>
internal static class WordSchemas
{
    public static void Describe(OpenApiOptions options) =>
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                if (context.JsonTypeInfo.Type == typeof(Channels))
                {
                    schema.Type = JsonSchemaType.String;
                    schema.Enum = [.. Enum.GetValues<Channels>().Select(c => (JsonNode)c.Word())];
                }

                return Task.CompletedTask;
            }
        );
}
