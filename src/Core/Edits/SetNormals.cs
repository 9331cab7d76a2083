using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What the surfaces of nodes are to look like: in facets, smooth, or as they were made.</summary>
[JsonConverter(typeof(CamelCase<SurfaceLook>))]
public enum SurfaceLook
{
    AsMade,
    Facets,
    Smooth,
}

/// <summary>Shows nodes in facets, or rounded where faces meet at less than an angle. No vertex moves.</summary>
/// <param name="Angle">Degrees, for smooth; edges sharper than this stay sharp.</param>
public sealed record SetNormals(IReadOnlyList<string> Nodes, SurfaceLook How, double? Angle = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var angle = Angle ?? Normals.UsualAngle;
        if (!(angle is >= 0 and <= 180))
        {
            throw new Refusal(Refusals.NotUnderstood, "The angle up to which edges are rounded lies between 0 and 180°.");
        }

        Normals? normals = How switch
        {
            SurfaceLook.Facets => new(NormalsHow.Facets),
            SurfaceLook.Smooth => new(NormalsHow.Smooth, angle),
            _ => null,
        };
        foreach (var node in Targets.Movers(draft, Nodes, ChildrenMode.Stay))
        {
            // Groups, lamps and cameras have no surface to change.
            if (node.Shape is not null || node.Geometry is not null)
            {
                Sharing.Put(draft, node, n => n with { Normals = normals });
            }
        }
    }

    public override string Say(Speaker say) => How switch
    {
        SurfaceLook.Facets => $"Showed {say.Names(Nodes)} in facets",
        SurfaceLook.Smooth => $"Showed {say.Names(Nodes)} smooth up to {say.Angle(Angle ?? Normals.UsualAngle)}",
        _ => $"Showed {say.Names(Nodes)} as made",
    };
}
