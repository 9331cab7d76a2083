using System.Globalization;
using System.Numerics;

namespace CalmPivot.Exchange;

/// <summary>Colours as #RRGGBB in sRGB, and as glTF's linear factors. Formula: IEC 61966-2-1.</summary>
internal static class Colors
{
    public static Vector3 ToLinear(string color)
    {
        float Channel(int at)
        {
            var c = int.Parse(color.AsSpan(at, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0;
            return (float)(c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4));
        }

        return new(Channel(1), Channel(3), Channel(5));
    }

    public static string FromLinear(float r, float g, float b)
    {
        static int Channel(float l)
        {
            var c = Math.Clamp(l, 0, 1);
            return (int)Math.Round(255 * (c <= 0.0031308 ? c * 12.92 : 1.055 * Math.Pow(c, 1 / 2.4) - 0.055));
        }

        return $"#{Channel(r):X2}{Channel(g):X2}{Channel(b):X2}";
    }
}
