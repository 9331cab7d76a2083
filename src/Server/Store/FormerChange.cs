using CalmPivot.Core.Scene;

namespace CalmPivot.Server.Store;

/// <summary>What a step did to a node or an entity, as former versions kept it: whole, before and after.</summary>
internal sealed record FormerChange(EntityData? Before = null, EntityData? After = null)
{
    public static PartChange[] ToParts(IEnumerable<FormerChange> stored) =>
        PartChange.Of(Change.Of(stored.Select(s => new Core.Entities.EntityChange((s.Before ?? s.After)!.Entity.Id, s.Before?.Entity, s.After?.Entity))));
}
