using System.Collections.Immutable;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.History;

/// <summary>
/// The latest steps of a scene, by person. Undo takes back the caller's own latest standing step, field by field; it is refused
/// when a later standing step wrote one of the same fields. A new edit drops the caller's own redo only. Steps that are older
/// than those here can be put before them when they are needed.
/// <code>
/// var step = history.ToUndo("ada", id => scene.FindAny(id)!.Name);
/// scene.Apply(history.Undoing(scene, step, number => changes[number]));
/// history.Mark(step.Number, undone: true);
/// </code>
/// </summary>
public sealed class SceneHistory
{
    /// <summary>An undo works on a copy until it is stored: of this list a copy costs nothing.</summary>
    private ImmutableList<Step> _steps;

    /// <summary>How many steps can be done again: most often none, so that nobody has to look for them at each edit.</summary>
    private int _redoable;

    /// <param name="older">There are steps before these.</param>
    public SceneHistory(IEnumerable<Step> steps, bool older = false)
    {
        ArgumentNullException.ThrowIfNull(steps);
        _steps = [.. steps.OrderBy(s => s.Number)];
        Older = older;
        Count();
    }

    public SceneHistory(SceneHistory other)
    {
        ArgumentNullException.ThrowIfNull(other);
        (_steps, Older, _redoable) = (other._steps, other.Older, other._redoable);
    }

    public IReadOnlyList<Step> Steps => _steps;

    /// <summary>Whether there are steps before these.</summary>
    public bool Older { get; private set; }

    /// <summary>The number of the first step here; of a scene without any that of its first.</summary>
    public long From => _steps.IsEmpty ? 1 : _steps[0].Number;

    public long NextNumber => _steps.IsEmpty ? 1 : _steps[^1].Number + 1;

    public void Add(Step step)
    {
        ArgumentNullException.ThrowIfNull(step);
        if (CanRedo(step.By))
        {
            _steps = _steps.ConvertAll(one => one.By == step.By && one.Undone ? one with { Dropped = true } : one);
            Count();
        }

        _steps = _steps.Add(step);
    }

    /// <summary>Whether a person has steps here to do again.</summary>
    public bool CanRedo(string by) => _redoable > 0 && _steps.Exists(s => s.By == by && s.Undone && !s.Dropped);

    /// <summary>Puts older steps before those here.</summary>
    /// <param name="older">There are steps before these still.</param>
    public void Reach(IEnumerable<Step> steps, bool older)
    {
        _steps = _steps.InsertRange(0, steps.Where(s => _steps.IsEmpty || s.Number < From).OrderBy(s => s.Number));
        Older = older;
        Count();
    }

    /// <summary>Keeps so many of the latest steps once there are twice as many.</summary>
    public void Keep(int most)
    {
        if (_steps.Count >= 2 * most)
        {
            _steps = _steps.RemoveRange(0, _steps.Count - most);
            Older = true;
            Count();
        }
    }

    /// <summary>The step that an undo of this person takes back.</summary>
    /// <param name="nameOf">What is called how; nothing for what is gone.</param>
    /// <exception cref="Refusal">nothing-to-undo, changed-meanwhile.</exception>
    public Step ToUndo(string by, Func<string, string> nameOf)
    {
        var at = _steps.FindLastIndex(s => s.By == by && s.Standing);
        if (at < 0)
        {
            throw new Refusal(Refusals.NothingToUndo, "There is no step of yours left to undo.");
        }

        CheckFree(_steps[at], _steps.GetRange(at + 1, _steps.Count - at - 1), nameOf, "undone");
        return _steps[at];
    }

    /// <summary>The step that a redo of this person does again: the earliest of those undone last.</summary>
    /// <param name="nameOf">What is called how; nothing for what is gone.</param>
    /// <exception cref="Refusal">nothing-to-undo, changed-meanwhile.</exception>
    public Step ToRedo(string by, Func<string, string> nameOf)
    {
        var at = _steps.FindIndex(s => s.By == by && s.Undone && !s.Dropped);
        if (at < 0)
        {
            throw new Refusal(Refusals.NothingToUndo, "There is no step of yours to do again.");
        }

        CheckFree(_steps[at], _steps.GetRange(at + 1, _steps.Count - at - 1), nameOf, "done again");
        return _steps[at];
    }

    public void Mark(long number, bool undone)
    {
        var at = IndexOf(number);
        _steps = _steps.SetItem(at, _steps[at] with { Undone = undone, Wavered = _steps[at].Wavered || undone });
        Count();
    }

    /// <summary>The earlier steps that have to be asked for what a step's undo restores; most often none.</summary>
    public IReadOnlyList<Earlier> EarlierThan(Step step)
    {
        ArgumentNullException.ThrowIfNull(step);
        return Earlier.Of(step, _steps.TakeWhile(s => s.Number < step.Number));
    }

