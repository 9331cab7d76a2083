using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Spaces;

/// <summary>What stands still while things fall along a direction, by squares across the fall, so that each meets only what lies in its shaft.</summary>
internal sealed class FallField(Vec3 along)
{
    /// <summary>What covers more squares is looked at by everything that falls.</summary>
    private const int MostSquares = 256;

    private readonly Mat3 _toFall = Contacts.FrameOf(along);
    private readonly List<(Geometry Geometry, Affine World, Bounds Across)> _all = [];
    private readonly Dictionary<(int, int), List<int>> _squares = [];
    private readonly List<int> _wide = [];
    private double _square;

    public void Add(Geometry geometry, Affine world)
    {
        if (geometry.OwnBounds.IsEmpty)
        {
            return;
        }

        var toFall = new Affine(_toFall, Vec3.Zero) * world;
        _all.Add((geometry, world, geometry.OwnBounds.Corners().Aggregate(Bounds.Empty, (all, corner) => all.With(toFall.Point(corner)))));
        if (_square > 0)
        {
            Seat(_all.Count - 1);
        }
    }

    /// <summary>What something that falls from within these bounds, in the frame of the fall, may meet.</summary>
    public IEnumerable<(Geometry Geometry, Affine World)> Under(Bounds falling)
    {
        if (_square == 0)
        {
            // Squares as large as the things are on the average.
            _square = Math.Max(1e-9, _all.Sum(s => s.Across.Size.X + s.Across.Size.Y) / Math.Max(1, 2 * _all.Count));
            for (var i = 0; i < _all.Count; i++)
            {
                Seat(i);
            }
        }

        var near = Squares(falling) is { } squares
            ? squares.SelectMany(s => _squares.GetValueOrDefault(s, [])).Concat(_wide).Distinct()
            : Enumerable.Range(0, _all.Count);
        foreach (var i in near)
        {
            var (geometry, world, across) = _all[i];
            if (across.High.X >= falling.Low.X && across.Low.X <= falling.High.X && across.High.Y >= falling.Low.Y && across.Low.Y <= falling.High.Y
                && across.High.Z >= falling.Low.Z)
            {
                yield return (geometry, world);
            }
        }
    }

    private void Seat(int index)
    {
        if (Squares(_all[index].Across) is not { } squares)
        {
            _wide.Add(index);
            return;
        }

        foreach (var square in squares)
        {
            if (!_squares.TryGetValue(square, out var list))
            {
                _squares[square] = list = [];
            }

            list.Add(index);
        }
    }

    /// <summary>The squares that bounds lie over; null where they are too many, or too far out to be counted.</summary>
    private List<(int X, int Y)>? Squares(Bounds bounds)
    {
        var (low, high) = (bounds.Low * (1 / _square), bounds.High * (1 / _square));
        if (Math.Max(Math.Max(Math.Abs(low.X), Math.Abs(low.Y)), Math.Max(Math.Abs(high.X), Math.Abs(high.Y))) > 1e9
            || (high.X - low.X + 1) * (high.Y - low.Y + 1) > MostSquares)
        {
            return null;
        }

        var squares = new List<(int, int)>();
        for (var x = (int)Math.Floor(low.X); x <= (int)Math.Floor(high.X); x++)
        {
            for (var y = (int)Math.Floor(low.Y); y <= (int)Math.Floor(high.Y); y++)
            {
                squares.Add((x, y));
            }
        }

        return squares;
    }
}
