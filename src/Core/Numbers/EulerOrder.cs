using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Numbers;

/// <summary>
/// The order of three Euler angles. <c>XYZ</c> means about X first, then Y, then Z, all about the parent's fixed axes,
/// so R = Rz·Ry·Rx (the meaning that OpenUSD gives <c>rotateXYZ</c>). The last letter is the outer angle.
/// </summary>
[JsonConverter(typeof(AsNamed<EulerOrder>))]
public enum EulerOrder
{
    XYZ,
    XZY,
    YXZ,
    YZX,
    ZXY,
    ZYX,
}

/// <summary>What the letters of an order say: which axis is turned about first, second and last.</summary>
public static class EulerOrders
{
    private static readonly (int Inner, int Middle, int Outer)[] Axes =
        [(0, 1, 2), (0, 2, 1), (1, 0, 2), (1, 2, 0), (2, 0, 1), (2, 1, 0)];

    public static (int Inner, int Middle, int Outer) Letters(this EulerOrder order) => Axes[(int)order];

    /// <summary>+1 when inner, middle, outer is an even permutation of X, Y, Z, else −1.</summary>
    public static double Parity(this EulerOrder order) => order is EulerOrder.XYZ or EulerOrder.YZX or EulerOrder.ZXY ? 1 : -1;
}
