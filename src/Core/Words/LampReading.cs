using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;

namespace CalmPivot.Core.Words;

/// <summary>A lamp as it shines.</summary>
/// <param name="Slot">Where its world matrix lies.</param>
/// <param name="Color">The colour that it shines in.</param>
/// <param name="Lumens">Null: it has no such sum.</param>
/// <param name="InnerCone">Degrees; of a spot.</param>
/// <param name="On">It shines in the final picture.</param>
/// <param name="Seen">It is seen while working.</param>
/// <param name="World">Its lens axes at its origin.</param>
/// <param name="Own">Which of its channels the current shot has of its own.</param>
public sealed record LampReading(
    string Id, string Name, LightType Type, Color Color, double? Temperature, double Intensity, double? Lumens, double? Range, double InnerCone, double OuterCone,
    double Size, double PanelHeight, bool Shadow, bool On, bool Seen, double[] World, IReadOnlyList<string> Own)
{
    /// <summary>All lamps of a scene or a shot, in the order of the tree.</summary>
    public static IEnumerable<LampReading> All(SceneDraft draft, Sight sight, Evaluator evaluator)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(sight);
        ArgumentNullException.ThrowIfNull(evaluator);
        foreach (var node in draft.Branch(null))
        {
            if (node.Light is not { } light)
            {
                continue;
            }

            var bits = sight.Of(node.Id);
            var world = evaluator.World(node.Id);
            yield return new(
                node.Id, node.Name, light.Type, light.Shown, light.Temperature, light.Intensity, light.Lumens, light.Range, light.InnerCone ?? 0, light.OuterCone ?? Light.UsualOuterCone,
                light.Size, light.PanelHeight ?? light.Size, light.CastsShadows, (bits & SightBits.Final) != 0, (bits & SightBits.Working) != 0,
                new Affine(world.Linear.LensAxes(), world.Offset).ToArray(), [.. (draft.Below as ShotScene)?.CheatsOn(node.Id).Select(c => c.Channel) ?? []]);
        }
    }
}
