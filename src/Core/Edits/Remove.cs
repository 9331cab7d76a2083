using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What becomes of the children of a removed node.</summary>
[JsonConverter(typeof(CamelCase<RemovedChildren>))]
public enum RemovedChildren
{
    With,
    Lift,
}

/// <summary>Removes nodes with all that rides on them, or lifts their children to what carried the removed.</summary>
public sealed record Remove(IReadOnlyList<string> Nodes, RemovedChildren Children = RemovedChildren.With) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    /// <summary>It stays in the scene.</summary>
    public override IReadOnlyList<Edit> InShot(string shot) => [new SeeIn([shot], Nodes, false)];

    public override void ApplyTo(SceneDraft draft)
    {
        var stay = Children == RemovedChildren.Lift;
        var gone = new HashSet<string>();
        foreach (var some in Targets.Arranged(draft, Nodes, stay ? ChildrenMode.Stay : ChildrenMode.Along))
        {
            if (stay)
            {
                Lift(draft, some.Id);
                Release(draft, some, gone);
                draft.Remove(some);
                continue;
            }

            foreach (var below in draft.With(some).Reverse().ToList())
            {
                Targets.CheckUnlocked(draft, below);
                Release(draft, below, gone);
                draft.Remove(below);
            }
        }

        // What still names them does so no more: members of a collection that goes are no longer its members.
        foreach (var id in gone.SelectMany(draft.Referrers).Distinct().ToList())
        {
            if (draft.FindAny(id) is { } naming)
            {
                draft.PutOrRemove(naming, naming.Without(gone.Contains));
            }
        }
    }

    public override string? Foretell(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var gone = Nodes.Select(scene.FindArranged).OfType<Arranged>()
            .SelectMany(some => Children == RemovedChildren.Lift ? [some] : scene.With(some))
            .DistinctBy(n => n.Id)
            .ToDictionary(n => n.Id);
        List<string> parts = [];
        void Add(int count, string one, string many)
        {
            if (count > 0)
            {
                parts.Add(count == 1 ? one : string.Format(System.Globalization.CultureInfo.InvariantCulture, many, count));
            }
        }

        var riding = gone.Count - Nodes.Distinct().Count(gone.ContainsKey);
        Add(riding, "what rides on it goes too: 1 object", "what rides on it goes too: {0} objects");
        var naming = gone.Keys.SelectMany(scene.Referrers).Distinct().Where(id => !gone.ContainsKey(id)).Select(scene.FindAny).ToList();
        var marks = naming.OfType<Node>().Where(m => m.Kind == NodeKind.Mark).ToList();
        Add(marks.Count, $"the mark {Speaker.Quoted(marks.FirstOrDefault()?.Name ?? "")} stays where it is and follows nothing any more", "{0} marks stay where they are and follow nothing any more");
        parts.AddRange(Untied(scene, gone.Keys, this));
        var shared = gone.Values.OfType<Node>().Where(n => n.Shares is not null).Select(n => n.Shares!).Distinct().ToHashSet();
        var sharing = shared.SelectMany(word => scene.Referrers(NodeReferences.Sharing(word))).Count(id => !gone.ContainsKey(id));
        Add(sharing, "1 other shares its shape and keeps it", "{0} others share the shape and keep it");
        Add(gone.Values.OfType<Node>().Count(n => n.Kind == NodeKind.Camera && !Nodes.Contains(n.Id)), "a camera is among it", "{0} cameras are among it");
        var cheating = naming.OfType<Cheat>().Where(c => !c.IsSeen).Select(c => c.Shot).Distinct().Select(scene.FindShot).OfType<Shot>().ToList();
        Add(cheating.Count, $"what it has of its own in {cheating.FirstOrDefault()?.Title} goes too", "what it has of its own in {0} shots goes too");
        var through = naming.OfType<Shot>().ToList();
        Add(through.Count, $"the shot {through.FirstOrDefault()?.Title} is left without its camera", "{0} shots are left without their camera");
        var members = naming.OfType<Node>().Count(n => n.Collections.Any(gone.ContainsKey));
        Add(members, "its 1 member stays in the scene", "the {0} members stay in the scene");
        var ruled = naming.OfType<Collection>().Where(c => c.Rule?.Under is { } under && gone.ContainsKey(under)).ToList();
        Add(ruled.Count, $"the rule of {Speaker.Quoted(ruled.FirstOrDefault()?.Name ?? "")} then fits nothing", "the rules of {0} collections then fit nothing");
        return Speaker.Sentence(parts);
    }

    public override string Say(Speaker say) => Children == RemovedChildren.Lift
        ? $"Removed {say.Names(Nodes)}, children lifted"
        : $"Removed {say.NamesWithBranches(Nodes)}";

    /// <summary>What goes by things that an edit takes away, and does so no more: "Cannon aims at it no more", "turns Cannon by 12°".</summary>
    internal static List<string> Untied(IScene scene, IReadOnlyCollection<string> gone, Edit edit)
    {
        var tied = gone.SelectMany(scene.Referrers).Distinct().Where(id => !gone.Contains(id)).Select(scene.Find).OfType<Node>()
            .Where(n => n.Constraints.Any(c => c.Names.Any(gone.Contains))).ToList();
        if (tied.Count == 0)
        {
            return [];
        }

        var link = tied[0].Constraints.First(c => c.Names.Any(gone.Contains));
        List<string> parts = [tied.Count == 1 ? $"{Speaker.Quoted(tied[0].Name)} {link.Verb} it no more" : $"{tied.Count} others go by it no more"];
        if (Jumps.Of(scene, Applied(scene, edit), tied.Select(n => n.Id)) is { Count: > 0 } jumps)
        {
            var said = ConstraintWords.Jumps(jumps, new(scene));
            parts.Add($"{char.ToLowerInvariant(said[0])}{said[1..^1]}");
        }

        return parts;
    }

    /// <summary>What it makes of the scene, as far as it can.</summary>
    private static SceneDraft Applied(IScene scene, Edit edit)
    {
        var draft = new SceneDraft(scene);
        try
        {
            edit.ApplyTo(draft);
            return draft;
        }
        catch (Refusal)
        {
            return new(scene);
        }
    }

    /// <summary>Marks that followed what goes stay where they are.</summary>
    private static void Release(SceneDraft draft, Arranged some, HashSet<string> gone)
    {
        foreach (var mark in Marks.Following(draft, some.Id).ToList())
        {
            draft.Put(Marks.Attached(draft, mark, null));
        }

        gone.Add(some.Id);
    }

    private static void Lift(SceneDraft draft, string id)
    {
        // A removed parent may have lifted this very one before.
        var present = draft.GetArranged(id);
        if (draft.Children(id) is { Count: > 0 } children)
        {
            var index = draft.IndexOf(present) + 1;
            new PutUnder([.. children], present.Parent, index).ApplyTo(draft);
        }
    }
}
