namespace CalmPivot.Server.Store;

/// <summary>
/// Whether other servers work on this database, too: then what is stored here is told to them, and what is in memory here may be behind. Until that is known, it
/// is taken to be so. <see cref="Neighbours.Post"/> finds it out.
/// </summary>
public sealed class Company
{
    /// <summary>On this channel of PostgreSQL each commit says "server scene revision".</summary>
    public const string Steps = "calm_pivot_steps";

    /// <summary>And on this one servers say all else to each other.</summary>
    public const string Letters = "calm_pivot_letters";

    private volatile bool _alone;

    /// <summary>The name of this server among them, as long as it runs.</summary>
    public string Name { get; } = Guid.NewGuid().ToString("N");

    /// <summary>True: no other server has been heard of for some time.</summary>
    public bool Alone
    {
        get => _alone;
        set => _alone = value;
    }
}
