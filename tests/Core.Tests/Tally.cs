using CalmPivot.Core;

namespace CalmPivot;

/// <summary>
/// How much of what a law tries is done, and how much is refused: a law that everything is refused to would hold whatever it says. Every law that
/// takes a refusal counts here, and <see cref="SeededLaws"/> asks at its end.
/// </summary>
internal sealed class Tally(string law) : IDisposable
{
    [ThreadStatic]
    private static Tally? s_now;

    private readonly Dictionary<string, int> _refused = [];
    private readonly Tally? _outer = s_now;
    private int _done;

    public static Tally Begin(string law) => s_now = new(law);

    public static void Done()
    {
        if (s_now is { } now)
        {
            now._done++;
        }
    }

    public static void Refused(Refusal refusal)
    {
        if (s_now is { } now)
        {
            now._refused[refusal.Word] = now._refused.GetValueOrDefault(refusal.Word) + 1;
        }
    }

    /// <summary>Fails where too little was done for the law to say anything.</summary>
    /// <param name="least">At least this share of what was tried.</param>
    public void Check(double least)
    {
        var refused = _refused.Values.Sum();
        Assert.True(
            refused == 0 || _done >= least * (_done + refused),
            $"{law} says little: of {_done + refused} only {_done} were done, refused were {string.Join(", ", _refused.OrderByDescending(r => r.Value).Select(r => $"{r.Value} {r.Key}"))}.");
    }

    public void Dispose() => s_now = _outer;
}
