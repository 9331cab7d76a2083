using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Constraints;

/// <summary>One of a node's own axes, or of the world's, in either direction: "+x" … "-z".</summary>
/// <param name="Index">0, 1 or 2.</param>
public readonly record struct SignedAxis(int Index, bool Negative = false)
{
    public double Sign => Negative ? -1 : 1;

    public Vec3 Vector => Vec3.Axis(Index) * Sign;

    /// <summary>The own axis that is nearest to a direction, of another letter than one; ties go to those that are not turned round, X first.</summary>
    /// <param name="axes">Own axes in the world.</param>
    public static SignedAxis Nearest(Mat3 axes, Vec3 direction, int without = -1)
    {
        var (best, most) = (default(SignedAxis), double.NegativeInfinity);
        for (var i = 0; i < 6; i++)
        {
            var axis = new SignedAxis(i % 3, i > 2);
            var along = (axes * axis.Vector).Dot(direction);
            (best, most) = axis.Index != without && along > most + 1e-9 ? (axis, along) : (best, most);
        }

        return best;
    }

    /// <exception cref="Refusal">not-understood.</exception>
    public static SignedAxis Parse(string name, string text) =>
        text is [var sign and ('+' or '-'), var letter and >= 'x' and <= 'z'] ? new(letter - 'x', sign == '-')
        : throw new Refusal(Refusals.NotUnderstood, $"The {name} is one of +x, -x, +y, -y, +z and -z.");

    public override string ToString() => $"{(Negative ? '-' : '+')}{"xyz"[Index]}";
}

/// <summary>Some of the three axes, as their letters: "xz".</summary>
public readonly record struct AxisMask(bool X, bool Y, bool Z)
{
    public static readonly AxisMask All = new(true, true, true);

    public bool this[int i] => i switch { 0 => X, 1 => Y, _ => Z };

    public int Count => (X ? 1 : 0) + (Y ? 1 : 0) + (Z ? 1 : 0);

    /// <exception cref="Refusal">not-understood: no axis, or something else.</exception>
    public static AxisMask Parse(string text) =>
        text.Length is > 0 and <= 3 && text.All(c => c is 'x' or 'y' or 'z') && text.Distinct().Count() == text.Length
            ? new(text.Contains('x'), text.Contains('y'), text.Contains('z'))
            : throw new Refusal(Refusals.NotUnderstood, "The axes of a constraint are one, two or all of x, y and z, such as “xz”. To let it do nothing, switch it off.");

    public override string ToString() => $"{(X ? "x" : "")}{(Y ? "y" : "")}{(Z ? "z" : "")}";
}

/// <summary>Whose coordinates an entry is said in.</summary>
public enum Frame
{
    World,
    Parent,
}
