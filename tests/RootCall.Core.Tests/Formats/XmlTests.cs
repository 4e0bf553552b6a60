using System.Text;
using RootCall.Core.Formats.Xml;

namespace RootCall.Core.Tests.Formats;

/// <summary>The tolerant reader of XML 1.0 (Extensible Markup Language, fifth edition); System.Xml is asked for a second opinion.</summary>
public sealed class XmlTests
{
    private const string Document = """
        <?xml version="1.0" encoding="utf-8"?>
        <!DOCTYPE a [ <!ENTITY x "y"> <!ELEMENT a ANY> ]>
        <!-- <not read="here"/> -->
        <a:root xmlns:a='u' one="1 &amp; 2" two='say "hi" &#228;&#x1F33F;'>
          <b/><b c = "d > e" ></b>
          <t>plain &lt;text&gt; <![CDATA[<raw> & ]]>end</t>
          <?skip me?>
          <deep><er><est>x</est></er></deep>
        </a:root>
        """;

    [Fact]
    public void Names_attributes_text_and_their_bytes_are_read()
    {
        var bytes = Encoding.UTF8.GetBytes(Document);
        var reading = new XmlReading();
        var root = reading.Read(bytes)!;
        Assert.Empty(reading.Errors);
        Assert.Equal("root", root.Name);
        Assert.Equal(["b", "b", "t", "deep"], root.Children.Select(c => c.Name));
        Assert.Equal(("1 & 2", "say \"hi\" ä🌿"), (root["one"], root["two"]));
        var one = root.Attribute("one")!.Value;
        Assert.Equal("1 &amp; 2", Encoding.UTF8.GetString(bytes[one.Start..one.End]));
        Assert.Equal((true, false, "d > e"), (root.Children[0].SelfClosing, root.Children[1].SelfClosing, root.Children[1]["c"]));
        Assert.Equal("plain <text> <raw> & end", root.Child("t")!.Text(bytes));
        Assert.Equal("<b/>", Encoding.UTF8.GetString(bytes[root.Children[0].Start..root.Children[0].End]));
        Assert.Equal(["root", "b", "b", "t", "deep", "er", "est"], root.Descendants().Select(d => d.Name));
        Assert.Equal(8, root.Child("deep")!.Line);
        Assert.Equal("est", root.Descendants().Last().Name);
        Assert.Null(root["gone"]);
    }

    [Fact]
    public void System_Xml_finds_the_same_elements_and_attributes_in_every_demo_document()
    {
        var demo = new RootCall.Testing.DemoPlace();
        foreach (var file in new[] { "clean/moth_jar/moth_jar.dae", "clean/seed_drawer/seed_drawer.mtlx" })
        {
            var ours = new XmlReading()
                .Read(File.ReadAllBytes(demo.At(file)))!
                .Descendants()
                .Select(d => (d.Name, d.Attributes.Where(a => !a.Name.StartsWith("xmlns", StringComparison.Ordinal))))
                .Select(d => $"{d.Name} {string.Join(' ', d.Item2.Select(a => $"{a.Name}={a.Value}"))}");
            var theirs = System
                .Xml.Linq.XDocument.Load(demo.At(file))
                .Descendants()
                .Select(d => (d.Name.LocalName, d.Attributes().Where(a => !a.IsNamespaceDeclaration)))
                .Select(d => $"{d.LocalName} {string.Join(' ', d.Item2.Select(a => $"{a.Name.LocalName}={a.Value}"))}");
            Assert.Equal(theirs, ours);
        }
    }

    [Theory]
    [InlineData("<a><b></a>", "<b> of line 1 is not closed", "a b")]
    [InlineData("<a></b></a>", "</b> closes nothing", "a")]
    [InlineData("<a><b c=\"1></b></a>", "the value of c is not closed", "a b")]
    [InlineData("<a>\n<!-- x", "a comment is not closed", "a")]
    [InlineData("<a/><b/>", "a second element", "a")]
    [InlineData("<a><![CDATA[x", "a CDATA section is not closed", "a")]
    [InlineData("<a <b/></a>", "the tag <a> is not closed", "a b")]
    [InlineData("<a><1></a>", null, "a 1")]
    public void What_is_not_well_formed_is_told_and_the_rest_is_kept(string text, string? error, string elements)
    {
        var reading = new XmlReading();
        var root = reading.Read(Encoding.UTF8.GetBytes(text))!;
        Assert.Equal(elements, string.Join(' ', root.Descendants().Select(d => d.Name)));
        if (error is not null)
            Assert.Contains(reading.Errors, e => e.Contains(error, StringComparison.Ordinal));
    }

    [Fact]
    public void Depth_is_bounded_and_entities_round_trip()
    {
        var reading = new XmlReading();
        Assert.NotNull(reading.Read(Encoding.UTF8.GetBytes(string.Concat(Enumerable.Repeat("<a>", 5000)))));
        Assert.Contains(reading.Errors, e => e.Contains("deep", StringComparison.Ordinal));
        Assert.Null(new XmlReading().Read("no element at all"u8));
        foreach (var text in new[] { "a & b", "<\"'>", "&amp;", "ü &unknown; &", "&#0;" })
            Assert.Equal(text, XmlText.Decode(XmlText.Encode(text)));
        Assert.Equal("&unknown; &#xZZ; &", XmlText.Decode("&unknown; &#xZZ; &"));
    }
}
