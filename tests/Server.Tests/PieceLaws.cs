using System.Text;
using System.Text.Json;
using CalmPivot.Server.Neighbours;

namespace CalmPivot.Server.Tests;

/// <summary>Letters between servers go in pieces that PostgreSQL carries, and come out as they went in.</summary>
public sealed class PieceLaws
{
    private const int MostCarried = 7_999;

    [Fact]
    public void Letters_come_out_as_they_went_in_however_those_of_several_servers_come_between_each_other()
    {
        var random = new Random(3);
        for (var run = 0; run < 40; run++)
        {
            var sent = Enumerable.Range(0, 4).Select(server => Enumerable.Range(0, 6).Select(_ => Any(random, $"server{server}")).ToList()).ToList();
            var going = sent.ConvertAll(letters => new Queue<string>(letters.SelectMany((letter, number) => Pieces.Cut(letter, number))));
            Assert.All(going.SelectMany(pieces => pieces), piece => Assert.InRange(Encoding.UTF8.GetByteCount(piece), 1, MostCarried));
            var (reader, come) = (new PieceReader(), new List<Letter>());
            while (going.Where(pieces => pieces.Count > 0).ToArray() is { Length: > 0 } left)
            {
                if (reader.Take(left[random.Next(left.Length)].Dequeue()) is { } letter)
                {
                    come.Add(letter);
                }
            }

            for (var server = 0; server < 4; server++)
            {
                Assert.Equal(sent[server].ConvertAll(Text), come.Where(letter => letter.From == $"server{server}").Select(Text));
            }
        }
    }

    [Fact]
    public void What_has_no_beginning_or_no_end_is_left_out_and_what_comes_after_it_is_not()
    {
        var random = new Random(5);
        for (var run = 0; run < 200; run++)
        {
            var letters = Enumerable.Range(0, 5).Select(_ => Any(random, "server")).ToList();
            var pieces = letters.Select((letter, number) => Pieces.Cut(letter, number)).ToList();
            var (lost, reader, come) = (random.Next(5), new PieceReader(), new List<Letter>());
            var missing = random.Next(pieces[lost].Count);
            for (var i = 0; i < 5; i++)
            {
                come.AddRange(pieces[i].Where((_, at) => i != lost || at != missing).Select(reader.Take).OfType<Letter>());
            }

            Assert.Equal(letters.Where((_, i) => i != lost).Select(Text), come.Select(Text));
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData("server")]
    [InlineData("server 0 0 1 ")]
    [InlineData("server 0 0 1 null")]
    [InlineData("server 0 0 1 {}")]
    [InlineData("server 0 0 0 {}")]
    [InlineData("server 0 0 99 {}")]
    [InlineData("server x 0 1 {}")]
    [InlineData("server 0 0 1 {\"From\":\"another\",\"Kind\":1,\"Scenes\":[]}")]
    public void What_is_no_letter_is_none(string piece) => Assert.Null(new PieceReader().Take(piece));

    [Fact]
    public void What_is_too_long_is_not_sent_at_all() =>
        Assert.Empty(Pieces.Cut(new("server", LetterKind.Told, [], Said: JsonSerializer.SerializeToElement(new string('x', Pieces.Most * Pieces.MostBytes))), 0));

    private static string Text(Letter letter) => JsonSerializer.Serialize(letter);

    private static Letter Any(Random random, string from) => new(
        from,
        (LetterKind)random.Next(6),
        [.. Enumerable.Range(0, random.Next(4)).Select(i => $"scene {i}")],
        random.Next(2) == 0 ? null : "page",
        random.Next(2) == 0 ? null : "of",
        random.Next(2) == 0 ? null : "method",
        JsonSerializer.SerializeToElement(new string([.. Enumerable.Range(0, random.Next(3) * random.Next(6_000)).Select(_ => "a €\"\\ü"[random.Next(6)])])));
}
