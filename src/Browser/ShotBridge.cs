using System.Runtime.InteropServices.JavaScript;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
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

    /// <summary>Understands a typed length of a shot.</summary>
    [JSExport]
    public static string FramesOf(string text) => Answer(() => Write(new FramesAnswer(FrameTime.Read(text, Replica.Scene.Timing.Fps))));
}
