using System.Text;
using System.Text.Json;
using RootCall.Core.Muster;

namespace RootCall.Core.SendOff;

/// <summary>
/// The report that travels with a package: what is in it, how clashes were settled, what is missing, what was waived
/// and why.
/// </summary>
internal static class PackageReport
{
    public static string Json(PackagePlan plan, DateTimeOffset at)
    {
        using var buffer = new MemoryStream();
        using (
            var json = new Utf8JsonWriter(
                buffer,
                new() { Indented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }
            )
        )
        {
            json.WriteStartObject();
            json.WriteString("scene", plan.OwnNames[0]);
            json.WriteString("format", plan.Report.Scene.Format.Id);
            json.WriteString("built", at);
            json.WriteNumber("bytes", plan.BytesAfter);
            json.WriteStartArray("files");
            foreach (var file in plan.Files)
            {
                json.WriteStartObject();
                json.WriteString("path", BagIt.Payload + file.Name);
                json.WriteNumber("bytes", file.Bytes);
                json.WriteStartArray("references");
                foreach (var number in file.References)
                    json.WriteNumberValue(number);
                json.WriteEndArray();
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartArray("unresolved");
            foreach (var left in plan.Unresolved)
            {
                json.WriteStartObject();
                json.WriteNumber("id", left.Number);
                json.WriteString("state", left.State.Word());
                json.WriteString("written", left.Reference.Written);
                if (left.Damage is not null)
                    json.WriteString("damage", left.Damage);
                json.WriteStartArray("usedBy");
                foreach (var use in left.Reference.UsedBy)
                    json.WriteStringValue($"{use.Material}.{use.Input}".TrimStart('.'));
                json.WriteEndArray();
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartArray("clashes");
            foreach (var clash in plan.Clashes)
            {
                json.WriteStartObject();
                json.WriteString("name", clash.Name);
                json.WriteString(
                    "settled",
                    clash.SameContents ? "same contents, one file" : "other contents: " + string.Join(", ", clash.Names)
                );
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartArray("waived");
            foreach (var waiver in plan.Waived)
            {
                json.WriteStartObject();
                json.WriteString("cause", waiver.Cause);
                json.WriteString("reason", waiver.Reason);
                json.WriteString("at", waiver.At);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartArray("behind");
            foreach (var sentence in plan.Behind)
                json.WriteStringValue(sentence);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(buffer.ToArray()) + "\n";
    }
}
