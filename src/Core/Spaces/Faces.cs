using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Spaces;

/// <summary>Faces of surfaces, in the world.</summary>
public static class Faces
{
    /// <summary>
    /// The upright of a face in the world, of length 1. Normals go with the inverse transposed matrix, so that uneven scale
    /// does not tilt them: for a face that is the cross product of its sides in the world, turned round where W mirrors.
    /// Zero for a face without area.
    /// </summary>
    public static Vec3 Normal(Affine world, Vec3 a, Vec3 b, Vec3 c)
    {
        var normal = (world.Linear * (b - a)).Cross(world.Linear * (c - a));
        return (world.Linear.Determinant < 0 ? -normal : normal).Unit();
    }
}
