namespace CalmPivot.Server.Store;

/// <summary>What an open scene needs of the database.</summary>
public sealed record Stores(SceneStore Scenes, CommitLine Line, LogStore Log, StepStore Steps);
