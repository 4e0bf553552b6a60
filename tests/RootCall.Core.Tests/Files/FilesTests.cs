using System.IO.Compression;
using RootCall.Core.Files;
using RootCall.Testing;

namespace RootCall.Core.Tests.Files;

/// <summary>The guards: nothing outside the roots, nothing half-written, bounds on what is taken in.</summary>
public sealed class FilesTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void A_scope_follows_links_before_it_decides()
    {
        place.Put("root/in.txt", "in");
        place.Put("secret/out.txt", "out");
        File.CreateSymbolicLink(place.At("root/leads-out.txt"), place.At("secret/out.txt"));
        File.CreateSymbolicLink(place.At("root/leads-in.txt"), "in.txt");
        Directory.CreateSymbolicLink(place.At("root/dir"), "../secret");
        Directory.CreateSymbolicLink(place.At("alias"), place.At("root"));
        var scope = new RootScope([place.At("root")]);
        Assert.Equal(place.At("root/in.txt"), scope.Enter(place.At("root/in.txt")));
        Assert.Equal(place.At("root/in.txt"), scope.Enter(place.At("root/leads-in.txt")));
        Assert.Equal(place.At("root/new/file.txt"), scope.Enter(place.At("root/new/file.txt")));
        foreach (
            var out_ in new[] { "root/leads-out.txt", "root/dir/out.txt", "root/../secret/out.txt", "secret/out.txt", "rootless/x", "" }
        )
            Assert.Null(scope.Enter(place.At(out_)));
        // A root that was itself given through a link is that folder.
        Assert.Equal(place.At("root/in.txt"), new RootScope([place.At("alias")]).Enter(place.At("alias/in.txt")));
        Assert.Equal(place.At("root"), Assert.Single(new RootScope([place.At("alias"), place.At("root")]).Folders));
    }

    [Theory]
    [InlineData("../evil.txt")]
    [InlineData("a/../../evil.txt")]
    [InlineData("/etc/evil.txt")]
    [InlineData(@"..\evil.txt")]
    [InlineData(@"C:\evil.txt")]
    [InlineData("a//b.txt")]
    [InlineData("./a.txt")]
    public void A_zip_with_a_name_that_leads_out_is_refused_before_a_byte_is_written(string name)
    {
        var zip = Zip(("good.txt", "good"), (name, "evil"));
        var refused = Assert.Throws<CannotUseException>(() => ZipIntake.Unpack(zip, New("out"), Bounds.Default));
        Assert.Contains("Nothing was kept", refused.Message, StringComparison.Ordinal);
        Assert.Empty(place.Files("out"));
    }

    [Fact]
    public void A_zip_that_is_damaged_encrypted_or_no_tree_says_so()
    {
        void Refused(string zip, string saying)
        {
            var refused = Assert.Throws<CannotUseException>(() => ZipIntake.Unpack(zip, New(Guid.NewGuid().ToString("N")), Bounds.Default));
            Assert.Contains(saying, refused.Message, StringComparison.Ordinal);
            Assert.Contains("Nothing was kept", refused.Message, StringComparison.Ordinal);
        }

        var stored = place.At("stored.zip");
        using (var archive = ZipFile.Open(stored, ZipArchiveMode.Create))
        using (var to = archive.CreateEntry("a.txt", CompressionLevel.NoCompression).Open())
            to.Write("contents"u8);
        var bytes = File.ReadAllBytes(stored);
        var at = bytes.AsSpan().IndexOf("contents"u8);
        Refused(place.Put("damaged.zip", [.. bytes[..at], (byte)'C', .. bytes[(at + 1)..]]), "damaged");
        // General purpose bit 0, in both headers (APPNOTE.TXT 4.4.4).
        bytes[6] |= 1;
        bytes[bytes.AsSpan().IndexOf("PK\x01\x02"u8) + 8] |= 1;
        Refused(place.Put("encrypted.zip", bytes), "encrypted");
        Refused(Zip(("a", "file"), ("a/b.txt", "in it")), "a file “a” and others");
        Refused(Zip(("a/b.txt", "in it"), ("a", "file")), "a file “a” and others");
        Refused(Zip(("a/", ""), ("a", "file")), "a file “a” and others");
        Refused(Zip(("a.txt", "1"), ("a.txt", "2")), "twice");
        Refused(Zip((new string('ä', 130) + ".txt", "long")), "255 bytes");
    }

    [Fact]
    public void A_zip_with_a_link_is_refused()
    {
        var zip = place.At("z.zip");
        using (var archive = ZipFile.Open(zip, ZipArchiveMode.Create))
            archive.CreateEntry("link").ExternalAttributes = unchecked((int)0xA1FF0000);
        Assert.Contains(
            "a link",
            Assert.Throws<CannotUseException>(() => ZipIntake.Unpack(zip, New("out"), Bounds.Default)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Bounds_are_held_on_what_is_really_unpacked()
    {
        var zip = Zip(("a.txt", new string('a', 5000)), ("b.txt", new string('b', 5000)));
        Assert.Contains(
            "more than 8,000",
            Assert.Throws<CannotUseException>(() => ZipIntake.Unpack(zip, New("x"), Bounds.Default with { UnpackedBytes = 8000 })).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "at most 1",
            Assert.Throws<CannotUseException>(() => ZipIntake.Unpack(zip, New("y"), Bounds.Default with { Entries = 1 })).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "not a zip",
            Assert.Throws<CannotUseException>(() => ZipIntake.Unpack(place.Put("no.zip", "no zip"), New("z"), Bounds.Default)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_whole_zip_comes_out_with_its_folders_whatever_slashes_it_was_made_with()
    {
        ZipIntake.Unpack(Zip(("a/b.txt", "1"), (@"c\d.txt", "2")), New("out"), Bounds.Default);
        Assert.Equal(["a/b.txt", "c/d.txt"], place.Files("out"));
    }

    [Fact]
    public void What_fails_while_it_is_written_leaves_nothing()
    {
        Assert.Throws<InvalidOperationException>(() => WholeOrNothing.File(place.At("f"), s =>
            {
                s.WriteByte(1);
                throw new InvalidOperationException();
            }));
        Assert.Throws<InvalidOperationException>(() => WholeOrNothing.Folder(place.At("d"), f =>
            {
                File.WriteAllText(Path.Combine(f, "x"), "x");
                throw new InvalidOperationException();
            }));
        Assert.Empty(Directory.EnumerateFileSystemEntries(place.Folder));
    }

    [Fact]
    public void Spliced_bytes_are_replaced_in_order_and_overlaps_are_refused()
    {
        byte[] Splice(params ByteEdit[] edits)
        {
            using var to = new MemoryStream();
            SplicedCopy.Write(new MemoryStream([.. "abcdef"u8]), to, edits);
            return to.ToArray();
        }

        Assert.Equal("aXYef1"u8, Splice(new ByteEdit(6, 0, [.. "1"u8]), new ByteEdit(1, 3, [.. "XY"u8])));
        Assert.Throws<ArgumentException>(() => Splice(new ByteEdit(1, 3, []), new ByteEdit(2, 1, [])));
        Assert.Throws<ArgumentException>(() => Splice(new ByteEdit(5, 3, [])));
    }

    public void Dispose() => place.Dispose();

    private string New(string name) => Directory.CreateDirectory(place.At(name)).FullName;

    private string Zip(params (string Name, string Text)[] entries)
    {
        var path = place.At($"{Guid.NewGuid():N}.zip");
        using var archive = ZipFile.Open(path, ZipArchiveMode.Create);
        foreach (var (name, text) in entries)
        {
            using var writer = new StreamWriter(archive.CreateEntry(name).Open());
            writer.Write(text);
        }

        return path;
    }
}
