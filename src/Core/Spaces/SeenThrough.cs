using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Spaces;

/// <summary>How the scene is seen through one of its cameras.</summary>
/// <param name="View">The camera's world matrix without size and shear.</param>
public readonly record struct SeenThrough(Affine View, Camera Lens)
{
    /// <param name="world">The camera's world matrix.</param>
    public static SeenThrough Of(Camera camera, Affine world) => new(new(world.Linear.RotationPart(), world.Offset), camera);

    /// <summary>Width over height of its picture.</summary>
    public double Aspect => Lens.Aspect ?? Camera.UsualAspect;
}
