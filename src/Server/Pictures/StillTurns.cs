namespace CalmPivot.Server.Pictures;

/// <summary>Stills are looked at and kept as far as there is memory for them; they lie on disk until then.</summary>
public sealed class StillTurns() : Hosting.Turns(MostBytes)
{
    private const long MostBytes = 256L << 20;
}
