using System.Text.Json.Serialization;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>Which parts of its parent's placement a node takes.</summary>
[method: JsonConstructor]
public readonly record struct Takes(bool Position = true, bool Rotation = true, bool Scale = true)
{
    public static readonly Takes All = new(true, true, true);
}

/// <summary>
/// Where a node stands in its parent, as stored; nothing is kept beside these numbers.
/// Local matrix: <c>M = T(position) · R · H · S · Q⁻¹ · T(−pivot)</c>.
/// <code>
/// var placement = Placement.Default with { Rotation = new(0, 90, 0), Pivot = new(0, 0.5, 0) };
/// var local = placement.Local();                    // M
/// var back = placement.Storing(local);              // the same numbers again: law 2 of model.md
/// </code>
/// </summary>
/// <param name="Position">Where the node's pivot sits, in the parent's frame; metres.</param>
/// <param name="Rotation">Three Euler angles in degrees, read in <paramref name="Order"/>; turns beyond ±360 are kept.</param>
/// <param name="Order">The order of the angles; the last letter is the outer one.</param>
/// <param name="Scale">Factors along the pivot's directions; none exactly zero.</param>
/// <param name="Shear">xy, xz, yz of the unit upper triangular matrix H.</param>
/// <param name="Pivot">A point of the node's own frame, the frame of its geometry and of its children.</param>
/// <param name="PivotTurn">The pivot's directions against that frame: three angles, order XYZ, giving Q.</param>
/// <param name="Takes">Which parts of the parent's placement the node takes.</param>
public sealed record Placement(
    Vec3 Position,
    Vec3 Rotation,
    EulerOrder Order,
    Vec3 Scale,
    Vec3 Shear,
    Vec3 Pivot,
    Vec3 PivotTurn,
    Takes Takes)
{
    public Vec3 Position { get; init => field = value.Plain(); } = Position.Plain();

    public Vec3 Rotation { get; init => field = value.Plain(); } = Rotation.Plain();

    public Vec3 Scale { get; init => field = value.Plain(); } = Scale.Plain();

    public Vec3 Shear { get; init => field = value.Plain(); } = Shear.Plain();

    public Vec3 Pivot { get; init => field = value.Plain(); } = Pivot.Plain();

    public Vec3 PivotTurn { get; init => field = value.Plain(); } = PivotTurn.Plain();

    public static readonly Placement Default =
        new(Vec3.Zero, Vec3.Zero, EulerOrder.XYZ, Vec3.One, Vec3.Zero, Vec3.Zero, Vec3.Zero, Takes.All);

    /// <summary>Scale factors below this are as good as zero and refused with it.</summary>
    public const double LeastScale = 1e-12;

    /// <summary>The largest number a placement may hold; beyond it, products would soon leave what can be computed.</summary>
    public const double Most = 1e15;

    /// <summary>The worst condition number that an edit may leave behind (law 5).</summary>
    public const double MostCondition = 1e6;

    [JsonIgnore]
    public Mat3 R => Euler.ToMatrix(Rotation, Order);

    [JsonIgnore]
    public Mat3 H => new(Vec3.UnitX, new(Shear.X, 1, 0), new(Shear.Y, Shear.Z, 1));

    [JsonIgnore]
    public Mat3 Q => PivotTurn == Vec3.Zero ? Mat3.Identity : Euler.ToMatrix(PivotTurn, EulerOrder.XYZ);

    /// <summary>Q·Σ, Σ the signs of the scale: what the linear part of a world matrix is multiplied by to see the own axes in it.</summary>
    [JsonIgnore]
    public Mat3 Facing => Q * Mat3.Diagonal(Signs);

    /// <summary>
    /// The own axes in the world of a node that stands with the linear part L. With L·Q = R·K, K upper triangular with K11 and
    /// K22 positive, they are R·diag(σx, σy, σx·σy), σ the signs of the stored scale. That is the rotation part of L·Q·Σ, for
    /// Gram–Schmidt goes by the first two columns; where a node stands as placed, that of P·R.
    /// </summary>
    public Mat3 OwnAxes(Mat3 linear) => (linear * Facing).RotationPart();

    /// <summary>What constraints go by.</summary>
    public Own ToOwn() => new(Pivot, Q, Signs, Rotation, Order);

    [JsonIgnore]
    public bool IsSheared => Shear != Vec3.Zero;

    /// <summary>R·H·S·Q⁻¹: how directions of the node's frame stand in its parent.</summary>
    [JsonIgnore]
    public Mat3 Basis
    {
        get
        {
            var basis = R * Stretch;
            return PivotTurn == Vec3.Zero ? basis : basis * Q.Transposed();
        }
    }

    /// <summary>H·S, upper triangular.</summary>
    private Mat3 Stretch => Shear == Vec3.Zero
        ? Mat3.Diagonal(Scale)
        : new(new(Scale.X, 0, 0), new(Shear.X * Scale.Y, Scale.Y, 0), new(Shear.Y * Scale.Z, Shear.Z * Scale.Z, Scale.Z));

    public Affine Local()
    {
        var basis = Basis;
        return new(basis, Position - basis * Pivot);
    }

    /// <summary>
    /// Stores an invertible affine map exactly (law 2): L·Q = R·K by Householder QR, S = diag(K), H = K·S⁻¹,
    /// position = A·pivot. Pivot, its directions, order and takes are kept; angles stay near the present ones (law 3).
    /// </summary>
    public Placement Storing(Affine local) => Storing(local.Linear, local.Point(Pivot));

    /// <summary>The same, with the pivot's place given by itself.</summary>
    public Placement Storing(Mat3 linear, Vec3 position) => WithBasis(linear, position, null, keepSigns: true);

    /// <summary>Turns the pivot's directions to <paramref name="turn"/>, with the local matrix kept (law 1).</summary>
    /// <param name="near">The rotation to stay near to; null: the present one, turned as the directions are.</param>
    public Placement WithPivotTurn(Vec3 turn, Mat3? near = null)
    {
        var turned = this with { PivotTurn = turn };
        return turned.WithBasis(Basis, Position, near ?? R * Q.Transposed() * turned.Q, keepSigns: false);
    }

    /// <summary>The signs of the stored factors.</summary>
    [JsonIgnore]
    public Vec3 Signs => Scale.Map(s => s < 0 ? -1 : 1);

    /// <summary>
    /// Turns the stored rotation to R' = Rot·R without touching scale and shear. A turn about a channel's own axis adds
    /// to that channel; any other is followed in parts of at most 15°, so that whole turns are not lost (law 3). Where two
    /// channels lie along the axis, the turn goes to the one that is named, else to the inner one: the outer keeps its angle.
    /// </summary>
    /// <param name="axis">A unit vector in the parent's frame.</param>
    /// <param name="named">The letter by which the axis was named: 0, 1, 2; null: by none.</param>
    public Placement Turned(Vec3 axis, double degrees, int? named = null)
    {
        if (ChannelAlong(axis, named) is var (channel, along))
        {
            return this with { Rotation = Rotation.With(channel, Rotation[channel] + (along < 0 ? -degrees : degrees)) };
        }

        var start = R;
        return this with { Rotation = Turns.Followed(Rotation, degrees, (turn, near) => Euler.FromMatrix(Mat3.Rotation(axis, turn) * start, Order, near)) };
    }

    private (int Channel, double Along)? ChannelAlong(Vec3 axis, int? named)
    {
        var channels = Euler.Channels(Rotation, Order);
        var (inner, middle, outer) = Order.Letters();
        int[] order = named is { } letter ? [letter, inner, middle, outer] : [inner, middle, outer];
        foreach (var i in order)
        {
            if (channels.Column(i).Cross(axis).LengthSquared < 1e-24)
            {
                return (i, channels.Column(i).Dot(axis));
            }
        }

        return null;
    }

    /// <summary>Whether every number is finite and small enough to be stored.</summary>
    internal bool IsModest => Fits(Position) && Fits(Rotation) && Fits(Scale) && Fits(Shear) && Fits(Pivot) && Fits(PivotTurn);

    /// <summary>Refuses what no edit may store: numbers that are not finite, a zero scale, a placement too thin to compute with.</summary>
    /// <param name="name">The node's name, for the sentence.</param>
    /// <param name="before">The placement before the edit; one that was too thin already may be kept or bettered.</param>
    public void Check(string name, Placement? before = null)
    {
        if (!IsModest)
        {
            throw new Refusal(
                Refusals.NotFinite,
                $"“{name}” would get a number that is too large to compute with. Use an amount below 1 000 000 000 000 000.");
        }

        if (Math.Min(Math.Abs(Scale.X), Math.Min(Math.Abs(Scale.Y), Math.Abs(Scale.Z))) < LeastScale)
        {
            throw new Refusal(
                Refusals.ZeroScale,
                $"A scale of 0 would flatten “{name}” beyond return. Hide it instead, or use a very thin size such as 0.001.");
        }

        if (before is not null && before.Scale == Scale && before.Shear == Shear)
        {
            return;
        }

        if (IsPlainlyThick)
        {
            return;
        }

        var condition = Triangular.Condition(Stretch);
        if (condition > MostCondition && !(before is not null && condition <= Triangular.Condition(before.Stretch)))
        {
            throw new Refusal(
                Refusals.TooThin,
                $"“{name}” would become more than a million times thinner one way than another. Use a less extreme amount.");
        }
    }

    /// <summary>
    /// A bound that needs no singular values: with shears of at most 1/2, H and its inverse stretch by less than 2, so the
    /// condition of H·S is below four times that of S.
    /// </summary>
    private bool IsPlainlyThick
    {
        get
        {
            var (x, y, z) = (Math.Abs(Scale.X), Math.Abs(Scale.Y), Math.Abs(Scale.Z));
            var shear = Math.Max(Math.Abs(Shear.X), Math.Max(Math.Abs(Shear.Y), Math.Abs(Shear.Z)));
            return shear <= 0.5 && 4 * Math.Max(x, Math.Max(y, z)) <= MostCondition * Math.Min(x, Math.Min(y, z));
        }
    }

    private static bool Fits(Vec3 v) => v.IsFinite && Math.Max(Math.Abs(v.X), Math.Max(Math.Abs(v.Y), Math.Abs(v.Z))) <= Most;

    /// <param name="previous">The rotation to stay near to; null: the present one.</param>
    private Placement WithBasis(Mat3 linear, Vec3 position, Mat3? previous, bool keepSigns)
    {
        var (q, k) = Triangular.Split(PivotTurn == Vec3.Zero ? linear : linear * Q);
        var mirror = q.Determinant < 0 ? -1.0 : 1.0;
        var signs = SignsFor(q, mirror, previous, keepSigns);
        var r = new Mat3(q.X * signs.X, q.Y * signs.Y, q.Z * signs.Z);
        var scale = new Vec3(signs.X * k.X.X, signs.Y * k.Y.Y, signs.Z * k.Z.Z);
        return this with
        {
            Position = position,
            Rotation = Euler.FromMatrix(r, Order, Rotation),
            Scale = scale,
            Shear = new(signs.X * k.Y.X / scale.Y, signs.X * k.Z.X / scale.Z, signs.Y * k.Z.Y / scale.Z),
        };
    }

    /// <summary>
    /// Of the four sign triples with the product <paramref name="mirror"/>: the present one when it is among them and may be
    /// kept, else the one whose rotation lies nearest to the previous; ties in the order X, Y, Z, all.
    /// </summary>
    private Vec3 SignsFor(Mat3 q, double mirror, Mat3? previous, bool keepSigns)
    {
        var present = Signs;
        if (keepSigns && present.X * present.Y * present.Z == mirror)
        {
            return present;
        }

        var near = (previous ?? R).Transposed();
        ReadOnlySpan<Vec3> choices = [new(1, -1, -1), new(-1, 1, -1), new(-1, -1, 1), new(1, 1, 1)];
        var best = choices[0];
        var most = double.NegativeInfinity;
        foreach (var choice in choices)
        {
            var trace = (near * (q * Mat3.Diagonal(choice * mirror))).Trace;
            if (trace > most + 1e-9)
            {
                (best, most) = (choice, trace);
            }
        }

        return best * mirror;
    }
}
