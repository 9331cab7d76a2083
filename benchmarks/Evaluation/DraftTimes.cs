using System.Diagnostics;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Bench;

/// <summary>How long an edit of one node takes whose draft looks at 500 others in between, in scenes of different sizes.</summary>
internal static class DraftTimes
{
    private const int Reads = 500;
    private const int Calls = 20;

    /// <returns>The medians in microseconds a call, in blocks of twenty, by turns.</returns>
    public static double[] Of(params int[] sizes)
    {
        var scenes = sizes.Select(Scene).ToArray();
        var times = sizes.Select(_ => new List<double>()).ToArray();
        for (var round = 0; round < 60; round++)
        {
            for (var i = 0; i < scenes.Length; i++)
            {
                var start = Stopwatch.GetTimestamp();
                for (var call = 0; call < Calls; call++)
                {
                    Edit(scenes[i], call);
                }

                times[i].Add(Stopwatch.GetElapsedTime(start).TotalMicroseconds / Calls);
            }
        }

        return [.. times.Select(t => t.Skip(20).Order().ElementAt(20))];
    }

    private static void Edit(SceneDocument scene, int call)
    {
        var draft = new SceneDraft(scene);
        var mover = draft.Get("mover");
        var far = 0.0;
        for (var i = 0; i < Reads; i++)
        {
            // Each other is looked at, and the one node written again, as a mover does that goes by what it meets.
            far += draft.World(draft.Get($"n{i}")).Offset.X;
            draft.Put(mover with { Placement = mover.Placement with { Position = new(far, call, i) } });
        }

        if (draft.ToChange().Nodes.Count != 1)
        {
            throw new InvalidOperationException("It changed something else.");
        }
    }

    /// <summary>Three deep, a hundred in each group, whatever the size.</summary>
    private static SceneDocument Scene(int count)
    {
        var nodes = new List<Node> { Bare("top", null, 0), Bare("mover", "top", 0) };
        for (var i = 0; i < count; i++)
        {
            if (i % 100 == 0)
            {
                nodes.Add(Bare($"g{i / 100}", "top", i + 1));
            }

            nodes.Add(Bare($"n{i}", $"g{i / 100}", i));
        }

        return new("bench", "Bench", "m", 1, nodes, SceneDocument.Blank().Geometries);
    }

    private static Node Bare(string id, string? parent, double rank) =>
        Node.Bare(id, id, NodeKind.Group, parent, Placement.Default with { Position = new(0.1, 0.2, 0.3), Rotation = new Vec3(0, 10, 0) }) with { Rank = rank };
}
