using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Edits;

/// <summary>What is to one branch what something is to another of the like.</summary>
internal static class Counterparts
{
    /// <summary>
    /// What a thing that one node goes by is for another node. The two stand in branches beside each other, below what carries both;
    /// within the first's, the thing has its like in the other's: step by step the child of the same name, else the one at the same place. All else is itself.
    /// </summary>
    public static string Of(SceneDraft draft, Node node, Node other, string thing)
    {
        var (mine, theirs) = (Tops(draft, node), Tops(draft, other));
        var shared = mine.Zip(theirs).TakeWhile(pair => pair.First == pair.Second).Count();
        if (shared >= mine.Count || shared >= theirs.Count || draft.Find(thing) is not { } some)
        {
            return thing;
        }

        var way = Tops(draft, some);
        if (way.Count <= shared || way[shared] != mine[shared])
        {
            return thing;
        }

        var at = theirs[shared];
        foreach (var id in way.Skip(shared + 1))
        {
            var (siblings, children) = (draft.Children(draft.Get(id).Parent), draft.Children(at));
            var name = draft.Get(id).Name;
            var like = children.FirstOrDefault(c => draft.Get(c).Name == name) ?? children.ElementAtOrDefault(siblings.ToList().IndexOf(id));
            if (like is null)
            {
                return thing;
            }

            at = like;
        }

        return at;
    }

    /// <summary>A node with all that carries it, from the top.</summary>
    private static List<string> Tops(SceneDraft draft, Node node) => [.. draft.Ancestors(node).Select(a => a.Id).Reverse(), node.Id];
}
