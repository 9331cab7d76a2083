using System.Globalization;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Amounts;

/// <summary>
/// Understands typed amounts. In a field: <c>5</c> and <c>-5</c> set; <c>+5</c>, <c>by 5</c>, <c>by -5</c>, <c>*2</c>,
/// <c>/3</c> change; <c>=5</c> and <c>to 5</c> set, too. In the sentence the same, but a bare number is the amount of the edit.
/// Units and expressions everywhere: <c>10cm</c>, <c>1ft 2in</c>, <c>1/8in</c>, <c>0.5turn</c>, <c>2*(3+1)</c>. Anything
/// else is refused with the place marked.
/// </summary>
public static class AmountParser
{
    /// <summary>Understands what is typed into a field that shows a stored value.</summary>
    /// <param name="unit">The unit that a bare number counts in, for lengths.</param>
    /// <param name="comma">Whether the person's language writes decimals with a comma.</param>
    /// <exception cref="Refusal">not-understood, not-finite.</exception>
    public static Amount Field(string text, Quantity quantity, string unit, bool comma = false) =>
        Understood(text, quantity, unit, comma, AmountMode.Set);

    /// <summary>
    /// Understands the amount of an edit, as typed into the sentence: a bare number is how much the edit does, whatever its
    /// sign. A size that is multiplied is the same as a factor.
    /// </summary>
    /// <param name="to">Whether a bare number is the value to reach instead.</param>
    /// <exception cref="Refusal">not-understood, not-finite.</exception>
    public static Amount Sentence(string text, Quantity quantity, string unit, bool to = false, bool comma = false)
    {
        var amount = Understood(text, quantity, unit, comma, to ? AmountMode.Set : AmountMode.Add);
        return quantity == Quantity.Factor && amount.Mode == AmountMode.Multiply ? amount with { Mode = AmountMode.Add } : amount;
    }

    private static Amount Understood(string text, Quantity quantity, string unit, bool comma, AmountMode bare)
    {
        ArgumentNullException.ThrowIfNull(text);
        var start = text.Length - text.TrimStart().Length;
        double Read(int at, Quantity of) => new Reader(text, at, of, unit, comma).Whole();
        bool Begins(string word) => text.AsSpan(start).StartsWith(word, StringComparison.OrdinalIgnoreCase);
        if (Begins("by ") || Begins("to "))
        {
            return new(Begins("by ") ? AmountMode.Add : AmountMode.Set, Read(start + 3, quantity));
        }

        return start == text.Length ? throw Reader.Refused(text, start, "nothing was typed") : text[start] switch
        {
            '=' => new(AmountMode.Set, Read(start + 1, quantity)),
            '+' => new(AmountMode.Add, Read(start + 1, quantity)),
            '*' or '×' => new(AmountMode.Multiply, Read(start + 1, Quantity.Factor)),
            '/' or '÷' => new(AmountMode.Multiply, 1 / NotZero(text, start + 1, Read(start + 1, Quantity.Factor))),
            _ => new(bare, Read(start, quantity)),
        };
    }

    private static double NotZero(string text, int at, double value) =>
        value == 0 ? throw Reader.Refused(text, at, "nothing can be divided by zero") : value;

    /// <summary>
    /// Reads <c>sum = term {(+|−) term}</c>, <c>term = product {product}</c> where each has a unit (<c>1ft 2in</c>),
    /// <c>product = signed {(*|/) signed}</c>, <c>signed = [−|+] atom</c>, <c>atom = number | ( sum )</c>, with a unit after a
    /// product: <c>1/8in</c> is an eighth of an inch.
    /// </summary>
    private sealed class Reader(string text, int at, Quantity quantity, string unit, bool comma)
    {
        private const int MostNesting = 50;
        private int _at = at;
        private int _nesting;
        private bool _hasUnit;
        private bool _unitHere;

        public double Whole()
        {
            var value = Sum();
            Blanks();
            if (_at < text.Length)
            {
                throw Refused(text, _at, "this does not belong to an amount");
            }

            if (!_hasUnit && quantity == Quantity.Length)
            {
                value *= Unit.Of(unit).Metres;
            }

            return double.IsFinite(value)
                ? value
                : throw new Refusal(Refusals.NotFinite, "This amount is too large to compute with. Type a smaller one.");
        }

        public static Refusal Refused(string text, int at, string why)
        {
            // The place is marked by a pointing hand in front of what is not understood.
            var marked = at >= text.Length ? $"{text}☚" : $"{text[..at]}☛{text[at..]}";
            return new(Refusals.NotUnderstood, $"“{marked}”: {why}. Type a number such as 12, -5, 10cm or 2*(3+1).");
        }

        private double Sum()
        {
            var value = Term();
            for (Blanks(); _at < text.Length && text[_at] is '+' or '-' or '−'; Blanks())
            {
                var minus = text[_at++] != '+';
                var next = Term();
                value += minus ? -next : next;
            }

            return value;
        }

