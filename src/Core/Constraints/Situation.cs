using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Constraints;

/// <summary>Which parts of a node's stance a kind of constraint writes.</summary>
[Flags]
public enum Writes
{
    Nothing = 0,
    Place = 1,
    Turn = 2,
    Stretch = 4,
    All = 7,
}

/// <summary>What an entry has to say about itself as things stand.</summary>
public enum LinkWarning
{
    None,

    /// <summary>Its target stands on the pivot, so that there is no direction to it.</summary>
    AtTarget,

    /// <summary>The direction is that of up, or the up object stands on the pivot: it turns as little as it can.</summary>
    AlongUp,

    /// <summary>Within 10° of the up line: it will roll over as the target passes there.</summary>
    NearUp,

    /// <summary>The target is gone.</summary>
    Gone,

    /// <summary>Something is too thin to be worked out.</summary>
    TooThin,

    /// <summary>The facing or the target lies along the hinge.</summary>
    AlongHinge,

    /// <summary>Two rotation axes line up, so that single angles can jump.</summary>
    LinesUp,

    /// <summary>The surface is not met along the direction.</summary>
    Missed,

    /// <summary>The target has no triangles.</summary>
    NoSurface,

    /// <summary>It stops at a limit of its own short of where the target is.</summary>
    Stops,
}

/// <summary>
/// What a constraint reads when it is evaluated, and the stance that it changes. All on flat memory, see <see cref="Stances"/>;
/// filled by a <see cref="ConstraintList"/>, whoever evaluates that.
/// </summary>
public unsafe struct Situation
{
    /// <summary>How many numbers of the scratch the kinds have for themselves, and how many there are.</summary>
    private const int OfKinds = 12;
    public const int ScratchSize = OfKinds + 9;

    /// <summary>The node's stance before; the constraint makes it what it pulls it to, at full weight.</summary>
    public double* Stance { get; set; }

    /// <summary>The stance as placed, before any entry.</summary>
    public double* Placed { get; set; }

    /// <summary>What the node takes of its parent, for places and for directions: world matrices.</summary>
    public double* Place { get; set; }

    public double* Basis { get; set; }

    /// <summary>Where target and up object stand; null: there is none.</summary>
    public double* Target { get; set; }

    public double* Toward { get; set; }

    /// <summary>What the target takes of its own parent for directions.</summary>
    public double* TargetBasis { get; set; }

    /// <summary>Room for twelve numbers of the kind that is evaluated, and for what stands here.</summary>
    public double* Scratch { get; set; }

    public Own Own { get; set; }

    public Own? TargetOwn { get; set; }

    public Own? TowardOwn { get; set; }

    /// <summary>The triangles of the target, for those that stay on them.</summary>
    public TriangleIndex? Surface { get; set; }

    public LinkWarning Warning { get; set; }

    /// <summary>What an entry that stops would have to reach: degrees.</summary>
    public double Asked { get; set; }

    /// <summary>The point that others go by: a node's pivot.</summary>
    public static void Point(double* world, Own own, double* into) => Point(world, own.Pivot, into);

    /// <summary>A place of a frame in the world.</summary>
    public static void Point(double* world, Vec3 p, double* into)
    {
        into[0] = world[0] * p.X + world[1] * p.Y + world[2] * p.Z + world[3];
        into[1] = world[4] * p.X + world[5] * p.Y + world[6] * p.Z + world[7];
        into[2] = world[8] * p.X + world[9] * p.Y + world[10] * p.Z + world[11];
    }

    /// <summary>The rotation part E_P of what is taken of the parent, by its columns.</summary>
    public readonly void Parent(double* into) => RotationPart(Basis, into);

