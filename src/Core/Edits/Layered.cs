using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Edits on the layer of a shot. They are computed on what the shot shows, in both scopes; the difference that they leave is written as cheats of the
/// shot, or to the scene. See model.md, Shots.
/// <code>
/// var draft = Layered.Draft(Layered.Over(scene, scope), edits, scope, SceneDraft.MostWork); // as the hand sees it
/// Layered.Write(done, draft, scope);                                                        // as it is stored
/// </code>
/// </summary>
public static class Layered
{
    /// <summary>What edits of a scope are computed on.</summary>
    /// <exception cref="Refusal">not-found: there is no such shot.</exception>
    public static IScene Over(IScene scene, Scope scope)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(scope);
        return scope.Shot is not { } shot ? scene
            : scene.FindShot(shot) is null ? throw NoSuchShot()
            : new ShotScene(scene, shot);
    }

    public static Refusal NoSuchShot() => new(Refusals.NotFound, "This shot is not in the scene any more. Choose another one.");

    /// <summary>
    /// A draft over what a scope shows, with edits made on it. In every shot, what is picked and has of its own here what would be written is passed over.
    /// </summary>
    /// <param name="fresh">Makes the draft; it is given what it passes over.</param>
    /// <exception cref="Refusal">cheated: all of it; every-shot-only: it cannot be in one shot only.</exception>
    public static SceneDraft Draft(Scope scope, IReadOnlyList<Edit> edits, Func<HashSet<string>, SceneDraft> fresh)
    {
        ArgumentNullException.ThrowIfNull(scope);
        ArgumentNullException.ThrowIfNull(edits);
        ArgumentNullException.ThrowIfNull(fresh);
        var passed = new HashSet<string>();
        for (var round = 0; ; round++)
        {
            var draft = fresh(passed);
            foreach (var edit in edits)
            {
                edit.ApplyTo(draft);
                if (edits.Count > 1)
                {
                    draft.KnownCentres.Clear();
                }
            }

            StoredAnew.Keep(draft);

            if (scope.Shot is null || scope.Narrow || draft.Below is not ShotScene layer)
            {
                return draft;
            }

            var cheating = Cheating(draft, layer).ToList();
            if (cheating.Count == 0)
            {
                return draft;
            }

            var picked = edits.SelectMany(e => e.Picked).ToHashSet();
            var before = passed.Count;
            passed.UnionWith(cheating.Select(c => c.Node));
            if (passed.Count == before || round > 8 || picked.All(passed.Contains) || !passed.All(picked.Contains))
            {
                throw Cheated(layer, cheating[0].Node, cheating[0].Channel);
            }
        }
    }

    /// <exception cref="Refusal">cheated.</exception>
    public static Refusal Cheated(IScene layer, string id, CheatChannel? channel = null)
    {
        ArgumentNullException.ThrowIfNull(layer);
        var what = channel is null || layer.Find(id) is not { } node ? "what this would change" : CheatWords.Of(channel, node, new(layer));
        return new(
            Refusals.Cheated,
            $"“{layer.FindAny(id)?.Name}” has {what} of its own in {layer.Shot?.Title}. Edit the cheat, take it back, or edit the scene's.");
    }

    /// <summary>The nodes that a draft has written on a channel that they have of their own here, unless they stand where they stood.</summary>
    private static IEnumerable<(string Node, CheatChannel Channel)> Cheating(SceneDraft draft, ShotScene layer)
    {
        SceneDraft? before = null;
        foreach (var (id, after) in draft.Written)
        {
            if (after is null || layer.CheatsOn(id) is not { Count: > 0 } cheats || layer.Find(id) is not { } was)
            {
                continue;
            }

            foreach (var cheat in cheats)
            {
                if (CheatChannel.Of(cheat.Channel) is { } channel && channel.Read(was) is { } from && channel.Read(after) is { } to && !from.IsAbout(to)
                    && !(channel.IsPlace && Promises.IsKept(before ??= new(layer), draft, was, after)))
                {
                    yield return (id, channel);
                    break;
                }
            }
        }
    }

    /// <summary>A change that was worked out on the scene, such as what comes of a file, as a scope writes it.</summary>
    /// <exception cref="Refusal">every-shot-only; not-found: there is no such shot.</exception>
    public static Change Written(IScene scene, Change change, Scope scope)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(scope);
        if (scope is not { Narrow: true, Shot: { } shot })
        {
            return change;
        }

        var done = new SceneDraft(scene);
        Narrow.Write(done, change, Over(scene, scope).Shot!.Id);
        return done.ToChange();
    }

    /// <summary>Writes what a draft over a scope has come to into a draft over the scene.</summary>
    /// <exception cref="Refusal">every-shot-only.</exception>
    public static void Write(SceneDraft done, SceneDraft draft, Scope scope)
    {
        ArgumentNullException.ThrowIfNull(done);
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(scope);
        var change = draft.ToChange();
        if (scope is { Shot: { } shot, Narrow: true })
        {
            Narrow.Write(done, change, shot);
            return;
        }

        var promises = Promises.Of(done, draft, change, scope);
        var (layer, heirs) = (draft.Below as ShotScene, Inheriting.Of(done, draft));
        done.Take(layer is null ? change : Below(done, layer, change));
        Inheriting.HandOn(done, layer, heirs);
        promises?.Keep(done);
    }

    /// <summary>A change of what a shot shows, written to the scene: what it has of its own stays as the scene has it.</summary>
    internal static Change Below(SceneDraft done, ShotScene layer, Change change) => Change.Of(change.All.Select(one =>
    {
        if (one.After is not Cheatable after || one.Before is null || done.FindAny(one.Id) is not Cheatable present)
        {
            return one;
        }

        foreach (var cheat in layer.CheatsOn(one.Id))
        {
            var channel = CheatChannel.Of(cheat.Channel);
            after = channel?.Read(present) is { } value && channel.Outlasts(present, after) ? channel.With(after, value) : after;
        }

        return one with { Before = present, After = after };
    })) with
    { Made = change.Made };

    /// <summary>
    /// Takes off what is of something that is no more: the weight of a constraint that was taken off, the lens of what is no camera any more.
    /// What this very step gave a shot is of what is there now.
    /// </summary>
    internal static void Sweep(SceneDraft done)
    {
        foreach (var (id, node) in done.Written.ToList())
        {
            if (node is null || done.Below.Find(id) is not { } before || (before.Constraints == node.Constraints && before.Camera is null == node.Camera is null && before.Light is null == node.Light is null))
            {
                continue;
            }

            foreach (var cheat in done.CheatsOn(id).ToList())
            {
                var channel = CheatChannel.Of(cheat.Channel);
                if (channel?.Read(node) is null || (!channel.Outlasts(before, node) && cheat.Equals(done.Below.FindAny(cheat.Id))))
                {
                    done.Remove(cheat);
                }
            }
        }
    }
}
