using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Drags;

/// <summary>
/// Turns pointer rays into the amount of an edit: metres along the three axes, degrees (in X), or three factors. Amounts
/// follow the pointer exactly where that is possible; where an axis points at the eye or a plane stands on edge they follow
/// the pointer across the view plane, so that nothing runs off to infinity.
/// </summary>
public sealed class Drag
{
    /// <summary>A plane that is seen flatter than this (about 5°) is not dragged in.</summary>
    private const double OnEdge = 0.09;

    /// <summary>A circle that is seen flatter than this (about 17°) is turned by the pointer's way along it, not by where it points.</summary>
    private const double FlatArc = 0.3;

    private readonly Handle _handle;
    private readonly Vec3 _centre;
    private readonly Mat3 _axes;
    private readonly View _view;
    private readonly Vec3 _towardEye;
    private readonly Vec3 _start;
    private readonly double _size;
    private readonly Vec3 _tangent;
    private Vec3 _last;
    private Vec3 _total;
    private Quat _rolled = Quat.Identity;

    /// <param name="centre">Where the handles stand, in the world.</param>
    /// <param name="axes">The axes of the space, in the world.</param>
    /// <param name="size">How long the needles are, in metres at the centre; a pad dragged this far doubles.</param>
    public Drag(Handle handle, Vec3 centre, Mat3 axes, View view, double size, Ray ray)
    {
        (_handle, _centre, _axes, _view, _size) = (handle, centre, axes, view, Math.Max(size, 1e-12));
        _towardEye = view.TowardEye(centre);
        _tangent = handle.Part == HandlePart.Arc ? Tangent(_axes.Column(handle.Axis), ray) : Vec3.Zero;
        _start = Raw(ray, Vec3.Zero);
        _last = _start;
    }

    /// <summary>The view's axes with Z exactly toward the eye, about which the outer arc turns: in the view's plane, as a clock's hand.</summary>
    public Affine FacingView
    {
        get
        {
            var x = (_view.World.Linear.X - _towardEye * _towardEye.Dot(_view.World.Linear.X)).Unit();
            return new(new(x, _towardEye.Cross(x), _towardEye), _view.World.Offset);
        }
    }

    /// <summary>The amount after the pointer has come to a ray.</summary>
    /// <param name="fine">A tenth of the pointer's way, from where it is.</param>
    /// <param name="step">The amount is rounded to whole steps of this size, from the start of the drag.</param>
    /// <param name="grid">What each amount starts from, where steps lie on a grid instead of beginning with the drag; null: from the start.</param>
    public Vec3 To(Ray ray, bool fine, double? step, Vec3? grid = null)
    {
        var raw = Raw(ray, _last);
        var way = (raw - _last) * (fine ? 0.1 : 1);
        _total += way;
        _last = raw;
        if (_handle.Part == HandlePart.Ball)
        {
            return Rolled(way, step);
        }

        var total = _handle.Part is HandlePart.Pad or HandlePart.RoundPad or HandlePart.QuarterPad
            ? _total.With(0, Grown(_total.X, step, grid?[_handle.Part == HandlePart.QuarterPad ? (_handle.Axis + 1) % 3 : _handle.Axis] ?? 0))
            : Stepped(_total, step, grid ?? Vec3.Zero);
        return _handle.Part switch
        {
            HandlePart.Pad => Vec3.One.With(_handle.Axis, Factor(total.X)),
            HandlePart.QuarterPad => (Vec3.One * Factor(total.X)).With(_handle.Axis, 1),
            HandlePart.RoundPad => Vec3.One * Factor(total.X),
            _ => total,
        };
    }

    /// <summary>
    /// A ball under the pointer rolls without slipping: a way d across the view turns it about n × d by |d| / r, the turns of
    /// the ways one after the other. So a straight way gives one turn, in however many pieces it comes.
    /// </summary>
    /// <returns>The axis in the view's coordinates, as long as the angle in degrees.</returns>
    private Vec3 Rolled(Vec3 way, double? step)
    {
        if (way.Length > 0)
        {
            var axis = Vec3.UnitZ.Cross(way).Unit();
            _rolled = (Quat.About(axis, way.Length / _size * Degrees.PerRadian) * _rolled).Unit();
        }

        var turn = _rolled.ToTurn();
        var angle = turn.Length;
        return step is > 0 and { } s && angle > 0 ? turn * (Math.Round(angle / s, MidpointRounding.AwayFromZero) * s / angle) : turn;
    }

    /// <summary>The axes that this handle moves; the others are left where they are, off the grid or on it.</summary>
    private bool Moves(int axis) => _handle.Part switch
    {
        HandlePart.Needle => axis == _handle.Axis,
        HandlePart.Quarter => axis != _handle.Axis,
        HandlePart.Ring => true,
        _ => axis == 0,
    };

    /// <summary>A size in steps of its growth, or so that the factor that is stored then lies on the grid.</summary>
    private static double Grown(double grown, double? step, double from) => (step, from) switch
    {
        (not > 0, _) => grown,
        (_, 0) => Math.Round(grown / step.Value, MidpointRounding.AwayFromZero) * step.Value,
        _ => Math.Round(from * (1 + grown) / step.Value, MidpointRounding.AwayFromZero) * step.Value / from - 1,
    };

    private Vec3 Stepped(Vec3 total, double? step, Vec3 from)
    {
        if (step is not (> 0 and { } s))
        {
            return total;
        }

        for (var i = 0; i < 3; i++)
        {
            if (Moves(i))
            {
                total = total.With(i, Math.Round((from[i] + total[i]) / s, MidpointRounding.AwayFromZero) * s - from[i]);
            }
        }

        return total;
    }

