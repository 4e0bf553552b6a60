using System.Text.Json.Serialization.Metadata;

namespace RootCall.Web.Security;

/// <summary>What the body of a request must say: a part that may not be null may not be left out either.</summary>
internal static class RequiredParts
{
    public static void Demand(JsonTypeInfo type)
    {
        foreach (var property in type.Properties)
            if (property.AssociatedParameter is { IsNullable: false, HasDefaultValue: false, ParameterType.IsValueType: false })
                property.IsRequired = true;
    }
}
