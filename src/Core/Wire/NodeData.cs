using System.Collections.Immutable;
using System.Text.Json.Serialization;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Wire;

/// <summary>A node as the API writes it.</summary>
public sealed record NodeData
{
    public required string Id { get; init; }
    public required string Name { get; init; }
    public required NodeKind Kind { get; init; }

    [JsonIgnore(Condition = JsonIgnoreCondition.Never)]
    public string? Parent { get; init; }

    /// <summary>The place among the siblings when the node was written.</summary>
    public int Index { get; init; }

    /// <summary>What siblings are ordered by.</summary>
    public double Rank { get; init; }
    public required Placement Placement { get; init; }
    public Shape? Shape { get; init; }
    public string? Geometry { get; init; }
    public Normals? Normals { get; init; }

    /// <summary>The material, where there is just one.</summary>
    public Material? Material { get; init; }

    /// <summary>The materials of a mesh that has several, by slot.</summary>
    public ImmutableArray<Material>? Materials { get; init; }
    public Camera? Camera { get; init; }
    public Light? Light { get; init; }

    /// <summary>Left out: all on.</summary>
    public Switches? Switches { get; init; }

    /// <summary>The collections that the node was put into.</summary>
    public ImmutableArray<string>? Collections { get; init; }

    /// <summary>Nodes with the same word here share their shape and surface.</summary>
    public string? Shares { get; init; }
    public Label? Label { get; init; }
    public Rule? Rule { get; init; }

    public static NodeData From(Node node, int index = 0)
    {
        ArgumentNullException.ThrowIfNull(node);
        return new()
        {
            Id = node.Id,
            Name = node.Name,
            Kind = node.Kind,
            Parent = node.Parent,
            Index = index,
            Rank = node.Rank,
            Placement = node.Placement,
            Shape = node.Shape,
            Geometry = node.Geometry,
            Normals = node.Normals,
            Material = node.Materials.Length == 1 ? node.Materials[0] : null,
            Materials = node.Materials.Length > 1 ? node.Materials : null,
            Camera = node.Camera,
            Light = node.Light,
            Switches = node.Switches,
            Collections = node.Collections.IsEmpty ? null : node.Collections,
            Shares = node.Shares,
            Label = node.Label == Label.None ? null : node.Label,
            Rule = node.Rule,
        };
    }

    /// <summary>The nodes of a scene, parents before children, each with its place among its siblings.</summary>
    public static IEnumerable<NodeData> All(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var next = new Dictionary<string, int>();
        foreach (var node in scene.Branch(null))
        {
            var parent = node.Parent ?? "";
            var index = next.GetValueOrDefault(parent);
            next[parent] = index + 1;
            yield return From(node, index);
        }
    }

    /// <summary>The collections of a scene, outer ones first; the collection around one stands as its parent.</summary>
    public static IEnumerable<NodeData> Collected(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.AllCollections().Select(c => From(c, scene.Children(Lists.Of(c)).ToList().IndexOf(c.Id)));
    }

    /// <summary>The marks of a scene, in their order; what a mark follows stands as its parent.</summary>
    public static IEnumerable<NodeData> Marks(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return scene.Marks.Select((id, i) => From(scene.Find(id)!, i));
    }

    public Node ToNode() => new(
        Id,
        Name,
        Kind,
        Parent,
        Rank,
        Placement,
        Shape,
        Geometry,
        Materials ?? (Material is null ? [] : [Material]),
        Camera,
        Light,
        Switches ?? Scene.Switches.Default)
    {
        Normals = Normals,
        Collections = Collections ?? [],
        Shares = Shares,
        Label = Label ?? Label.None,
        Rule = Rule,
    };
}
