using CalmPivot.Core.Amounts;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>How far a handle was dragged, or what was typed instead.</summary>
/// <param name="Amount">Metres along the three axes, degrees in X, or factors.</param>
/// <param name="Space">Whose axes the handles follow.</param>
/// <param name="Turn">The turn that it is, where a handle says its axis by itself.</param>
public readonly record struct Pull(Vec3 Amount, Space Space, PulledTurn? Turn = null);

/// <summary>A turn by a handle.</summary>
/// <param name="In">Whose axis it is; null: that of the sentence.</param>
public readonly record struct PulledTurn(double By, Vec3 Axis, Space? In);

/// <summary>
/// An edit with an amount that is dragged at a handle, or typed into the sentence. It says for itself what dragging asks of it:
/// <code>
/// IDragged move = new Move(["chair"], Vec3.Zero, new WorldSpace());
/// Edit dragged = move.With(new Pull(new(1.5, 0, 0), new WorldSpace()));
/// </code>
/// </summary>
public interface IDragged
{
    /// <summary>What kind of number its amount is.</summary>
    Quantity Quantity { get; }

    /// <summary>The point that its handles stand at.</summary>
    About About => new AboutOwn();

    /// <summary>Whether what it carries can snap to points.</summary>
    bool Snaps => false;

    /// <summary>Whether what it carries can turn to the surface that it snaps to.</summary>
    bool TurnsToSurfaces => false;

    /// <summary>Whether it moves a pivot only: then the object's own points are targets, too.</summary>
    bool IsOfPivot => false;

    /// <summary>Whether its turns in own, parent and channels are edits of the stored angles, which a mirrored parent turns the other way round.</summary>
    bool TurnsStored => false;

    /// <summary>Whether children keep their place while their parent is dragged.</summary>
    bool ChildrenStay => false;

    /// <summary>The same edit with an amount.</summary>
    Edit With(Pull pull);

    /// <summary>The amount that a bare number is, along some of the axes.</summary>
    Vec3 Along(double value, IReadOnlyList<bool> axes) => new(axes[0] ? value : 0, axes[1] ? value : 0, axes[2] ? value : 0);

    /// <summary>The edit that sets, or multiplies, the one stored channel that the axes correspond to.</summary>
    /// <param name="values">The value on each of the axes that it is for.</param>
    /// <exception cref="Refusal">not-understood: none corresponds.</exception>
    Edit Towards(SceneDraft draft, double value, IReadOnlyList<double?> values, AmountMode mode);

    /// <summary>What its amounts count from, where steps lie on the grid of the space.</summary>
    /// <param name="inSpace">Where the handles stand, from the origin of the space along its axes.</param>
    Vec3 GridFrom(SceneDraft draft, Node lead, Vec3 inSpace) => inSpace;

    /// <summary>Its amount in words.</summary>
    string Amount(Speaker say);

    /// <summary>What is to be said of this very amount; null: nothing.</summary>
    string? Caution => null;

    /// <summary>The same edit with a usual amount, for foretelling; null: no amount does anything besides.</summary>
    Edit? Usual => null;

    /// <summary>The same along one of its axes, to both sides; none: it has no axes of its own to tell apart.</summary>
    IEnumerable<Edit> UsualAlong(int axis) => [];

    /// <summary>Some of its axes, as a sentence says them: "the world's X and Y".</summary>
    string AxesInWords(Vec3 used, Speaker say) => "";
}

/// <summary>The stored numbers that a reading shows of an edit, before and after.</summary>
internal enum Read
{
    Position,
    Rotation,
    Scale,
    Pivot,
    PivotTurn,
}
