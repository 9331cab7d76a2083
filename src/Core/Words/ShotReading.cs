using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;

namespace CalmPivot.Core.Words;

/// <summary>A shot as its card says it.</summary>
/// <param name="CameraName">Null: it has no camera.</param>
/// <param name="CameraNote">What is wrong with its camera, as a sentence; null: nothing.</param>
/// <param name="Length">"4 s · 96".</param>
/// <param name="First">The number of its first frame.</param>
/// <param name="Code">The same as a time code.</param>
/// <param name="Cheats">How many objects have something of their own in it.</param>
/// <param name="Seen">How many objects and collections are seen otherwise than in the scene.</param>
/// <param name="Aspect">Width over height of its picture.</param>
public sealed record ShotReading(
    string Id,
    string Number,
    string Name,
    string Title,
    string? Camera,
    string? CameraName,
    string? CameraNote,
    int Frames,
    string Length,
    int First,
    string Code,
    string? Note,
    string? Colour,
    int Cheats,
    int Seen,
    double Aspect)
{
    /// <summary>All shots in their order.</summary>
    public static IReadOnlyList<ShotReading> All(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var (timing, at, readings) = (scene.Timing, 0L, new List<ShotReading>());
        foreach (var shot in scene.AllShots())
        {
            var camera = shot.Camera is { } id ? scene.Find(id) : null;
            var (cheats, seen) = Own(scene, shot.Id);
            var own = camera is null ? null : scene.FindAny(Cheat.IdOf(shot.Id, camera.Id, "camera.aspect")) as Cheat;
            var aspect = (own is null ? camera?.Camera?.Aspect : own.Value.NumberOrNothing) ?? CalmPivot.Core.Scene.Camera.UsualAspect;
            readings.Add(new(
                shot.Id, shot.Number, shot.Name, shot.Title, shot.Camera, camera?.Name, NoteOn(shot, camera), shot.Frames, FrameTime.Say(shot.Frames, timing.Fps),
                (int)Math.Clamp(timing.FirstFrame + at, int.MinValue, int.MaxValue), FrameTime.Code(timing.FirstFrame + at, timing.Fps), shot.Note, shot.Colour,
                cheats, seen, aspect));
            at += shot.Frames;
        }

        return readings;
    }

    /// <summary>How many things have something of their own in a shot, and how many are seen otherwise.</summary>
    private static (int Cheating, int Seen) Own(IScene scene, string shot)
    {
        var ids = scene.Children(Lists.OfCheats(shot));
        if (ids.Count == 0)
        {
            return (0, 0);
        }

        var (of, seen) = (new HashSet<string>(), 0);
        foreach (var id in ids)
        {
            var cheat = (Cheat)scene.FindAny(id)!;
            if (cheat.IsSeen)
            {
                seen++;
            }
            else
            {
                of.Add(cheat.Of);
            }
        }

        return (of.Count, seen);
    }

    private static string? NoteOn(Shot shot, Node? camera) => camera switch
    {
        null when shot.Camera is null => "It has no camera yet. Choose one, or take the present view.",
        null => "Its camera is not in the scene any more. Choose another one.",
        { Camera: null } => $"“{camera.Name}” is no camera any more. Choose another one.",
        _ => null,
    };
}

/// <summary>How picked things are seen in a shot.</summary>
/// <param name="State">"scene": as in the scene; "on"; "off"; "mixed".</param>
/// <param name="Seen">Whether the picture of the shot shows the last picked.</param>
/// <param name="Why">Why not; null: it is seen.</param>
public sealed record SeenInReading(string Shot, string Title, string State, bool Seen, string? Why)
{
    public static IReadOnlyList<SeenInReading> Of(IScene scene, IReadOnlyList<string> ids)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(ids);
        var some = ids.Where(id => scene.FindArranged(id) is not null).ToList();
        return some.Count == 0 ? [] : [.. scene.AllShots().Select(shot =>
        {
            var states = some.Select(id => StateOf(scene, shot, id)).Distinct().ToList();
            return Of(scene, shot, some[^1]) with { State = states.Count == 1 ? states[0] : "mixed" };
        })];
    }

    /// <summary>The same of one thing in one shot; null: one of them is gone.</summary>
    public static SeenInReading? Of(IScene scene, string shot, string id)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.FindShot(shot) is { } there && scene.FindArranged(id) is not null ? Of(scene, there, id) : null;
    }

    private static SeenInReading Of(IScene scene, Shot shot, string id)
    {
        var layer = new ShotScene(scene, shot.Id);
        var seen = layer.FindArranged(id) is Collection collection ? Seeing.Seen.Of(layer, collection) : Seeing.Seen.Of(layer, layer.Find(id)!);
        return new(shot.Id, shot.Title, StateOf(scene, shot, id), seen.Final, seen.Reasons.FirstOrDefault(r => r.Final)?.Text);
    }

    private static string StateOf(IScene scene, Shot shot, string id) =>
        scene.FindAny(Cheat.IdOf(shot.Id, id, CheatChannel.Seen)) is Cheat cheat ? cheat.Value.IsOn ? "on" : "off" : "scene";
}

/// <summary>A channel that picked things have of their own in a shot.</summary>
/// <param name="Of">Who has it.</param>
/// <param name="Words">"a position X".</param>
/// <param name="Here">The value of the last picked that has it.</param>
/// <param name="There">The scene's.</param>
public sealed record CheatReading(string Channel, IReadOnlyList<string> Of, string Words, string Here, string There)
{
    public static IReadOnlyList<CheatReading> All(IScene scene, string shot, IReadOnlyList<string> ids)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var (layer, say) = (new ShotScene(scene, shot), new Speaker(scene));
        return [.. ids.SelectMany(layer.CheatsOn).GroupBy(c => c.Channel).Select(group =>
        {
            var last = group.Last();
            var some = (Cheatable)scene.FindAny(last.Of)!;
            return CheatChannel.Of(group.Key) is { } channel && channel.Read(some) is { } there
                ? new CheatReading(group.Key, [.. group.Select(c => c.Of)], CheatWords.Of(channel, some, say), CheatWords.Value(channel, last.Value, say), CheatWords.Value(channel, there, say))
                : null;
        }).OfType<CheatReading>()];
    }
}