    /// <summary>The change that takes a step back in the scene as it stands: what holds without the step comes back.</summary>
    /// <param name="changeOf">What steps did: this one, and those that <see cref="EarlierThan"/> names.</param>
    /// <exception cref="Refusal">changed-meanwhile.</exception>
    public Change Undoing(IScene scene, Step step, Func<long, Change> changeOf)
    {
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(changeOf);
        return Staying(scene, step, Restoring(scene, Earlier.Corrected(changeOf(step.Number), EarlierThan(step), changeOf).Reversed(), step));
    }

    /// <summary>The change that does a step again in the scene as it stands.</summary>
    /// <param name="change">What the step did.</param>
    /// <exception cref="Refusal">changed-meanwhile.</exception>
    public Change Redoing(IScene scene, Step step, Change change)
    {
        ArgumentNullException.ThrowIfNull(step);
        return Staying(scene, step, Restoring(scene, change, step));
    }

    /// <summary>Names a step, where it is one of those here.</summary>
    public void Name(long number, string? name)
    {
        if (Find(number) is not { } at)
        {
            return;
        }

        _steps = _steps.SetItem(at, _steps[at] with { Name = name });
    }

    /// <summary>
    /// The change that takes a step back (or does it again) in the scene as it stands: the written fields get their former
    /// values, all others keep their present ones.
    /// </summary>
    /// <param name="change">What the step did; reversed for an undo.</param>
    /// <param name="step">By whose sentence a refusal names it.</param>
    public static Change Restoring(IScene scene, Change change, Step? step = null)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(change);
        var restored = new List<EntityChange>();
        foreach (var (id, from, to) in change.All)
        {
            var present = scene.FindAny(id);
            if (from is null && to is not null && present is not null)
            {
                // Somebody else's step may have made the very same while this one was undone.
                throw new Refusal(
                    Refusals.ChangedMeanwhile,
                    $"{NameOf(scene, to)} is in the scene again already, so {This(step)} cannot be taken back or done again.");
            }

            if (to is null && present is null)
            {
                // It went with what it was of, and did not come back without that.
                continue;
            }

            if (to is null || from is null)
            {
                restored.Add(new(id, present, to));
                continue;
            }

            if (present is null)
            {
                throw new Refusal(
                    Refusals.ChangedMeanwhile,
                    $"What {This(step)} changed is not in the scene any more, so it cannot be taken back or done again.");
            }

            restored.Add(new(id, present, present.Fields.Taking(present, to.Fields.Written(from, to), to)));
        }

