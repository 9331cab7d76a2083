using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>A layer that an edit of every shot is not computed on: the scene itself, or another shot.</summary>
/// <param name="Shot">Null: the scene.</param>
/// <param name="Before">As it was.</param>
/// <param name="After">As what was written in the worked layer leaves it.</param>
/// <param name="Following">The shots that are as the scene is in this.</param>
internal sealed record OtherLayer(Shot? Shot, IScene Before, SceneDraft After, IReadOnlyList<Shot> Following)
{
    /// <summary>"the scene", and the shots that are as it is; or the shot.</summary>
    public IEnumerable<string> Titles => [Shot?.Title ?? "the scene", .. Following.Select(shot => shot.Title)];

    /// <summary>The other layers in which some nodes, or what they depend on, stand or are seen otherwise than where a draft was made.</summary>
    public static IEnumerable<OtherLayer> Of(SceneDraft draft, IEnumerable<string> nodes)
    {
        var here = draft.Below as ShotScene;
        var scene = here?.Below ?? draft.Below;
        if (scene.Shots.Count == 0)
        {
            yield break;
        }

        var on = Edges.Above(new(draft.Below), nodes);
        bool Concerns(Cheat cheat) => on.Contains(cheat.Of) || (cheat.IsSeen && scene.FindAny(cheat.Of) is Collection);
        var change = draft.ToChange();
        var (otherwise, following) = (new List<Shot>(), new List<Shot>());
        foreach (var shot in scene.AllShots().Where(shot => shot.Id != here?.Id))
        {
            (scene.CheatsOf(shot.Id).Any(Concerns) ? otherwise : following).Add(shot);
        }

        if (here is not null)
        {
            change = Layered.Below(new(scene), here, change);
            if (scene.CheatsOf(here.Id).Any(Concerns))
            {
                yield return Made(null, scene, change, following);
            }
        }

        foreach (var shot in otherwise)
        {
            var layer = new ShotScene(scene, shot.Id);
            yield return Made(shot, layer, layer.Through(change), []);
        }
    }

    private static OtherLayer Made(Shot? shot, IScene before, Change change, IReadOnlyList<Shot> following)
    {
        var after = new SceneDraft(before);
        after.Take(change);
        return new(shot, before, after, following);
    }
}
