using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Words;

/// <summary>What is to be known of a camera that is looked through.</summary>
/// <param name="Roll">By how many degrees its X is tipped out of the level; null: it looks straight up or down.</param>
/// <param name="UsedBy">The titles of the shots that are seen through it.</param>
/// <param name="Distance">From the camera straight to the middle of the lead, in metres; null: there is no lead.</param>
/// <param name="Depth">The same measured along the view: what is as large as it is at this depth.</param>
/// <param name="LeadName">Null: there is no lead, or it is the camera.</param>
/// <param name="IsLevel">Whether the horizon lies level.</param>
/// <param name="Left">Where the horizon crosses the left edge of the picture, from 0 at its foot to 1 at its head; null: it is not to be seen in any.</param>
/// <param name="Right">The same of the right edge.</param>
public sealed record CameraReading(
    string Name, IReadOnlyList<string> UsedBy, double? Roll, bool IsLevel, string? LeadName, double? Distance, double? Depth, double? Left, double? Right)
{
    /// <param name="lead">The middle of it is measured to; null: none.</param>
    public static CameraReading? Of(SceneDraft draft, string id, string? lead)
    {
        ArgumentNullException.ThrowIfNull(draft);
        if (draft.Find(id) is not { Camera: { } lens } camera)
        {
            return null;
        }

        var through = SeenThrough.Of(lens, draft.World(camera));
        var (x, y, z) = through.View.Linear;
        var flat = Vec3.UnitY.Cross(z).Length < 1e-6;
        var roll = flat ? (double?)null : Degrees.Atan2(x.Y, y.Y);
        var thing = lead is null || lead == id ? null : draft.Find(lead);
        var (left, right) = HorizonOf(through);
        return new(
            camera.Name,
            [.. draft.AllShots().Where(s => s.Camera == id).Select(s => s.Title)],
            roll,
            roll is { } by && Math.Abs(by) < 1e-6,
            thing?.Name,
            thing is null ? null : (SeenThrough.MiddleOf(draft, thing) - through.View.Offset).Length,
            thing is null ? null : SeenThrough.DepthOf(draft, through.View, thing),
            left,
            right);
    }

    /// <summary>
    /// Where the line of all that is level with the eye lies in the picture, at its left and right edge in shares of its height. In the view a level way is
    /// (u, v, −1) with u·x.Y + v·y.Y = z.Y; u runs over ± aspect · tan(fov/2).
    /// </summary>
    private static (double? Left, double? Right) HorizonOf(SeenThrough through)
    {
        var (x, y, z) = through.View.Linear;
        if (through.Lens.Projection == Projection.Parallel || Math.Abs(y.Y) < 1e-9)
        {
            return (null, null);
        }

        var high = Math.Tan(through.Lens.Fov * (Math.PI / 360));
        var lens = through.Lens;
        double At(double u) => ((z.Y - (u + 2 * high * lens.ShiftX) * x.Y) / y.Y / high - 2 * lens.ShiftY + 1) / 2;
        var (left, right) = (At(-high * through.Aspect), At(high * through.Aspect));
        return Math.Abs(left) < 1e3 && Math.Abs(right) < 1e3 ? (left, right) : (null, null);
    }
}
