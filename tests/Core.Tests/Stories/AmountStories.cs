using CalmPivot.Core.Amounts;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>What artists type, and what it means.</summary>
public sealed class AmountStories
{
    [Theory]
    [InlineData("12", 12)]
    [InlineData("-5", -5)]
    [InlineData("−5", -5)]
    [InlineData(" 1.5 ", 1.5)]
    [InlineData(".5", 0.5)]
    [InlineData("1e-3", 0.001)]
    [InlineData("2*(3+1)", 8)]
    [InlineData("1+2*3", 7)]
    [InlineData("10/4", 2.5)]
    [InlineData("10cm", 0.1)]
    [InlineData("1m+20cm", 1.2)]
    [InlineData("2 ft", 0.6096)]
    [InlineData("1/8in", 0.003175)]
    [InlineData("3mm", 0.003)]
    [InlineData("-(2+1)", -3)]
    [InlineData("0,6", 0.6)]
    [InlineData("0,625", 0.625)]
    [InlineData("2,5cm", 0.025)]
    [InlineData(",5", 0.5)]
    [InlineData("1/2", 0.5)]
    [InlineData("60cm", 0.6)]
    public void Lengths_are_understood_in_metres(string text, double metres)
    {
        Assert.Equal(metres, AmountParser.Sentence(text, Quantity.Length, "m").Value, 1e-12);
        Assert.Equal(new Amount(AmountMode.Set, AmountParser.Sentence(text, Quantity.Length, "m").Value), AmountParser.Field(text, Quantity.Length, "m"));
    }

    [Fact]
    public void A_bare_length_counts_in_the_scenes_unit()
    {
        Assert.Equal(0.12, AmountParser.Sentence("12", Quantity.Length, "cm").Value, 1e-12);
        Assert.Equal(0.0254, AmountParser.Sentence("1", Quantity.Length, "in").Value, 1e-12);
        Assert.Equal(0.5, AmountParser.Sentence("0.5m", Quantity.Length, "cm").Value, 1e-12);
    }

    [Theory]
    [InlineData("90", 90)]
    [InlineData("0.5turn", 180)]
    [InlineData("45°", 45)]
    [InlineData("360/8", 45)]
    public void Angles_are_understood_in_degrees(string text, double degrees) =>
        Assert.Equal(degrees, AmountParser.Sentence(text, Quantity.Angle, "m").Value, 1e-12);

    /// <summary>In one language it is a thousand, in another one.</summary>
    [Theory]
    [InlineData("1,000")]
    [InlineData("1,000.5")]
    [InlineData("1,2,3")]
    public void A_comma_that_may_mean_two_things_is_asked_about(string text) =>
        Assert.Contains("comma", Some.Refuses(Refusals.NotUnderstood, () => AmountParser.Field(text, Quantity.Length, "m")).Message, StringComparison.Ordinal);

    [Theory]
    [InlineData("640 × 360", 640, 360, false)]
    [InlineData("800x600", 800, 600, false)]
    [InlineData(" 1920*1080 px", 1920, 1080, false)]
    [InlineData("4:3", 4, 3, true)]
    [InlineData("2.39 : 1", 2.39, 1, true)]
    public void Sizes_of_pictures_are_two_numbers(string text, double width, double height, bool isProportion) =>
        Assert.Equal((width, height, isProportion), PictureSize.Read(text));

    [Theory]
    [InlineData("640")]
    [InlineData("640 x")]
    [InlineData("0 × 10")]
    [InlineData("1:2:3")]
    [InlineData("")]
    public void What_is_no_size_of_a_picture_is_something_else(string text) => Assert.Null(PictureSize.Read(text));

    [Fact]
    public void Radians_are_turned_into_degrees() => Assert.Equal(180, AmountParser.Sentence("3.141592653589793rad", Quantity.Angle, "m").Value, 1e-12);

    [Theory]
    [InlineData("150%", 1.5)]
    [InlineData("2", 2)]
    [InlineData("3:4", 0.75)]
    [InlineData("16 : 9", 16.0 / 9)]
    public void Factors_are_understood(string text, double factor) =>
        Assert.Equal(factor, AmountParser.Sentence(text, Quantity.Factor, "m").Value, 1e-12);

    [Theory]
    [InlineData("5", 5)]
    [InlineData("-5", -5)]
    [InlineData("+5", 15)]
    [InlineData("by 5", 15)]
    [InlineData("by -5", 5)]
    [InlineData("by -50cm", 9.5)]
    [InlineData("-(1+1)", -2)]
    [InlineData("*2", 20)]
    [InlineData("/4", 2.5)]
    public void A_field_takes_values_and_changes(string text, double after) =>
        Assert.Equal(after, AmountParser.Field(text, Quantity.Length, "m").ApplyTo(10), 1e-12);

