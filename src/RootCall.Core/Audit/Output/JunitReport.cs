using System.Globalization;
using System.Xml;

namespace RootCall.Core.Audit.Output;

/// <summary>
/// Findings as the test report in XML that build servers read: a suite a family, a case a rule, a failure when it found
/// something.
/// </summary>
public static class JunitReport
{
    /// <param name="failOn">Findings below it are told, and fail nothing.</param>
    public static void Write(Stream to, AuditScene scene, AuditReport report, Severity failOn)
    {
        using var xml = XmlWriter.Create(
            to,
            new()
            {
                Indent = true,
                NewLineChars = "\n",
                Encoding = new System.Text.UTF8Encoding(false),
            }
        );
        var byRule = report.Findings.ToLookup(f => f.Rule);
        var rules = RuleCatalog.All.Where(r => scene.House.IsOn(r.Id)).ToList();
        bool Fails(string rule) => byRule[rule].Any(f => f.Severity >= failOn);
        xml.WriteStartDocument();
        xml.WriteStartElement("testsuites");
        Counts(xml, rules.Count, rules.Count(r => Fails(r.Id)), report.Failed.Length);
        xml.WriteAttributeString("name", Path.GetFileName(scene.Scene.Path));
        foreach (var family in RuleCatalog.Families)
        {
            var own = rules.Where(r => r.Descriptor.Family == family).ToList();
            xml.WriteStartElement("testsuite");
            xml.WriteAttributeString("name", family);
            Counts(xml, own.Count, own.Count(r => Fails(r.Id)), report.Failed.Count(f => own.Any(r => r.Id == f.Rule)));
            Property(xml, "coverage", report.Coverage.Sentence);
            foreach (var rule in own)
                Case(xml, rule.Descriptor, [.. byRule[rule.Id]], report.Failed.FirstOrDefault(f => f.Rule == rule.Id), failOn);
            xml.WriteEndElement();
        }

        xml.WriteEndElement();
        xml.WriteEndDocument();
    }

    private static void Case(XmlWriter xml, RuleDescriptor rule, List<Finding> findings, FailedRule? failed, Severity failOn)
    {
        xml.WriteStartElement("testcase");
        xml.WriteAttributeString("classname", rule.Family);
        xml.WriteAttributeString("name", rule.Title);
        if (failed is not null)
            Element(xml, "error", failed.Reason, rule.Id, string.Empty);
        else if (findings.Any(f => f.Severity >= failOn))
            Element(
                xml,
                "failure",
                findings[0].Cause.Sentence(findings.Count),
                rule.Id,
                string.Join('\n', findings.Select(f => $"{f.Severity.Word()} {f.Target}: {f.Message}"))
            );
        else if (findings.Count > 0)
            xml.WriteElementString("system-out", string.Join('\n', findings.Select(f => $"{f.Severity.Word()} {f.Target}: {f.Message}")));
        xml.WriteEndElement();
    }

    private static void Property(XmlWriter xml, string name, string value)
    {
        xml.WriteStartElement("properties");
        xml.WriteStartElement("property");
        xml.WriteAttributeString("name", name);
        xml.WriteAttributeString("value", value);
        xml.WriteEndElement();
        xml.WriteEndElement();
    }

    private static void Element(XmlWriter xml, string name, string message, string type, string text)
    {
        xml.WriteStartElement(name);
        xml.WriteAttributeString("message", message);
        xml.WriteAttributeString("type", type);
        xml.WriteString(text);
        xml.WriteEndElement();
    }

    private static void Counts(XmlWriter xml, int tests, int failures, int errors)
    {
        xml.WriteAttributeString("tests", tests.ToString(CultureInfo.InvariantCulture));
        xml.WriteAttributeString("failures", failures.ToString(CultureInfo.InvariantCulture));
        xml.WriteAttributeString("errors", errors.ToString(CultureInfo.InvariantCulture));
    }
}
