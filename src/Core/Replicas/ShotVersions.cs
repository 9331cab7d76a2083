using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Replicas;

/// <summary>Counts, shot by shot, what may have changed its picture: by that a page knows which pictures are older than what they show.</summary>
public sealed class ShotVersions
{
    /// <summary>What no picture shows.</summary>
    private const Parts Unseen = Parts.Name | Parts.Label;

    /// <summary>Nor is where a material stands in its list.</summary>
    private const Parts UnseenOfMaterials = Unseen | Parts.Seat;

    private readonly Dictionary<string, int> _own = [];
    private int _all;

    /// <summary>How often the picture of a shot may have changed.</summary>
    public int Of(string shot) => _all + _own.GetValueOrDefault(shot);

    public void Follow(Change change)
    {
        ArgumentNullException.ThrowIfNull(change);
        foreach (var one in change.All)
        {
            switch (one.After ?? one.Before)
            {
                case Cheat cheat:
                    Count(cheat.Shot.Length > 0 ? cheat.Shot : ((Cheat)(one.Before ?? one.After)!).Shot);
                    break;
                case Shot shot when (one.Written() & (Parts.Lens | Parts.Existence)) != 0:
                    Count(shot.Id);
                    break;
                case Cheatable or Material when IsShown(one):
                    _all++;
                    return;
            }
        }
    }

    /// <summary>Locks, and what is seen while arranging, are in no picture.</summary>
    private static bool IsShown(EntityChange change)
    {
        var parts = change.Written() & ~((change.After ?? change.Before) is Material ? UnseenOfMaterials : Unseen);
        return parts != Parts.None
            && !(parts == Parts.Switches && change is { Before: Arranged was, After: Arranged now } && was.Switches.Final == now.Switches.Final && was.Switches.Drawn == now.Switches.Drawn);
    }

    private void Count(string shot) => _own[shot] = _own.GetValueOrDefault(shot) + 1;
}
