using System.Collections.Immutable;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Targets that are stored anew where they stand: another pivot, other directions of it, another order, another parent, their constraints baked. What goes by them
/// is told so in the same step, locked or not, so that nothing moves: offsets are written anew, and what looks at a pivot keeps looking at the place where it was.
/// See model.md, Storing a target anew.
/// </summary>
internal static class StoredAnew
{
    /// <summary>To be called after edits were made on a draft.</summary>
    public static void Keep(SceneDraft draft)
    {
        if (draft.Constrained.Count == 0)
        {
            return;
        }

        var (before, written) = (new SceneDraft(draft.Below), draft.Written.ToList());
        HashSet<string>? edited = null;
        foreach (var (id, now) in written)
        {
            if (now is null || before.Find(id) is not { } was || !IsReadOtherwise(was, now))
            {
                continue;
            }

            var readers = Readers(draft, id).ToList();
            if (readers.Count > 0 && Promises.IsKept(before, draft, was, now) && Read(before, was) is { } then && Read(draft, now) is { } here)
            {
                // In a drag nobody is told anything, most of the time.
                edited ??= [.. written.Select(w => w.Key)];
                readers.ForEach(reader => Tell(draft, before, reader, id, then, here, edited.Contains(reader)));
            }
        }
    }

    /// <summary>All that go by what a draft has stored anew where it stands.</summary>
    public static IEnumerable<string> Readers(SceneDraft draft)
    {
        var before = new SceneDraft(draft.Below);
        return draft.Written.ToList()
            .Where(w => w.Value is { } now && before.Find(w.Key) is { } was && IsReadOtherwise(was, now) && Promises.IsKept(before, draft, was, now))
            .SelectMany(w => Readers(draft, w.Key)).Distinct();
    }

    /// <summary>All that go by a node.</summary>
    public static IEnumerable<string> Readers(SceneDraft draft, string id) =>
        Edges.Readers(draft, id).Where(reader => !reader.Constraints.IsEmpty).Select(reader => reader.Id);

    /// <summary>Whether others that go by a node may read it otherwise though it stands where it stood.</summary>
    private static bool IsReadOtherwise(Node was, Node now) =>
        was.Parent != now.Parent || was.Constraints != now.Constraints || was.Placement with { Position = now.Placement.Position } != now.Placement;

    public static TargetReading? Read(SceneDraft draft, Node node) => TargetReading.Of(draft.World(node), node.Placement.ToOwn(), draft.FrameOf(node).Basis);

    /// <summary>Tells a reader in one more place, such as a shot, where its entries and what they read were otherwise.</summary>
    /// <param name="entries">As they were there.</param>
    /// <param name="was">What was read there of those that are stored anew.</param>
    public static void Tell(SceneDraft draft, string reader, ImmutableArray<Constraint> entries, Dictionary<string, TargetReading> was)
    {
        if (draft.Find(reader) is not { } node || entries.Length != node.Constraints.Length)
        {
            return;
        }

        var (own, place) = (node.Placement.ToOwn(), draft.FrameOf(node).Place);
        foreach (var (id, then) in was)
        {
            if (draft.Find(id) is { } target && Read(draft, target) is { } now)
            {
                entries = [.. entries.Select(entry => entry.Names.Contains(id) ? entry.Told(id, then, now, own, place) : entry)];
            }
        }

        if (!entries.SequenceEqual(node.Constraints))
        {
            draft.Put(node with { Constraints = entries });
        }
    }

    /// <param name="isEdited">The edit wrote the reader, too: where that brought it back already, its entries say so.</param>
    private static void Tell(SceneDraft draft, SceneDraft before, string reader, string target, TargetReading was, TargetReading now, bool isEdited)
    {
        draft.Spend(1);
        var node = draft.Get(reader);
        var isBack = isEdited && before.Find(reader) is { } stood && Promises.IsKept(before, draft, stood, node);
        var place = draft.FrameOf(node).Place;
        var own = node.Placement.ToOwn();
        var told = node.Constraints;
        for (var i = 0; i < told.Length; i++)
        {
            if (told[i].Names.Contains(target) && !(isBack && told[i].Pulls))
            {
                told = told.SetItem(i, told[i].Told(target, was, now, own, place));
            }
        }

        if (!told.SequenceEqual(node.Constraints))
        {
            draft.Put(node with { Constraints = told });
        }
    }
}
