using System.Globalization;
using System.Security.Cryptography;
using RootCall.Core.Edits;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>A farm machine set to another language says and writes the same.</summary>
public sealed class LocaleTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    [Fact]
    public void Findings_fixes_and_written_files_are_the_same_in_every_locale()
    {
        var german = CultureInfo.GetCultureInfo("de-DE");
        Assert.Equal("1.234,5", 1234.5.ToString("N1", german));
        var (here, there) = (Said(CultureInfo.InvariantCulture, "here"), Said(german, "there"));
        Assert.NotEmpty(here);
        Assert.Equal(here, there);
    }

    private List<string> Said(CultureInfo culture, string folder)
    {
        var before = CultureInfo.CurrentCulture;
        CultureInfo.CurrentCulture = culture;
        try
        {
            return [.. demo.Answers().SelectMany(answer => Of(answer.Arrived, place.At($"{folder}/{answer.Name}")))];
        }
        finally
        {
            CultureInfo.CurrentCulture = before;
        }
    }

    private IEnumerable<string> Of(string scene, string folder)
    {
        var audited = Audits.OpenRelinked(scene, demo.Library);
        foreach (var finding in audited.Report.Findings)
        {
            yield return $"{finding.Message} {finding.Cause.Sentence(12345)} {finding.Decide}";
            foreach (var fix in finding.Fixes)
                yield return $"{fix.Title}: {string.Join("; ", fix.Edits.Select(e => e.Describe()))}";
        }

        var edits = audited.Report.Findings.Where(f => f.Fixes.Any(x => x.IsSafe)).Select(f => f.Fixes.First(x => x.IsSafe)).Take(20);
        var entry = new LedgerEntry(
            Guid.Empty,
            "safe fixes",
            [.. edits.SelectMany(f => f.Edits)],
            EntryState.Applied,
            "test",
            DateTimeOffset.UnixEpoch
        );
        Directory.CreateDirectory(folder);
        var session = TestSession.Of(audited.Scene.Report, audited.Context, folder).And(entry);
        foreach (var copy in session.Edited.Write(folder).OrderBy(c => c.Key, StringComparer.Ordinal))
            yield return Convert.ToHexString(SHA256.HashData(File.ReadAllBytes(copy.Value)));
    }
}
