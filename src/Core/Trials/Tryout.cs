using CalmPivot.Core.Edits;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Trials;

/// <summary>What became of what was being tried when the scene changed under it.</summary>
/// <param name="Goes">It goes on with its last amount; else it has ended and everything is as the scene has it.</param>
/// <param name="Said">What there is to say; null: nothing that it touches has changed.</param>
public sealed record WentOn(bool Goes, string? Said);

/// <summary>
/// What a page is trying on its replica at the moment: a <see cref="Trials.Trial"/> with amounts, or edits as they are, or
/// nothing. When the replica hears something, what is tried is put back, and begins again afterwards with its last amount:
/// <code>
/// tryout.Begin(rotate, space);
/// tryout.Trial.Try(new(15, 0, 0));
/// var went = tryout.During(() => replica.Hear(…)); // somebody else's step
/// </code>
/// </summary>
public sealed class Tryout(Func<Replica> replica)
{
    private IReadOnlyList<Edit>? _edits;
    private Scope? _scope;
    private SceneDraft? _draft;
    private Preview? _preview;

    /// <summary>The trial with amounts; null: none.</summary>
    public Trial? Trial { get; private set; }

    /// <summary>The scene as what is tried leaves it; null: nothing is tried.</summary>
    public SceneDraft? Draft => Trial?.Draft ?? _draft;

    /// <summary>What is tried, as edits; null: nothing is.</summary>
    public IReadOnlyList<Edit>? Edits => Trial?.Edits ?? _edits;

    /// <summary>Begins to try an edit with amounts, in place of what was tried before.</summary>
    /// <exception cref="Refusal">The edit could not be done with any amount.</exception>
    public void Begin(Edit template, Space space)
    {
        PutBack();
        Trial = new Trial(replica().Shown, replica().Evaluator, template, space, replica().Scope);
    }

    /// <summary>Tries edits as they are, in place of what was tried before.</summary>
    /// <exception cref="Refusal">They cannot be done; what was shown before stays.</exception>
    /// <param name="scope">Where they are made; null: where those of the page are.</param>
    public void TryEdits(IReadOnlyList<Edit> edits, Scope? scope = null)
    {
        Trial?.PutBack();
        Trial = null;
        var draft = replica().Tried(edits, scope);
        (_edits, _scope) = (edits, scope);
        _preview ??= new Preview(replica().Shown, replica().Evaluator);
        _preview.Show(draft);
        _draft = draft;
    }

    /// <summary>Ends what is tried with everything as it was.</summary>
    public void PutBack()
    {
        Hide();
        (Trial, _edits) = (null, null);
    }

    /// <summary>Lets the replica change, or be another one on the same scene, while something is tried.</summary>
    /// <returns>What became of it; null: nothing was being tried.</returns>
    public WentOn? During(Action change)
    {
        ArgumentNullException.ThrowIfNull(change);
        if (Trial is null && _edits is null)
        {
            change();
            return null;
        }

        var touched = Touched();
        Hide();
        change();
        try
        {
            if (Trial is { } trial)
            {
                trial.GoOn(replica().Shown, replica().Evaluator);
            }
            else
            {
                TryEdits(_edits!, _scope);
            }

            return new(true, Changed(touched, "It goes on from there."));
        }
        catch (Refusal refusal)
        {
            PutBack();
            return new(false, Changed(touched, "What was being tried is put back.") ?? refusal.Message);
        }
    }

    private void Hide()
    {
        Trial?.PutBack();
        _preview?.PutBack();
        (_preview, _draft) = (null, null);
    }

    /// <summary>The nodes that what is tried is about, as they are stored now.</summary>
    private List<Node> Touched()
    {
        var ids = Trial?.Template.Picked ?? [.. _edits!.SelectMany(edit => edit.Picked)];
        return [.. ids.Concat(Draft?.Written.Select(w => w.Key) ?? []).Distinct().Select(replica().Scene.Find).OfType<Node>()];
    }

    private string? Changed(List<Node> before, string then)
    {
        var scene = replica().Scene;
        var gone = before.FindAll(node => scene.Find(node.Id) is null);
        var changed = gone.Count > 0 ? gone : before.FindAll(node => !node.Equals(scene.Find(node.Id)));
        return changed.Count == 0
            ? null
            : $"{(changed.Count == 1 ? Speaker.Quoted(changed[0].Name) : $"{changed.Count} objects")} {(changed.Count == 1 ? "was" : "were")} {(gone.Count > 0 ? "removed" : "changed")} meanwhile. {then}";
    }
}
