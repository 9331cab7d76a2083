using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Where a mark is placed: at a point of the world, or at a node's pivot where no point is given; with directions of a
/// view, else with y along an upright (a face's) and x laid onto it, else the node's own, else the world's.
/// </summary>
public sealed record MarkPlace(Vec3? Point = null, Vec3? Y = null, Vec3? X = null, string? Node = null, Affine? View = null);

/// <summary>Makes a mark: a named point with directions, pinned where it is placed or following a node.</summary>
/// <param name="Follow">True: it rides on the node of its place.</param>
public sealed record CreateMark(string Name, MarkPlace At, string? Id = null, bool Follow = false) : Edit
{
    public override IReadOnlyList<string> Picked => Id is null ? [] : [Id];

    public override void ApplyTo(SceneDraft draft)
    {
        if (Follow && At.Node is null)
        {
            throw new Refusal(Refusals.NotUnderstood, "A mark that follows needs an object to follow.");
        }

        if (At.Point is { IsFinite: false } || At.Y is { IsFinite: false } || At.View is { IsFinite: false })
        {
            throw new Refusal(Refusals.NotFinite, "A mark needs a finite place.");
        }

        var id = Seats.NewId(draft, Id);
        var source = At.Node is { } of ? draft.Get(of) : null;
        if (source is not null && !source.Kind.IsInTree() && Follow)
        {
            throw new Refusal(Refusals.NotUnderstood, "A mark follows objects, not other marks or collections.");
        }

        var axes = At.View is { } view ? view.Linear.RotationPart() : source is null ? Mat3.Identity : OwnSpace.Of(draft, source);
        if (At.Y is { } upright)
        {
            axes = new SurfaceSpace(upright, At.X ?? axes.X).Laid(axes);
        }

        var point = At.Point ?? (source is null ? Vec3.Zero : draft.PivotOf(source));
        var placement = Placement.Default with
        {
            Position = point,
            Rotation = Euler.FromMatrix(axes, EulerOrder.XYZ, Vec3.Zero),
            Takes = Marks.Takes,
        };
        var rank = draft.Marks.Count == 0 ? 1 : draft.Get(draft.Marks[^1]).Rank + 1;
        var mark = Node.Bare(id, Rename.Fitting(Name), NodeKind.Mark, null, placement) with { Rank = rank };
        draft.Put(mark);
        if (Follow)
        {
            draft.Put(Marks.Attached(draft, mark, source!.Id));
        }
    }

    public override string Say(Speaker say) =>
        $"Placed the mark {Speaker.Quoted(Name)}" + (At.Node is null ? "" : Follow ? $", following {say.Name(At.Node)}" : $" at {say.Name(At.Node)}");
}
