using System.Globalization;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Exchange;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Pictures;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>The calls that bring open files in and send scenes out.</summary>
internal static class ExchangeCalls
{
    internal const long MostBytes = 256L * 1024 * 1024;
    private const long MostWritten = 512L << 20;

    public static void Map(IEndpointRouteBuilder api)
    {
        string[] types = ["model/gltf-binary", "model/gltf+json", "application/zip"];
        LongWork.Stoppable(api.MapPost("/scenes/import", ImportNew)).Accepts<byte[]>(types[0], types[1], types[2])
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes)).Produces<SceneAnswer>(201).RequireRateLimiting(Limits.Uploads);
        LongWork.Stoppable(api.MapPost("/scenes/{id}/import", ImportInto)).Accepts<byte[]>(types[0], types[1], types[2])
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes)).Produces<StepAnswer>().RequireRateLimiting(Limits.Uploads);
        LongWork.Stoppable(api.MapGet("/scenes/{id}/export", Export));
    }

    private static async Task<IResult> ImportNew(
        HttpContext context, SceneStore store, SelectionStore selections, KeptPictureStore pictures, BlobStore blobs, Imports imports, string? name = null)
    {
        var id = Guid.NewGuid().ToString("N");
        var scene = await imports.One(context, async (file, progress) =>
        {
            var made = new SceneDocument(id, Rename.Fitting(name ?? "Imported scene"), file.Unit ?? "m", 1, file.Whole, blobs.Of(id));
            var (blank, change) = (new SceneDocument(id, made.Name, made.Unit, 0, [], made.Geometries), Change.Of(file.Whole.Select(e => new EntityChange(e.Id, null, e))));
            Worlds.Check(blank, change);
            ShotChecks.Check(blank, change);
            if (SceneStore.FirstWithout([.. file.Whole], BlobsOf(file)) is { } bare)
            {
                throw new Refusal(Refusals.BrokenFile, $"The file is damaged: “{bare.Name}” uses something that it does not hold. Export it again.");
            }

            await store.Create(made, BlobsOf(file), Counting(progress), context.RequestAborted);
            await Keep(selections, id, file.Selections);
            await Keep(pictures, id, file);
            return SceneCalls.AnswerOf(made, file.Notes);
        });
        return Results.Created($"/api/scenes/{id}", scene);
    }

    private static async Task<IResult> ImportInto(
        string id, HttpContext context, OpenScenes scenes, SelectionStore selections, KeptPictureStore pictures, Imports imports, string? under = null, string? name = null, string? at = null, string? mark = null,
        string? shot = null, EditScope? scope = null)
    {
        var within = new EditsRequest(0, [], null, shot, scope).InScope();
        var by = Person.Of(context);
        var point = PointOf(at);

        // Asked before the upload is read, which may be long; and again when it is put in.
        (await scenes.Get(id)).Read((document, _) =>
        {
            Layered.Over(document, within);
            ImportedFile.CheckPlace(document, under);
            return mark is null ? point : MarkOf(document, mark);
        });
        var answer = await imports.One(context, async (file, progress) =>
        {
            var step = await scenes.With(id, scene => scene.Change(
                by,
                $"Imported {Core.Words.Speaker.Quoted(Rename.Nearest(name, "a file"))}: {file.Nodes.Count} objects",
                into => Layered.Written(into, ImportedFile.Under(into, file.All, under, mark is null ? point : MarkOf(into, mark)), within),
                BlobsOf(file),
                Counting(progress),
                context.RequestAborted));
            await Keep(selections, id, file.Selections);
            await Keep(pictures, id, file);
            return step with { Notes = file.NotesWithin };
        });
        return Results.Json(answer, ApiJson.Options);
    }

    private static Func<int, int, Task> Counting(Progress progress) => (done, all) => progress.Counts("Storing objects", done, all);

    /// <summary>The pictures of a file of our own are in the list of those that are kept, each by the name of the first material that shows it.</summary>
    private static async Task Keep(KeptPictureStore pictures, string scene, ImportedFile file)
    {
        if (file.Unit is null)
        {
            return;
        }

        var known = (await pictures.List(scene)).Select(k => k.Hash).ToHashSet();
        var uses = file.Entities.OfType<Material>().OrderBy(m => m.Rank).SelectMany(m => m.Surface.Textures.Select(use => (use.Image, m.Name))).DistinctBy(use => use.Image);
        List<(string Hash, string Name, int Width, int Height)> kept = [];
        foreach (var (hash, name) in uses)
        {
            if (!known.Contains(hash) && file.Images.TryGetValue(hash, out var image) && ImageCheck.SizeOf(image.Bytes) is var (width, height))
            {
                kept.Add((hash, Rename.Nearest(name, "Picture"), width, height));
            }
        }

        await pictures.Keep(scene, kept);
    }

    /// <summary>Named selections come along; one whose name the scene has already stays as it is there.</summary>
    private static async Task Keep(SelectionStore store, string scene, IReadOnlyList<KeptSelection> selections)
    {
        if (selections.Count == 0)
        {
            return;
        }

        var known = await store.List(scene);
        foreach (var selection in selections.Where(s => known.All(k => k.Name != s.Name)).Take(SelectionCalls.MostSelections - known.Count))
        {
            await store.Write(scene, new(selection.Name, [.. selection.Nodes]));
        }
    }

    /// <summary>A point of the world, written as three numbers with commas.</summary>
    private static Affine? PointOf(string? at)
    {
        if (at is null)
        {
            return null;
        }

        double[] numbers = [.. at.Split(',').Select(text =>
            double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : double.NaN)];
        return numbers.Length == 3 && numbers.All(double.IsFinite)
            ? new Affine(Mat3.Identity, new(numbers[0], numbers[1], numbers[2]))
            : throw new Refusal(Refusals.NotUnderstood, "A point to import at is three numbers with commas, such as 1,0,2.5.");
    }

    private static Affine MarkOf(IScene scene, string mark)
    {
        var draft = new SceneDraft(scene);
        var node = Marks.Get(draft, mark);
        return new(Marks.Axes(draft, node), draft.World(node).Offset);
    }

    private static async Task<IResult> Export(string id, HttpContext context, OpenScenes scenes, SelectionStore selections, BlobStore blobs, Exports exports, string format = "glb", string? shot = null)
    {
        if (format is not ("glb" or "gltf"))
        {
            throw new Refusal(Refusals.UnsupportedFile, $"“{format}” cannot be written. Use glb or gltf.");
        }

        var scene = await scenes.Get(id);
        var (snapshot, bytes) = await exports.One(context, async progress =>
        {
            await progress.Says("Writing the file");
            return await Written(id, scene, selections, blobs, format, shot, context.RequestAborted);
        });

        // A header holds no other letters than these.
        string[] notes =
        [
            .. snapshot.Constrained.Count > 0 && shot is null ? ["Constraints were written as the poses that they yield now; read by Calm Pivot, they come back."] : Array.Empty<string>(),
            .. snapshot.Nodes.Any(n => n.Light?.Type == LightType.Panel) ? ["Panels were written as the widest spots, which the standard has."] : Array.Empty<string>(),
            .. snapshot.Surroundings.Picture is not null ? ["The picture of the surroundings stays here; two colours stand for it."] : Array.Empty<string>(),
        ];
        if (notes.Length > 0)
        {
            context.Response.Headers["Calm-Pivot-Note"] = string.Join(" ", notes);
        }

        return Results.File(
            bytes,
            format == "glb" ? "model/gltf-binary" : "model/gltf+json",
            FileName(shot is null ? snapshot.Name : $"{snapshot.Name} {Shot.TitleOf(snapshot, shot)}") + "." + format);
    }

    /// <summary>A scene as it stands now, and its file.</summary>
    private static async Task<(SceneDocument Scene, byte[] Bytes)> Written(
        string id, OpenScene scene, SelectionStore selections, BlobStore blobs, string format, string? shot, CancellationToken stopped)
    {
        // In the order of their lists, since each that comes between others moves those behind it.
        var snapshot = scene.Read((document, _) => new SceneDocument(
            id, document.Name, document.Unit, document.Revision, document.Everything.OrderBy(thing => thing.Rank).ToList(), document.Geometries));
        stopped.ThrowIfCancellationRequested();
        if (await blobs.Bytes(id, [.. snapshot.Everything.SelectMany(SceneStore.BlobsOf).Distinct()]) is > MostWritten and var size)
        {
            throw new Refusal(Refusals.TooLarge, $"The meshes and pictures of this scene come to {size >> 20} MB; a file holds at most {MostWritten >> 20} MB. Take something out first.");
        }

        var images = new Dictionary<string, byte[]>();
        foreach (var hash in snapshot.AllMaterials().SelectMany(m => m.Surface.Textures).Select(t => t.Image).Distinct())
        {
            stopped.ThrowIfCancellationRequested();
            if (await blobs.Read(id, hash) is { } blob)
            {
                images[hash] = blob.Bytes;
            }
        }

        var kept = (await selections.List(id)).ConvertAll(s => new KeptSelection(s.Name, [.. s.Nodes.Where(n => snapshot.FindAny(n) is not null)]));
        stopped.ThrowIfCancellationRequested();
        var bytes = shot is null
            ? GltfWriter.Write(snapshot, images, binary: format == "glb", kept, stopped)
            : GltfWriter.Write(snapshot, shot, images, binary: format == "glb", stopped);
        return (snapshot, bytes);
    }

    /// <summary>A name as files can have it.</summary>
    internal static string FileName(string name) => string.Concat(name.Select(c => char.IsLetterOrDigit(c) || c is ' ' or '-' or '_' ? c : '_')).Trim();

    private static List<Blob> BlobsOf(ImportedFile file) =>
    [
        .. file.Geometries.Select(g => new Blob(g.Key, BlobStore.GeometryType, g.Value)),
        .. file.Images.Select(i => new Blob(i.Key, i.Value.MediaType, i.Value.Bytes)),
    ];
}
