namespace CalmPivot.Server.Pictures;

/// <summary>Pictures are looked at as far as there is memory for them.</summary>
public sealed class PictureTurns() : Hosting.Turns(MostBytes)
{
    /// <summary>What all pictures together may take while they are looked at.</summary>
    public const long MostBytes = 256L << 20;
}
