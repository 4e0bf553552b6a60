using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>
/// Makes a swatch. The order lies beside the place of the picture; who asks for it touches it, and one that nobody asked for lately was
/// scrolled away and is dropped. One that cannot be made leaves an empty picture, so that nobody asks again and again.
/// </summary>
public sealed class SwatchJob(TextureCache textures, FrameTools tools, IRoots roots, IStorePlaces places, ChosenColours colours)
{
    /// <summary>How long an order stays good without being asked for.</summary>
    public static readonly TimeSpan Wanted = TimeSpan.FromSeconds(10);

    /// <param name="output">The picture; its order and what it does not show have the same name with other endings.</param>
    /// <returns>Why there is no picture; null when there is one, or it is not wanted any more.</returns>
    public string? Run(string output, CancellationToken stop)
    {
        var ordered = OrderOf(output);
        if (File.Exists(output) || !File.Exists(ordered))
            return null;
        if (DateTime.UtcNow - File.GetLastWriteTimeUtc(ordered) > Wanted)
        {
            File.Delete(ordered);
            return null;
        }

        try
        {
            var order = SwatchOrder.Read(File.ReadAllBytes(ordered));
            foreach (var image in order.Images.Concat(order.Before?.Images ?? []))
                if (image is { File: { } file, Carried: null } && roots.Everything.Enter(file.Path) is null)
                    throw new CannotUseException($"“{file.Path}” lies outside the roots.");
            if (order.On is { } mesh && roots.Everything.Enter(mesh.File) is null)
                throw new CannotUseException("The object lies outside the store.");
            var made = Drawn(order, stop) ?? throw new CannotUseException("The material has no surface whose shading model is evaluated.");
            if (order.Before is { } before && (IsSame(order, before) ? made : Drawn(before, stop)) is { } was)
            {
                WholeOrNothing.Cached(DifferenceOf(output), made.Difference(was).Write());
                WholeOrNothing.Cached(
                    ApartOf(output),
                    JsonSerializer.SerializeToUtf8Bytes(DifferenceGrid.Of(was, made), SwatchJobContext.Default.DifferenceGrid)
                );
            }

            var told = colours.Told is { } more ? made.Told.Add(more) : made.Told;
            if (!told.IsEmpty)
                WholeOrNothing.Cached(ToldOf(output), System.Text.Encoding.UTF8.GetBytes(string.Join('\n', told)));
            WholeOrNothing.Cached(output, made.Png(textures.House));
            return null;
        }
        catch (UndecodedException e)
        {
            return e.Message; // The decoder's fault, not the image's: whoever still waits asks again.
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            WholeOrNothing.Cached(output, default);
            return e is CannotUseException or IOException ? e.Message : $"Drawing it stopped on a fault of Root Call: {e}";
        }
        finally
        {
            File.Delete(ordered);
        }
    }

    /// <summary>Both are made of the very same: one picture is enough.</summary>
    private static bool IsSame(SwatchOrder order, SwatchOrder before) =>
        (order with { Before = null, House = before.House }).Write().AsSpan().SequenceEqual(before.Write());

    private Swatch? Drawn(SwatchOrder order, CancellationToken stop)
    {
        if (order is { Shape: SwatchShape.Sphere, On: null })
            return Swatch.Of(order, textures, places.Moment, Swatch.Samples, 1, Swatch.MostTime, stop);
        var view = new FrameView(order.Side, order.Side, order.Light.Map(), Swatch.Samples * SphereSwatch.Paths, 1, Swatch.MostTime);
        return ShapedSwatch.Of(order, view, textures, tools.Tracers, places.Moment, stop);
    }

    public static string OrderOf(string output) => Path.ChangeExtension(output, ".json");

    public static string DifferenceOf(string output) => Path.ChangeExtension(output, ".difference");

    public static string ApartOf(string output) => Path.ChangeExtension(output, ".apart");

    public static string ToldOf(string output) => Path.ChangeExtension(output, ".txt");
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(DifferenceGrid))]
internal sealed partial class SwatchJobContext : JsonSerializerContext;
