using System.Runtime.InteropServices.JavaScript;
using CalmPivot.Core;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>Constraints for the page: what each entry of a node does at the moment, also while something is tried.</summary>
public static partial class Bridge
{
    /// <summary>More threads would not be told apart.</summary>
    private const int MostThreads = 400;

    /// <summary>The entries of a node with what they do now; an empty list where it has none or is gone.</summary>
    [JSExport]
    public static string LinksOf(string id)
    {
        var draft = Tryout.Draft ?? new SceneDraft(Replica.Shown);
        return Write<IReadOnlyList<LinkReading>>(draft.Find(id) is { Constraints.IsEmpty: false } node ? LinkReading.Of(draft, node) : []);
    }

    /// <summary>What constraints would do to edits, and what these would make jump; empty where they cannot be done.</summary>
    [JSExport]
    public static string ForetoldBy(string edits)
    {
        try
        {
            return Write(Foretelling.Of(Replica.Shown, Read<Edit[]>(edits)));
        }
        catch (Refusal)
        {
            return Write(new Foretelling([], []));
        }
    }

    /// <summary>The threads of nodes as things stand, also while something is tried.</summary>
    /// <param name="ids">A list of ids; null: of the whole scene.</param>
    /// <param name="edits">What is thought of, to see them as they would be; null: nothing.</param>
    [JSExport]
    public static string ThreadsOf(string? ids, string? edits)
    {
        var draft = Tryout.Draft ?? new SceneDraft(Replica.Shown);
        if (edits is not null)
        {
            try
            {
                draft = new SceneDraft(Replica.Shown);
                foreach (var edit in Read<Edit[]>(edits))
                {
                    edit.ApplyTo(draft);
                }
            }
            catch (Refusal)
            {
                return "[]";
            }
        }

        IEnumerable<string> nodes = ids is null ? draft.Constrained.Order(StringComparer.Ordinal).Take(MostThreads) : Read<string[]>(ids);
        return Write<IReadOnlyList<LinkThread>>([.. nodes.Select(draft.Find).OfType<Node>().SelectMany(node => LinkThread.Of(draft, node))]);
    }

    /// <summary>A pivot and the axes of a node that can be pointed at something, as it stands: twelve numbers, or none where it is gone.</summary>
    [JSExport]
    public static double[] OwnAxesOf(string id)
    {
        var draft = Tryout.Draft ?? new SceneDraft(Replica.Shown);
        if (draft.Find(id) is not { } node)
        {
            return [];
        }

        var axes = node.Pointers(draft.World(node).Linear);
        return [.. draft.PivotOf(node).ToArray(), .. axes.X.ToArray(), .. axes.Y.ToArray(), .. axes.Z.ToArray()];
    }

    /// <summary>The edit that sets a limit of a swivel to where a ray meets the plane of its arc; "null": it meets it nowhere, or beyond the other limit.</summary>
    /// <param name="ray">Three numbers of where it begins, three of where it goes.</param>
    /// <param name="step">Degrees in steps of which it is set; 0: none.</param>
    [JSExport]
    public static string LimitAt(string id, string link, bool high, double[] ray, double step)
    {
        var draft = new SceneDraft(Replica.Shown);
        if (draft.Find(id) is not { } node || node.Constraints.ToList().FindIndex(c => c.Id == link) is not (>= 0 and var index) || node.Constraints[index] is not Swivel swivel)
        {
            return "null";
        }

        var arc = HingeArc.Of(draft, node, index, swivel);
        var present = (high ? arc.To : arc.From) ?? arc.Now;
        if (arc.Met(draft.PivotOf(node), new(ray[0], ray[1], ray[2]), new(ray[3], ray[4], ray[5]), present) is not { } met)
        {
            return "null";
        }

        var at = step > 0 ? Math.Round(met / step) * step : Math.Round(met, 2);
        return (high ? at < arc.From : at > arc.To)
            ? "null"
            : Write<Edit>(new SetConstraint([new(id, link)], From: high ? null : at, To: high ? at : null));
    }
}
