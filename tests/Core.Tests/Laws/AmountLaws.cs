using System.Globalization;
using CalmPivot.Core.Amounts;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>Whatever is typed: it is understood as arithmetic means it, or refused with the place marked.</summary>
public sealed class AmountLaws
{
    /// <summary>An expression with its value, written as people write.</summary>
    private sealed record Typed(string Text, double Value);

    private static readonly Gen<Typed> Numbers = Gen.Frequency(
        (4, Gen.Int[0, 999].Select(i => new Typed(i.ToString(CultureInfo.InvariantCulture), i))),
        (3, Gen.Int[1, 99999].Select(i => new Typed((i / 1000.0).ToString(CultureInfo.InvariantCulture), i / 1000.0))),
        (1, Gen.Int[1, 99].Select(i => new Typed($".{i:00}", i / 100.0))));

    private static Gen<Typed> Expressions(int depth) => depth == 0
        ? Numbers
        : Gen.Select(Gen.Int[0, 6], Expressions(depth - 1), Expressions(depth - 1), Gen.Bool).Select((kind, a, b, wide) =>
        {
            var gap = wide ? " " : "";
            return kind switch
            {
                0 => new Typed($"({a.Text}){gap}+{gap}({b.Text})", a.Value + b.Value),
                1 => new Typed($"({a.Text}){gap}-{gap}({b.Text})", a.Value - b.Value),
                2 => new Typed($"({a.Text}){gap}*{gap}({b.Text})", a.Value * b.Value),
                3 when b.Value != 0 => new Typed($"({a.Text}){gap}/{gap}({b.Text})", a.Value / b.Value),
                4 => new Typed($"-({a.Text})", -a.Value),
                5 => new Typed($"{gap}({gap}{a.Text}{gap}){gap}", a.Value),
                _ => a,
            };
        });

    [Fact]
    public void Arithmetic_means_what_it_says() => Expressions(3).Sample(typed =>
        Assert.Equal(typed.Value, AmountParser.Sentence(typed.Text, Quantity.Factor, "m").Value, 1e-9 * (1 + Math.Abs(typed.Value))));

    [Fact]
    public void A_unit_scales_the_whole_product_before_it() =>
        Gen.Select(Expressions(2), Some.Of(("mm", 0.001), ("cm", 0.01), ("m", 1.0), ("km", 1000.0), ("ft", 0.3048), ("in", 0.0254))).Sample((typed, unit) =>
        {
            var metres = AmountParser.Sentence($"({typed.Text}){unit.Item1}", Quantity.Length, "m").Value;
            Assert.Equal(typed.Value * unit.Item2, metres, 1e-9 * (1 + Math.Abs(metres)));
        });

    [Fact]
    public void In_a_field_a_sign_or_by_changes_and_all_else_sets() => Gen.Select(Numbers, Gen.Double[-100, 100]).Sample((typed, present) =>
    {
        double After(string text) => AmountParser.Field(text, Quantity.Factor, "m").ApplyTo(present);
        Assert.Equal(typed.Value, After(typed.Text), 1e-9);
        Assert.Equal(-typed.Value, After($"-{typed.Text}"), 1e-9);
        Assert.Equal(present + typed.Value, After($"+{typed.Text}"), 1e-9);
        Assert.Equal(present + typed.Value, After($"by {typed.Text}"), 1e-9);
        Assert.Equal(present - typed.Value, After($"by -{typed.Text}"), 1e-9);
        Assert.Equal(present * typed.Value, After($"*{typed.Text}"), 1e-6);
    });

    [Fact]
    public void Anything_else_is_refused_in_a_sentence_and_never_breaks() =>
        Gen.Select(Some.Of("", "1", "(", "2*", "by "), Gen.Char["0123456789.+-*/()cmfting °by'\"$%&§"].Array[0, 12], Some.Of(Quantity.Length, Quantity.Angle, Quantity.Factor), Gen.Bool).Sample(
            (start, rest, quantity, field) =>
            {
                var text = start + new string(rest);
                try
                {
                    var value = field ? AmountParser.Field(text, quantity, "cm").ApplyTo(1) : AmountParser.Sentence(text, quantity, "cm").Value;
                    Assert.True(double.IsFinite(value));
                    Tally.Done();
                }
                catch (Refusal refusal)
                {
                    Tally.Refused(refusal);
                    Assert.Contains(refusal.Word, new[] { Refusals.NotUnderstood, Refusals.NotFinite });
                    Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
                }
            },
            iter: 3000,
            least: 0.03);
}
