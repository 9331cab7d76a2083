using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Trials;

/// <summary>What would hold a drag that has not begun: asked of an edit with a usual amount to each side, and where something does, along each axis by itself.</summary>
/// <param name="Along">The axes along which it holds, in words; null: all of them.</param>
internal sealed record UsualHold(Held Held, string? Along)
{
    private const int MostAsked = 50;

    /// <param name="draft">Makes an edit as it would be made.</param>
    /// <returns>Null: nothing holds it.</returns>
    public static UsualHold? Of(IScene scene, IDragged dragged, SceneDraft usual, Func<Edit, SceneDraft> draft)
    {
        // Of many at once only what holds both sides and all axes is told.
        var picked = ((Edit)dragged).Picked;
        var held = usual.Held.FirstOrDefault();
        if (held is null && (picked.Count > MostAsked || !picked.Any(id => scene.Find(id) is { Constraints.IsEmpty: false })))
        {
            return null;
        }

        List<Held>[] along = [.. Enumerable.Range(0, 3).Select(axis => dragged.UsualAlong(axis).SelectMany(edit => draft(edit).Held).ToList())];
        held ??= along.SelectMany(h => h).FirstOrDefault();
        if (held is null)
        {
            return null;
        }

        double[] used = [.. along.Select(h => h.Any(h => h.Node == held.Node && h.Link == held.Link) ? 1 : 0)];
        return new(held, used.Sum() is 0 or 3 ? null : dragged.AxesInWords(new(used[0], used[1], used[2]), new(scene)));
    }
}
