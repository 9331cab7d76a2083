using CalmPivot.Core.Entities;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What edits, evaluation and export read of a scene, be it the open one or a draft over it.
/// <code>
/// foreach (var node in scene.Branch("desk")) { … }      // the desk and all that rides on it
/// foreach (var id in scene.Referrers("desk")) { … }     // marks that follow it, rules that ask for it
/// </code>
/// </summary>
public interface IScene
{
    int Count { get; }

    string Unit { get; }

    /// <summary>A node by its id; null: there is none.</summary>
    Node? Find(string id);

    /// <summary>Whatever has an id.</summary>
    Entity? FindAny(string id);

    /// <summary>
    /// The children of a node, or the nodes without parent, in the artist's order; of a collection, the collections in it.
    /// A <see cref="Lists">list</see> beside the tree is asked for by its key.
    /// </summary>
    IReadOnlyList<string> Children(string? parent);

    IGeometries Geometries { get; }

    /// <summary>
    /// The ids of all that name something in another way than riding on it: marks that follow it, members and inner collections of a
    /// collection, collections whose rule asks for it; for <see cref="NodeReferences.Sharing">a word of sharing</see> those that share. In no order.
    /// </summary>
    IReadOnlyCollection<string> Referrers(string id);

    /// <summary>The ids of the nodes that have constraints, in no order.</summary>
    IReadOnlyCollection<string> Constrained { get; }

    /// <summary>The shot that this is the scene of; null: the scene itself.</summary>
    Shot? Shot => null;
}

/// <summary>The lists that nodes stand in: the tree, and beside it the marks and the collections.</summary>
public static class Lists
{
    /// <summary>No id has such a key.</summary>
    public const string Marks = "\u0001marks";
    public const string Collections = "\u0001collections";
    public const string Shots = "\u0001shots";
    public const string Timing = "\u0001timing";
    public const string Materials = "\u0001materials";
    public const string Surroundings = "\u0001surroundings";

    /// <summary>The key of the list that a node stands in.</summary>
    public static string? Of(NodeKind kind, string? parent) => kind == NodeKind.Mark ? Marks : parent;

    /// <summary>The key of the list that a collection stands in.</summary>
    public static string OfCollections(string? around) => around ?? Collections;

    /// <summary>The key of the list of what a shot has of its own.</summary>
    public static string OfCheats(string shot) => "\u0003" + shot;

    /// <summary>Whether nodes of a kind stand in the tree, where they carry and are carried.</summary>
    public static bool IsInTree(this NodeKind kind) => kind != NodeKind.Mark;
}

/// <summary>Where the geometry of meshes comes from, by its hash.</summary>
public interface IGeometries
{
    /// <summary>The geometry, or null where it is not known.</summary>
    Shapes.Geometry? Find(string hash);

    /// <summary>Takes in geometry that an edit made.</summary>
    void Keep(string hash, Shapes.Geometry geometry);
}

public static class Scenes
{
    extension(IScene scene)
    {
        /// <summary>The marks, in the order of their ranks; they are no one's children.</summary>
        public IReadOnlyList<string> Marks => scene.Children(Lists.Marks);

        /// <summary>The collections that lie in no other, in the artist's order.</summary>
        public IReadOnlyList<string> Collections => scene.Children(Lists.Collections);

        /// <summary>The shots, in the artist's order.</summary>
        public IReadOnlyList<string> Shots => scene.Children(Lists.Shots);

        /// <summary>The materials, in the artist's order.</summary>
        public IReadOnlyList<string> Materials => scene.Children(Lists.Materials);

        /// <summary>What lights the scene from all sides.</summary>
        public Surroundings Surroundings => scene.FindAny(Surroundings.Single) as Surroundings ?? Surroundings.Usual;

        /// <summary>What the scene counts time by.</summary>
        public Timing Timing => scene.FindAny(Timing.Single) as Timing ?? Timing.Usual;
    }

    public static Shot? FindShot(this IScene scene, string id) => scene.FindAny(id) as Shot;

    /// <summary>The shots, in the artist's order.</summary>
    public static IEnumerable<Shot> AllShots(this IScene scene) => scene.Shots.Select(id => scene.FindShot(id)!);

    public static Material? FindMaterial(this IScene scene, string id) => scene.FindAny(id) as Material;

    /// <summary>The materials, in the artist's order.</summary>
    public static IEnumerable<Material> AllMaterials(this IScene scene) => scene.Materials.Select(id => scene.FindMaterial(id)!);

    /// <summary>What a slot of a node looks like; where it has no material, as things without look.</summary>
    public static Surface SurfaceOf(this IScene scene, Node node, int slot = 0) => scene.FindMaterial(node.MaterialOf(slot))?.Surface ?? Surface.Default;

    /// <summary>What a shot has of its own.</summary>
    public static IEnumerable<Cheat> CheatsOf(this IScene scene, string shot) => scene.Children(Lists.OfCheats(shot)).Select(id => (Cheat)scene.FindAny(id)!);

