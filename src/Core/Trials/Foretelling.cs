using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Trials;

/// <summary>What constraints do to an edit, and what it makes jump, as data.</summary>
/// <param name="Held">What keeps nodes from where the edit would bring them.</param>
/// <param name="Jumps">What jumps though nothing is meant to move it.</param>
public sealed record Foretelling(IReadOnlyList<HeldBy> Held, IReadOnlyList<Jumping> Jumps)
{
    /// <summary>Foretells edits by making them on a draft; those that are dragged, by a usual amount.</summary>
    /// <exception cref="Refusal">They cannot be done.</exception>
    public static Foretelling Of(IScene scene, IReadOnlyList<Edit> edits)
    {
        ArgumentNullException.ThrowIfNull(edits);
        var draft = new SceneDraft(scene);
        foreach (var edit in edits)
        {
            ((edit as IDragged)?.Usual ?? edit).ApplyTo(draft);
        }

        StoredAnew.Keep(draft);
        SceneDraft Made(Edit edit)
        {
            var made = new SceneDraft(scene);
            edit.ApplyTo(made);
            return made;
        }

        var say = new Speaker(scene);
        string[] tied = [.. edits.Where(e => e is Constrain or SetConstraint or Unconstrain or Bake or PanAndTilt or GiveLinks or Drive or MovePivot or PutUnder or SetTakes).SelectMany(e => e.Picked)];
        var usual = edits is [IDragged { Usual: not null } dragged] ? UsualHold.Of(scene, dragged, draft, Made) : null;
        List<Held> held = usual is not null && !draft.Held.Contains(usual.Held) ? [usual.Held, .. draft.Held] : draft.Held;
        return new(
            [.. held.Select(h => new HeldBy(h.Node, h.Link, ConstraintWords.Held(h, say, h == usual?.Held ? usual.Along : null), h.Link is null ? [] : ["off", "bake", "target"]))],
            [.. Edits.Jumps.Of(scene, draft, [.. tied, .. StoredAnew.Readers(draft)]).Select(j => new Jumping(j.Node, j.Jump.Moved, j.Jump.Turned, j.Jump.Scaled))]);
    }
}

/// <summary>A node that an entry has its way with.</summary>
/// <param name="Link">The id of the entry; null: no single one.</param>
/// <param name="Reason">A sentence with the way out.</param>
/// <param name="Ways">What helps: switch it <c>off</c>, <c>bake</c> it, or move its <c>target</c>.</param>
public sealed record HeldBy(string Node, string? Link, string Reason, IReadOnlyList<string> Ways);

/// <summary>By how much a node jumps: metres, degrees, a factor.</summary>
public sealed record Jumping(string Node, double Moved, double Turned, double Scaled);
