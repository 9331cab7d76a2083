using CalmPivot.Core.Amounts;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>How what several edits have in common is said.</summary>
internal static class EditWords
{
    extension(Speaker say)
    {
        public string Staying(ChildrenMode children, IReadOnlyList<string> nodes)
        {
            if (children != ChildrenMode.Stay)
            {
                return "";
            }

            var locked = Targets.LockedChildren(new(say.Scene), nodes.Where(id => say.Scene.Find(id) is not null)).Select(n => n.Id).ToList();
            return locked.Count == 0 ? ", children stay" : $", children stay, but locked {say.Names(locked)}";
        }

        public string Places(Effect effect) => effect == Effect.Places ? ", places only" : "";

        public string PivotPlace(PivotPlace to)
        {
            ArgumentNullException.ThrowIfNull(to);
            return to.Anchor is { } anchor
                ? Speaker.AnchorInWords(anchor) + (to.Of == AnchorAxes.World ? " along the world's axes" : "")
                : to.Own is { } own ? $"({string.Join(", ", own.ToArray().Select(say.Length))}) in its own frame"
                : to.Node is { } node ? (say.Scene.Find(node)?.Kind == NodeKind.Mark ? $"the mark {say.Name(node)}" : $"{say.Name(node)}'s pivot")
                : to.Point == Vec3.Zero ? "world zero" : "a picked point";
        }

        public string PlacementChange(PlacementPatch patch)
        {
            ArgumentNullException.ThrowIfNull(patch);
            List<string> parts = [];
            if (patch.Position is { } position)
            {
                parts.Add($"position ({string.Join(", ", position.ToArray().Select(say.Length))})");
            }

            if (patch.Rotation is { } rotation)
            {
                parts.Add($"rotation ({say.Angles(rotation)})");
            }

            if (patch.Order is { } order)
            {
                parts.Add($"order {order}");
            }

            if (patch.Scale is { } scale)
            {
                parts.Add($"scale ({string.Join(", ", scale.ToArray().Select(f => Unit.Figure(f, 4)))})");
            }

            void Also(bool given, string what)
            {
                if (given)
                {
                    parts.Add(what);
                }
            }

            Also(patch.Shear is not null, "shear");
            Also(patch.Pivot is not null, "pivot");
            Also(patch.PivotTurn is not null, "pivot directions");
            Also(patch.Takes is not null, "what it takes of its parent");
            return parts.Count == 0 ? "nothing changed" : string.Join(", ", parts);
        }
    }

    /// <summary>A number that was set or changed: "intensity 40 cd", "range +1 m", "outer cone × 2"; null: it was not.</summary>
    public static string? Changed(string what, double? by, AmountMode mode, Func<double, string> say)
    {
        ArgumentNullException.ThrowIfNull(say);
        return by is not { } value ? null : mode switch
        {
            AmountMode.Add => $"{what} {Speaker.Signed(value, say)}",
            AmountMode.Multiply => $"{what} × {Unit.Figure(value, 4)}",
            _ => $"{what} {say(value)}",
        };
    }
}
