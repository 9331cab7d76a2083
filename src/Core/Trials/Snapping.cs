using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Trials;

/// <summary>
/// What a drag can snap to: everything that is seen and not moved by it. Where things stand is gathered once a drag.
/// </summary>
internal sealed class Snapping
{
    private readonly IScene _scene;
    private readonly Evaluator _evaluator;
    private readonly HashSet<string> _moved;
    private readonly bool _pivotOnly;
    private readonly Vec3[] _corners;
    private readonly (SnapKind Kind, Vec3 Point)[] _own = [];
    private readonly string _lead;
    private readonly List<(string Id, Vec3 Pivot)> _pivots = [];

    public Snapping(IScene scene, Evaluator evaluator, Edit edit)
    {
        (_scene, _evaluator) = (scene, evaluator);
        var draft = new SceneDraft(scene);
        // A pivot that is moved leaves its object where it is, so that the object's own points are targets too.
        _pivotOnly = edit is IDragged { IsOfPivot: true };
        var movers = _pivotOnly ? [] : Targets.Movers(draft, edit.Picked);
        _moved = Edges.Dependents(draft, movers.Select(m => m.Id));
        var lead = draft.Get(edit.Picked[^1]);
        var own = Extents.InOwnFrame(draft, lead);
        var world = draft.World(lead);
        _corners = own.IsEmpty ? [] : [.. own.Corners().Select(world.Point)];
        _lead = lead.Id;
        if (_pivotOnly && !own.IsEmpty)
        {
            _own = [.. OwnPoints(own).Select(p => (p.Kind, world.Point(p.Point)))];
        }

        foreach (var node in scene.Branch(null).Concat(scene.Marks.Select(id => scene.Find(id)!)))
        {
            if (!Excluded(node) && !(_pivotOnly && edit.Picked.Contains(node.Id)))
            {
                _pivots.Add((node.Id, evaluator.World(node.Id).Point(node.Placement.Pivot)));
            }
        }
    }

    /// <summary>Everything in reach of the pointer, the best first.</summary>
    public IReadOnlyList<SnapTarget> InReach(SnapRequest request, View view, Ray ray)
    {
        var kinds = request.Kinds.ToHashSet();
        var targets = new SnapTargets(view, ray, request.Focal, request.Radius);
        foreach (var near in request.Near)
        {
            if (_scene.Find(near.Node) is not { } node || Excluded(node))
            {
                continue;
            }

            var world = _evaluator.World(node.Id);
            targets.AddTriangles(node.Id, world, near.Triangles, kinds);
            if (kinds.Contains(SnapKind.Corner) && Extents.GeometryOf(_scene, node)?.OwnBounds is { IsEmpty: false } own)
            {
                foreach (var corner in own.Corners())
                {
                    targets.Add(SnapKind.Corner, world.Point(corner), node.Id);
                }
            }
        }

        if (kinds.Contains(SnapKind.Pivot))
        {
            foreach (var (id, pivot) in _pivots)
            {
                targets.Add(SnapKind.Pivot, pivot, id);
            }
        }

        if (kinds.Contains(SnapKind.Grid))
        {
            targets.AddGrid(request.Grid);
        }

        return targets.Sorted();
    }

    /// <summary>
    /// A pivot that is moved along one axis catches where it comes level with a corner, an edge or the middle of its own
    /// object, wherever the pointer is; null: with none.
    /// </summary>
    /// <param name="pivot">Where it has come without snapping, in the world.</param>
    /// <param name="axis">Of length 1, in the world.</param>
    public SnapTarget? Level(SnapRequest request, View view, Vec3 pivot, Vec3 axis)
    {
        var depth = view.Parallel ? 1 : Math.Max(1e-9, (view.World.Offset - pivot).Dot(view.World.Linear.Z.Unit()));
        SnapTarget? best = null;
        foreach (var (kind, point) in _own)
        {
            var pixels = Math.Abs((point - pivot).Dot(axis)) * request.Focal / depth;
            if (request.Kinds.Contains(kind) && pixels <= request.Radius / 2 && !(best?.Pixels <= pixels))
            {
                best = new(kind, point, null, _lead, pixels, depth);
            }
        }

        return best;
    }

    /// <summary>Corners and middles of edges of bounds, in their own frame.</summary>
    private static IEnumerable<(SnapKind Kind, Vec3 Point)> OwnPoints(Bounds b) =>
        from x in (double[])[-1, 0, 1]
        from y in (double[])[-1, 0, 1]
        from z in (double[])[-1, 0, 1]
        let middles = (x == 0 ? 1 : 0) + (y == 0 ? 1 : 0) + (z == 0 ? 1 : 0)
        where middles < 2
        select (middles == 0 ? SnapKind.Corner : SnapKind.EdgeMiddle, b.Anchor(new(x, y, z)));

    /// <summary>The point of the moved, as it was before the drag, that goes to a target.</summary>
    /// <param name="way">How far the drag has come without snapping, in the world.</param>
    public Vec3 Source(SnapRequest request, Vec3 centre, Vec3 way, Vec3 target) => request.Source switch
    {
        SnapSource.Corner when _corners.Length > 0 && !_pivotOnly => _corners.MinBy(c => (c + way - target).LengthSquared),
        SnapSource.Picked when request.From is { } from && !_pivotOnly => from,
        _ => centre,
    };

    public string Say(SnapTarget target)
    {
        var name = target.Node is { } id && _scene.Find(id) is { } node
            ? node.Kind == NodeKind.Mark ? $"the mark {Speaker.Quoted(node.Name)}" : Speaker.Quoted(node.Name)
            : "";
        return target.Kind switch
        {
            SnapKind.Vertex => $"a vertex of {name}",
            SnapKind.Pivot when name.StartsWith("the mark ", StringComparison.Ordinal) => name,
            SnapKind.Pivot => $"{name}'s pivot",
            SnapKind.Corner => $"a corner of {name}'s bounds",
            SnapKind.EdgeMiddle => $"the middle of an edge of {name}",
            SnapKind.Edge => $"an edge of {name}",
            SnapKind.Grid => "a point of the grid",
            _ => $"a face of {name}",
        };
    }

    private bool Excluded(Node node) => _moved.Contains(node.Id) || !Seen.IsSeen(_scene, node);
}