    /// <summary>What a node or a collection has of its own in any shot.</summary>
    public static IEnumerable<Cheat> CheatsOn(this IScene scene, string id) => scene.Shots.Count == 0 ? [] : scene.Referrers(id).Select(scene.FindAny).OfType<Cheat>().Where(c => c.Of == id);

    /// <summary>A node and everything below it, parents before children, siblings in order; the whole scene for null.</summary>
    public static IEnumerable<Node> Branch(this IScene scene, string? top)
    {
        var walk = new Stack<string>();
        if (top is not null)
        {
            walk.Push(top);
        }
        else
        {
            PushReversed(walk, scene.Children(null));
        }

        var draft = scene as SceneDraft;
        while (walk.TryPop(out var id))
        {
            draft?.Spend(1);
            yield return scene.Find(id)!;
            PushReversed(walk, scene.Children(id));
        }
    }

    /// <summary>
    /// A node and everything that goes where it goes, parents before children: its branch without what does not take its parent's
    /// position, and what rides on that.
    /// </summary>
    /// <param name="without">Nodes that are left out with all that rides on them.</param>
    public static IEnumerable<Node> Riding(this IScene scene, string top, HashSet<string>? without = null)
    {
        var walk = new Stack<string>([top]);
        while (walk.TryPop(out var id))
        {
            var node = scene.Find(id)!;
            (scene as SceneDraft)?.Spend(1);
            if ((id == top || node.Placement.Takes.Position) && without?.Contains(id) != true)
            {
                yield return node;
                PushReversed(walk, scene.Children(id));
            }
        }
    }

    /// <summary>Some nodes in the order of the tree.</summary>
    public static IEnumerable<string> InTreeOrder(this IScene scene, IEnumerable<string> ids)
    {
        var some = ids.ToHashSet();
        return some.Count < 2 ? some : scene.Branch(null).Select(n => n.Id).Where(some.Contains);
    }

    /// <summary>All nodes: the tree, then the marks.</summary>
    public static IEnumerable<Node> All(this IScene scene) => scene.Branch(null).Concat(scene.Marks.Select(id => scene.Find(id)!));

    /// <summary>What can be arranged, by its id; null: there is none.</summary>
    public static Arranged? FindArranged(this IScene scene, string id) => scene.FindAny(id) as Arranged;

    public static Collection? FindCollection(this IScene scene, string id) => scene.FindAny(id) as Collection;

    /// <summary>All that stands beside nodes, kind by kind, in an order in which what is named comes first.</summary>
    public static IEnumerable<Entity> BesideNodes(this IScene scene) => EntityKinds.All.SelectMany(kind => kind.Of(scene));

    /// <summary>All collections, outer ones before those in them.</summary>
    public static IEnumerable<Collection> AllCollections(this IScene scene) =>
        scene.Collections.SelectMany(id => scene.Inside(scene.FindCollection(id)!));

    /// <summary>A collection and all that lie in it, outer ones first.</summary>
    public static IEnumerable<Collection> Inside(this IScene scene, Collection collection)
    {
        var walk = new Stack<Collection>([collection]);
        while (walk.TryPop(out var next))
        {
            (scene as SceneDraft)?.Spend(1);
            yield return next;
            var inner = scene.Children(next.Id);
            for (var i = inner.Count - 1; i >= 0; i--)
            {
                walk.Push(scene.FindCollection(inner[i])!);
            }
        }
    }

    /// <summary>A node with all that rides on it, or a collection with all that lie in it.</summary>
    public static IEnumerable<Arranged> With(this IScene scene, Arranged top) =>
        top is Collection collection ? scene.Inside(collection) : scene.Branch(top.Id);

    /// <summary>The nodes that carry this one, nearest first.</summary>
    public static IEnumerable<Node> Ancestors(this IScene scene, Node node)
    {
        for (var id = node.Parent; id is not null;)
        {
            var ancestor = scene.Find(id)!;
            yield return ancestor;
            id = ancestor.Parent;
        }
    }

    /// <summary>The collections around this one, nearest first.</summary>
    public static IEnumerable<Collection> Ancestors(this IScene scene, Collection collection)
    {
        for (var id = collection.Parent; id is not null;)
        {
            var around = scene.FindCollection(id)!;
            yield return around;
            id = around.Parent;
        }
    }

    /// <summary>What carries something, or is around it, nearest first.</summary>
    public static IEnumerable<Arranged> Above(this IScene scene, Arranged some) =>
        some is Collection collection ? scene.Ancestors(collection) : scene.Ancestors((Node)some);

    private static void PushReversed(Stack<string> walk, IReadOnlyList<string> ids)
    {
        for (var i = ids.Count - 1; i >= 0; i--)
        {
            walk.Push(ids[i]);
        }
    }
}