    [Theory]
    [InlineData("", "☚")]
    [InlineData("abc", "☛abc")]
    [InlineData("5 apples", "5 ☛apples")]
    [InlineData("2*(3+1", "2*☛(3+1")]
    [InlineData("1,000", "1☛,000")]
    [InlineData("1/0", "1/☛0")]
    [InlineData("3+", "3+☚")]
    [InlineData("5)", "5☛)")]
    [InlineData("1e999", "")]
    [InlineData("NaN", "☛NaN")]
    public void What_is_not_understood_is_refused_with_the_place_marked(string text, string marked)
    {
        var refusal = Assert.Throws<Refusal>(() => AmountParser.Field(text, Quantity.Length, "m"));
        Assert.Contains(refusal.Word, new[] { Refusals.NotUnderstood, Refusals.NotFinite });
        Assert.Contains(marked, refusal.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("5°", Quantity.Length)]
    [InlineData("5cm", Quantity.Angle)]
    [InlineData("5cm", Quantity.Factor)]
    public void Units_that_do_not_fit_are_refused(string text, Quantity quantity) =>
        Some.Refuses(Refusals.NotUnderstood, () => AmountParser.Sentence(text, quantity, "m").Value);

    [Fact]
    public void Endless_brackets_are_refused_without_harm() =>
        Some.Refuses(Refusals.NotUnderstood, () => AmountParser.Sentence(new string('(', 100_000), Quantity.Length, "m"));

    [Theory]
    [InlineData("5", AmountMode.Add, 5)]
    [InlineData("-5", AmountMode.Add, -5)]
    [InlineData("+5", AmountMode.Add, 5)]
    [InlineData("by 2", AmountMode.Add, 2)]
    [InlineData("by -2", AmountMode.Add, -2)]
    [InlineData("by -50cm", AmountMode.Add, -0.5)]
    [InlineData("=1", AmountMode.Set, 1)]
    [InlineData("= 1", AmountMode.Set, 1)]
    [InlineData("to 1", AmountMode.Set, 1)]
    [InlineData("*2", AmountMode.Multiply, 2)]
    [InlineData("/4", AmountMode.Multiply, 0.25)]
    [InlineData("1ft 2in", AmountMode.Add, 0.3556)]
    [InlineData("-1ft 2in", AmountMode.Add, -0.3556)]
    [InlineData("5 - 1ft 2 in", AmountMode.Add, 4.6444)]
    [InlineData("5m 20cm 3mm", AmountMode.Add, 5.203)]
    public void The_sentence_understands_what_fields_understand(string text, AmountMode mode, double value)
    {
        // A sum of which one part has a unit counts bare numbers as metres.
        var amount = AmountParser.Sentence(text, Quantity.Length, "m");
        Assert.Equal(mode, amount.Mode);
        Assert.Equal(value, amount.Value, 1e-12);
        Assert.Equal(value, AmountParser.Field(text, Quantity.Length, "m").Value, 1e-12);
    }

    [Fact]
    public void A_bare_number_typed_to_is_the_value_and_a_sign_still_changes()
    {
        Assert.Equal(new Amount(AmountMode.Set, -5), AmountParser.Sentence("-5", Quantity.Length, "m", to: true));
        Assert.Equal(new Amount(AmountMode.Add, 5), AmountParser.Sentence("+5", Quantity.Length, "m", to: true));
        Assert.Equal(new Amount(AmountMode.Add, 2), AmountParser.Sentence("*2", Quantity.Factor, "m"));
        Assert.Equal(new Amount(AmountMode.Add, 0.5), AmountParser.Sentence("/2", Quantity.Factor, "m"));
    }

    [Fact]
    public void Decimals_are_written_as_the_persons_language_writes_them()
    {
        Assert.Equal(1.5, AmountParser.Field("1,5", Quantity.Length, "m", comma: true).Value);
        Assert.Equal(1.5, AmountParser.Field("1.5", Quantity.Length, "m", comma: true).Value);
        Assert.Equal(-0.25, AmountParser.Sentence("-,25", Quantity.Length, "m", comma: true).Value);
        Assert.Equal(1.5, AmountParser.Field("1,5", Quantity.Length, "m").Value);
        Assert.Equal(1, AmountParser.Field("1,000", Quantity.Length, "m", comma: true).Value);
        Some.Refuses(Refusals.NotUnderstood, () => AmountParser.Field("1,2,3", Quantity.Length, "m", comma: true));
    }

    [Fact]
    public void After_one_unit_the_next_needs_one_too() =>
        Assert.Contains("a unit is missing here", Some.Refuses(Refusals.NotUnderstood, () => AmountParser.Field("1ft 2", Quantity.Length, "m")).Message, StringComparison.Ordinal);
}
