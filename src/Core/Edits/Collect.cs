using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Puts nodes into a collection, or takes them out of it. They stay where they are in the tree and in the world.</summary>
public sealed record Collect(IReadOnlyList<string> Nodes, string Collection, bool Member = true) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var collection = CollectionOf(draft, Collection);
        Targets.CheckPicked(Nodes);

        foreach (var some in Nodes.Distinct().Select(draft.GetArranged))
        {
            if (some is not Node { Kind: not NodeKind.Mark } node)
            {
                throw new Refusal(
                    Refusals.NotUnderstood,
                    some is Scene.Collection
                        ? $"“{some.Name}” is a collection itself. Put it under “{collection.Name}” to have it lie in that."
                        : $"The mark “{some.Name}” cannot be a member. Only objects of the tree are.");
            }

            if (Member != node.Collections.Contains(collection.Id))
            {
                draft.Put(node with { Collections = Member ? node.Collections.Add(collection.Id) : node.Collections.Remove(collection.Id) });
            }
            else if (!Member && collection.Rule?.Fits(draft, node) == true)
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{node.Name}” belongs to “{collection.Name}” by its rule. Change the rule to leave it out.");
            }
        }
    }

    /// <summary>More are not looked at one by one.</summary>
    private const int MostForetold = 1_000;

    /// <summary>Who comes in sight or goes out of it, since collections decide what is seen.</summary>
    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        if (Nodes.Count > MostForetold || scene.FindCollection(Collection) is null)
        {
            return null;
        }

        var draft = new SceneDraft(scene);
        try
        {
            ApplyTo(draft);
        }
        catch (Refusal)
        {
            return null;
        }

        var changed = Nodes.Distinct().Select(id => (Before: Seen.Of(scene, scene.Find(id)!).Working, After: Seen.Of(draft, draft.Get(id)).Working, Id: id)).ToList();
        string? Said(bool before, string one, string several)
        {
            var ids = changed.Where(n => n.Before == before && n.After != before).Select(n => n.Id).ToList();
            return ids.Count == 0 ? null : $"{new Speaker(scene).Names(ids)} {(ids.Count == 1 ? one : several)} in the working view.";
        }

        return Said(before: true, "goes out of sight", "go out of sight") ?? Said(before: false, "comes back in sight", "come back in sight");
    }

    public override string Say(Speaker say) =>
        Member ? $"Put {say.Names(Nodes)} into {say.Name(Collection)}" : $"Took {say.Names(Nodes)} out of {say.Name(Collection)}";

    /// <exception cref="Refusal">not-found.</exception>
    internal static Scene.Collection CollectionOf(SceneDraft draft, string id) => draft.FindCollection(id) is { } collection
        ? collection
        : throw new Refusal(Refusals.NotFound, "The collection of this edit is not in the scene any more. Choose another one.");
}