        CheckWhole(scene, restored);
        return Change.Of(Belonging(scene, restored));
    }

    /// <summary>What stays where it is in the scene is not to jump in a shot that has been given something of its own since.</summary>
    private Change Staying(IScene scene, Step step, Change change)
    {
        if (scene.Shots.Count == 0)
        {
            return change;
        }

        // An earlier one of somebody else may have been taken back since, or even done again; one's own come and go in their order.
        var since = _steps.Where(s => s.Number > step.Number ? s.Standing : s.By != step.By && s.Wavered).SelectMany(s => s.Writes).Select(w => w.Node).ToHashSet();
        return Edits.Promises.FirstBroken(scene, change, since) is var (shot, moved)
            ? throw new Refusal(
                Refusals.ChangedMeanwhile,
                $"“{moved.Name}” has been given a place of its own in {shot.Title} since, where this would move it. Take that back there first.")
            : change;
    }

    private static string NameOf(IScene scene, Entity some) => some switch
    {
        Shot shot => $"“{shot.Title}”",
        Cheat cheat => $"What {scene.FindAny(cheat.Of)?.Name ?? "an object"} has of its own in {Shot.TitleOf(scene, cheat.Shot)}",
        Timing => "The count of frames",
        Surroundings => "What lights the scene from all sides",
        _ => $"“{some.Name}”",
    };

    private static string This(Step? step) => step is null ? "this step" : $"“{step.Sentence}”";

    /// <summary>Without what goes by something that is gone by now: memberships, constraints, cheats.</summary>
    private static List<EntityChange> Belonging(IScene scene, List<EntityChange> restored)
    {
        var after = restored.ToDictionary(r => r.Id, r => r.After);
        bool IsThere(string id) => after.TryGetValue(id, out var entity) ? entity is not null : scene.FindAny(id) is not null;
        restored.RemoveAll(r => r.After is Cheat cheat && !cheat.Names().All(IsThere));
        return restored.ConvertAll(r => r.After switch
        {
            Node node when !(node.Collections.All(IsThere) && node.Constraints.All(c => c.Names.All(IsThere)) && NodeReferences.Materials.Of(node).All(IsThere)) =>
                r with { After = NodeReferences.Led(node, (to, id) => to != NodeReferences.Parent && to != NodeReferences.Shares && !IsThere(id) ? null : id) },
            Collection { Rule.Materials: not null } collection => r with { After = CollectionFields.OfMaterials.Led(collection, id => IsThere(id) ? id : null) },
            _ => r,
        });
    }

    private static void CheckWhole(IScene scene, List<EntityChange> restored)
    {
        var after = restored.ToDictionary(r => r.Id, r => r.After);
        Entity? Last(string id) => after.TryGetValue(id, out var entity) ? entity : scene.FindAny(id);
        Arranged? Later(string id) => Last(id) as Arranged;
        foreach (var (id, before, entity) in restored)
        {
            var node = entity as Arranged;
            if (entity is null && scene.Children(id).FirstOrDefault(child => Later(child)?.Parent == id) is { } child)
            {
                throw new Refusal(
                    Refusals.ChangedMeanwhile,
                    $"“{scene.FindAny(child)!.Name}” has been put under “{before!.Name}” since, which this would remove. Take it out first.");
            }

            if (entity is null && scene.Referrers(id).Select(Last).OfType<Entity>().FirstOrDefault(e => Keeps(e, id)) is { } naming)
            {
                throw new Refusal(Refusals.ChangedMeanwhile, naming switch
                {
                    Node { Kind: NodeKind.Mark } mark when mark.Parent == id => $"The mark “{naming.Name}” follows “{before!.Name}” since, which this would remove. Pin the mark first.",
                    Node tied when tied.Constraints.FirstOrDefault(c => c.Names.Contains(id)) is { } link => $"“{naming.Name}” {link.Verb} “{before!.Name}” since, which this would remove. Take that off first.",
                    Cheat cheat when cheat.Shot == id => $"The shot {((Shot)before!).Title} has something of its own since, which this would remove. Take that back first.",
                    Cheat cheat when before is Material => $"“{scene.FindAny(cheat.Of)?.Name}” is made of “{before.Name}” in {Shot.TitleOf(scene, cheat.Shot)} since, which this would remove. Take that back first.",
                    Cheat cheat => $"“{before!.Name}” has something of its own in {Shot.TitleOf(scene, cheat.Shot)} since, which this would remove. Take that back first.",
                    Node when before is Material => $"“{naming.Name}” is made of “{before.Name}” since, which this would remove. Give it another material first.",
                    Node when before is Collection => $"“{naming.Name}” has joined the collection “{before.Name}” since, which this would remove. Take it out first.",
                    _ => $"“{naming.Name}” goes by “{before!.Name}” since, which this would remove. Let it go by something else first.",
                });
            }

            var steps = 0;
            for (var parent = node?.Parent; parent is not null; parent = Later(parent)!.Parent)
            {
                if (Later(parent) is null || parent == id || steps++ > SceneDocument.MostDepth)
                {
                    throw new Refusal(
                        Refusals.ChangedMeanwhile,
                        $"What carried “{node!.Name}” has changed since, so this step cannot be taken back or done again by itself.");
                }
            }
        }
    }

    /// <summary>Whether something would be left naming what is gone; a rule may, and says so.</summary>
    private static bool Keeps(Entity entity, string id) =>
        entity is Node { Kind: NodeKind.Mark } mark && mark.Parent == id || entity.Without(other => other == id)?.Equals(entity) != true;

    private static void CheckFree(Step step, IEnumerable<Step> later, Func<string, string> nameOf, string done)
    {
        var writes = step.Writes.ToDictionary(w => w.Node, w => w.Fields);
        foreach (var other in later.Where(s => s.Standing))
        {
            foreach (var (node, fields) in other.Writes)
            {
                if (writes.TryGetValue(node, out var mine)
                    && ((mine & fields) != 0 || ((mine | fields) & Parts.Existence) != 0))
                {
                    // What is gone has no name any more but in what took it away.
                    var what = nameOf(node) is { Length: > 0 } name ? $"“{name}”" : "what it is about";
                    throw new Refusal(
                        Refusals.ChangedMeanwhile,
                        $"“{step.Sentence}” cannot be {done}: {what} was changed later by “{other.Sentence}”. Undo that first, if it is yours.");
                }
            }
        }
    }

    private void Count() => _redoable = _steps.Count(s => s.Undone && !s.Dropped);

    private int IndexOf(long number) => Find(number) ?? throw NoSuchStep();

    /// <summary>Numbers go up, but not always one by one: a former version may have left some out.</summary>
    private int? Find(long number)
    {
        var (low, high) = (0, _steps.Count - 1);
        while (low <= high)
        {
            var middle = (low + high) / 2;
            var there = _steps[middle].Number;
            if (there == number)
            {
                return middle;
            }

            (low, high) = there < number ? (middle + 1, high) : (low, middle - 1);
        }

        return null;
    }

    public static Refusal NoSuchStep() => new(Refusals.NotFound, "There is no such step in this scene.");
}
