using System.Runtime.CompilerServices;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A pattern for names: * stands for any characters, ? for one; capitals do not matter. All ways to fit are followed at once,
/// a bit each, so that no name takes longer than its length times the pattern's over 64 (Baeza-Yates and Gonnet, A New
/// Approach to Text Searching, 1992; a state before which a * stands stays on).
/// </summary>
internal sealed class NamePattern
{
    private static readonly ConditionalWeakTable<string, NamePattern> Known = [];

    /// <summary>Bit i: i characters of the pattern are matched, and a * comes next.</summary>
    private readonly ulong[] _stays;

    /// <summary>By character, bit i: the pattern's character i is that one, or any.</summary>
    private readonly Dictionary<char, ulong[]> _fits = [];
    private readonly ulong[] _any;
    private readonly int _length;

    private NamePattern(string pattern)
    {
        _length = pattern.Count(c => c != '*');
        var words = _length / 64 + 1;
        (_stays, _any) = (new ulong[words], new ulong[words]);
        var at = 0;
        foreach (var c in pattern)
        {
            switch (c)
            {
                case '*':
                    Set(_stays, at);
                    break;
                case '?':
                    Set(_any, at++);
                    break;
                default:
                    var letter = char.ToUpperInvariant(c);
                    if (!_fits.TryGetValue(letter, out var bits))
                    {
                        _fits[letter] = bits = new ulong[words];
                    }

                    Set(bits, at++);
                    break;
            }
        }

        foreach (var bits in _fits.Values)
        {
            for (var i = 0; i < words; i++)
            {
                bits[i] |= _any[i];
            }
        }
    }

    public static bool Fits(string text, string pattern) => Known.GetValue(pattern, p => new(p)).Fits(text);

    private bool Fits(string text)
    {
        Span<ulong> matched = stackalloc ulong[_any.Length];
        matched[0] = 1;
        foreach (var c in text)
        {
            var fits = _fits.GetValueOrDefault(char.ToUpperInvariant(c), _any);
            var (carry, some) = (0UL, 0UL);
            for (var i = 0; i < matched.Length; i++)
            {
                var next = matched[i] & fits[i];
                matched[i] = (matched[i] & _stays[i]) | (next << 1) | carry;
                carry = next >> 63;
                some |= matched[i];
            }

            if (some == 0)
            {
                return false;
            }
        }

        return (matched[_length / 64] >> (_length % 64) & 1) != 0;
    }

    private static void Set(ulong[] bits, int at) => bits[at / 64] |= 1UL << (at % 64);
}
