using System.Runtime.InteropServices.JavaScript;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>Shots: which one is current, where edits are made, and what they have of their own.</summary>
public static unsafe partial class Bridge
{
    /// <summary>Makes a shot the current one, or none. What is being tried goes on.</summary>
    /// <param name="shot">Empty: none.</param>
    /// <param name="narrow">Edits are made in it alone.</param>
    /// <param name="asInShot">The working view leaves out what its picture leaves out.</param>
    [JSExport]
    public static string SetScope(string shot, bool narrow, bool asInShot) => Answer(() =>
    {
        var stale = Stale.Nothing;
        var ongoing = Meanwhile(() => stale = Replica.SetScope(shot.Length == 0 ? Scope.Every : new(shot, narrow), asInShot));
        return Write(new HeardAnswer(stale, [], ongoing));
    });

    /// <summary>All shots in their order, and what the scene counts time by.</summary>
    [JSExport]
    public static string Shots()
    {
        var (scene, readings) = (Replica.Scene, ShotReading.All(Replica.Scene));
        return Write(new ShotsAnswer(
            readings,
            [.. readings.Select(r => Replica.Versions.Of(r.Id))],
            scene.Timing.Fps,
            scene.Timing.FirstFrame,
            FrameTime.Say(readings.Sum(r => r.Frames), scene.Timing.Fps)));
    }

    /// <summary>How picked things are seen, shot by shot.</summary>
    [JSExport]
    public static string SeenIn(string ids) => Write(SeenInReading.Of(Replica.Scene, Read<string[]>(ids)));

    /// <summary>What picked things have of their own in the current shot.</summary>
    [JSExport]
    public static string CheatsOn(string ids) => Write(Replica.Layer is { } layer ? CheatReading.All(Replica.Scene, layer.Id, Read<string[]>(ids)) : []);

    /// <summary>What is not the same in two shots; of an empty name the scene's.</summary>
    [JSExport]
    public static string Diff(string a, string b) => Answer(() => Write(DiffReading.Of(Replica.Scene, NameOr(a), NameOr(b))));

    /// <summary>How what is not the same there stands in another shot, or in the scene, beside how it is shown.</summary>
    [JSExport]
    public static string DiffShadows(string a, string b) => Answer(() => Write<ShadowAnswer[]>(
        [.. Shadow.OfDiff(Replica.Scene, Replica.Shown, NameOr(a), NameOr(b)).Select(s => new ShadowAnswer(s.Id, s.World.ToArray(), s.Then, s.Now))]));

    /// <summary>Collections and picked objects against shots.</summary>
    [JSExport]
    public static string SeenTable(string ids) => Write(Core.Words.SeenTable.Of(Replica.Scene, Read<string[]>(ids)));

    /// <summary>How one thing is seen in one shot, and why it is not; empty: one of them is gone.</summary>
    [JSExport]
    public static string SeenCell(string shot, string id) => SeenInReading.Of(Replica.Scene, shot, id) is { } reading ? Write(reading) : "";

    /// <summary>The objects that fall in a camera's frame, as the current shot has them.</summary>
    [JSExport]
    public static string InFrame(string camera, bool behindOthers) => Write<string[]>([.. Framed(camera, behindOthers)]);

    /// <summary>What would have to be switched off for nothing to be in the picture but what falls in the frame.</summary>
    [JSExport]
    public static string BeyondFrame(string camera) => Write<string[]>([.. Core.Seeing.InFrame.Beyond(Replica.Shown, Replica.Sight, Framed(camera, true))]);

    private static IReadOnlyList<string> Framed(string camera, bool behindOthers) => Replica.Shown.Find(camera) is { Camera: { } lens }
        ? Core.Seeing.InFrame.Of(Replica.Shown, Replica.Evaluator, Replica.Sight, SeenThrough.Of(lens, Replica.Evaluator.World(camera)), behindOthers)
        : [];

    /// <summary>What is to be known of a camera that is looked through; empty: it is none.</summary>
    /// <param name="lead">Empty: none.</param>
    [JSExport]
    public static string ThroughCamera(string camera, string lead) => CameraReading.Of(Now, camera, NameOr(lead)) is { } reading ? Write(reading) : "";

    private static string? NameOr(string id) => id.Length == 0 ? null : id;

    /// <summary>Where a frame of the sequence lies, counted from its first: "00:00:06:12".</summary>
    [JSExport]
    public static string TimeCode(double frame) => FrameTime.Code((long)frame, Replica.Scene.Timing.Fps);

    /// <summary>Understands a typed length of a shot.</summary>
    [JSExport]
    public static string FramesOf(string text) => Answer(() => Write(new FramesAnswer(FrameTime.Read(text, Replica.Scene.Timing.Fps))));
}
