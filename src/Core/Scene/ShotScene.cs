using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A scene as one of its shots has it: a layer that reads nodes and collections with the cheats of the shot in place. Edits, drafts, evaluation and
/// sight work on it as on the scene. What is not cheated is the scene's to the bit.
/// <code>
/// var shown = new ShotScene(scene, "dome");
/// shown.Find("globe")!.Placement;            // where it stands in that shot
/// var seen = shown.Through(change);          // a change of the scene, as the shot sees it
/// scene.Apply(change);
/// shown.Take(change);
/// </code>
/// </summary>
public sealed class ShotScene : IScene
{
    private readonly IScene _below;
    private readonly Dictionary<string, List<Cheat>> _cheats = [];
    private readonly Dictionary<string, (Cheatable Below, Cheatable Here)> _known = [];

    public ShotScene(IScene below, string shot)
    {
        ArgumentNullException.ThrowIfNull(below);
        (_below, Id) = (below, shot);
        foreach (var cheat in below.CheatsOf(shot))
        {
            Add(cheat);
        }
    }

    /// <summary>The id of the shot.</summary>
    public string Id { get; }

    public Shot? Shot => _below.FindShot(Id);

    public IScene Below => _below;

    public int Count => _below.Count;

    public string Unit => _below.Unit;

    public IGeometries Geometries => _below.Geometries;

    public IReadOnlyCollection<string> Constrained => _below.Constrained;

    /// <summary>The ids of all that has something of its own here.</summary>
    public IReadOnlyCollection<string> Cheated => _cheats.Keys;

    public IReadOnlyList<string> Children(string? parent) => _below.Children(parent);

    public IReadOnlyCollection<string> Referrers(string id) => _below.Referrers(id);

    public Node? Find(string id) => _cheats.ContainsKey(id) ? FindAny(id) as Node : _below.Find(id);

    public Entity? FindAny(string id)
    {
        var below = _below.FindAny(id);
        if (below is not Cheatable some || !_cheats.TryGetValue(id, out var cheats))
        {
            return below;
        }

        if (!_known.TryGetValue(id, out var known) || !ReferenceEquals(known.Below, some))
        {
            _known[id] = known = (some, With(some, cheats));
        }

        return known.Here;
    }

    /// <summary>What something has of its own here.</summary>
    public IReadOnlyList<Cheat> CheatsOn(string id) => _cheats.TryGetValue(id, out var cheats) ? cheats : [];

    /// <summary>A change of the scene as it is seen here, asked before either has taken it in. What was cheated and is written below it may come out unchanged.</summary>
    public Change Through(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        var (cheatable, others) = (new Dictionary<string, Cheatable?>(), new List<EntityChange>());
        var cheats = new Dictionary<string, List<Cheat>>();
        foreach (var one in change.All)
        {
            if ((one.After ?? one.Before) is Cheatable)
            {
                cheatable[one.Id] = (Cheatable?)one.After;
                continue;
            }

            others.Add(one);
            if ((one.Before ?? one.After) is Cheat mine && mine.Shot == Id)
            {
                var list = cheats.TryGetValue(mine.Of, out var known) ? known : cheats[mine.Of] = [.. CheatsOn(mine.Of)];
                list.RemoveAll(c => c.Id == one.Id);
                if (one.After is Cheat after)
                {
                    list.Add(after);
                }
            }
        }

        var seen = new List<EntityChange>();
        foreach (var id in cheatable.Keys.Union(cheats.Keys))
        {
            var (before, below) = (FindAny(id), cheatable.TryGetValue(id, out var written) ? written : _below.FindAny(id) as Cheatable);
            var after = below is null ? null : With(below, cheats.TryGetValue(id, out var list) ? list : CheatsOn(id));
            if (before is not null || after is not null)
            {
                seen.Add(new(id, before, after));
            }
        }

        return Change.Of(seen.Concat(others)) with { Made = change.Made };
    }

    /// <summary>Takes in what the scene has taken in.</summary>
    public void Take(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        foreach (var (id, before, after) in change.All)
        {
            if ((before ?? after) is Cheat mine && mine.Shot == Id)
            {
                Remove(mine);
                if (after is Cheat cheat)
                {
                    Add(cheat);
                }
            }
            else if (after is null)
            {
                _known.Remove(id);
            }
        }
    }

    private static Cheatable With(Cheatable some, IReadOnlyList<Cheat> cheats)
    {
        foreach (var cheat in cheats)
        {
            some = CheatChannel.Of(cheat.Channel)?.With(some, cheat.Value) ?? some;
        }

        return some;
    }

    private void Add(Cheat cheat)
    {
        (_cheats.TryGetValue(cheat.Of, out var all) ? all : _cheats[cheat.Of] = []).Add(cheat);
        _known.Remove(cheat.Of);
    }

    private void Remove(Cheat cheat)
    {
        _known.Remove(cheat.Of);
        if (_cheats.TryGetValue(cheat.Of, out var all) && all.RemoveAll(c => c.Id == cheat.Id) > 0 && all.Count == 0)
        {
            _cheats.Remove(cheat.Of);
        }
    }
}
