using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Seeing;

/// <summary>Why a node is not seen.</summary>
/// <param name="Text">The reason as a sentence tells it.</param>
/// <param name="Final">Whether it is the final picture that the node is missing from, or the working view.</param>
/// <param name="Link">The node itself, or what carries it, that is switched off or out of sight by its collections.</param>
/// <param name="Switch">The node or the collection whose switch would show it.</param>
public sealed record Reason(string Text, bool Final, string Link, string Switch);

/// <summary>
/// Whether a node is seen in the working view and in the final picture, with the reasons where it is not. A node is seen
/// when its own switch and every ancestor's are on, and it and each of them is in no collection or in one that is on.
/// </summary>
public sealed record Seen(bool Working, bool Final, IReadOnlyList<Reason> Reasons)
{
    /// <summary>Whether a node is seen in the working view, or in the final picture.</summary>
    public static bool IsSeen(IScene scene, Node node, bool final = false)
    {
        ArgumentNullException.ThrowIfNull(node);
        return !(final && node.IsController) && scene.Ancestors(node).Prepend(node).All(link => IsOnAlone(scene, link, final));
    }

    /// <summary>Whether a collection is on, with the reasons where it is not.</summary>
    public static Seen Of(IScene scene, Collection collection)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var reasons = new List<Reason>();
        foreach (var link in scene.Ancestors(collection).Prepend(collection))
        {
            foreach (var final in new[] { false, true })
            {
                if (!IsOn(link, final))
                {
                    var what = link.Id == collection.Id ? "it" : $"“{link.Name}”, which is around it,";
                    reasons.Add(new($"{Where(scene, final)}: {what} is switched off{There(scene, link.Id, final)}", final, link.Id, link.Id));
                }
            }
        }

        return Of(reasons);
    }

    public static Seen Of(IScene scene, Node node)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(node);
        var reasons = new List<Reason>();
        if (node.IsController)
        {
            reasons.Add(new($"{Where(scene, true)}: it is a controller, drawn in lines for the hand only", true, node.Id, ""));
        }

        foreach (var link in scene.Ancestors(node).Prepend(node))
        {
            var memberships = Membership.Of(scene, link).ToList();
            foreach (var final in new[] { false, true })
            {
                var where = Where(scene, final);
                if (!IsOn(link, final))
                {
                    var what = link.Id == node.Id ? "it" : $"“{link.Name}”, which carries it,";
                    reasons.Add(new($"{where}: {what} is switched off{There(scene, link.Id, final)}", final, link.Id, link.Id));
                }

                if (memberships.Count > 0 && memberships.TrueForAll(c => OffAround(scene, c, final) is not null))
                {
                    var what = link.Id == node.Id ? "it is" : $"“{link.Name}”, which carries it, is";
                    var off = OffAround(scene, memberships[0], final)!;
                    reasons.Add(new($"{where}: {what} {InWords(scene, memberships, final)}", final, link.Id, off.Id));
                }
            }
        }

        return Of(reasons);
    }

    private static Seen Of(List<Reason> reasons) => new(reasons.TrueForAll(r => r.Final), reasons.TrueForAll(r => !r.Final), reasons);

    private static string Where(IScene scene, bool final) =>
        !final ? "hidden in the working view" : scene.Shot is { } shot ? $"not in {shot.Title}" : "hidden in the final picture";

    /// <summary>"there" of what is off in one shot only.</summary>
    private static string There(IScene scene, string id, bool final) => final && scene.Shot is { } shot && scene.FindAny(Cheat.IdOf(shot.Id, id, CheatChannel.Seen)) is not null ? " there" : "";

    /// <summary>Whether a node's own switch and its collections let it be seen, whatever carries it.</summary>
    internal static bool IsOnAlone(IScene scene, Node node, bool final) => IsOn(node, final) && IsLetThrough(scene, node, final);

    private static bool IsLetThrough(IScene scene, Node link, bool final)
    {
        var any = false;
        foreach (var collection in Membership.Of(scene, link))
        {
            if (OffAround(scene, collection, final) is null)
            {
                return true;
            }

            any = true;
        }

        return !any;
    }

    /// <summary>The collection that switches this one off: itself or one around it; null: it is on.</summary>
    private static Collection? OffAround(IScene scene, Collection collection, bool final) =>
        scene.Ancestors(collection).Prepend(collection).FirstOrDefault(c => !IsOn(c, final));

    private static bool IsOn(Arranged node, bool final) => final ? node.Switches.Final : node.Switches.Working;

    private static string InWords(IScene scene, List<Collection> memberships, bool final)
    {
        var first = memberships[0];
        if (memberships.Count > 1)
        {
            return $"in {string.Join(" and ", memberships.Select(c => $"“{c.Name}”"))} only, and all of them are off";
        }

        var off = OffAround(scene, first, final)!;
        return off.Id == first.Id
            ? $"in “{first.Name}” only, and “{first.Name}” is off{There(scene, first.Id, final)}"
            : $"in “{first.Name}” only, and “{off.Name}” around it is off{There(scene, off.Id, final)}";
    }
}
