namespace CalmPivot.Core.Shapes;

/// <summary>The geometry of shapes; equal shapes share one.</summary>
public static class Tessellations
{
    private const int Most = 512;
    private static readonly Dictionary<Shape, Geometry> Known = [];
    private static readonly Lock Lock = new();

    public static Geometry Of(Shape shape)
    {
        ArgumentNullException.ThrowIfNull(shape);
        lock (Lock)
        {
            if (!Known.TryGetValue(shape, out var geometry))
            {
                if (Known.Count >= Most)
                {
                    Known.Clear();
                }

                Known[shape] = geometry = shape.Tessellate();
            }

            return geometry;
        }
    }
}
