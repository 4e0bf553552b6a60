namespace RootCall.Core.Files;

public static class Folders
{
    /// <summary>A new empty folder in the system's place for temporary files; the caller deletes it.</summary>
    public static TemporaryFolder Temporary() => new();

    public sealed class TemporaryFolder : IDisposable
    {
        internal TemporaryFolder() => Path = RootScope.RealPath(Directory.CreateTempSubdirectory("rootcall-").FullName);

        public string Path { get; }

        public void Dispose()
        {
            if (Directory.Exists(Path))
                Directory.Delete(Path, recursive: true);
        }
    }
}
