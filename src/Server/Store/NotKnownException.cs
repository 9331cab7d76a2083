namespace CalmPivot.Server.Store;

/// <summary>The database was lost in the moment of storing: whether it has stored is not known. Asked again by its key, it is done once.</summary>
public sealed class NotKnownException(Exception inner) : Exception("It is not known whether this was stored.", inner);
