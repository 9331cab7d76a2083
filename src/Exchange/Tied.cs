using CalmPivot.Core;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Exchange;

/// <summary>
/// The constraints that our own files carry beside the poses that they yield. They come back where they still lead to where the file puts
/// things; where somebody has moved something since, the pose counts and they are left out.
/// </summary>
internal static class Tied
{
    /// <param name="nodes">As the file puts them; those whose constraints come back are replaced.</param>
    /// <param name="tied">What is stored of them and their constraints, by the fresh ids.</param>
    /// <param name="ids">From the ids in the file to the fresh ones.</param>
    public static void Tie(
        List<Node> nodes,
        IReadOnlyDictionary<string, (Placement Placement, Constraint[] Constraints)> tied,
        IReadOnlyDictionary<string, string> ids,
        IReadOnlyDictionary<string, byte[]> geometries,
        SortedSet<string> notes)
    {
        if (tied.Count == 0)
        {
            return;
        }

        var posed = new SceneDraft(new SceneDocument("", "", "m", 0, nodes, new Read(geometries)));
        var draft = new SceneDraft(posed);
        foreach (var (id, (placement, constraints)) in tied)
        {
            var entries = constraints.DistinctBy(c => c.Id).Take(Constraint.Most).Select(c => c.Led(name => ids.GetValueOrDefault(name))).OfType<Constraint>();
            draft.Put(posed.Get(id) with { Placement = placement, Constraints = [.. entries] });
        }

        var lost = 0;
        foreach (var id in Order(draft, tied.Keys, notes))
        {
            if (!Agrees(draft, posed, id))
            {
                draft.Put(posed.Get(id));
                lost++;
            }
        }

        if (lost > 0)
        {
            notes.Add("Constraints of objects that were moved in the file since were left out; they stand where the file puts them.");
        }

        for (var i = 0; i < nodes.Count; i++)
        {
            nodes[i] = tied.ContainsKey(nodes[i].Id) ? draft.Get(nodes[i].Id) : nodes[i];
        }
    }

    private static IReadOnlyList<string> Order(SceneDraft draft, IEnumerable<string> some, SortedSet<string> notes)
    {
        try
        {
            Edges.Check(draft);
            return Edges.InOrder(draft, some);
        }
        catch (Refusal)
        {
            // Made by somebody else: then the poses count.
            notes.Add("Constraints that go round in a circle were left out.");
            foreach (var id in some)
            {
                draft.Put(draft.Get(id) with { Placement = ((SceneDraft)draft.Below).Get(id).Placement, Constraints = [] });
            }

            return [];
        }
    }

    /// <summary>The file holds 32-bit numbers; beyond their rounding, somebody has moved the node since.</summary>
    private static bool Agrees(SceneDraft draft, SceneDraft posed, string id)
    {
        var (own, file) = (draft.World(draft.Get(id)), posed.World(posed.Get(id)));
        return own.IsFinite && own.Distance(file) <= 1e-4 * (1 + file.Linear.Norm + file.Offset.Length);
    }

    /// <summary>The geometry of the file, for what stays on it.</summary>
    private sealed class Read(IReadOnlyDictionary<string, byte[]> stored) : IGeometries
    {
        private readonly Dictionary<string, Geometry> _read = [];

        public Geometry? Find(string hash) =>
            _read.TryGetValue(hash, out var known) ? known
            : stored.TryGetValue(hash, out var bytes) ? _read[hash] = GeometryBinary.Read(bytes)
            : null;

        public void Keep(string hash, Geometry geometry) => _read[hash] = geometry;
    }
}
