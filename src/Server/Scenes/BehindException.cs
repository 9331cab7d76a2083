namespace CalmPivot.Server.Scenes;

/// <summary>What is in memory is not what is stored: another server was first, or the copy has been given up. Nothing was stored; load the scene anew.</summary>
public sealed class BehindException() : Exception("The scene was changed by another server.");
