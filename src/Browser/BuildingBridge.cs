using System.Runtime.InteropServices.JavaScript;
using System.Text;
using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>What the page asks about the tree, about collections and about what is seen.</summary>
public static unsafe partial class Bridge
{
    /// <summary>
    /// The tree in bulk: a line a node, parents before children, siblings in order, then the collections and the marks; with
    /// tabs between what <see cref="RowColumn"/> names.
    /// </summary>
    [JSExport]
    public static string Outline() => Lines([.. Replica.Shown.Branch(null), .. Replica.Shown.AllCollections(), .. Replica.Shown.Marks.Select(id => Replica.Shown.Find(id)!)]);

    /// <summary>Some lines of the tree, where these nodes still are.</summary>
    [JSExport]
    public static string OutlineOf(string ids) =>
        Lines(Read<string[]>(ids).Select(Replica.Shown.FindArranged).OfType<Arranged>());

    /// <summary>Shows only some nodes for now; none: all.</summary>
    [JSExport]
    public static void Isolate(string ids, bool withBranch) =>
        Replica.Sight.Isolate(Read<string[]>(ids), withBranch);

    /// <summary>Why a node is hidden, link by link, and the collections that it is in.</summary>
    [JSExport]
    public static string WhySeen(string id)
    {
        var scene = Replica.Shown;
        if (scene.FindCollection(id) is { } collection)
        {
            return Answered(Seen.Of(scene, collection), []);
        }

        return scene.Find(id) is { } node
            ? Answered(Seen.Of(scene, node), [.. Membership.Of(scene, node).Select(c => new MembershipAnswer(c.Id, !node.Collections.Contains(c.Id)))])
            : "";

        static string Answered(Seen seen, MembershipAnswer[] memberships) => Write(new SeenAnswer(seen.Working, seen.Final, seen.Reasons, memberships));
    }

    /// <summary>The members of a collection with those of the collections in it, in the order of the tree.</summary>
    [JSExport]
    public static string MembersOf(string id, bool withInner)
    {
        var scene = Replica.Shown;
        return Write<string[]>(
            [.. scene.FindCollection(id) is { } collection ? Membership.MembersOf(scene, collection, withInner).Select(n => n.Id) : []]);
    }

    /// <summary>A rule in words: "shapes named “Rod*”".</summary>
    [JSExport]
    public static string RuleInWords(string id) =>
        Replica.Shown.FindCollection(id)?.Rule is { } rule ? new Speaker(Replica.Shown).RuleInWords(rule) : "";

    /// <summary>The nodes that share a node's shape, itself included, in the order of the tree.</summary>
    [JSExport]
    public static string SharingWith(string id) =>
        Write<string[]>([.. Replica.Shown.Find(id) is { } node ? Replica.Shown.InTreeOrder(Sharing.With(Replica.Shown, node).Select(n => n.Id)) : []]);

    /// <summary>What edits would do before they are made: the copies they would add, and what they would do besides.</summary>
    [JSExport]
    public static string Foresee(string edits) => Answer(() =>
    {
        var read = Read<Edit[]>(edits);
        var (draft, meant, stays) = Foreseeing(read);
        var foretold = string.Join(" ", meant.Select(e => e.Foretell(Replica.Shown)).Concat(meant.Select(Elsewhere)).Append(stays).OfType<string>());
        return Write(
            new ForeseenAnswer(
                [.. Ghost.Of(Replica.Shown, draft).Concat(Ghost.Moved(Replica.Shown, draft)).Select(g => new GhostAnswer(g.LooksLike, g.World.ToArray(), g.From, g.Pivot))],
                foretold.Length == 0 ? null : foretold,
                [.. Ghost.Added(Replica.Shown, draft).Select(corners => corners.SelectMany(c => c.ToArray()).ToArray())]));
    });

    /// <summary>Edits on a draft over what is shown, what they mean in the scope, and what they do to things that are to stay in other shots.</summary>
    private static (SceneDraft Draft, IReadOnlyList<Edit> Meant, string? Stays) Foreseeing(Edit[] edits)
    {
        if (Replica.Scene.Shots.Count == 0)
        {
            return (Batch.Draft(Replica.Scene, edits), edits, null);
        }

        var scope = Replica.Scope;
        IReadOnlyList<Edit> meant = scope is { Narrow: true, Shot: { } shot } ? [.. edits.SelectMany(e => e.InShot(shot))] : edits;
        return (
            meant.Any(e => e.IsOfShots) ? Replica.Tried(edits) : Layered.Draft(scope, meant, leftOut => new(Replica.Shown) { LeftOut = leftOut }),
            meant,
            Staying(edits));
    }

