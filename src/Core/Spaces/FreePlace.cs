using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>
/// Finds the next place beside something where nothing is touched: along one axis of the world, standing at the same height
/// and in the same line. What the other stands in (a room, a floor) is not in the way.
/// <code>
/// var free = new FreePlace(draft, [host]);
/// var way = free.Beside(host, bounds, pivot, Vec3.UnitX); // how far the new one is to be moved
/// </code>
/// </summary>
internal sealed class FreePlace
{
    /// <summary>The air left between two things, as a share of the new one's size.</summary>
    private const double Air = 0.2;

    private readonly SceneDraft _draft;
    private readonly List<Bounds> _taken = [];

    /// <summary>Of more nodes than this only the siblings are looked at: a page asks at every word that is typed.</summary>
    private const int Most = 20_000;

    /// <param name="draft">The scene as it is before anything is added.</param>
    /// <param name="hosts">What something is to stand beside.</param>
    public FreePlace(SceneDraft draft, IReadOnlyList<Node> hosts)
    {
        _draft = draft;
        var looked = draft.Count <= Most
            ? draft.Branch(null)
            : hosts.Select(h => h.Parent).Distinct().SelectMany(draft.Children).Select(draft.Get);
        foreach (var node in looked)
        {
            if (Extents.GeometryOf(draft, node) is { OwnBounds: { IsEmpty: false } own })
            {
                _taken.Add(Around(own, draft.World(node)));
            }
        }
    }

    /// <summary>The world's axis, with its sign, that runs most to the right of a view; without a view, X.</summary>
    public static Vec3 AxisOf(Affine? view)
    {
        if (view is not { } seen)
        {
            return Vec3.UnitX;
        }

        var right = seen.Linear.X;
        var axis = Enumerable.Range(0, 3).MaxBy(i => Math.Abs(right[i]));
        return Vec3.Axis(axis) * (right[axis] < 0 ? -1 : 1);
    }

    /// <summary>The way by which a new thing stands beside another, touching nothing; it then takes that place.</summary>
    /// <param name="own">The new thing's bounds where it is now; empty for a lamp and its like.</param>
    /// <param name="pivot">Where its pivot is now.</param>
    /// <param name="way">An axis of the world with its sign.</param>
    public Vec3 Beside(Node host, Bounds own, Vec3 pivot, Vec3 way)
    {
        _draft.Spend(_taken.Count / 4);
        var flat = own.IsEmpty;
        own = own.With(pivot);
        var beside = Extents.OfBranch(_draft, host, Affine.Identity).With(_draft.PivotOf(host));
        var axis = Enumerable.Range(0, 3).First(i => way[i] != 0);
        var sign = way[axis];
        var air = Air * Math.Max(own.Size[axis], flat ? 0.5 : 0.05 * beside.Size[axis]);
        var shift = Vec3.Zero;
        for (var i = 0; i < 3; i++)
        {
            // At the same height it stands on the same floor; a lamp hangs at the top.
            shift = shift.With(i, i == axis ? Past(beside, own, axis, sign, air)
                : i != 1 ? beside.Middle[i] - own.Middle[i]
                : flat ? beside.High.Y - own.High.Y : beside.Low.Y - own.Low.Y);
        }

        // From near to far: each that is in the way is passed once.
        foreach (var taken in _taken.OrderBy(b => sign > 0 ? b.Low[axis] : -b.High[axis]))
        {
            if (!Overlap(taken, beside, 0) && Overlap(taken, Moved(own, shift), air))
            {
                shift = shift.With(axis, Past(taken, own, axis, sign, air));
            }
        }

        _taken.Add(Moved(own, shift));
        return shift;
    }

    private static double Past(Bounds other, Bounds own, int axis, double sign, double air) =>
        sign > 0 ? other.High[axis] + air - own.Low[axis] : other.Low[axis] - air - own.High[axis];

    private static Bounds Moved(Bounds bounds, Vec3 by) => new(bounds.Low + by, bounds.High + by);

    /// <summary>Whether two boxes have room in common; what only touches, as a thing and its floor, has not.</summary>
    private static bool Overlap(Bounds a, Bounds b, double air)
    {
        for (var i = 0; i < 3; i++)
        {
            var slack = i == 1 ? 1e-6 * (a.Size[i] + b.Size[i]) : -0.999 * air;
            if (!(a.Low[i] < b.High[i] - slack && b.Low[i] < a.High[i] - slack))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>A box round a box that stands turned: not exact, but quick and never too small.</summary>
    private static Bounds Around(Bounds own, Affine world) =>
        own.Corners().Aggregate(Bounds.Empty, (all, corner) => all.With(world.Point(corner)));
}
