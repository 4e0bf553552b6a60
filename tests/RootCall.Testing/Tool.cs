using System.Diagnostics;

namespace RootCall.Testing;

/// <summary>Runs a program and gives what it said.</summary>
public static class Tool
{
    /// <summary>The folder of the repository.</summary>
    public static string Home { get; } = Above(AppContext.BaseDirectory);

    /// <summary>The build configuration the tests run in: <c>debug</c> or <c>release</c>.</summary>
    public static string Configuration { get; } =
        Path.GetFileName(Path.TrimEndingDirectorySeparator(AppContext.BaseDirectory)).Split('_')[0];

    public static string Binary(string project) => Path.Combine(Home, "artifacts", "bin", project, Configuration, project);

    public static ToolResult Run(string program, IEnumerable<string> arguments, string? folder = null)
    {
        var start = new ProcessStartInfo(program, arguments)
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            WorkingDirectory = folder ?? Home,
        };
        using var process = Process.Start(start) ?? throw new InvalidOperationException($"{program} did not start.");
        var error = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return new(process.ExitCode, output, error.Result);
    }

    /// <summary>Root Call's own command line, as it is delivered unless it has been built anew since.</summary>
    public static ToolResult RootCall(params string[] arguments) => Run(CommandLine, arguments);

    /// <summary>Its program.</summary>
    public static string CommandLine { get; } =
        new[] { Path.Combine(Home, "artifacts", "rootcall", "RootCall.Cli"), Binary("RootCall.Cli") }.MaxBy(File.GetLastWriteTimeUtc)!;

    private static string Above(string folder)
    {
        while (!File.Exists(Path.Combine(folder, "RootCall.slnx")))
            folder = Path.GetDirectoryName(folder) ?? throw new InvalidOperationException("The repository was not found above the tests.");
        return folder;
    }
}

public sealed record ToolResult(int Status, string Output, string Error);
