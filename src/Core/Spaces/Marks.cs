using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>Marks of a scene: named points with directions that edits can run along and work about.</summary>
public static class Marks
{
    /// <summary>A mark takes the place and the directions of what it follows, but has no size of its own.</summary>
    public static readonly Takes Takes = new(true, true, false);

    /// <exception cref="Refusal">not-found.</exception>
    public static Node Get(SceneDraft draft, string id)
    {
        ArgumentNullException.ThrowIfNull(draft);
        return draft.Find(id) is { Kind: NodeKind.Mark } mark
            ? mark
            : throw new Refusal(Refusals.NotFound, "The mark of this edit is not in the scene any more. Choose another one.");
    }

    /// <summary>A name for a new mark that none has yet: "Mark 3", or after what it stands at: "Moon arm", "Moon arm 2".</summary>
    public static string NextName(IScene scene, string? after = null)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var names = scene.Marks.Select(id => scene.Find(id)!.Name).ToHashSet();
        var some = Enumerable.Range(0, names.Count + 1);
        return (string.IsNullOrEmpty(after)
            ? some.Select(i => $"Mark {names.Count + 1 + i}")
            : some.Select(i => i == 0 ? after : $"{after} {i + 1}")).First(name => !names.Contains(name));
    }

    /// <summary>The directions of a mark in the world.</summary>
    public static Mat3 Axes(SceneDraft draft, Node mark) => draft.World(mark).Linear.RotationPart();

    /// <summary>The marks that follow a node.</summary>
    public static IEnumerable<Node> Following(SceneDraft draft, string id) =>
        draft.Referrers(id).Select(draft.Find).OfType<Node>().Where(n => n.Kind == NodeKind.Mark && n.Parent == id);

    /// <summary>The same mark where it stands, following something else or nothing.</summary>
    public static Node Attached(SceneDraft draft, Node mark, string? source)
    {
        var stored = draft.FrameUnder(source, Takes).Storing(draft.Placed(mark), mark.Placement, mark.Name);
        return mark with { Parent = source, Placement = stored with { Scale = Vec3.One, Shear = Vec3.Zero } };
    }
}
