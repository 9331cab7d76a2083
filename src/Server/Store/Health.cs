using System.Security.Cryptography;
using Npgsql;

namespace CalmPivot.Server.Store;

/// <summary>Whether the database answers, and whether there is room left where it stores.</summary>
public sealed class Health(NpgsqlDataSource source)
{
    /// <summary>What an artist is told.</summary>
    public const string NoRoom = "There is no room left on the server's disk, so that nothing can be stored. Nothing was changed. Whoever runs the server has to make room; then try again.";

    /// <summary>As much as an edit may well take.</summary>
    private const int Tried = 256 * 1024;

    /// <summary>Of Linux, ENOSPC and EDQUOT: no space, or none left that is one's own.</summary>
    private const int NoSpace = 28;
    private const int NoQuota = 122;

    private volatile bool _isShort;

    /// <summary>True for what is said where there is no room.</summary>
    public static bool IsOfRoom(Exception e) => e switch
    {
        PostgresException { SqlState: PostgresErrorCodes.DiskFull } => true,
        IOException { HResult: NoSpace or NoQuota } => true,
        { InnerException: { } inner } => IsOfRoom(inner),
        _ => false,
    };

    /// <summary>Takes to heart what went wrong.</summary>
    public void Heed(Exception e) => _isShort |= IsOfRoom(e);

    /// <summary>"ok", "no database" or "no room". Once somebody has met a full disk, it is tried each time whether that still holds.</summary>
    public async Task<string> Read()
    {
        try
        {
            await using var connection = await source.OpenConnectionAsync();
            await connection.Run("update pulse set at = now(), tried = @tried", ("tried", _isShort ? RandomNumberGenerator.GetBytes(Tried) : NpgsqlTypes.NpgsqlDbType.Bytea));
            _isShort = false;
            return "ok";
        }
        catch (NpgsqlException e)
        {
            Heed(e);
            return IsOfRoom(e) ? "no room" : "no database";
        }
    }
}