    /// <summary>What an edit of every shot does where it is not computed; null: nothing else.</summary>
    private static string? Elsewhere(Edit edit) => Replica.Scope.Narrow || edit.IsOfShots ? null : Speaker.Sentence(edit.Elsewhere(Replica.Shown, done: false));

    /// <summary>What edits do to things that are to stay in other shots; null: nothing.</summary>
    private static string? Staying(IReadOnlyList<Edit> edits) =>
        Replica.Scope.Narrow || Replica.Scene.Shots.Count == 0 ? null : StayingWords.Of(Batch.Draft(Replica.Scene, edits, Replica.Scope));

    /// <summary>The nodes without those that ride on another of them.</summary>
    [JSExport]
    public static string Tops(string ids)
    {
        var draft = new SceneDraft(Replica.Shown);
        var present = Read<string[]>(ids).Where(id => draft.FindAny(id) is not null).ToList();
        return Write<string[]>([.. present.Where(id => !draft.Above(draft.GetArranged(id)).Any(a => present.Contains(a.Id)))]);
    }

    /// <summary>All parameters of a shape of a type in its usual size.</summary>
    [JSExport]
    public static string UsualShape(string type) => Answer(() => Write(Core.Shapes.Shape.Default(type).ToPatch()));

    /// <summary>A length that sets a copy beside its original.</summary>
    [JSExport]
    public static double UsualStep(string ids) => Duplicate.UsualStep(Replica.Shown, Read<string[]>(ids));

    /// <summary>The first of the new names that a renaming of many would give.</summary>
    [JSExport]
    public static string NamesAfter(string edit, int most) => Answer(() => Write<string[]>(
        [.. ((RenameMany)Read<Edit>(edit)).NamesIn(new SceneDraft(Replica.Shown)).Take(most).Select(n => n.Name)]));

    /// <summary>Nodes with all that rides on them, as text for the clipboard.</summary>
    [JSExport]
    public static string CopyAsText(string ids) => Answer(() => Write<string[]>(
        [SceneText.Write(new SceneDraft(Replica.Shown), Read<string[]>(ids))]));

    /// <summary>How many nodes at the top a copied text holds; refused where it holds something else.</summary>
    [JSExport]
    public static string TopsOfText(string text) => Answer(() => $"{{\"tops\":{SceneText.Read(text).Worlds.Length}}}");

    private static string Lines(IEnumerable<Arranged> rows)
    {
        var text = new StringBuilder();
        foreach (var row in rows)
        {
            // The switch of the final picture follows the scope: the scene's, or what the current shot sees.
            var s = row.Switches with { Final = (Replica.Scope.Narrow ? row : Replica.Scene.FindArranged(row.Id) ?? row).Switches.Final };
            var own = Replica.Layer is { } layer && layer.CheatsOn(row.Id).Any(c => c.IsSeen);
            var label = row.Label;
            var node = row as Node;
            var drawn = s.Drawn switch { DrawnAs.Wire => RowBits.DrawnAsWire, DrawnAs.Box => RowBits.DrawnAsBox, _ => RowBits.None };
            var bits = drawn
                | If(s.Working, RowBits.Working) | If(s.Final, RowBits.Final) | If(s.Locked, RowBits.Locked)
                | If(label.Closed, RowBits.Closed) | If(row is Collection { Rule: not null }, RowBits.Smart) | If(label.Note is not null, RowBits.Noted)
                | If(own, RowBits.OwnInShot);
            text.Append(row.Id).Append('\t')
                .Append(Replica.Evaluator.SlotOf(row.Id)).Append('\t')
                .Append(row.Parent).Append('\t')
                .Append(EntityKinds.WordOf(row)).Append('\t')
                .Append((int)bits).Append('\t')
                .Append(node?.Geometry).Append('\t')
                .Append(node?.Shares).Append('\t')
                .Append(label.Color).Append('\t')
                .AppendJoin(',', node?.Collections ?? []).Append('\t')
                .Append(row.Name).Append('\n');
        }

        static RowBits If(bool on, RowBits bit) => on ? bit : RowBits.None;

        return text.ToString();
    }
}
