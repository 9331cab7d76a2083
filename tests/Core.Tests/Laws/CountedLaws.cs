using System.Globalization;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>The sentence of every verb counts, or names, what the edit changed: neither more nor less, whatever the room, the shot and the scope.</summary>
public sealed class CountedLaws
{
    /// <summary>What a sentence is about: how many of what, and the name where it is one.</summary>
    private sealed record Counted(int Least, int Most, string? Name, string What = "objects")
    {
        public Counted(int count, string? name, string what = "objects")
            : this(count, count, name, what)
        {
        }
    }

    /// <summary>Verbs that change the very things that are picked: those that changed are counted.</summary>
    private static readonly string[] OfPicked =
    [
        "move", "rotate", "scale", "mirror", "movePivot", "see", "lock", "setNormals", "setOrder", "dropShear", "align", "drop", "set", "bring",
        "unshare", "unlink", "collect", "setTakes", "constrain", "setConstraint", "setLabel", "putUnder", "drive", "place", "rename", "setShape", "steer", "faceWith", "keepSize", "follow", "renameMany", "setLight", "setCamera", "unconstrain", "bake", "level", "assign", "highlight", "draw",
    ];

    public static TheoryData<string> Verbs => [.. AnyEdit.Verbs];

    [Theory]
    [MemberData(nameof(Verbs))]
    public void What_is_counted_is_what_changed(string verb) => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Sample(
        (room, seed) =>
        {
            var scene = AnyEdit.Room(room);
            AnyEdit.Shoot(scene, room);
            var scope = AnyEdit.ScopeOf(scene, seed);
            var before = new SceneDraft(Layered.Over(scene, scope));
            (Edit Edit, Change Change, string Sentence) made;
            try
            {
                var edit = WithMore(AnyEdit.Of(verb, before, seed), scene, new(seed));
                var (change, sentence) = Batch.Run(scene, [edit], scope);
                made = (edit, change, sentence);
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                return;
            }

            Tally.Done();
            if (made.Change.IsEmpty)
            {
                return;
            }

            var was = new SceneDraft(scene);
            was.Take(made.Change);
            var after = new SceneDraft(scope.Shot is null || made.Edit.IsOfShots ? was : new ShotScene(was, scope.Shot));
            before = made.Edit.IsOfShots ? new(scene) : before;
            if (Of(verb, made.Edit, before, after, made.Change, scope) is { } counted)
            {
                var said = made.Sentence.Split("; ")[0];
                var number = Regex.Match(said, @"(\d+) " + counted.What) is { Success: true } match ? int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture) : 1;
                Assert.True(number >= counted.Least && number <= counted.Most && (counted.Most > 1 || counted.Name is null || said.Contains(Words.Speaker.Quoted(counted.Name), StringComparison.OrdinalIgnoreCase)), $"{counted}: {made.Sentence}\n{WireJson.Write(made.Edit)} {string.Join(", ", made.Change.All.Select(c => c.Id))}");
            }
        },
        iter: 25,
        least: 0.05);

    /// <summary>Null: nothing is counted in it, and there is one that it is about.</summary>
    private static Counted? Of(string verb, Edit edit, SceneDraft before, SceneDraft after, Change change, Scope scope)
    {
        // What has its own here is passed over and named by itself, and may still move with what it rides on.
        bool MayBePassedOver(string id) => !scope.Narrow && before.Below is ShotScene layer && layer.CheatsOn(id).Count > 0;
        List<(string Id, bool Surely)> Changed(IEnumerable<string> ids) => [.. ids.Distinct().Where(id => IsChanged(id, before, after, edit)).Select(id => (id, !MayBePassedOver(id)))];
        List<(string Id, bool Surely)> Surely(IEnumerable<string> ids) => [.. ids.Distinct().Select(id => (id, true))];
        var picked = edit.Picked.Distinct().Where(id => before.FindAny(id) is not null).ToList();
        if (OfPicked.Contains(verb) && !(scope.Narrow && edit is See))
        {
            return Names(before, Changed(picked));
        }

        return edit switch
        {
            See => null,
            Create or CreateMark or Gather or MakeShot or MakeMaterial => new(1, New(change)?.Name, "of them"),
            CopyShot => null,
            Add add => new(change.Nodes.Count(n => n.Before is null), null),
            Edits.Group => new(1, New(change)?.Name, "groups"),
            Ungroup ungroup => Names(before, Surely(ungroup.Nodes.Where(id => after.FindAny(id) is null))),
            Spread spread => Names(before, [.. spread.Nodes.Distinct().Select(id => (id, !MayBePassedOver(id)))]),
            SetRule rule => new(1, before.FindAny(rule.Collection)!.Name),
            SetMaterial { Name: null } material => new(1, before.FindAny(material.Material)!.Name),
            RemoveMaterial material => new(1, before.FindAny(material.Material)!.Name),
            RemoveShot or OwnCamera or SetShot => new(1, change.Entities.Select(e => e.Before).OfType<Shot>().FirstOrDefault()?.Name),
            Separate separate => Names(before, Surely(separate.Nodes)),
            ListShots list => new(list.Shots.Count, null, "shots"),
            Remove when scope is { Narrow: true } => null,
            Remove remove => Names(before, Surely(remove.Nodes.Where(id => after.FindAny(id) is null))),
            SeeIn or TakeBack { Nodes: not null } or Everywhere { Nodes: not null } or CarryAlong => Names(before, Surely(change.Entities.Select(e => ((e.After ?? e.Before) as Cheat)?.Of).OfType<string>().Where(picked.Contains))),
            Join => new(1 + change.Nodes.Count(n => n.After is null), before.FindAny(picked[^1])!.Name),
            Duplicate copy => new((int)copy.Copies, null, "copies"),
            Paste paste => new(change.Nodes.Count(n => n.Before is null), change.Nodes.First(n => n.Before is null).After!.Name),
            ClearMaterials => new(change.Entities.Count(e => e is { Before: Material, After: null }), null, "materials"),
            MergeMaterials => new(change.Entities.Count(e => e is { Before: Material, After: null }), null, "materials"),
            TakeMaterial take => Names(before, Changed(take.Nodes.Where(id => id != (take.From ?? take.Nodes[^1])))),
            TurnTo turn => Names(before, Changed(turn.Nodes.Where(id => id != turn.Target))),
            GiveLinks give => Names(before, Changed(give.To.Where(id => id != give.From))),
            _ => null,
        };
    }

    private static Entity? New(Change change) => change.All.FirstOrDefault(c => c.Before is null && c.After is not Cheat).After;

    /// <summary>The same edit of some more things, so that there is something to count; the lead stays.</summary>
    private static Edit WithMore(Edit edit, IScene scene, Random r)
    {
        var json = JsonNode.Parse(WireJson.Write(edit))!;
        if (json["nodes"] is JsonArray nodes && edit is not (Join or Add or Remove or Spread) && r.Next(3) > 0)
        {
            var tree = scene.Branch(null).Select(n => n.Id).ToList();
            for (var i = 0; i < 2; i++)
            {
                nodes.Insert(0, tree[r.Next(tree.Count)]);
            }
        }

        return WireJson.Read<Edit>(json.ToJsonString());
    }

    private static Counted? Names(SceneDraft before, List<(string Id, bool Surely)> ids) =>
        ids.Count == 0 ? null : new(ids.Count(id => id.Surely), ids.Count, ids.Count == 1 ? before.FindAny(ids[0].Id)!.Name : null);

    /// <summary>Whether something is another than it was, has others values of its own in shots, or stands elsewhere.</summary>
    private static bool IsChanged(string id, SceneDraft before, SceneDraft after, Edit edit)
    {
        if (before.FindAny(id) is not { } was || after.FindAny(id) is not { } now)
        {
            return true;
        }

        if (was is not Node node || now is not Node here)
        {
            return !was.Equals(now);
        }

        // But for the rounding of what was led away and back.
        var (a, b) = (node.Placement, here.Placement);
        var near = a.Order == b.Order && a.Takes == b.Takes && a.Pivot == b.Pivot && a.PivotTurn == b.PivotTurn && (a.Position - b.Position).Length < 1e-9 * Math.Max(1, a.Position.Length) && (a.Rotation - b.Rotation).Length < 1e-9 * Math.Max(1, a.Rotation.Length) && (a.Scale - b.Scale).Length < 1e-9;
        // Where only the place counts, and where offsets are led into another order and back.
        var moved = edit is Move or Rotate or Scale;
        return (!moved && !here.Equals(node with { Placement = near ? b : a, Constraints = edit is SetOrder ? here.Constraints : node.Constraints })) || before.World(node).Distance(after.World(here)) > 1e-8 * Math.Max(1, before.World(node).Offset.Length);
    }
}
