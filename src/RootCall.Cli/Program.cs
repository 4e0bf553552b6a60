using System.CommandLine;
using System.CommandLine.Help;
using RootCall.Cli.Verbs;
using RootCall.Core.Files;

namespace RootCall.Cli;

/// <summary>
/// The job without a browser. Exit status: 0 clean, 1 done but something is left, 2 the call or the input cannot be
/// used.
/// </summary>
internal static class Program
{
    private const int CannotUse = 2;
    private const long MostUncollected = 768 << 20;

    private static int Main(string[] args)
    {
        // Called as people call it, not as the file is called.
        var root = new Command("rootcall", "Root Call: finds, relinks, mends, carries and packs what a scene calls for.")
        {
            new HelpOption(),
            new VersionOption(),
            MusterVerb.Command(),
            AuditVerb.Command(),
            FixVerb.Command(),
            RelinkVerb.Command(),
            PackageVerb.Command(),
            CarriedVerbs.Extract(),
            CarriedVerbs.Embed(),
            CompareVerb.Command(),
            RenderVerb.Command(),
            ConvertVerb.Command(),
            InspectVerb.Command(),
            DemoVerb.Command(),
            RulesVerb.Command(),
            CrossingsVerb.Command(),
        };
        WithoutCollections();
        var call = Arguments.Parse(root, args);
        if (call.Errors.Count > 0)
            return Refuse(call.Errors[0].Message);
        try
        {
            return call.Invoke(new() { EnableDefaultExceptionHandler = false });
        }
        catch (CannotUseException e)
        {
            return Refuse(e.Message);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return Refuse(e.Message);
        }
    }

    /// <summary>
    /// A verb reads, answers and ends: what it makes it mostly needs to the end, and collecting it took a third of the time of a
    /// large muster. So nothing is collected before there is a good deal of it.
    /// </summary>
    private static void WithoutCollections()
    {
        var room = Math.Min(MostUncollected, GC.GetGCMemoryInfo().TotalAvailableMemoryBytes / 4);
        try
        {
            GC.TryStartNoGCRegion(room);
        }
        catch (ArgumentOutOfRangeException)
        {
            // More than this machine's collector can set aside: it works as ever.
        }
    }

    private static int Refuse(string sentence)
    {
        // One line, whoever worded it.
        Console.Error.WriteLine("rootcall: " + string.Join(' ', sentence.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)));
        return CannotUse;
    }
}
