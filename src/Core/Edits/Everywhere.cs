using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What other shots do when the value of one becomes that of the scene.</summary>
[JsonConverter(typeof(CamelCase<OtherShots>))]
public enum OtherShots
{
    /// <summary>They take it, unless they have of their own.</summary>
    Follow,

    /// <summary>They keep what they showed, by values of their own.</summary>
    Keep,
}

/// <summary>Makes what a shot has of its own the scene's: the scene takes the values, and the shot follows it again.</summary>
/// <param name="Nodes">Null: all that the shot has of its own.</param>
/// <param name="Channels">Null: all but whether they are seen.</param>
public sealed record Everywhere(string Shot, IReadOnlyList<string>? Nodes = null, IReadOnlyList<string>? Channels = null, OtherShots Others = OtherShots.Follow) : Edit
{
    public override bool IsOfShots => true;

    public override IReadOnlyList<string> Picked => Nodes ?? [];

    public override void ApplyTo(SceneDraft draft)
    {
        var befores = new Dictionary<string, Cheatable>();
        foreach (var cheat in Cheats.Of(draft, Shot, Nodes, Channels))
        {
            draft.Remove(cheat);
            var present = draft.GetCheatable(cheat.Of);
            if (CheatChannel.Of(cheat.Channel) is not { } channel || channel.Read(present) is not { } before)
            {
                continue;
            }

            befores.TryAdd(cheat.Of, present);
            draft.Put(channel.With(present, cheat.Value));
            if (Others == OtherShots.Keep && !before.Equals(cheat.Value))
            {
                draft.Spend(draft.Shots.Count);
                foreach (var other in draft.Shots.Where(id => id != Shot && draft.FindAny(Cheat.IdOf(id, cheat.Of, cheat.Channel)) is null).ToList())
                {
                    Narrow.Put(draft, other, cheat.Of, cheat.Channel, before);
                }
            }
        }

        foreach (var (id, before) in befores)
        {
            Check(draft.GetCheatable(id), before);
        }
    }

    /// <summary>What fits together in the shot need not with what the scene has of the rest.</summary>
    private static void Check(Cheatable then, Cheatable before)
    {
        if (then is Node node)
        {
            node.Placement.Check(node.Name, ((Node)before).Placement);
            node.Camera?.Checked(node.Name);
            node.Light?.Checked(node.Name);
        }

        (then as Surroundings)?.Checked();
    }

    public override string Say(Speaker say)
    {
        ArgumentNullException.ThrowIfNull(say);
        var (title, keep) = (Scene.Shot.TitleOf(say.Scene, Shot), Others == OtherShots.Keep);
        var what = Nodes is null ? $"all that {title} had of its own" : $"what {say.Names(Nodes)} had of {say.Their(Nodes)} own in {title}";
        return $"Made {what} so in every shot{(keep ? "; the other shots keep what they showed" : "")}";
    }
}
