using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Drags;

/// <summary>A half-line from the eye (or, in parallel views, from the picture) through the pointer; the direction has length 1.</summary>
public readonly record struct Ray(Vec3 Origin, Vec3 Direction);

/// <summary>The view in which a drag happens: right, up and toward the eye as columns, and where the eye is.</summary>
public readonly record struct View(Affine World, bool Parallel)
{
    public Vec3 TowardEye(Vec3 from) => Parallel ? World.Linear.Z.Unit() : (World.Offset - from).Unit();
}
