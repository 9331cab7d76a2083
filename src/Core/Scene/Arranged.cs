namespace CalmPivot.Core.Scene;

/// <summary>What an artist arranges in lists within lists, switches, locks and labels: nodes and collections.</summary>
/// <param name="Parent">Of a node what carries it, of a mark what it follows, of a collection the one around it.</param>
public abstract record Arranged(string Id, string Name, string? Parent, double Rank, Switches Switches) : Cheatable(Id, Name, Rank)
{
    public Label Label { get; init; } = Label.None;
}
