using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>Values of shots that go on with what is made of the things that had them.</summary>
internal static class Inheriting
{
    /// <summary>Hands on what a draft over a layer left to others, once that is written to the scene.</summary>
    /// <param name="own">What the former had of their own, and how they were in the scene, before it was written.</param>
    public static void HandOn(SceneDraft done, ShotScene? layer, IEnumerable<(Heir Heir, List<Cheat> Cheats, Node? Was)> own)
    {
        foreach (var (heir, cheats, was) in own)
        {
            done.Spend(cheats.Count);
            foreach (var cheat in cheats)
            {
                if (heir.Led(cheat.Channel) is not { } name || CheatChannel.Of(name) is not { } channel || done.Find(heir.To) is not { } to)
                {
                    continue;
                }

                // It was made of what the shot shows; the scene has what it had.
                if (cheat.Shot == layer?.Id && was is not null && CheatChannel.Of(cheat.Channel)?.Read(was) is { } value)
                {
                    done.Put(to = (Node)channel.With(to, value));
                }

                if (channel.Read(to) is not null)
                {
                    Narrow.Put(done, cheat.Shot, heir.To, name, cheat.Value);
                }
            }
        }
    }

    /// <summary>The heirs of a draft with what they are to have.</summary>
    public static List<(Heir Heir, List<Cheat> Cheats, Node? Was)> Of(SceneDraft done, SceneDraft draft) =>
        [.. draft.Heirs.Select(heir => (heir, done.CheatsOn(heir.From).ToList(), done.Find(heir.From)))];
}
