namespace RootCall.Core.Files;

public static class Folders
{
    /// <summary>A new empty folder; the caller deletes it.</summary>
    /// <param name="under">Where; null for the system's place for temporary files.</param>
    public static TemporaryFolder Temporary(string? under = null) =>
        new(
            under is null
                ? Directory.CreateTempSubdirectory("rootcall-").FullName
                : Directory.CreateDirectory(System.IO.Path.Combine(under, Guid.NewGuid().ToString("N"))).FullName
        );

    public sealed class TemporaryFolder : IDisposable
    {
        internal TemporaryFolder(string path) => Path = RootScope.RealPath(path);

        public string Path { get; }

        public void Dispose()
        {
            if (Directory.Exists(Path))
                Directory.Delete(Path, recursive: true);
        }
    }
}
