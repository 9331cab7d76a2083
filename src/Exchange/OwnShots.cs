using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange;

/// <summary>Shots, what they have of their own, and what time is counted by, in the extras of glTF's scene.</summary>
internal static class OwnShots
{
    public static void Write(IScene scene, JsonObject own)
    {
        if (scene.Shots.Count == 0 && scene.FindAny(Timing.Single) is null && scene.FindAny(Surroundings.Single) is null)
        {
            return;
        }

        JsonArray All(IEnumerable<Entity> all) => new([.. all.Select(e => OwnForm.Write(new EntityData(e)))]);
        own["timing"] = OwnForm.Write(new EntityData(scene.Timing));
        if (scene.FindAny(Surroundings.Single) is Surroundings surroundings)
        {
            own["surroundings"] = OwnForm.Write(new EntityData(surroundings.WithoutPicture()));
        }

        own["shots"] = All(scene.AllShots());
        own["cheats"] = All(scene.Shots.SelectMany(scene.CheatsOf).Select(Portable));
    }

    /// <summary>Pictures of surroundings are none of the standard's images, and stay at home.</summary>
    private static Cheat Portable(Cheat cheat) =>
        cheat.Channel == CheatChannel.OfSurroundings && Surroundings.Of(cheat) is { } own ? cheat with { Value = own.WithoutPicture().ToValue() } : cheat;

    /// <summary>What was written, with fresh ids; what is damaged or fits nothing is left out, and said.</summary>
    /// <param name="ids">Leads from the ids in the file to those in here.</param>
    /// <param name="arranged">Nodes and collections as they were read.</param>
    public static List<Entity> Read(JsonObject own, Dictionary<string, string> ids, IEnumerable<Arranged> arranged, ISet<string> notes)
    {
        var found = new List<Entity>();
        if (OwnForm.Checked<EntityData>(own["timing"], Sound)?.Entity is Timing timing)
        {
            found.Add(timing);
        }

        var there = arranged.ToDictionary<Cheatable, string>(a => a.Id);
        if (OwnForm.Checked<EntityData>(own["surroundings"], Sound)?.Entity is Surroundings around)
        {
            found.Add(around);
            there[around.Id] = around;
            ids[around.Id] = around.Id;
        }

        var shots = new Dictionary<string, string>();
        foreach (var item in (own["shots"] as JsonArray ?? []).Take(Shot.Most))
        {
            if (OwnForm.Checked<EntityData>(item, Sound)?.Entity is not Shot shot || !double.IsFinite(shot.Rank) || shots.ContainsKey(shot.Id))
            {
                notes.Add("Damaged shots were left out.");
                continue;
            }

            var camera = shot.Camera is { } id && ids.TryGetValue(id, out var known) && there.GetValueOrDefault(known) is Node { Camera: not null } ? known : null;
            found.Add(shot with { Id = shots[shot.Id] = OwnScene.Fresh(), Camera = camera });
        }

        found.AddRange(Cheats(own, ids, there, shots, notes));
        return found;
    }

    private static IEnumerable<Cheat> Cheats(
        JsonObject own, Dictionary<string, string> ids, Dictionary<string, Cheatable> there, Dictionary<string, string> shots, ISet<string> notes)
    {
        CheatValue? Led(Cheat cheat) => cheat.Given is not { } given ? cheat.Value : ids.TryGetValue(given, out var known) ? CheatValue.Of(known) : null;
        var kept = new Dictionary<(string Shot, string Of), (Cheatable Here, Dictionary<string, Cheat> Cheats)>();
        foreach (var item in own["cheats"] as JsonArray ?? [])
        {
            if (OwnForm.Read<EntityData>(item)?.Entity is not Cheat cheat || !shots.TryGetValue(cheat.Shot, out var shot) || !ids.TryGetValue(cheat.Of, out var of)
                || there.GetValueOrDefault(of) is not { } some || CheatChannel.Of(cheat.Channel) is not { } channel || Led(cheat) is not { } value || !channel.Takes(some, value))
            {
                notes.Add("What shots had of their own of things that are not in the file, or that was damaged, was left out.");
                continue;
            }

            if (!kept.TryGetValue((shot, of), out var mine))
            {
                mine = (some, []);
            }

            mine.Cheats[channel.Name] = Cheat.Made(shot, of, channel.Name, value);
            kept[(shot, of)] = (channel.With(mine.Here, value), mine.Cheats);
        }

        foreach (var (key, (here, cheats)) in kept)
        {
            if (Fits(here, there[key.Of]))
            {
                foreach (var cheat in cheats.Values)
                {
                    yield return cheat;
                }
            }
            else
            {
                notes.Add("What shots had of their own of things that are not in the file, or that was damaged, was left out.");
            }
        }
    }

    /// <summary>Whether the values fit together, with what is not cheated.</summary>
    private static bool Fits(Cheatable here, Cheatable there)
    {
        try
        {
            if (here is Node node)
            {
                node.Placement.Check(node.Name, ((Node)there).Placement);
                node.Camera?.Checked(node.Name);
                node.Light?.Checked(node.Name);
                return node.Constraints.All(c => c.Weight is >= 0 and <= 1);
            }

            (here as Surroundings)?.Checked();
            return true;
        }
        catch (Refusal)
        {
            return false;
        }
    }

    private static EntityData Sound(EntityData data)
    {
        switch (data.Entity)
        {
            case Shot shot:
                SetShot.CheckNumbers(shot);
                break;
            case Timing timing:
                timing.Checked();
                break;
            case Surroundings surroundings:
                surroundings.Checked();
                break;
            default:
                throw new Refusal(Refusals.BrokenFile, "This is neither a shot nor what time is counted by.");
        }

        return data;
    }
}
