using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Edits;

/// <summary>What verbs of constraints ask of the things that these look at, and of an entry itself.</summary>
internal static class ConstraintTargets
{
    /// <exception cref="Refusal">not-found, would-loop, not-understood.</exception>
    public static void Check(SceneDraft draft, Node node, Constraint entry)
    {
        foreach (var id in entry.Names)
        {
            if (id.Length == 0)
            {
                throw new Refusal(Refusals.NotUnderstood, $"What “{node.Name}” {entry.Verb} is not said. Press the target.");
            }

            if (id == node.Id)
            {
                throw new Refusal(Refusals.WouldLoop, $"“{node.Name}” cannot go by itself. Pick another target.");
            }

            draft.Get(id);
        }

        // What stays on a surface needs one.
        if (entry is { ReadsSurface: true, Target: { } target } && draft.Get(target) is var there && Surfaces.Of(draft, there) is not { IsEmpty: false })
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{there.Name}” has no surface that “{node.Name}” could stay on, or one of more than {TriangleIndex.Most} triangles. Pick a shape or a smaller mesh.");
        }
    }

    /// <summary>An entry of a node with what was not given proposed so that least moves.</summary>
    public static unsafe Constraint Proposed(SceneDraft draft, Node node, int index, ConstraintPatch given)
    {
        double* world = stackalloc double[Flat.Size], place = stackalloc double[Flat.Size], basis = stackalloc double[Flat.Size];
        var buffer = stackalloc double[3 * Flat.Size];
        Flat.Write(draft.Placed(node), world);
        draft.Worlds.Frame(node, place, basis);
        return new ConstraintList(node.ToOwn(), node.Constraints).Proposed(index, given, world, place, basis, new KnownWorlds.Standing(draft, node, buffer));
    }

    /// <summary>Where an entry stands in the list of a node.</summary>
    /// <exception cref="Refusal">not-found.</exception>
    public static int IndexOf(Node node, string id) =>
        node.Constraints.ToList().FindIndex(c => c.Id == id) is >= 0 and var at
            ? at
            : throw new Refusal(Refusals.NotFound, $"This constraint of “{node.Name}” is not there any more.");
}

/// <summary>An entry of a node's constraints.</summary>
/// <param name="Id">Null: all of them, where that is said.</param>
public sealed record EntryOf(string Node, string? Id = null);