    private static void RotationPart(double* b, double* into)
    {
        var k = 1 / Math.Sqrt(b[0] * b[0] + b[4] * b[4] + b[8] * b[8]);
        into[0] = b[0] * k;
        into[1] = b[4] * k;
        into[2] = b[8] * k;
        var along = into[0] * b[1] + into[1] * b[5] + into[2] * b[9];
        var (x, y, z) = (b[1] - into[0] * along, b[5] - into[1] * along, b[9] - into[2] * along);
        k = 1 / Math.Sqrt(x * x + y * y + z * z);
        into[3] = x * k;
        into[4] = y * k;
        into[5] = z * k;
        into[6] = into[1] * into[5] - into[2] * into[4];
        into[7] = into[2] * into[3] - into[0] * into[5];
        into[8] = into[0] * into[4] - into[1] * into[3];
        if (!double.IsFinite(into[8]))
        {
            // Too thin to have directions: those of the world stand in.
            for (var i = 0; i < 9; i++)
            {
                into[i] = i % 4 == 0 ? 1 : 0;
            }
        }
    }

    /// <summary>A direction of the parent's frame in the world.</summary>
    public readonly void FromParent(Vec3 v, double* into)
    {
        var e = Scratch + OfKinds;
        Parent(e);
        for (var i = 0; i < 3; i++)
        {
            into[i] = e[i] * v.X + e[3 + i] * v.Y + e[6 + i] * v.Z;
        }
    }

    /// <summary>A point of the world in the coordinates that positions are stored in.</summary>
    /// <returns>False: what carries the node is too thin.</returns>
    public readonly bool ToParent(double* point, double* into)
    {
        var m = Place;
        var (x, y, z) = (point[0] - m[3], point[1] - m[7], point[2] - m[11]);
        var (a, b, c) = (m[5] * m[10] - m[6] * m[9], m[6] * m[8] - m[4] * m[10], m[4] * m[9] - m[5] * m[8]);
        var k = 1 / (m[0] * a + m[1] * b + m[2] * c);
        into[0] = k * (a * x + (m[2] * m[9] - m[1] * m[10]) * y + (m[1] * m[6] - m[2] * m[5]) * z);
        into[1] = k * (b * x + (m[0] * m[10] - m[2] * m[8]) * y + (m[2] * m[4] - m[0] * m[6]) * z);
        into[2] = k * (c * x + (m[1] * m[8] - m[0] * m[9]) * y + (m[0] * m[5] - m[1] * m[4]) * z);
        return double.IsFinite(into[0]) && double.IsFinite(into[1]) && double.IsFinite(into[2]);
    }

    /// <summary>A stored position in the world.</summary>
    public readonly void ToWorld(double* stored, double* into)
    {
        var m = Place;
        var (x, y, z) = (stored[0], stored[1], stored[2]);
        into[0] = m[0] * x + m[1] * y + m[2] * z + m[3];
        into[1] = m[4] * x + m[5] * y + m[6] * z + m[7];
        into[2] = m[8] * x + m[9] * y + m[10] * z + m[11];
    }

    /// <summary>One of the own axes, O(W), of the stance as it is now.</summary>
    public readonly void Axis(SignedAxis axis, double* into)
    {
        var sign = axis.Sign * Own.Facing(axis.Index);
        var r = Stance + Stances.R + 3 * axis.Index;
        into[0] = r[0] * sign;
        into[1] = r[1] * sign;
        into[2] = r[2] * sign;
    }

    /// <summary>One of the axes that an aim or a swivel turns: an own one, of a camera or a lamp one that it sees or shines by.</summary>
    public readonly void Pointer(SignedAxis axis, double* into)
    {
        if (!Own.IsLens)
        {
            Axis(axis, into);
            return;
        }

        var axes = stackalloc double[9];
        Lens(Stance, Own, axes);
        for (var i = 0; i < 3; i++)
        {
            into[i] = axes[3 * axis.Index + i] * axis.Sign;
        }
    }

    /// <summary>All of them, by structs.</summary>
    public static Mat3 Pointers(double* stance, Own own)
    {
        if (!own.IsLens)
        {
            return Axes(stance, own);
        }

        var e = stackalloc double[9];
        Lens(stance, own, e);
        return new(new(e[0], e[1], e[2]), new(e[3], e[4], e[5]), new(e[6], e[7], e[8]));
    }

