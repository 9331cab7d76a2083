using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Drags;

/// <summary>
/// A shape drawn by eye on a surface or on the ground: first its footprint, then its height. Boxes and planes are drawn from
/// corner to corner, round shapes from their middle outward. The pivot is the middle of the base.
/// </summary>
public sealed class DrawnShape
{
    /// <summary>Nothing is drawn thinner than this, in metres: a press that slipped is no shape.</summary>
    private const double Least = 1e-4;

    private readonly string _type;
    private readonly Vec3 _origin;
    private readonly Mat3 _axes;
    private readonly View _view;
    private Vec3 _foot;
    private double _height;
    private Drag? _rise;

    /// <param name="type">A shape's word.</param>
    /// <param name="origin">Where the drawing begins, in the world.</param>
    /// <param name="upright">The upright of the surface that is drawn on.</param>
    /// <exception cref="Refusal">not-understood: no such shape.</exception>
    public DrawnShape(string type, Vec3 origin, Vec3 upright, View view)
    {
        _ = Shape.Default(type);
        (_type, _origin, _view) = (type, origin, view);
        _axes = new SurfaceSpace(upright).Laid(Mat3.Identity);
    }

    /// <summary>Whether a height follows the footprint.</summary>
    public bool HasHeight => _type is "box" or "cylinder" or "cone" or "capsule";

    /// <summary>Whether enough has been drawn to be a shape.</summary>
    public bool IsThere => Math.Max(Math.Abs(_foot.X), Math.Abs(_foot.Z)) > Least && (IsRound || Math.Min(Math.Abs(_foot.X), Math.Abs(_foot.Z)) > Least);

    private bool IsRound => _type is not ("box" or "plane");

    private double Radius => new Vec3(_foot.X, 0, _foot.Z).Length;

    /// <summary>Draws the footprint to where a ray meets the surface's plane.</summary>
    public void FootTo(Ray ray, double? step)
    {
        _height = 0;
        _rise = null;
        var toward = ray.Direction.Dot(_axes.Y);
        if (_view.Parallel ? Math.Abs(toward) < 0.02 : (_origin - ray.Origin).Dot(_axes.Y) * toward <= 0)
        {
            // Beside the plane or away from it nothing is met; the footprint stays as it was.
            return;
        }

        var away = Math.Max(1e-9, (_view.World.Offset - _origin).Length);
        var foot = (_axes.Transposed() * PlaneReach.From(_origin, _axes.Y, ray, away, _view.Parallel)) with { Y = 0 };
        _foot = step is > 0 and { } s ? foot.Map(v => Math.Round(v / s, MidpointRounding.AwayFromZero) * s) : foot;
    }

    /// <summary>Draws the height to where a ray passes the far corner's upright.</summary>
    public void RiseTo(Ray ray, double? step)
    {
        if (!HasHeight)
        {
            return;
        }

        _rise ??= new Drag(new(HandlePart.Needle, 1), _origin + _axes * _foot, _axes, _view, 1, ray);
        _height = _rise.To(ray, false, step).Y;
    }

    /// <summary>The eight corners of its bounds in the world, the four of the footprint first.</summary>
    public IReadOnlyList<Vec3> Corners()
    {
        var (low, high) = IsRound
            ? (new Vec3(-Radius, 0, -Radius), new Vec3(Radius, _height, Radius))
            : (Vec3.Zero, _foot with { Y = _height });
        return [.. new[] { low.Y, high.Y }.SelectMany(y => (Vec3[])
        [
            new(low.X, y, low.Z), new(high.X, y, low.Z), new(high.X, y, high.Z), new(low.X, y, high.Z),
        ]).Select(p => _origin + _axes * p)];
    }

    /// <summary>Its sizes: across, along and, where it has one, its height.</summary>
    public Vec3 Size => IsRound
        ? new(2 * Radius, Math.Abs(_height), 2 * Radius)
        : new(Math.Abs(_foot.X), Math.Abs(_height), Math.Abs(_foot.Z));

    /// <summary>The edit that makes it.</summary>
    public Create ToEdit(string id, string name)
    {
        var size = Size;
        // What was given no height stays as flat as it was drawn, but not thinner than a sheet.
        var height = Math.Max(size.Y, Math.Max(size.X, size.Z) * 0.01);
        var patch = _type switch
        {
            "box" => new ShapePatch { Type = _type, Size = [size.X, height, size.Z] },
            "plane" => new ShapePatch { Type = _type, Size = [size.X, size.Z] },
            "cylinder" or "cone" => new ShapePatch { Type = _type, Radius = Radius, Height = height },
            "capsule" => new ShapePatch { Type = _type, Radius = Radius, Height = Math.Max(height, 2 * Radius * 1.001) },
            "ring" => new ShapePatch { Type = _type, Radius = Radius * 0.8, Tube = Radius * 0.2 },
            _ => new ShapePatch { Type = _type, Radius = Radius },
        };
        var shape = Shape.Default(_type).With(patch);
        var bounds = Extents.Of(shape).OwnBounds;
        var middle = IsRound ? Vec3.Zero : _foot * 0.5;
        // Drawn downward, it hangs below the surface that it was begun on.
        var below = _height < 0 ? -bounds.Size.Y : 0;
        return new(new NewNode
        {
            Id = id,
            Name = name,
            Kind = NodeKind.Shape,
            Shape = patch,
            Placement = new()
            {
                Position = _origin + _axes * new Vec3(middle.X, below, middle.Z),
                Rotation = Euler.FromMatrix(_axes, EulerOrder.XYZ, Vec3.Zero),
                Pivot = bounds.Anchor(new(0, -1, 0)),
            },
        });
    }
}
