using System.Text;
using RootCall.Core.Files;

namespace RootCall.Testing;

/// <summary>A folder for one test, removed at its end.</summary>
public sealed class Place : IDisposable
{
    private readonly Folders.TemporaryFolder folder = Folders.Temporary();

    public string Folder => folder.Path;

    public string At(string name) => Path.Combine(Folder, name);

    public string Put(string name, byte[] bytes)
    {
        var path = At(name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllBytes(path, bytes);
        return path;
    }

    public string Put(string name, string text, Encoding? encoding = null) =>
        Put(name, (encoding ?? new UTF8Encoding(false)).GetBytes(text));

    /// <summary>A small whole PNG; another grey gives other contents.</summary>
    public string PutPng(string name, byte grey = 128) => Put(name, Pictures.Png(4, 4, grey));

    public IEnumerable<string> Files(string below = "") =>
        Directory
            .EnumerateFiles(At(below), "*", SearchOption.AllDirectories)
            .Select(f => Path.GetRelativePath(At(below), f))
            .Order(StringComparer.Ordinal);

    public void Dispose() => folder.Dispose();
}
