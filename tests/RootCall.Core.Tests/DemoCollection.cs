using RootCall.Testing;

namespace RootCall.Core.Tests;

[CollectionDefinition(Name)]
public sealed class DemoCollection : ICollectionFixture<DemoPlace>
{
    public const string Name = "demo";
}
