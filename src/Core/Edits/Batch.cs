using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Several edits as one step: all of them or none.</summary>
public static class Batch
{
    public const int MostEdits = 10_000;

    /// <summary>What is said of edits that leave all as it is: they make no step.</summary>
    public const string NothingToChange = "Nothing to change: it is so already.";

    /// <summary>Runs edits on a draft over the scene and tells what they would change; the scene itself stays as it is.</summary>
    /// <param name="scope">The current shot, and whether they are made in it alone.</param>
    /// <exception cref="Refusal">One of the edits cannot be done.</exception>
    public static (Change Change, string Sentence) Run(IScene scene, IReadOnlyList<Edit> edits, Scope? scope = null)
    {
        var draft = Draft(scene, edits, scope ?? Scope.Every, out var sentence);
        return (draft.ToChange(), sentence);
    }

    /// <summary>The scene as edits would leave it, not yet kept.</summary>
    /// <exception cref="Refusal">One of the edits cannot be done.</exception>
    public static SceneDraft Draft(IScene scene, IReadOnlyList<Edit> edits, Scope? scope = null) => Draft(scene, edits, scope ?? Scope.Every, out _);

    /// <summary>The scene as edits would leave it, not yet kept, and what was done in words.</summary>
    /// <exception cref="Refusal">One of the edits cannot be done.</exception>
    public static SceneDraft Draft(IScene scene, IReadOnlyList<Edit> edits, Scope scope, out string sentence)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(edits);
        ArgumentNullException.ThrowIfNull(scope);
        if (edits.Count is 0 or > MostEdits)
        {
            throw edits.Count == 0
                ? new Refusal(Refusals.NotUnderstood, "There is no edit in this call.")
                : new Refusal(Refusals.TooLarge, $"At most {MostEdits} edits make one step; these are {edits.Count}. Send them in several steps.");
        }

        if (edits.Any(edit => edit is null))
        {
            throw new Refusal(Refusals.NotUnderstood, "One of the edits of this call is empty.");
        }

        var layer = Layered.Over(scene, scope);
        if (scope.Narrow && scope.Shot is not null)
        {
            edits = [.. edits.SelectMany(edit => edit.InShot(scope.Shot))];
        }

        var done = new SceneDraft(scene) { Bound = SceneDraft.MostWork };
        sentence = scope.Shot is null && !HasCheats(scene) ? Apply(done, edits, scene) : InLayers(done, edits, scope, layer);
        Worlds.Check(done);
        return done;
    }

    private static string Apply(SceneDraft draft, IReadOnlyList<Edit> edits, IScene scene)
    {
        foreach (var edit in edits)
        {
            edit.ApplyTo(draft);
            draft.KnownCentres.Clear();
        }

        // As it was before, and only of what can be done: what cannot may not even be said.
        var (said, besides) = DoneWords.OneShot(edits) is { } shot ? (shot.Say(new Speaker(scene)), "") : DoneWords.Of(edits, edits, scene, draft);
        StoredAnew.Keep(draft);
        return said + besides;
    }

    /// <summary>Edits on what the shot shows, and between them those of shots themselves, which the layer has to follow.</summary>
    private static string InLayers(SceneDraft done, IReadOnlyList<Edit> edits, Scope scope, IScene layer)
    {
        var shot = DoneWords.OneShot(edits);
        string? first = null;
        for (var at = 0; at < edits.Count;)
        {
            if (edits[at].IsOfShots)
            {
                edits[at].ApplyTo(done);
                if (first is null)
                {
                    var (changed, others) = DoneWords.Of([edits[at]], edits, layer, done);
                    first = changed + others;
                }

                at++;
                continue;
            }

            List<Edit> some = [.. edits.Skip(at).TakeWhile(edit => !edit.IsOfShots)];
            var over = Layered.Over(done, scope);
            var draft = Layered.Draft(scope, some, passed => new(over) { Bound = SceneDraft.MostWork - done.Work, LeftOut = passed });
            if (scope.Shot is not null)
            {
                Worlds.Check(draft);
            }

            done.Held.AddRange(draft.Held);
            var before = done.Written.Count();
            var made = scope.Narrow && draft.ToChange().Nodes is { Count: > 0 } nodes && nodes.All(n => n.Before is null);
            var (said, besides) = first is null ? DoneWords.Of(some, edits, layer, draft, scope.Narrow) : ("", "");
            Layered.Write(done, draft, scope);
            done.Spend(draft.Work);
            if (first is null)
            {
                first = ShotWords.Scoped(said, some[0], scope, layer, made, !scope.Narrow || before != done.Written.Count()) + besides;
            }

            at += some.Count;
        }

        Layered.Sweep(done);
        ShotChecks.Check(done.Below, done.ToChange());
        if (shot is not null)
        {
            return shot.Say(new Speaker(layer));
        }

        var staying = scope.Narrow || edits.All(edit => edit.IsOfShots) ? "" : string.Concat(StayingWords.Afterwards(done).Select(said => $"; {said}"));
        return first + staying;
    }

    private static bool HasCheats(IScene scene) => scene.Shots.Any(shot => scene.Children(Lists.OfCheats(shot)).Count > 0);
}