        /// <summary>One amount in several units, of which the sign before the first holds for all.</summary>
        private double Term()
        {
            var start = _at;
            var value = Product();
            var below = text.AsSpan(start).TrimStart() is ['-' or '−', ..] ? -1 : 1;
            while (_unitHere && _at < text.Length && (char.IsAsciiDigit(text[_at]) || text[_at] == '.'))
            {
                var place = _at;
                value += below * Product();
                if (!_unitHere)
                {
                    throw Refused(text, place, "a unit is missing here");
                }
            }

            return value;
        }

        private double Product()
        {
            var value = Signed();
            for (Blanks(); _at < text.Length && (text[_at] is '*' or '/' or '×' or '÷' || (text[_at] == ':' && quantity == Quantity.Factor)); Blanks())
            {
                var divide = text[_at++] is '/' or '÷' or ':';
                var place = _at;
                var next = Signed();
                value = divide ? value / NotZero(text, place, next) : value * next;
            }

            return WithUnit(value);
        }

        private double Signed()
        {
            Blanks();
            if (_at < text.Length && text[_at] is '-' or '−')
            {
                _at++;
                return -Atom();
            }

            if (_at < text.Length && text[_at] == '+')
            {
                _at++;
            }

            return Atom();
        }

        private double Atom()
        {
            Blanks();
            if (_at < text.Length && text[_at] == '(')
            {
                if (++_nesting > MostNesting)
                {
                    throw Refused(text, _at, "there are too many brackets");
                }

                var open = _at++;
                var inner = Sum();
                Blanks();
                if (_at >= text.Length || text[_at] != ')')
                {
                    throw Refused(text, open, "this bracket is not closed");
                }

                _at++;
                _nesting--;
                return inner;
            }

            var start = _at;
            while (_at < text.Length && (char.IsAsciiDigit(text[_at]) || text[_at] is '.' or ','))
            {
                _at++;
            }

            if (!comma && text.AsSpan(start, _at - start).Contains(',') && !IsDecimal(text[start.._at]))
            {
                throw Refused(text, text.IndexOf(',', start), "it is not sure what this comma means; write decimals with a point, and thousands without a sign");
            }

            // 1e3 is a number; the e of another word is not part of it.
            if (_at > start && _at < text.Length && text[_at] is 'e' or 'E')
            {
                var sign = _at + 1 < text.Length && text[_at + 1] is '-' or '+' ? 1 : 0;
                if (_at + 1 + sign < text.Length && char.IsAsciiDigit(text[_at + 1 + sign]))
                {
                    _at += 1 + sign;
                    while (_at < text.Length && char.IsAsciiDigit(text[_at]))
                    {
                        _at++;
                    }
                }
            }

            var figures = text[start.._at].Replace(',', '.');
            return double.TryParse(figures, NumberStyles.Float, CultureInfo.InvariantCulture, out var value)
                ? value
                : throw Refused(text, start, start >= text.Length ? "a number is missing" : "a number belongs here");
        }

        /// <summary>Whether the one comma of a number stands before its decimals whoever writes it: 0,6 and 2,5; but 1,000 may be a thousand.</summary>
        private static bool IsDecimal(string figures) =>
            figures.Split(',') is [var whole, var rest] && !figures.Contains('.') && (rest.Length != 3 || whole is "" or "0");

        private double WithUnit(double value)
        {
            Blanks();
            var start = _at;
            while (_at < text.Length && (char.IsLetter(text[_at]) || text[_at] is '°' or '%' or '"' or '\'' or '″' or '′'))
            {
                _at++;
            }

            _unitHere = _at > start;
            if (!_unitHere)
            {
                return value;
            }

            var word = text[start.._at];
            if (Factor(word) is not { } factor)
            {
                throw Refused(text, start, quantity switch
                {
                    Quantity.Length => "this is no unit of length; use m, cm, mm, km, ft or in",
                    Quantity.Angle => "this is no unit of angle; use °, deg, rad or turn",
                    _ => "a factor has no unit but %",
                });
            }

            _hasUnit = true;
            Blanks();
            return value * factor;
        }

        private double? Factor(string word) => (quantity, word) switch
        {
            (Quantity.Length, "\"" or "″") => Unit.Of("in").Metres,
            (Quantity.Length, "'" or "′") => Unit.Of("ft").Metres,
            (Quantity.Length, _) => Unit.Find(word)?.Metres,
            (Quantity.Angle, "°" or "deg") => 1,
            (Quantity.Angle, "rad") => Numbers.Degrees.PerRadian,
            (Quantity.Angle, "turn" or "turns") => 360,
            (Quantity.Factor, "%") => 0.01,
            (Quantity.Factor, "x" or "×") => 1,
            _ => null,
        };

        private void Blanks()
        {
            while (_at < text.Length && char.IsWhiteSpace(text[_at]))
            {
                _at++;
            }
        }
    }
}
