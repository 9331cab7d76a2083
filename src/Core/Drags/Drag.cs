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

    /// <summary>No drag reaches further than this many times the distance between eye and centre.</summary>
    private const double Reach = 200;

    /// <summary>No pad is dragged to less: a scale never passes through 0.</summary>
    public const double LeastFactor = 0.001;

    private readonly Handle _handle;
    private readonly Vec3 _centre;
    private readonly Mat3 _axes;
    private readonly View _view;
    private readonly Vec3 _towardEye;
    private readonly Vec3 _start;
    private readonly double _size;
    private Vec3 _last;
    private Vec3 _total;

    /// <param name="centre">Where the handles stand, in the world.</param>
    /// <param name="axes">The axes of the space, in the world.</param>
    /// <param name="size">How long the needles are, in metres at the centre; a pad dragged this far doubles.</param>
    public Drag(Handle handle, Vec3 centre, Mat3 axes, View view, double size, Ray ray)
    {
        (_handle, _centre, _axes, _view, _size) = (handle, centre, axes, view, Math.Max(size, 1e-12));
        _towardEye = view.TowardEye(centre);
        _start = Raw(ray, Vec3.Zero);
        _last = _start;
    }

    /// <summary>The axis of the turn in the space's coordinates, for handles that turn.</summary>
    public Vec3 TurnAxis => _handle.Part == HandlePart.ViewArc ? _axes.Transposed() * _towardEye : Vec3.Axis(_handle.Axis);

    /// <summary>The amount after the pointer has come to a ray.</summary>
    /// <param name="fine">A tenth of the pointer's way, from where it is.</param>
    /// <param name="step">The amount is rounded to whole steps of this size, from the start of the drag.</param>
    /// <param name="grid">What each amount starts from, where steps lie on a grid instead of beginning with the drag; null: from the start.</param>
    public Vec3 To(Ray ray, bool fine, double? step, Vec3? grid = null)
    {
        var raw = Raw(ray, _last);
        _total += (raw - _last) * (fine ? 0.1 : 1);
        _last = raw;
        var total = _handle.Part is HandlePart.Pad or HandlePart.RoundPad
            ? _total.With(0, Grown(_total.X, step, grid?[_handle.Axis] ?? 0))
            : Stepped(_total, step, grid ?? Vec3.Zero);
        return _handle.Part switch
        {
            HandlePart.Pad => Vec3.One.With(_handle.Axis, Factor(total.X)),
            HandlePart.RoundPad => Vec3.One * Factor(total.X),
            _ => total,
        };
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

    private static double Factor(double grown) => Math.Max(LeastFactor, 1 + grown);

    private Vec3 Raw(Ray ray, Vec3 previous) => _handle.Part switch
    {
        HandlePart.Needle => Vec3.Zero.With(_handle.Axis, Along(_axes.Column(_handle.Axis), ray)),
        HandlePart.Quarter => InPlane(_axes.Column(_handle.Axis), ray).With(_handle.Axis, 0),
        HandlePart.Ring => _axes.Transposed() * (OnPlane(ViewNormal, ray) - _centre),
        HandlePart.Arc => new(Angle(_axes.Column(_handle.Axis), ray, previous.X), 0, 0),
        HandlePart.ViewArc => new(Angle(_towardEye, ray, previous.X), 0, 0),
        HandlePart.Pad => new(Along(_axes.Column(_handle.Axis), ray) / _size, 0, 0),
        _ => new(AcrossView(ray).Dot((_view.World.Linear.X + _view.World.Linear.Y).Unit()) / _size, 0, 0),
    };

    private Vec3 ViewNormal => _view.World.Linear.Z.Unit();

    /// <summary>Metres along an axis: where the ray meets the plane through the axis that faces the eye most.</summary>
    private double Along(Vec3 axis, Ray ray)
    {
        var facing = _towardEye - axis * axis.Dot(_towardEye);
        if (facing.Length > OnEdge)
        {
            var limit = Reach * EyeDistance;
            return Math.Clamp((OnPlane(facing.Unit(), ray) - _centre).Dot(axis), -limit, limit);
        }

        // The axis points at the eye: its small picture shows the direction, or else up means along it.
        var across = axis - _towardEye * axis.Dot(_towardEye);
        var shown = across.Length > 0.01 ? across.Unit() : _view.World.Linear.Y.Unit();
        return AcrossView(ray).Dot(shown);
    }

    private Vec3 InPlane(Vec3 normal, Ray ray)
    {
        var plane = Math.Abs(normal.Dot(_towardEye)) > OnEdge ? normal : ViewNormal;
        return _axes.Transposed() * (OnPlane(plane, ray) - _centre);
    }

    /// <summary>Degrees about an axis since the reference direction, unwrapped so that they follow on from the previous ones.</summary>
    private double Angle(Vec3 axis, Ray ray, double previous)
    {
        var facing = axis.Dot(_towardEye);
        if (Math.Abs(facing) < OnEdge)
        {
            // The arc stands on edge: moving along its visible line turns it like a wheel.
            var line = axis.Cross(_towardEye).Unit();
            return AcrossView(ray).Dot(line) / _size * Degrees.PerRadian;
        }

        var arm = OnPlane(axis, ray) - _centre;
        var x = (_axes.X - axis * axis.Dot(_axes.X)).LengthSquared > 0.1 ? _axes.X : _axes.Y;
        x = (x - axis * axis.Dot(x)).Unit();
        return Degrees.Near(Degrees.Atan2(axis.Cross(x).Dot(arm), x.Dot(arm)), previous);
    }

    private Vec3 AcrossView(Ray ray) => OnPlane(ViewNormal, ray) - _centre;

    private double EyeDistance => Math.Max(1e-9, _view.Parallel ? _size * 10 : (_view.World.Offset - _centre).Length);

    /// <summary>Where the ray meets the plane through the centre; held back where it runs beside the plane or away from it.</summary>
    private Vec3 OnPlane(Vec3 normal, Ray ray)
    {
        var toward = ray.Direction.Dot(normal);
        var height = (_centre - ray.Origin).Dot(normal);
        var far = Reach * EyeDistance;
        var t = toward == 0 ? far : height / toward;
        if (_view.Parallel)
        {
            return ray.Origin + ray.Direction * Math.Clamp(t, -far, far);
        }

        return ray.Origin + ray.Direction * (t > 0 && t < far ? t : far);
    }
}
