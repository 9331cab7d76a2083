using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>A channel whose value is not the same in two shots.</summary>
/// <param name="Node">The node.</param>
/// <param name="A">The value in the first; what is not cheated has the scene's.</param>
public sealed record CheatDifference(string Node, string Channel, CheatValue A, CheatValue B);

/// <summary>A node or a collection whose switch for the picture is not the same in two shots.</summary>
public sealed record SeenDifference(string Id, bool A, bool B);

/// <summary>Two cameras; null: none.</summary>
public sealed record CameraDifference(string? A, string? B);

/// <summary>Two lengths in frames.</summary>
public sealed record FramesDifference(int A, int B);

/// <summary>
/// What is not the same in two shots, or in a shot and the scene: values of channels, switches, cameras, lengths. What two have of their own and
/// have alike is no difference. See model.md, Shots.
/// <code>
/// var diff = ShotDiff.Of(scene, "dome", null); // what "dome" has otherwise than the scene
/// </code>
/// </summary>
/// <param name="Camera">Null: they have the same, or one of them is the scene.</param>
/// <param name="Frames">Null: they are as long as each other, or one of them is the scene.</param>
public sealed record ShotDiff(IReadOnlyList<CheatDifference> Cheats, IReadOnlyList<SeenDifference> Seen, CameraDifference? Camera, FramesDifference? Frames)
{
    public bool IsEmpty => Cheats.Count == 0 && Seen.Count == 0 && Camera is null && Frames is null;

    /// <param name="a">A shot; null: the scene.</param>
    /// <exception cref="Refusal">not-found: there is no such shot.</exception>
    public static ShotDiff Of(IScene scene, string? a, string? b)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var (first, second) = (Found(scene, a), Found(scene, b));
        var (cheats, seen) = (new List<CheatDifference>(), new List<SeenDifference>());
        var others = new Others(CheatsOf(scene, b));
        void Add(string of, string name, CheatValue? here, CheatValue? there)
        {
            // What has none of it any more shows none of it in either.
            if (scene.FindAny(of) is not Cheatable some || CheatChannel.Of(name) is not { } channel || channel.Read(some) is not { } own || (here ?? own).IsAbout(there ?? own))
            {
                return;
            }

            if (name == CheatChannel.Seen)
            {
                seen.Add(new(of, (here ?? own).IsOn, (there ?? own).IsOn));
            }
            else
            {
                cheats.Add(new(of, name, here ?? own, there ?? own));
            }
        }

        foreach (var cheat in CheatsOf(scene, a))
        {
            Add(cheat.Of, cheat.Channel, cheat.Value, others.Take(cheat)?.Value);
        }

        foreach (var cheat in others.Left)
        {
            Add(cheat.Of, cheat.Channel, null, cheat.Value);
        }

        var both = first is not null && second is not null;
        return new(
            cheats,
            seen,
            both && first!.Camera != second!.Camera ? new(first.Camera, second.Camera) : null,
            both && first!.Frames != second!.Frames ? new(first.Frames, second.Frames) : null);
    }

    private static IEnumerable<Cheat> CheatsOf(IScene scene, string? shot) => shot is null ? [] : scene.CheatsOf(shot);

    /// <summary>What the other shot has of its own. Shots that were made alike have theirs in one order: then nothing is looked up.</summary>
    private sealed class Others(IEnumerable<Cheat> cheats)
    {
        private readonly Cheat?[] _all = [.. cheats];
        private Dictionary<(string Of, string Channel), int>? _places;
        private int _next;

        public IEnumerable<Cheat> Left => _all.OfType<Cheat>();

        /// <summary>What it has of the same channel; null: nothing.</summary>
        public Cheat? Take(Cheat cheat)
        {
            if (!(_next < _all.Length && _all[_next] is { } next && next.Of == cheat.Of && next.Channel == cheat.Channel))
            {
                _places ??= _all.Index().Where(c => c.Item is not null).ToDictionary(c => (c.Item!.Of, c.Item.Channel), c => c.Index);
                if (!_places.TryGetValue((cheat.Of, cheat.Channel), out var at))
                {
                    return null;
                }

                _next = at;
            }

            var taken = _all[_next];
            _all[_next++] = null;
            return taken;
        }
    }

    private static Shot? Found(IScene scene, string? shot) => shot is null ? null
        : scene.FindShot(shot) ?? throw new Refusal(Refusals.NotFound, "A shot that was to be compared is not in the scene any more. Choose another one.");
}
