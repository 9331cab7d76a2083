using System.Collections.Immutable;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>What a new node is to be; what is left out is filled in.</summary>
public sealed record NewNode
{
    public string? Id { get; init; }
    public required string Name { get; init; }
    public required NodeKind Kind { get; init; }
    public PlacementPatch? Placement { get; init; }
    public ShapePatch? Shape { get; init; }
    public string? Geometry { get; init; }

    /// <summary>What it is made of; null: nothing in particular.</summary>
    public MaterialChoice? Material { get; init; }

    /// <summary>The same for a mesh with several slots.</summary>
    public ImmutableArray<MaterialChoice>? Materials { get; init; }
    public Camera? Camera { get; init; }
    public Light? Light { get; init; }
    public Switches? Switches { get; init; }

    /// <summary>On which of the 27 points of its bounds its pivot stands; null: as its placement says.</summary>
    public Vec3? Anchor { get; init; }
}

/// <summary>Adds a node, under another or at the top.</summary>
/// <param name="Index">Before which sibling it goes; null: last.</param>
/// <param name="At">Where its pivot goes, with the directions there; null: as its placement says.</param>
public sealed record Create(NewNode Node, string? Under = null, int? Index = null, BringTo? At = null) : Edit
{
    public override IReadOnlyList<string> Picked => Node.Id is { } id ? [id] : [];

    public override void ApplyTo(SceneDraft draft)
    {
        var id = Seats.NewId(draft, Node.Id);
        if (!Node.Kind.IsInTree() || (Under is not null && !draft.Get(Under).Kind.IsInTree()))
        {
            throw new Refusal(Refusals.NotUnderstood, "Marks and collections stand beside the tree: they are made by \"mark\" and \"collection\", and nothing rides on them.");
        }

        if (Under is not null && draft.Ancestors(draft.Get(Under)).Count() + 2 > SceneDocument.MostDepth)
        {
            throw new Refusal(Refusals.TooLarge, $"The chain of parents would become longer than {SceneDocument.MostDepth}. Put it under something higher up.");
        }

        var name = draft.DistinctName(Rename.Fitting(Node.Name), Node.Kind, Under);
        var placement = Node.Placement?.ApplyTo(Placement.Default) ?? Placement.Default;
        var shape = Node.Kind == NodeKind.Shape
            ? Shape.Default(Node.Shape?.Type ?? "box").With(Node.Shape ?? new())
            : null;
        if (shape is not null && Node.Anchor is { } anchor)
        {
            MovePivot.CheckAnchor(anchor);
            placement = placement with { Pivot = Extents.Of(shape).OwnBounds.Anchor(anchor) };
        }

        placement.Check(name);
        if (Node.Kind == NodeKind.Mesh && (Node.Geometry is null || draft.Geometries.Find(Node.Geometry) is null))
        {
            throw new Refusal(Refusals.NotFound, "The geometry of the new mesh is not stored in this scene. Import it first.");
        }

        var node = new Node(
            id,
            name,
            Node.Kind,
            Under,
            0,
            placement,
            shape,
            Node.Kind == NodeKind.Mesh ? Node.Geometry : null,
            Node.Kind is NodeKind.Shape or NodeKind.Mesh ? MaterialsOf(draft, id) : [],
            Node.Kind == NodeKind.Camera ? (Node.Camera ?? Camera.Default).Checked() : null,
            Node.Kind == NodeKind.Light ? (Node.Light ?? Light.Default).Checked() : null,
            (Node.Switches ?? Switches.Default).On(Node.Kind));
        Ranks.Seat(draft, [node], Index);
        if (At is not null)
        {
            new Bring([id], At, Rotation: true).ApplyTo(draft);
        }
    }

    private ImmutableArray<string> MaterialsOf(SceneDraft draft, string id)
    {
        ImmutableArray<MaterialChoice> all = Node.Materials ?? (Node.Material is { } one ? [one] : []);
        return all.Length <= (Node.Kind == NodeKind.Shape ? 1 : Materials.MostSlots)
            ? Scene.Node.Trimmed([.. all.Select(choice => Materials.Of(draft, choice))])
            : throw new Refusal(Refusals.NotUnderstood, $"“{Node.Name}” has not so many slots for materials.");
    }

    public override string Say(Speaker say) =>
        $"Added {say.NewName(Node.Name, Node.Kind, Under)}" + (Under is null ? "" : $" under {say.Name(Under)}")
        + (At is null ? "" : $" at {At.Words(say)}");
}
