using System.Globalization;

namespace CalmPivot.Core.Scene;

/// <summary>The names in one list of siblings, so that new nodes get distinct ones without a search each.</summary>
internal sealed class SiblingNames
{
    private readonly Dictionary<string, int> _taken = [];
    private readonly Dictionary<string, long> _tried = [];

    public SiblingNames(IEnumerable<string> names)
    {
        foreach (var name in names)
        {
            Add(name);
        }
    }

    public void Add(string name) => _taken[name] = _taken.GetValueOrDefault(name) + 1;

    public void Remove(string name)
    {
        if (--_taken[name] == 0)
        {
            _taken.Remove(name);
        }
    }

    /// <summary>The name itself where no sibling has it, else the next free number of its own pattern: "Chair 07", "Chair 08".</summary>
    public string Distinct(string name)
    {
        if (!_taken.ContainsKey(name))
        {
            return name;
        }

        var (stem, number, digits) = PatternOf(name);
        number = Math.Max(number, _tried.GetValueOrDefault(stem));
        string next;
        do
        {
            var written = (++number).ToString(CultureInfo.InvariantCulture).PadLeft(digits, '0');

            // A name at its full length gives way to its number.
            next = WholeText.Start(stem, Node.MostNameLength - written.Length) + written;
        }
        while (_taken.ContainsKey(next));
        _tried[stem] = number;
        return next;
    }

    private static (string Stem, long Number, int Digits) PatternOf(string name)
    {
        var digits = 0;
        while (digits < Math.Min(name.Length, 15) && char.IsAsciiDigit(name[^(digits + 1)]))
        {
            digits++;
        }

        return digits is 0 or 15
            ? (name + " ", 1, 1)
            : (name[..^digits], long.Parse(name[^digits..], CultureInfo.InvariantCulture), digits);
    }
}
