using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>How the scene is seen through one of its cameras.</summary>
/// <param name="View">Its lens axes at its origin.</param>
public readonly record struct SeenThrough(Affine View, Camera Lens)
{
    /// <param name="world">The camera's world matrix.</param>
    public static SeenThrough Of(Camera camera, Affine world) => new(new(world.Linear.LensAxes(), world.Offset), camera);

    /// <summary>How far before a view the middle of a thing lies, measured along the view and not straight; less than nothing: behind it.</summary>
    /// <param name="view">As <see cref="View"/>.</param>
    public static double DepthOf(SceneDraft draft, Affine view, Node thing) => (view.Offset - MiddleOf(draft, thing)).Dot(view.Linear.Z);

    /// <summary>How far away along the view a camera is sharp, in metres: at a thing that stands before it, or as far as it says.</summary>
    /// <param name="world">The camera's world matrix.</param>
    public static double FocusOf(SceneDraft draft, Camera lens, Affine world)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(lens);
        var depth = lens.FocusOn is { } id && draft.Find(id) is { } thing ? DepthOf(draft, Of(lens, world).View, thing) : 0;
        return depth > 1e-4 ? depth : lens.Focus ?? Camera.UsualFocus;
    }

    /// <summary>The middle of a thing with all that rides on it; of what has no extent its pivot.</summary>
    public static Vec3 MiddleOf(SceneDraft draft, Node thing)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var bounds = Extents.OfBranch(draft, thing, Affine.Identity);
        return bounds.IsEmpty ? draft.PivotOf(thing) : bounds.Middle;
    }

    /// <summary>Width over height of its picture.</summary>
    public double Aspect => Lens.Aspect ?? Camera.UsualAspect;
}
