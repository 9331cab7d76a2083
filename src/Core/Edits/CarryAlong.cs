using System.Collections.Immutable;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>A value of a shot, and what is added to its numbers.</summary>
public sealed record Carried(string Shot, string Of, string Channel, IReadOnlyList<double> By);

/// <summary>
/// Carries values that shots have of their own along with the scene's: the same difference is added there.
/// <code>
/// var carry = CarryAlong.Offered(scene, change, scope); // after an edit in every shot; null: no shot keeps its own
/// </code>
/// </summary>
public sealed record CarryAlong(IReadOnlyList<Carried> Of) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => [.. Of.Select(c => c.Of).Distinct()];

    /// <summary>The shots that keep their own.</summary>
    private IEnumerable<string> Shots => Of.Select(c => c.Shot).Distinct();

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        Targets.CheckPicked(Picked);
        foreach (var (shot, of, name, by) in Of)
        {
            var cheat = draft.FindAny(Cheat.IdOf(shot, of, name)) as Cheat
                ?? throw new Refusal(Refusals.NotUnderstood, $"“{draft.FindAny(of)?.Name}” has this no more of its own in {Shot.TitleOf(draft, shot)}.");
            Targets.CheckUnlocked(draft, draft.GetCheatable(of));
            if (by.Count != cheat.Value.Numbers.Length || !by.All(double.IsFinite))
            {
                throw new Refusal(Refusals.NotUnderstood, $"This takes {cheat.Value.Numbers.Length} finite numbers.");
            }

            var carried = cheat.Value with { Numbers = [.. cheat.Value.Numbers.Zip(by, (value, more) => value + more)] };
            if (CheatChannel.Of(name) is not { IsAmount: true } channel || !channel.Takes(draft.GetCheatable(of), carried))
            {
                throw new Refusal(Refusals.NotUnderstood, $"“{draft.GetCheatable(of).Name}” cannot be carried along in {Shot.TitleOf(draft, shot)}: what would come out is no value of this.");
            }

            draft.Put(cheat with { Value = carried });
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return $"Carried {say.Names(Picked)} along in {InWords(say.Scene)}";
    }

    /// <summary>"03 Dome and 05 Dusk".</summary>
    public string InWords(IScene scene)
    {
        var titles = Shots.Select(id => Shot.TitleOf(scene, id)).ToList();
        return titles.Count > 3 ? $"{titles.Count} shots" : string.Join(" and ", new[] { string.Join(", ", titles.SkipLast(1)), titles[^1] }.Where(t => t.Length > 0));
    }

    /// <summary>What would carry along the shots that keep their own after an edit in every shot; null: none does.</summary>
    /// <param name="scene">As it was before or after it: their own values are the same.</param>
    public static CarryAlong? Offered(IScene scene, Change change, Scope scope)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(change);
        ArgumentNullException.ThrowIfNull(scope);
        if (scope.Narrow || scene.Shots.Count == 0)
        {
            return null;
        }

        var (carried, anew) = (new List<Carried>(), change.Entities.Select(e => e.Id).ToHashSet());
        foreach (var (id, before, after) in change.Nodes)
        {
            if (before is null || after is null)
            {
                continue;
            }

            foreach (var cheat in scene.CheatsOn(id).Where(c => c.Shot != scope.Shot && !anew.Contains(c.Id)).OrderBy(c => c.Id, StringComparer.Ordinal))
            {
                if (CheatChannel.Of(cheat.Channel) is { IsAmount: true } channel && channel.Read(before) is { } from && channel.Read(after) is { } to
                    && !from.IsAbout(to) && from.Word == to.Word && cheat.Value.Word == to.Word && from.Numbers.Length == cheat.Value.Numbers.Length && !to.Numbers.IsEmpty)
                {
                    carried.Add(new(cheat.Shot, id, cheat.Channel, [.. to.Numbers.Zip(from.Numbers, (now, was) => now - was)]));
                }
            }
        }

        return carried.Count is 0 or > Batch.MostEdits ? null : new(carried);
    }
}
