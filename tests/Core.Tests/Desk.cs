using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.History;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests;

/// <summary>A scene with its history, as the server keeps them, at which several people edit, undo and redo.</summary>
internal sealed class Desk
{
    private readonly Dictionary<long, Change> _changes = [];
    private readonly List<Entity> _start;
    private readonly HashSet<(string Node, string Gone)> _lost = [];

    public Desk(SceneDocument scene)
    {
        Scene = scene;
        _start = [.. scene.Everything];
    }

    public SceneDocument Scene { get; }

    /// <summary>Told of every change, before it is put in.</summary>
    public Action<Change>? Applied { get; set; }

    public SceneHistory History { get; } = new([]);

    public List<Entity> Now => [.. Scene.Everything.OrderBy(n => n.Id, StringComparer.Ordinal)];

    /// <exception cref="Refusal">The edit cannot be made.</exception>
    public void Do(string by, Edit edit, Scope? scope = null)
    {
        var (change, sentence) = Batch.Run(Scene, [edit], scope);
        Did(by, change, sentence);
    }

    /// <summary>A step that was worked out elsewhere.</summary>
    public void Did(string by, Change change, string sentence)
    {
        var step = new Step(History.NextNumber, sentence, by, DateTimeOffset.UnixEpoch, Step.WritesOf(change));
        _changes[step.Number] = Kept(change);
        History.Add(step);
        Applied?.Invoke(change);
        Scene.Apply(change);
    }

    /// <exception cref="Refusal">Nothing can be taken back.</exception>
    public void Undo(string by)
    {
        var step = History.ToUndo(by, id => id);
        Take(History.Undoing(Scene, step, number => _changes[number]));
        History.Mark(step.Number, undone: true);
    }

    /// <exception cref="Refusal">Nothing can be done again.</exception>
    public void Redo(string by)
    {
        var step = History.ToRedo(by, id => id);
        Take(History.Redoing(Scene, step, _changes[step.Number]));
        History.Mark(step.Number, undone: false);
    }

    private void Take(Change change)
    {
        Worlds.Check(Scene, change);
        Applied?.Invoke(change);
        Scene.Apply(change);
    }

    /// <summary>The scene as its standing steps leave it, one after the other, each in the parts that it wrote.</summary>
    public List<Entity> Expected()
    {
        var all = _start.ToDictionary(n => n.Id);
        foreach (var change in History.Steps.Where(s => s.Standing).SelectMany(s => _changes[s.Number].All))
        {
            var (id, before, after) = change;
            if (after is null)
            {
                all.Remove(id);
            }
            else if (before is null)
            {
                all[id] = after;
            }
            else if (all.TryGetValue(id, out var present))
            {
                all[id] = present.Fields.Taking(present, change.Written(), after);
            }
        }

        // Who stands in the scene while a collection of his is gone is no longer its member, until he is put into it anew;
        // constraints go with their targets in the same way, and materials from slots and rules.
        foreach (var entity in all.Values)
        {
            _lost.UnionWith(GoneWith(entity).Where(id => !IsThere(id)).Select(id => (entity.Id, id)));
            _lost.ExceptWith(GoneWith(Scene.FindAny(entity.Id)).Where(IsThere).Select(id => (entity.Id, id)));
        }

        return [.. all.Values
            .Where(IsWhole)
            .OrderBy(n => n.Id, StringComparer.Ordinal)
            .Select(e => Without(e, id => _lost.Contains((e.Id, id))))];
    }

    /// <summary>Without memberships in collections that are gone, and constraints whose targets are: these go with them.</summary>
    public Entity Belonging(Entity entity) => Without(entity, id => !IsThere(id));

    /// <summary>As the store keeps it: the written parts only, as text.</summary>
    private static Change Kept(Change change) =>
        PartChange.Sparse(WireJson.Read<PartChange[]>(WireJson.Write(PartChange.Of(change)))) with { Made = change.Made };

    /// <summary>A cheat goes with its shot and with what it is of, and comes back with the step that removed it only.</summary>
    private bool IsWhole(Entity entity) => entity is not Cheat || IsThere(entity.Id);

    private bool IsThere(string id) => Scene.FindAny(id) is not null;

    /// <summary>What a node or a rule names that takes the membership, the constraint or the material with it when it goes.</summary>
    private static IEnumerable<string> GoneWith(Entity? entity) => entity switch
    {
        Node node => node.Collections.Concat(node.Constraints.SelectMany(c => c.Names)).Concat(NodeReferences.Materials.Of(node)),
        Collection collection => CollectionFields.OfMaterials.Of(collection),
        _ => [],
    };

    private static Entity Without(Entity entity, Func<string, bool> gone) =>
        entity is Collection { Rule.Materials: not null } collection ? CollectionFields.OfMaterials.Led(collection, id => gone(id) ? null : id)
        : entity is Node node
            ? NodeReferences.Materials.Led(node, id => gone(id) ? null : id) with
            {
                Collections = node.Collections.RemoveAll(c => gone(c)),
                Constraints = node.Constraints.RemoveAll(c => c.Names.Any(gone)),
            }
            : entity;

    /// <summary>Does something that may be refused, with a sentence; then nothing has changed.</summary>
    public bool Tried(Action act)
    {
        var before = Now;
        try
        {
            act();
            Tally.Done();
            return true;
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
            Assert.Equal(before, Now);
            return false;
        }
    }
}
