using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Trials;

/// <summary>What the sentence says while an edit is tried.</summary>
/// <param name="Amount">The amount so far: "+15°".</param>
/// <param name="From">The stored channels as they were.</param>
/// <param name="To">The stored channels as they would be.</param>
/// <param name="Warning">What else the edit would do, said beforehand; null: nothing.</param>
public sealed record Reading(string Amount, string From, string To, string? Warning)
{
    public static readonly Reading None = new("", "", "", null);

    /// <param name="held">What constraints keep the edit from; null: nothing.</param>
    public static Reading Of(Edit edit, Node before, Node after, IScene scene, Held? held = null)
    {
        var speaker = new Speaker(scene);
        var dragged = edit as IDragged;
        var (from, to) = Channels(edit, before.Placement, after.Placement, speaker);
        return new(dragged?.Amount(speaker) ?? "", from, to, dragged?.Caution ?? (held is null ? ShearWarning(before, after, scene) : ConstraintWords.Held(held, speaker)));
    }

    /// <summary>The nearest of what carries a node that is scaled unevenly; null: none.</summary>
    public static Node? UnevenAbove(Node node, IScene scene) =>
        scene.Ancestors(node).FirstOrDefault(a => a.Placement.Scale is var s && (s.X != s.Y || s.Y != s.Z));

    /// <summary>Says that a node becomes sheared, and by what.</summary>
    public static string? ShearWarning(Node before, Node after, IScene scene)
    {
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(after);
        static bool Sheared(Node n) => Math.Max(Math.Abs(n.Placement.Shear.X), Math.Max(Math.Abs(n.Placement.Shear.Y), Math.Abs(n.Placement.Shear.Z))) > 1e-9;
        if (Sheared(before) || !Sheared(after))
        {
            return null;
        }

        var uneven = UnevenAbove(before, scene);
        return uneven is null
            ? $"This adds shear to {Speaker.Quoted(before.Name)}: it is scaled along other axes than its own."
            : $"This adds shear: {Speaker.Quoted(uneven.Name)} is scaled unevenly.";
    }

    private static (string From, string To) Channels(Edit edit, Placement before, Placement after, Speaker speaker)
    {
        string Length(double v) => speaker.Length(v);
        static string Angle(double v) => Unit.Figure(v, 2) + "°";
        static string Factor(double v) => Unit.Figure(v, 4);
        return edit.Reads switch
        {
            Read.Rotation => Pair(before.Rotation, after.Rotation, Angle),
            Read.Scale => Pair(before.Scale, after.Scale, Factor),
            Read.PivotTurn => Pair(before.PivotTurn, after.PivotTurn, Angle),
            Read.Pivot => Pair(before.Pivot, after.Pivot, Length, speaker.Lengths3),
            _ => Pair(before.Position, after.Position, Length, speaker.Lengths3),
        };
    }

    private static (string From, string To) Pair(Vec3 from, Vec3 to, Func<double, string> say, Func<Vec3, string>? several = null)
    {
        var all = several ?? (v => string.Join(", ", v.ToArray().Select(say)));
        var changed = Enumerable.Range(0, 3).Where(i => Math.Abs(from[i] - to[i]) > 1e-9).ToArray();
        if (changed.Length == 1)
        {
            var letter = "XYZ"[changed[0]];
            return ($"{letter} {say(from[changed[0]])}", $"{letter} {say(to[changed[0]])}");
        }

        return (all(from), all(to));
    }
}
