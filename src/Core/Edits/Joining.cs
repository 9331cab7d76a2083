using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// How nodes that are to be joined stand to their lead where they are not joined: in the scene and in its other shots. As one mesh they go with the lead
/// everywhere, so corners move where one of them stands otherwise to it, and one that is seen without the other comes into sight or goes out of it.
/// </summary>
internal sealed class Joining
{
    private readonly Node _lead;
    private readonly List<(OtherLayer Layer, string Node)> _moved = [];
    private readonly List<(OtherLayer? Layer, string Node, bool Seen)> _seen = [];
    private readonly Dictionary<string, HashSet<Vec3>> _corners = [];

    /// <param name="draft">As the nodes are joined in it, not yet done.</param>
    /// <param name="joined">The lead is the last.</param>
    public Joining(SceneDraft draft, IReadOnlyList<Node> joined)
    {
        _lead = joined[^1];
        var parts = joined.SkipLast(1).ToList();
        var back = draft.World(_lead).Inverse();
        parts.ForEach(part => See(draft, null, part.Id));
        foreach (var layer in OtherLayer.Of(draft, joined.Select(n => n.Id)))
        {
            foreach (var part in parts)
            {
                if (See(layer.After, layer, part.Id))
                {
                    var (to, from) = (layer.After.World(layer.After.Get(_lead.Id)) * (back * draft.World(part)), layer.After.World(layer.After.Get(part.Id)));
                    Compare(draft, layer, part, from, to);
                }
            }
        }
    }

    /// <summary>Those that are not everywhere where they are to the lead here, or not seen where it is seen.</summary>
    public IEnumerable<string> Differing => _moved.Select(m => m.Node).Concat(_seen.Select(s => s.Node)).Distinct();

    /// <summary>"in 03 Dome 16 corners of Tube move, as it stands otherwise there".</summary>
    /// <param name="done">Said afterwards, not beforehand.</param>
    public IReadOnlyList<string> InWords(Speaker say, bool done)
    {
        List<string> parts = [];
        if (_moved.Count > 0)
        {
            List<string> nodes = [.. _moved.Select(m => m.Node).Distinct()];
            var corners = _corners.Values.Sum(c => c.Count);
            parts.Add($"in {Titles(_moved.Select(m => m.Layer))} {corners} {(corners == 1 ? "corner" : "corners")} of {say.Names(nodes)} {(done ? "moved" : corners == 1 ? "moves" : "move")}"
                + (done ? "" : $", as {(nodes.Count == 1 ? "it stands" : "they stand")} otherwise there"));
        }

        foreach (var seen in new[] { true, false })
        {
            List<string> here = [.. _seen.Where(s => s.Layer is null && s.Seen == seen).Select(s => s.Node)];
            var there = _seen.Where(s => s.Layer is not null && s.Seen == seen && !here.Contains(s.Node)).ToList();
            Add(here, "");
            Add([.. there.Select(s => s.Node).Distinct()], there.Count == 0 ? "" : $"in {Titles(there.Select(s => s.Layer!))} ");

            void Add(List<string> nodes, string where)
            {
                if (nodes.Count > 0)
                {
                    var be = nodes.Count == 1 ? "is" : "are";
                    parts.Add(seen
                        ? $"{where}{say.Names(nodes)} {be} seen {(done ? "now" : $"then, as {say.Name(_lead.Id)} is")}"
                        : $"{where}{say.Names(nodes)} {be} not seen {(done ? "any more" : $"then, as {say.Name(_lead.Id)} is not")}");
                }
            }
        }

        return parts;
    }

    private static string Titles(IEnumerable<OtherLayer> layers) => StayingWords.Listed([.. layers.SelectMany(l => l.Titles).Distinct()]);

    /// <summary>Notes what is seen without the lead, or the other way round.</summary>
    /// <returns>Whether both are seen there.</returns>
    private bool See(SceneDraft draft, OtherLayer? layer, string part)
    {
        var (mine, leads) = (IsSeen(draft, part, layer), IsSeen(draft, _lead.Id, layer));
        if (mine != leads)
        {
            _seen.Add((layer, part, leads));
        }

        return mine && leads;
    }

    /// <summary>In a shot only its picture counts; in the scene whether it is seen at all.</summary>
    private static bool IsSeen(SceneDraft draft, string id, OtherLayer? layer) =>
        Seen.IsSeen(draft, draft.Get(id), final: true) || (layer?.Shot is null && draft.Shot is null && Seen.IsSeen(draft, draft.Get(id), final: false));

    private void Compare(SceneDraft draft, OtherLayer layer, Node part, Affine from, Affine to)
    {
        if (from.Distance(to) <= 1e-9 * Math.Max(1, Math.Max(from.Linear.Norm, from.Offset.Length)) || Extents.DrawnGeometryOf(draft, part) is not { } geometry)
        {
            return;
        }

        var moved = Pieces.CornersOf(geometry).Where(p => (to.Point(p) - from.Point(p)).Length > 1e-9 * Math.Max(1, from.Point(p).Length)).ToHashSet();
        if (moved.Count > 0)
        {
            _moved.Add((layer, part.Id));
            (_corners.TryGetValue(part.Id, out var known) ? known : _corners[part.Id] = []).UnionWith(moved);
        }
    }
}
