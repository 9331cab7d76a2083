using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Trials;

/// <summary>Shows placements of a draft through the evaluator, with the document as it was, and puts everything back.</summary>
public sealed class Preview(SceneDocument scene, Evaluator evaluator)
{
    private readonly HashSet<string> _shown = [];

    /// <summary>Shows the placements that a draft has written; those of the draft before it are put back.</summary>
    public void Show(SceneDraft draft)
    {
        ArgumentNullException.ThrowIfNull(draft);
        var show = new List<KeyValuePair<string, Placement>>();
        var written = new HashSet<string>();
        foreach (var (id, node) in draft.Written)
        {
            // What comes, goes or changes its parent is not shown before it is kept.
            if (node is not null && scene.Find(id) is { } now && now.Parent == node.Parent && node.Kind != NodeKind.Collection)
            {
                show.Add(KeyValuePair.Create(id, node.Placement));
                written.Add(id);
            }
        }

        foreach (var id in _shown)
        {
            if (!written.Contains(id) && scene.Find(id) is { } now)
            {
                show.Add(KeyValuePair.Create(id, now.Placement));
            }
        }

        _shown.UnionWith(written);
        evaluator.Try(show);
    }

    public void PutBack()
    {
        evaluator.Try(_shown.Where(id => scene.Find(id) is not null).Select(id => KeyValuePair.Create(id, scene.Find(id)!.Placement)));
        _shown.Clear();
    }
}
