namespace CalmPivot.Core.Numbers;

/// <summary>
/// Short words for long things, the same wherever they are computed: FNV-1a (Fowler, Noll and Vo), numbers by eight bytes at
/// once, which is as good for telling apart and a fraction of the steps.
/// </summary>
public static class Digests
{
    public const ulong Start = 14695981039346656037;
    private const ulong Prime = 1099511628211;

    public static ulong Add(ulong digest, ulong value)
    {
        digest = (digest ^ value) * Prime;
        return digest ^ digest >> 29;
    }

    public static ulong Add(ulong digest, double value) => Add(digest, BitConverter.DoubleToUInt64Bits(value));

    public static ulong Add(ulong digest, Vec3 v) => Add(Add(Add(digest, v.X), v.Y), v.Z);

    public static ulong Add(ulong digest, string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        foreach (var c in text)
        {
            digest = (digest ^ c) * Prime;
        }

        return (digest ^ 0x1F) * Prime;
    }
}