    /// <summary>The amount that brings a point of what is moved to another point, as far as this handle can.</summary>
    public Vec3 Bringing(Vec3 from, Vec3 to)
    {
        var way = _axes.Transposed() * (to - from);
        for (var i = 0; i < 3; i++)
        {
            way = Moves(i) ? way : way.With(i, 0);
        }

        return way;
    }

    private static double Factor(double grown) => Math.Max(Scale.LeastDragged, 1 + grown);

    private Vec3 Raw(Ray ray, Vec3 previous) => _handle.Part switch
    {
        HandlePart.Needle => Vec3.Zero.With(_handle.Axis, Along(_axes.Column(_handle.Axis), ray)),
        HandlePart.Quarter => InPlane(_axes.Column(_handle.Axis), ray).With(_handle.Axis, 0),
        HandlePart.Ring => _axes.Transposed() * AcrossView(ray),
        HandlePart.Arc => new(Angle(_axes.Column(_handle.Axis), ray, previous.X), 0, 0),
        HandlePart.ViewArc => new(Angle(_towardEye, ray, previous.X), 0, 0),
        HandlePart.Ball => _view.World.Linear.RotationPart().Transposed() * AcrossView(ray),
        HandlePart.Pad => new(Along(_axes.Column(_handle.Axis), ray) / _size, 0, 0),
        HandlePart.QuarterPad => new(InPlane(_axes.Column(_handle.Axis), ray).With(_handle.Axis, 0).Dot(Vec3.One) / (2 * _size), 0, 0),
        _ => new(AcrossView(ray).Dot((_view.World.Linear.X + _view.World.Linear.Y).Unit()) / _size, 0, 0),
    };

    private Vec3 ViewNormal => _view.World.Linear.Z.Unit();

    /// <summary>Metres along an axis: where the ray meets the plane through the axis that faces the eye most.</summary>
    private double Along(Vec3 axis, Ray ray)
    {
        var facing = _towardEye - axis * axis.Dot(_towardEye);
        if (facing.Length > OnEdge)
        {
            return OnPlane(facing.Unit(), ray).Dot(axis);
        }

        // The axis points at the eye: its small picture shows the direction, or else up means along it.
        var across = axis - _towardEye * axis.Dot(_towardEye);
        var shown = across.Length > 0.01 ? across.Unit() : _view.World.Linear.Y.Unit();
        return AcrossView(ray).Dot(shown);
    }

    private Vec3 InPlane(Vec3 normal, Ray ray)
    {
        var plane = Math.Abs(normal.Dot(_towardEye)) > OnEdge ? normal : ViewNormal;
        return _axes.Transposed() * PlaneReach.ByHand(OnPlane(plane, ray), AcrossView(ray), EyeDistance);
    }

    /// <summary>Degrees about an axis since the reference direction, unwrapped so that they follow on from the previous ones.</summary>
    private double Angle(Vec3 axis, Ray ray, double previous)
    {
        if (_handle.Part == HandlePart.Arc && Math.Abs(axis.Dot(_towardEye)) < FlatArc)
        {
            // Seen nearly on edge, the arc turns like a wheel: by the pointer's way along the tangent where it was taken.
            return AcrossView(ray).Dot(_tangent) / _size * Degrees.PerRadian;
        }

        var arm = OnPlane(axis, ray);
        var (x, y) = Across(axis);
        return Degrees.Near(Degrees.Atan2(y.Dot(arm), x.Dot(arm)), previous);
    }

    /// <summary>Two directions across an axis, from which its angles count.</summary>
    private (Vec3 X, Vec3 Y) Across(Vec3 axis)
    {
        var x = (_axes.X - axis * axis.Dot(_axes.X)).LengthSquared > 0.1 ? _axes.X : _axes.Y;
        x = (x - axis * axis.Dot(x)).Unit();
        return (x, axis.Cross(x));
    }

    /// <summary>
    /// The tangent of the circle at the point of it nearest to a ray, as it is seen: over the square of its length, so that
    /// the point follows the pointer. Where it points at the eye, the line that the circle is seen as stands in for it.
    /// </summary>
    private Vec3 Tangent(Vec3 axis, Ray ray)
    {
        const int Parts = 120;
        var (x, y) = Across(axis);
        var (least, tangent) = (double.PositiveInfinity, Vec3.Zero);
        for (var k = 0; k < Parts; k++)
        {
            var (s, c) = Degrees.SinCos(k * 360.0 / Parts);
            var from = _centre + (x * c + y * s) * _size - ray.Origin;
            var away = (from - ray.Direction * from.Dot(ray.Direction)).LengthSquared;

            // Of the near and the far half the near one is taken hold of.
            away += (x * c + y * s).Dot(_towardEye) < -0.02 ? _size * _size * 0.02 : 0;
            (least, tangent) = away < least ? (away, y * c - x * s) : (least, tangent);
        }

        var shown = tangent - _towardEye * tangent.Dot(_towardEye);
        var line = axis.Cross(_towardEye);
        return shown.Length > 0.4 || line.Length < 1e-9 ? shown * (1 / Math.Max(shown.LengthSquared, 1e-12)) : line.Unit();
    }

    private Vec3 AcrossView(Ray ray) => OnPlane(ViewNormal, ray);

    private double EyeDistance => Math.Max(1e-9, _view.Parallel ? _size * 10 : (_view.World.Offset - _centre).Length);

    /// <summary>The way from the centre to where the ray meets a plane through it.</summary>
    private Vec3 OnPlane(Vec3 normal, Ray ray) => PlaneReach.From(_centre, normal, ray, EyeDistance, _view.Parallel);
}