    /// <summary>Turns the stance of a camera or a lamp so that it sees or shines by these axes, given by their columns: R' = axes·Λᵀ·R.</summary>
    public readonly void TurnLens(double* axes)
    {
        double* lens = stackalloc double[9], turn = stackalloc double[9];
        Lens(Stance, Own, lens);
        for (var i = 0; i < 3; i++)
        {
            for (var j = 0; j < 3; j++)
            {
                turn[3 * j + i] = axes[i] * lens[j] + axes[3 + i] * lens[3 + j] + axes[6 + i] * lens[6 + j];
            }
        }

        var r = Stance + Stances.R;
        for (var c = 0; c < 9; c += 3)
        {
            var (x, y, z) = (r[c], r[c + 1], r[c + 2]);
            for (var i = 0; i < 3; i++)
            {
                r[c + i] = turn[i] * x + turn[3 + i] * y + turn[6 + i] * z;
            }
        }
    }

    /// <summary>The lens axes of a stance by their columns, see <see cref="Mat3.LensAxes"/>; the linear part is R·K·Qᵀ.</summary>
    private static void Lens(double* stance, Own own, double* into)
    {
        var q = own.Turn;
        Led(stance, q.X.Z, q.Y.Z, q.Z.Z, into + 6);
        Led(stance, q.X.Y, q.Y.Y, q.Z.Y, into + 3);
        var k = 1 / Math.Sqrt(into[6] * into[6] + into[7] * into[7] + into[8] * into[8]);
        for (var i = 6; i < 9; i++)
        {
            into[i] *= k;
        }

        var along = into[3] * into[6] + into[4] * into[7] + into[5] * into[8];
        for (var i = 3; i < 6; i++)
        {
            into[i] -= along * into[i + 3];
        }

        k = 1 / Math.Sqrt(into[3] * into[3] + into[4] * into[4] + into[5] * into[5]);
        for (var i = 3; i < 6; i++)
        {
            into[i] *= k;
        }

        into[0] = into[4] * into[8] - into[5] * into[7];
        into[1] = into[5] * into[6] - into[3] * into[8];
        into[2] = into[3] * into[7] - into[4] * into[6];
    }

    /// <summary>R·K of a direction.</summary>
    private static void Led(double* stance, double x, double y, double z, double* into)
    {
        double* r = stance + Stances.R, k = stance + Stances.K;
        var (a, b, c) = (k[0] * x + k[1] * y + k[3] * z, k[2] * y + k[4] * z, k[5] * z);
        for (var i = 0; i < 3; i++)
        {
            into[i] = r[i] * a + r[3 + i] * b + r[6 + i] * c;
        }
    }

    /// <summary>All own axes, O(W), of some stance, by structs.</summary>
    public static Mat3 Axes(double* stance, Own own)
    {
        var r = stance + Stances.R;
        return new(new Vec3(r[0], r[1], r[2]) * own.Facing(0), new Vec3(r[3], r[4], r[5]) * own.Facing(1), new Vec3(r[6], r[7], r[8]) * own.Facing(2));
    }

    /// <summary>Gives the stance the rotation whose own axes these are.</summary>
    public readonly void SetAxes(Mat3 axes)
    {
        var r = Stance + Stances.R;
        for (var i = 0; i < 3; i++)
        {
            var (x, y, z) = axes.Column(i) * Own.Facing(i);
            (r[3 * i], r[3 * i + 1], r[3 * i + 2]) = (x, y, z);
        }
    }

    /// <summary>The rotation part of a world matrix, by structs.</summary>
    public static Mat3 Axes(double* world)
    {
        var e = stackalloc double[9];
        RotationPart(world, e);
        return new(new(e[0], e[1], e[2]), new(e[3], e[4], e[5]), new(e[6], e[7], e[8]));
    }

    /// <summary>The own axes of something that stands with this world matrix.</summary>
    /// <returns>Null: it is too thin to have any.</returns>
    public static Mat3? OwnAxes(double* world, Own own)
    {
        var stance = stackalloc double[Stances.Size];
        return Stances.Split(world, own, stance) ? Axes(stance, own) : null;
    }

    /// <summary>The angle between two directions of length 1 is below 10°, on either side.</summary>
    internal static bool IsNear(double sine) => sine < 0.17364817766693033;
}
