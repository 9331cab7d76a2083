using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Trials;

/// <summary>Shows a draft over a scene through the evaluator, with the scene as it was, and puts everything back.</summary>
public sealed class Preview(IScene scene, Evaluator evaluator)
{
    private readonly HashSet<string> _shown = [];

    /// <summary>Shows what a draft has written; what the draft before it showed is put back.</summary>
    public void Show(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var now = new HashSet<string>();
        foreach (var (id, node) in draft.Written)
        {
            // What comes, goes or changes its parent is not shown before it is kept.
            if (node is not null && scene.Find(id) is { } stored && stored.Parent == node.Parent)
            {
                now.Add(id);
            }
        }

        // What was shown of the draft before is as the scene has it, unless this draft shows it, too.
        var before = _shown.Where(id => !now.Contains(id)).ToList();
        _shown.UnionWith(now);
        evaluator.Follow(before.Count == 0 ? draft : new Shown(draft, now, scene), now.Concat(before));
    }

    public void PutBack()
    {
        evaluator.Follow(scene, _shown.Where(id => scene.Find(id) is not null));
        _shown.Clear();
    }

    /// <summary>The draft for what is shown of it, the scene for all else.</summary>
    private sealed class Shown(SceneDraft draft, HashSet<string> shown, IScene scene) : IScene
    {
        public int Count => scene.Count;

        public string Unit => scene.Unit;

        public Shot? Shot => scene.Shot;

        public IGeometries Geometries => draft.Geometries;

        public IReadOnlyCollection<string> Constrained => scene.Constrained;

        public Node? Find(string id) => shown.Contains(id) ? draft.Find(id) : scene.Find(id);

        public Entities.Entity? FindAny(string id) => shown.Contains(id) ? draft.FindAny(id) : scene.FindAny(id);

        public IReadOnlyList<string> Children(string? parent) => scene.Children(parent);

        public IReadOnlyCollection<string> Referrers(string id) => scene.Referrers(id);
    }
}
