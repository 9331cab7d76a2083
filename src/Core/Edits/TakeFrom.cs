using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Gives a shot what another has: of all that is not the same in both, or of some of it. What the other has of the scene, the shot then has of
/// the scene, too. Nothing else changes, and the other stays as it is.
/// <code>
/// new TakeFrom("dome", "lens")                                         // as "lens" in everything
/// new TakeFrom("dome", null, Of: ["globe"], Channels: ["rotation"])    // as the scene in this
/// </code>
/// </summary>
/// <param name="From">The other shot; null: the scene.</param>
/// <param name="Of">Nodes and collections; null: all, with camera and length.</param>
/// <param name="Channels">Null: all, and whether they are seen.</param>
/// <param name="Camera">With some nodes named: the camera as well.</param>
/// <param name="Frames">With some nodes named: the length as well.</param>
public sealed record TakeFrom(
    string Shot, string? From = null, IReadOnlyList<string>? Of = null, IReadOnlyList<string>? Channels = null, bool Camera = false, bool Frames = false) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => Of ?? [];

    public override void ApplyTo(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        draft.Spend(draft.Children(Lists.OfCheats(Shot)).Count + (From is null ? 0 : draft.Children(Lists.OfCheats(From)).Count));
        var diff = ShotDiff.Of(draft, Shot, From);
        var some = Of?.ToHashSet();
        var taken = diff.Cheats.Select(c => (c.Node, c.Channel)).Concat(diff.Seen.Select(s => (Node: s.Id, Channel: CheatChannel.Seen)))
            .Where(c => (some is null || some.Contains(c.Node)) && (Channels is null || Channels.Any(name => Cheats.Fits(c.Channel, name)))).ToList();
        foreach (var id in taken.Where(c => c.Channel != CheatChannel.Seen).Select(c => c.Node).Distinct())
        {
            Targets.CheckUnlocked(draft, draft.GetCheatable(id));
        }

        foreach (var (id, channel) in taken)
        {
            if (From is not null && draft.FindAny(Cheat.IdOf(From, id, channel)) is Cheat theirs)
            {
                Narrow.Put(draft, Shot, id, channel, theirs.Value);
            }
            else if (draft.FindAny(Cheat.IdOf(Shot, id, channel)) is { } own)
            {
                draft.Remove(own);
            }
        }

        var shot = draft.FindShot(Shot)!;
        var after = shot with
        {
            Camera = diff.Camera is not null && (Camera || Of is null) ? diff.Camera.B : shot.Camera,
            Frames = diff.Frames is not null && (Frames || Of is null) ? diff.Frames.B : shot.Frames,
        };
        if (taken.Count == 0 && after == shot)
        {
            throw new Refusal(Refusals.NotUnderstood, $"There is nothing to take: {shot.Title} has this as {Other(draft)} has it.");
        }

        if (after != shot)
        {
            draft.Put(after);
        }
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var (title, other) = (Scene.Shot.TitleOf(say.Scene, Shot), Other(say.Scene));
        List<string> parts = [];
        if (Of is { Count: > 0 })
        {
            parts.Add(say.Names(Of));
        }

        parts.AddRange(new[] { Of is not null && Camera ? "its camera" : null, Of is not null && Frames ? "its length" : null }.OfType<string>());
        return Of is null ? $"Gave {title} all that {other} has" : $"Gave {title} what {other} has of {(parts.Count == 0 ? "nothing" : string.Join(" and ", parts))}";
    }

    private string Other(IScene scene) => From is null ? "the scene" : Scene.Shot.TitleOf(scene, From);
}
