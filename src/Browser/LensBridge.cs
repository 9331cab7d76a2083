using System.Runtime.InteropServices.JavaScript;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>Lamps and cameras: what several have in common, and their handles on the stage.</summary>
public static unsafe partial class Bridge
{
    /// <summary>The six figures that are nearest to linear shares of red, green and blue.</summary>
    [JSExport]
    public static string FiguresOf(double r, double g, double b) => Color.Of(new Vec3(r, g, b)).Nearest;

    /// <summary>What the lamps among nodes have in common; while an edit is tried, what it makes of them.</summary>
    [JSExport]
    public static string CommonLight(string ids) => Write(Core.Spaces.CommonLight.Of(Now, Read<string[]>(ids)));

    /// <summary>What the cameras among nodes have in common.</summary>
    [JSExport]
    public static string CommonCamera(string ids) => Write(Core.Spaces.CommonCamera.Of(Now, Read<string[]>(ids)));

    /// <summary>What is drawn of a lamp's or a camera's lens, and what can be taken hold of.</summary>
    /// <param name="view">The view's world matrix, sixteen numbers.</param>
    /// <param name="size">How long the handles are, in metres at the node.</param>
    [JSExport]
    public static string LensShape(string id, double[] view, bool parallel, double size) =>
        Write(LensOf(id, view, parallel, size)?.Shape ?? Core.Drags.LensShape.Nothing);

    /// <summary>The edit that brings a part of a lens to where a ray points; null where the ray says nothing of it.</summary>
    /// <param name="step">Degrees or metres; 0: none.</param>
    [JSExport]
    public static string LensTo(string id, string part, double[] view, bool parallel, double size, double[] ray, double step) =>
        LensOf(id, view, parallel, size)?.To(Enum.Parse<LensPart>(part, ignoreCase: true), RayOf(ray), step > 0 ? step : null) is { } edit
            ? Core.Wire.WireJson.Write(edit)
            : "";

    /// <summary>All lamps, as they shine; while an edit is tried, as it makes them.</summary>
    [JSExport]
    public static string Lamps() => Write(LampReading.All(Now, Replica.Sight, Replica.Evaluator).ToArray());

    /// <summary>What lights the scene from all sides; while an edit is tried, as it makes that.</summary>
    [JSExport]
    public static string Surroundings()
    {
        var now = Now;
        var s = now.Surroundings;
        return Write(new SurroundingsAnswer(
            s.Kind, s.Color, s.Ground, s.Picture, s.Strength, s.Turn, s.Behind, s.Exposure,
            [.. (now.Below as ShotScene)?.CheatsOn(Core.Scene.Surroundings.Single).Select(c => c.Channel) ?? []]));
    }

    /// <summary>Width and height in pixels of a picture of a width over height that is wished so wide.</summary>
    [JSExport]
    public static double[] PictureSize(double wide, double aspect)
    {
        var (width, height) = Camera.PictureSize((int)Math.Round(Math.Clamp(wide, 1, Camera.MostPixels)), aspect);
        return [width, height];
    }

    private static LensAnswer LensOf(Camera camera, string id, SeenThrough seen)
    {
        var (width, height) = camera.PictureSize();
        return new(
            camera.Projection, camera.Fov, camera.Height, seen.Aspect, camera.Near, camera.Far, camera.ShiftX, camera.ShiftY, camera.Opening,
            camera.Opening > 0 ? SeenThrough.FocusOf(Now, camera, Replica.Evaluator.World(id)) : 0, width, height);
    }

    private static SceneDraft Now => TriedDraft ?? new SceneDraft(Replica.Shown);

    private static LensHandles? LensOf(string id, double[] view, bool parallel, double size) =>
        (Tried(id) ?? Replica.Shown.Find(id)) is { } node
            ? new(Replica.Shown, node, Replica.Evaluator.World(id), new(Affine.From(view), parallel), size)
            : null;

    /// <summary>A name for a new mark.</summary>
    [JSExport]
    public static string NextMarkName(string after) => Marks.NextName(Replica.Shown, after);

    /// <summary>The edits that put nodes beside what carries them.</summary>
    [JSExport]
    public static string OneLevelOut(string ids) => Core.Wire.WireJson.Write<Edit[]>([.. Ordering.OneLevelOut(Replica.Shown, Read<string[]>(ids))]);

    /// <summary>The edit that moves a node up or down among its siblings; empty where it is the first or last.</summary>
    [JSExport]
    public static string AmongSiblings(string id, int way) =>
        Ordering.AmongSiblings(Replica.Shown, id, way) is { } edit ? Core.Wire.WireJson.Write(edit) : "";

    /// <summary>Whether another in the same list has the same name.</summary>
    [JSExport]
    public static bool HasNamesake(string id) => Ordering.HasNamesake(Replica.Shown, id);
}
