using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>What a shot can show otherwise than the scene has it: nodes, collections, and the surroundings.</summary>
public abstract record Cheatable(string Id, string Name, double Rank) : Entity(Id, Name, Rank);
