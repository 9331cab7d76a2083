using System.Text.Json.Serialization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>A second direction that a row of copies is repeated in, which makes a grid.</summary>
public sealed record Across(int Count, [property: JsonConverter(typeof(RepeatsConverter))] IReadOnlyList<Edit> By);

/// <summary>
/// Copies nodes with all that rides on them. Each copy starts as the one before it and is edited by <paramref name="By"/>
/// once, so that turns about a point make a ring, moves a row, both a spiral. Copies stand right after their original.
/// </summary>
/// <param name="By">What happens from one copy to the next; null: they stay on top of the original.</param>
/// <param name="Across">Repeats the original and its copies in a second direction.</param>
/// <param name="Sharing">Whether the copies share the shape of their original from now on.</param>
/// <param name="Ids">The ids of the copies: for each copy a list in the order of the nodes; null: new ones.</param>
public sealed record Duplicate(
    IReadOnlyList<string> Nodes,
    int Count = 1,
    [property: JsonConverter(typeof(RepeatsConverter))] IReadOnlyList<Edit>? By = null,
    Across? Across = null,
    bool Sharing = false,
    IReadOnlyList<IReadOnlyList<string>>? Ids = null) : Edit
{
    public const int MostNew = 10_000;
    private const int MostSteps = 20;

    /// <summary>What <see cref="Sharing"/> was called first; callers may go on saying it.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool Linked
    {
        get => false;
        init => Sharing |= value;
    }

    public override IReadOnlyList<string> Picked => Ids is { Count: > 0 } ? [.. Ids.SelectMany(ids => ids)] : Nodes;

    /// <summary>A length that sets a copy beside its original: the bounds' width along the world's X and a little more; metres.</summary>
    public static double UsualStep(IScene scene, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(nodes);
        var draft = new SceneDraft(scene);
        var bounds = Extents.OfBranches(draft, nodes.Select(draft.Find).OfType<Node>());
        return bounds.IsEmpty ? 1 : Math.Max(0.1, Math.Round((bounds.High.X - bounds.Low.X) * 12) / 10);
    }

    /// <summary>How many copies of each node are made.</summary>
    [JsonIgnore]
    public long Copies => (Count + 1L) * ((Across?.Count ?? 0) + 1L) - 1;

    public override void ApplyTo(SceneDraft draft)
    {
        var tops = Targets.Tops(draft, Nodes);
        CheckSize(draft, tops);
        var copier = new Copier(draft, tops, Sharing);
        var copies = new List<List<string>>();
        var by = Fixed(By);
        var across = Fixed(Across?.By);
        List<Edit> Fixed(IReadOnlyList<Edit>? edits) => [.. (edits ?? []).Select(e => e.Fixed(draft, tops))];
        List<string> CopyOf(IReadOnlyList<string> from, List<Edit> steps)
        {
            var made = copier.Copy(from, IdsOf(copies.Count, tops));
            copies.Add(made);
            foreach (var edit in steps)
            {
                edit.Instead(made).ApplyTo(draft);
            }

            return made;
        }

        List<List<string>> row = [[.. tops.Select(n => n.Id)]];
        for (var i = 0; i < Count; i++)
        {
            row.Add(CopyOf(row[^1], by));
        }

        for (var line = 0; line < (Across?.Count ?? 0); line++)
        {
            row = row.ConvertAll(cell => CopyOf(cell, across));
        }

        copier.Seat(copies);
    }

    public override string Say(Speaker say)
    {
        var many = Copies == 1 ? "a copy" : $"{Copies} copies";
        var steps = string.Join(", ", (By ?? []).Select(e => e.Instead(Nodes).Manner(say)).Select(m => say.DidEach(m!.Value)));
        return $"Made {many} of {say.NamesWithBranches(Nodes)}" + (Sharing ? ", sharing their shape" : "") + (steps.Length == 0 ? "" : $", each next one {steps}");
    }

    private IReadOnlyList<string>? IdsOf(int copy, List<Node> tops)
    {
        if (Ids is null)
        {
            return null;
        }

        return copy < Ids.Count && Targets.IdsFor(tops, Nodes, Ids[copy]) is { } ids
            ? ids
            : throw new Refusal(Refusals.NotUnderstood, $"The ids of copies are one list for each of the {Copies} copies, with one id for each of the {tops.Count} copied objects.");
    }

    private void CheckSize(SceneDraft draft, List<Node> tops)
    {
        if (By?.Count > MostSteps || Across?.By.Count > MostSteps)
        {
            throw new Refusal(Refusals.TooLarge, $"From one copy to the next at most {MostSteps} edits are made.");
        }

        if (Count < 1 || Across is { Count: < 1 })
        {
            throw new Refusal(Refusals.NotUnderstood, "The number of copies is at least 1.");
        }

        var each = tops.Sum(top => (long)draft.Branch(top.Id).Count());
        if (Copies > MostNew || each * Copies > MostNew)
        {
            var fit = MostNew / each;
            throw new Refusal(
                Refusals.TooLarge,
                $"This would make {each * (decimal)Copies} new objects, and one step makes at most {MostNew}. "
                + (fit > 0 ? $"Make at most {fit} copies now, and the rest in further steps." : "Copy fewer objects at a time."));
        }

        if (draft.Count + each * Copies > SceneDocument.MostNodes)
        {
            throw new Refusal(Refusals.TooLarge, $"A scene holds at most {SceneDocument.MostNodes} objects. Remove some first, or make fewer copies.");
        }
    }
}
