using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>
/// What edits come to in one shot only: channels that differ become its cheats, what is made is out of all other pictures, and what counts everywhere (names,
/// locks, memberships) is written to the scene. Anything else is refused.
/// </summary>
internal static class Narrow
{
    /// <summary>What cannot differ from shot to shot, of all that a draft has written.</summary>
    /// <exception cref="Refusal">every-shot-only.</exception>
    public static void Check(SceneDraft draft)
    {
        foreach (var (id, after) in draft.Written)
        {
            var before = draft.Below.Find(id);
            if (before is not null && (after is null || Rest(after, before) is var rest && !MayDiffer(before, rest)))
            {
                throw EveryShotOnly(before, draft.Shot);
            }
        }
    }

    /// <exception cref="Refusal">every-shot-only.</exception>
    public static void Write(SceneDraft done, Change change, string shot)
    {
        var made = change.Nodes.Where(n => n.Before is null).Select(n => n.Id).ToHashSet();
        foreach (var (hash, geometry) in change.Made)
        {
            done.Geometries.Keep(hash, geometry);
        }

        foreach (var (id, before, after) in change.All)
        {
            switch (before, after)
            {
                case (null, Node node):
                    Make(done, node, shot, made);
                    break;
                case (null, Surroundings first):
                    // What a shot is to have of its own is of something that the scene has.
                    done.Put(Surroundings.Usual);
                    Change(done, Surroundings.Usual, first, shot);
                    break;
                case (Cheatable was, Cheatable now):
                    Change(done, was, now, shot);
                    break;
                case (Node gone, null):
                    throw EveryShotOnly(gone, done.FindShot(shot));
                case (_, null):
                    done.Remove(before!);
                    break;
                default:
                    done.Put(after);
                    break;
            }
        }
    }

    /// <summary>Writes a cheat; none that says what it said already.</summary>
    public static void Put(SceneDraft done, string shot, string of, string channel, CheatValue value)
    {
        var cheat = Cheat.Made(shot, of, channel, value);
        var present = done.FindAny(cheat.Id) as Cheat;
        if (present is null && done.Count >= 2 * SceneDocument.MostNodes)
        {
            throw new Refusal(Refusals.TooLarge, $"All shots together have at most {SceneDocument.MostNodes} values of their own. Take some back first.");
        }

        if (present is null || present.Value != value)
        {
            done.Put(cheat);
        }
    }

    private static void Make(SceneDraft done, Node node, string shot, HashSet<string> made)
    {
        // What rides on it is seen where it is.
        var isTop = node.Kind.IsInTree() && node.Switches.Final && (node.Parent is null || !made.Contains(node.Parent));
        done.Put(isTop ? node with { Switches = node.Switches with { Final = false } } : node);
        if (isTop)
        {
            Put(done, shot, node.Id, CheatChannel.Seen, CheatValue.Of(true));
        }
    }

    private static void Change(SceneDraft done, Cheatable before, Cheatable after, string shot)
    {
        var parts = after.Fields.Written(before, after);
        foreach (var channel in CheatChannel.All(before, parts))
        {
            if (channel.Read(before) is { } from && channel.Read(after) is { } to && !from.IsAbout(to))
            {
                Put(done, shot, before.Id, channel.Name, to);
            }
        }

        var present = (Cheatable)done.FindAny(before.Id)!;
        var rest = Rest(after, present);
        if (after.Fields.Written(present, rest) != Parts.None)
        {
            if (before is Node was && !MayDiffer(was, (Node)Rest(after, before)))
            {
                throw EveryShotOnly(before, done.FindShot(shot));
            }

            done.Put(rest);
        }
    }

    /// <summary>The first with all that can differ from shot to shot as the second has it.</summary>
    private static T Rest<T>(T after, T before)
        where T : Cheatable
    {
        Cheatable rest = after;
        foreach (var channel in CheatChannel.All(before, after.Fields.Written(before, after)))
        {
            rest = channel.Read(before) is { } value && channel.Read(rest) is { } now && now != value ? channel.With(rest, value) : rest;
        }

        return (T)rest;
    }

    /// <summary>Whether what is left counts everywhere by its nature. A new seat in the same list is what comes of others that are made beside it.</summary>
    private static bool MayDiffer(Node before, Node rest)
    {
        const Parts Free = Parts.Name | Parts.Switches | Parts.Collections | Parts.Label;
        var parts = NodeFields.Table.Written(before, rest) & ~Free;
        return parts == Parts.None
            || ((parts & ~(Parts.Seat | Parts.Shape)) == Parts.None && before.Parent == rest.Parent
                && ((parts & Parts.Shape) == 0 || (NodeFields.Table.Written(before with { Shares = rest.Shares }, rest) & Parts.Shape) == 0));
    }

    private static Refusal EveryShotOnly(Cheatable some, Shot? shot) => new(
        Refusals.EveryShotOnly,
        $"Its pivot, its shape, its parent and its constraints are the same in every shot, so “{some.Name}” cannot have this in {shot?.Title ?? "one shot"} only. Do it in every shot.");
}
