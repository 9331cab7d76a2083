using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests;

/// <summary>Random edits of every registered verb, on a scene that holds everything a scene can hold.</summary>
internal static class AnyEdit
{
    public static readonly IReadOnlyList<string> Verbs =
        [.. RandomJson.Kinds(WireJson.Options.GetTypeInfo(typeof(Edit))).Select(k => k.Word)];

    /// <summary>A picture of one pixel.</summary>
    public static readonly byte[] Picture = Convert.FromBase64String("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");

    public static readonly string Image = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(Picture));

    private static readonly Space[] Spaces = [new WorldSpace(), new ParentSpace(), new OwnSpace(), new LeadSpace()];

    private static readonly About[] Abouts = [new AboutOwn(), new AboutLead(), new AboutBounds(), new AboutMean(), new AboutZero()];

    /// <summary>Groups in groups, shapes that share, a mesh of two pieces, a lamp, a camera, marks, collections with rules, something locked.</summary>
    public static SceneDocument Room(int seed)
    {
        var random = new Random(seed);
        var scene = Some.Scene(
            Node.Bare("hall", "Hall", NodeKind.Group, null, Placed(random)),
            Some.Box("desk", "hall", Placed(random), 1) with { Materials = ["board"] },
            Some.Box("drawer", "desk", Placed(random) with { Takes = Taking(random) }, 1),
            Some.Box("lid", "desk", Placed(random), 2) with { Switches = new(Locked: random.Next(3) == 0) },
            Node.Bare("tray", "Tray", NodeKind.Group, "desk", Placed(random)) with { Rank = 3, Label = new("#A0B0C0", "a note", true) },
            Some.Box("cup", "tray", Placed(random), 1) with { Shares = "cup", Materials = ["brass"] },
            Some.Box("mug", "tray", Placed(random) with { Takes = Taking(random) }, 2) with { Shares = "cup", Materials = ["brass"] },
            Node.Bare("lamp", "Lamp", NodeKind.Light, null, Placed(random)) with { Rank = 2, Light = new(LightType.Point) },
            Node.Bare("eye", "Eye", NodeKind.Camera, null, Placed(random)) with { Rank = 3, Camera = new() },
            Some.Mark("here", null, new(1, 2, 3), new(10, 20, 30)),
            Some.Mark("there", "drawer", new(0, 1, 0), Vec3.Zero, 2),
            new Material("brass", "Brass", 1) { Surface = new("#C99A4E", 0.4, 0.6) },
            new Material("gold", "Gold", 2) { Surface = new("#C99A4E", 0.4, 0.6) },
            new Material("board", "Board", 3) { Surface = new("#8C6844", Lies: new(LiesHow.Box, 0.6, 1.5, true)) { Textures = [new("BaseColor", Image, Repeat: new(2, 1), Turn: 30)] } },
            new Material("spare", "Spare", 4) { Surface = new("#123456", 0.5) },
            new Collection("set", "Set", null, 1) { Rule = new(Name: "*u*") },
            new Collection("shiny", "Shiny", null, 2) { Rule = new(Materials: ["brass", "gold"]) },
            new Collection("inner", "Inner", "set", 2),
            Some.Box("stool", null, Placed(random), 4) with { Collections = ["inner"] });
        scene.Keep(new Join(["stool", "desk"]), new PutUnder(["desk"], "hall", 0));

        // Half of the rooms have some constraints from the start.
        if (random.Next(2) == 0)
        {
            scene.Keep(new Constrain(["lamp"], new() { Kind = "aim", Target = "cup" }), new Constrain(["cup"], new() { Kind = "follow", Target = "here", Frame = "parent" }));
            scene.Keep(new Constrain(["eye"], new() { Kind = "rideOn", Target = "drawer" }), new Constrain(["eye"], new() { Kind = "swivel", Target = "hall", Weight = 0.4 }));
        }

        // And two thirds have shots.
        if (random.Next(3) > 0)
        {
            Shoot(scene, seed);
        }

        return scene;
    }

    /// <summary>A surface with pictures now and then, for any of the channels, in any order.</summary>
    /// <summary>By six figures, or finer than these can say.</summary>
    public static Color AnyColor(Random r) => r.Next(3) == 0 ? Color.Of(new Vec3(r.NextDouble(), r.NextDouble(), r.Next(2))) : $"#{r.Next(1 << 24):X6}";

    public static Surface AnySurface(Random r) => new(AnyColor(r), r.NextDouble(), r.NextDouble(), r.NextDouble(), r.Next(2) == 0 ? "#000000" : AnyColor(r), 1 + r.NextDouble(), (AlphaMode)r.Next(3), r.NextDouble(), r.Next(2) == 0, r.Next(4) == 0, r.Next(2) == 0 ? null : new((LiesHow)(1 + r.Next(2)), 0.1 + r.NextDouble(), 0.5 + r.NextDouble(), r.Next(2) == 0, (LiesFrom)r.Next(6)))
    {
        Textures = r.Next(2) == 0 ? [] : [.. TextureUse.Channels.OrderBy(_ => r.Next()).Take(1 + r.Next(TextureUse.Channels.Count)).Select(channel => AnyUse(channel, r))],
    };

    private static TextureUse AnyUse(string channel, Random r)
    {
        static T OneOf<T>(Random r, params T[] some) => some[r.Next(some.Length)];
        var wrap = OneOf(r, 10497, 33071, 33648);
        return new(channel, Image, 0, wrap, OneOf(r, 10497, wrap), OneOf<int?>(r, null, 9728, 9729), OneOf<int?>(r, null, 9728, 9985, 9987), channel is "Normal" or "Occlusion" ? r.NextDouble() : null)
        {
            Repeat = r.Next(2) == 0 ? null : new(1 + r.Next(3), r.NextDouble() - 2),
            Offset = r.Next(2) == 0 ? null : new(r.NextDouble(), -r.NextDouble()),
            Turn = r.Next(2) == 0 ? 0 : 360 * r.NextDouble(),
        };
    }

    /// <summary>An edit of a verb, about nodes that are there; it may still be one that is refused.</summary>
    public static Edit Of(string verb, IScene scene, int seed)
    {
        var r = new Random(seed);
        List<Arranged> all = [.. scene.All(), .. scene.AllCollections()];
        var tree = scene.Branch(null).ToList();
        string OneOf(IEnumerable<Arranged> fitting)
        {
            var some = fitting.Select(n => n.Id).ToList();
            return some.Count == 0 ? "none" : some[r.Next(some.Count)];
        }

        string One(Predicate<Node>? fits = null) => OneOf(fits is null ? tree : scene.All().Where(n => fits(n)));
        string Any() => OneOf(all);

        string[] Few(int least = 1) => tree.Count == 0 ? ["none"] : [.. tree.OrderBy(_ => r.Next()).Take(least + r.Next(2)).Select(n => n.Id)];
        var (nodes, space, about, axis, by) = (Few(), Spaces[r.Next(4)], Abouts[r.Next(5)], Vec3.Axis(r.Next(3)), Vector(r, 3));
        var (children, keep, maybe) = ((ChildrenMode)r.Next(2), (Keep)r.Next(2), r.Next(2) == 0);
        string Collection() => OneOf(scene.AllCollections());
        EntryOf Entry() => scene.All().Where(n => !n.Constraints.IsEmpty).OrderBy(_ => r.Next()).FirstOrDefault() is { } tied ? new(tied.Id, tied.Constraints[r.Next(tied.Constraints.Length)].Id) : new("none", "none");
        string Material() => scene.Materials.Count == 0 ? "none" : scene.Materials[r.Next(scene.Materials.Count)];
        string Shot() => scene.Shots.Count == 0 ? "none" : scene.Shots[r.Next(scene.Shots.Count)];
        Cheat? CheatOn() => scene.Shots.SelectMany(scene.CheatsOf).OrderBy(_ => r.Next()).FirstOrDefault();
        var thing = new NewNode { Id = $"new{seed}", Name = "Box", Kind = NodeKind.Shape, Shape = new() { Type = "box" } };
        return verb switch
        {
            "create" => new Create(thing, maybe ? One() : null),
            "add" => new Add(thing with { Id = null }, nodes, (AddWhere)r.Next(3)),
            "remove" => new Remove(maybe ? nodes : [OneOf(all.Except(tree))], (RemovedChildren)r.Next(2)),
            "rename" => new Rename(Any(), $"name {seed}"),
            "setShape" => new SetShape(One(n => n.Shape is not null), new() { Size = [1 + r.Next(3), 2, 1] }),
            "place" => new Place(nodes[0], new() { Position = by, Takes = new(Rotation: maybe) }),
            "move" => new Move(nodes, by, space, children),
            "rotate" => new Rotate(nodes, by.X * 50, axis, space, about, (Effect)r.Next(2), children),
            "scale" => new Scale(nodes, new(1.5, 0.5 + r.NextDouble(), -0.8), space, about, maybe ? new KeepVolume(['x']) : null, (Effect)r.Next(2), children),
            "movePivot" => maybe ? new MovePivot(nodes, new(Own: by), Keep: keep) : new MovePivot(nodes, Spin: new(by.X * 30, axis, space)),
            "putUnder" => new PutUnder(nodes, maybe ? One() : null, r.Next(3) == 0 ? 0 : null, keep),
            "see" => new See([Any()], Working: maybe, Final: r.Next(2) == 0),
            "lock" => new LockNodes([Any()], r.Next(4) == 0),
            "setNormals" => new SetNormals(nodes, (SurfaceLook)r.Next(3), 30),
            "steer" => new Steer(One(n => n.Kind == NodeKind.Camera), Placed(r).Local()),
            "setOrder" => new SetOrder(nodes, (EulerOrder)r.Next(6)),
            "setTakes" => new SetTakes(nodes, new(maybe, r.Next(2) == 0, r.Next(2) == 0), keep),
            "dropShear" => new DropShear(nodes),
            "mirror" => new Mirror(nodes, axis, space, about, (MirrorHow)r.Next(2)),
            "align" => new Align(Few(2), One(), new(new(AlignPlace.Min, AlignPlace.Max), null, new(AlignPlace.Pivot, AlignPlace.Middle)), space, (MoveAs)r.Next(2), maybe, maybe),
            "spread" => new Spread(Few(3), (SpreadAlong)r.Next(4), space, (SpreadEqual)r.Next(2)),
            "drop" => new Drop(nodes, maybe ? null : by, (DropBy)r.Next(2)),
            "set" => new SetChannel(nodes, (ChannelName)r.Next(4), [1 + r.NextDouble(), null, 2], In: (ReadIn)r.Next(2)),
            "bring" => new Bring(nodes, maybe ? new(Node: One()) : new(Mark: One(n => n.Kind == NodeKind.Mark)), Rotation: maybe),
            "mark" => new CreateMark("Spot", new(Node: nodes[0]), $"mark{seed}", maybe),
            "follow" => new FollowNode(One(n => n.Kind == NodeKind.Mark), maybe ? One() : null),
            "group" => new Group(nodes, "Group", (GroupAt)r.Next(4), $"group{seed}"),
            "ungroup" => new Ungroup([One(n => n.Kind == NodeKind.Group)]),
            "duplicate" => new Duplicate(nodes, 1 + r.Next(2), [new Move(nodes, by, space)], Sharing: maybe, Ids: null),
            "unshare" => new Unshare([One(n => n.Shares is not null)]),
            "unlink" => new Unlink([One(n => n.Shares is not null)]),
            "collection" => new Gather("Things", $"things{seed}", maybe ? Collection() : null, "#102030", maybe ? new(Kind: NodeKind.Shape) : null, nodes),
            "collect" => new Collect(nodes, Collection(), maybe),
            "setRule" => new SetRule(Collection(), maybe ? null : new(Under: One())),
            "label" => new SetLabel([OneOf(all.Where(n => n is Core.Scene.Collection or Node { Kind: NodeKind.Group }))], "#FF0000", $"note {seed}"),
            "draw" => maybe ? new Draw(nodes, (DrawnAs)r.Next(3)) : new Draw([One(n => n.Shape is not null)], DrawnAs.Controller),
            "renameMany" => new RenameMany(nodes, "Many", From: r.Next(5)),
            "paste" => new Paste(SceneText.Read(SceneText.Write(new(scene), nodes)), Under: maybe ? One() : null),
            "separate" => new Separate([One(n => n.Kind == NodeKind.Mesh)]),
            "join" => new Join([One(n => n.Shape is not null), One(n => n.Shape is not null || n.Geometry is not null)], (OtherShots)r.Next(2)),
            "setLight" => new SetLight([One(n => n.Light is not null), .. nodes.Take(1)], (LightType)r.Next(4), maybe ? AnyColor(r) : (Color?)null, r.Next(2) == 0 ? 2 : null, r.Next(3), null, 10 + r.Next(100), r.Next(3) switch { 0 => null, 1 => 0, _ => 2000 + r.Next(9000) }, r.Next(2) == 0 ? r.NextDouble() : null, r.Next(2) == 0 ? r.NextDouble() : null, r.Next(3) == 0 ? maybe : null, (Core.Amounts.AmountMode)r.Next(3)),
            "constrain" => new Constrain(nodes, AnyConstraint.Of(r, One, Any)),
            "setConstraint" => new SetConstraint([Entry()], maybe, r.Next(2) == 0 ? r.NextDouble() : null, r.Next(3) == 0 ? 0 : null, r.Next(4) == 0 ? One() : null, Kind: r.Next(4) == 0 ? AnyConstraint.Kind(r) : null),
            "unconstrain" => new Unconstrain([maybe ? Entry() : new(One(n => !n.Constraints.IsEmpty))]),
            "turnTo" => r.Next(3) == 0 ? new TurnTo(nodes, At: by) : new TurnTo(nodes, One(), maybe ? AnyConstraint.Axis(r) : null),
            "panAndTilt" => new PanAndTilt(One(), [One(), .. nodes.Take(1)], One(), maybe ? AnyConstraint.Axis(r) : null, r.Next(2) == 0),
            "giveLinks" => new GiveLinks(r.Next(4) == 0 ? One() : One(n => !n.Constraints.IsEmpty), nodes),
            "drive" => new Drive(nodes, $"drive{seed}", maybe ? 1 + r.NextDouble() : null),
            "faceWith" => new FaceWith(One(), AnyConstraint.Axis(r), by),
            "bake" => new Bake([One(n => !n.Constraints.IsEmpty)], null, maybe),
            "setCamera" => new SetCamera([One(n => n.Camera is not null)], (Projection)r.Next(2), 20 + r.Next(200), maybe ? 2 : null, r.Next(3) == 0 ? 0.5 * r.Next(2) : null, 5 * r.Next(2), r.Next(3) == 0 ? 0 : 1.5, r.Next(4) == 0 ? 20 + r.Next(100) : null, r.Next(3) == 0 ? 100 * r.Next(20) : null, r.NextDouble(), r.NextDouble() - 0.5, r.Next(2) == 0 ? r.Next(8) : null, r.Next(3) == 0 ? r.NextDouble() : null, r.Next(3) switch { 0 => null, 1 => "", _ => One() }, (Core.Amounts.AmountMode)r.Next(3)),
            "setSurroundings" => new SetSurroundings((SurroundingsKind)r.Next(3), maybe ? "#334455" : null, r.Next(2) == 0 ? "#665544" : null, r.Next(4) == 0 ? Image : null, r.NextDouble() * 2, r.Next(2) == 0 ? r.Next(360) : null, r.Next(3) == 0 ? maybe : null, r.Next(2) == 0 ? r.NextDouble() * 6 - 3 : null, (Core.Amounts.AmountMode)r.Next(3)),
            "highlight" => maybe ? new PutHighlight([One(n => n.Light is not null), .. nodes.Take(1)], by, Vector(r, 1), Eye: Vector(r, 6)) : new PutHighlight([One(n => n.Light is not null)], by, Vector(r, 1), View: Vector(r, 1)),
            "material" => new MakeMaterial($"stuff{seed}", maybe ? "Stuff" : null, r.Next(3) switch { 0 => null, 1 => new(Material()), _ => MaterialChoice.Of(AnySurface(r), "Said") }, r.Next(3) == 0 ? 0 : null, maybe ? nodes : null),
            "setMaterial" => new SetMaterial(Material(), maybe ? $"name {seed}" : null, r.Next(2) == 0 ? AnyColor(r) : (Color?)null, maybe ? 0.5 : null, (AlphaMode)r.Next(3), null, r.NextDouble(), r.Next(2) == 0 ? 1 : null, null, 2, maybe, null, r.Next(3) == 0 ? AnySurface(r).Textures : null, r.Next(3) == 0 ? AnySurface(r).Lies : null, (Core.Amounts.AmountMode)r.Next(3)),
            "removeMaterial" => new RemoveMaterial(Material(), maybe ? Material() : null),
            "assign" => new Assign(nodes, r.Next(4) switch { 0 => null, 1 => MaterialChoice.Of(AnySurface(r)), _ => new(Material()) }, maybe ? 0 : null),
            "takeMaterial" => new TakeMaterial(Few(2), maybe ? One(n => n.Shape is not null) : null),
            "mergeMaterials" => new MergeMaterials(maybe ? ["brass", "gold"] : null),
            "clearMaterials" => new ClearMaterials(),
            "shot" => new MakeShot(new($"shot{seed}", maybe ? null : "7", "Shot", maybe ? One(n => n.Camera is not null) : null, 1 + r.Next(200), maybe ? "a note" : null, maybe ? "#203040" : null, r.Next(3) == 0 ? 0 : null)),
            "setShot" => new SetShot(Shot(), maybe ? "0a" : null, r.Next(2) == 0 ? $"shot {seed}" : null, r.Next(2) == 0 ? One(n => n.Camera is not null) : "", 1 + r.Next(99), "n", "", r.Next(3) == 0 ? 1 : null),
            "copyShot" => new CopyShot(Shot(), $"copy{seed}", null, maybe ? 2 : null),
            "removeShot" => new RemoveShot(Shot()),
            "renumber" => new Renumber(r.Next(50), 1 + r.Next(9)),
            "setTiming" => new SetTiming(maybe ? 25 : null, r.Next(2) == 0 ? r.Next(100) : null),
            "seeIn" => new SeeIn(maybe ? [Shot()] : scene.Shots, [Any()], r.Next(3) switch { 0 => null, 1 => true, _ => false }),
            "takeFrom" => new TakeFrom(Shot(), maybe ? Shot() : null, r.Next(2) == 0 ? [Any()] : null, r.Next(3) == 0 ? ["position"] : null, r.Next(2) == 0),
            "ownCamera" => new OwnCamera(Shot(), $"own{seed}"),
            "shotList" => new ListShots([.. Enumerable.Range(0, 1 + r.Next(4)).Select(i => new NewShot(null, maybe ? $"{i}" : null, r.Next(2) == 0 && scene.FindShot(Shot()) is { } named ? named.Name : $"Listed {r.Next(4)}", r.Next(3) == 0 ? One(n => n.Camera is not null) : null, r.Next(2) == 0 ? 1 + r.Next(99) : null))]),
            "keepSize" => maybe ? new KeepSize(One(n => n.Camera is not null), One(), Fov: 5 + r.Next(160)) : new KeepSize(One(n => n.Camera is not null), One(), Depth: 0.5 + r.Next(9)),
            "level" => new Level([One(n => n.Camera is not null)]),
            "takeBack" => CheatOn() is { } mine ? new TakeBack(mine.Shot, maybe ? [mine.Of] : null, r.Next(2) == 0 ? [mine.Channel] : null) : new TakeBack(Shot()),
            "everywhere" => CheatOn() is { } mine ? new Everywhere(mine.Shot, maybe ? [mine.Of] : null, r.Next(2) == 0 ? [mine.Channel] : null, (OtherShots)r.Next(2)) : new Everywhere(Shot()),
            "carryAlong" => CheatOn() is { } mine ? new CarryAlong([new(mine.Shot, mine.Of, mine.Channel, [.. mine.Value.Numbers.Select(_ => r.NextDouble())])]) : new CarryAlong([]),
            _ => throw new InvalidOperationException($"There is no random edit for the verb “{verb}” yet: write one here."),
        };
    }

    /// <summary>The scope that an edit is made in: half of the time that of the scene, else in some shot, or computed on it.</summary>
    public static Scope ScopeOf(IScene scene, int seed)
    {
        var r = new Random(seed ^ 0x5C0E);
        return r.Next(2) == 0 || scene.Shots.Count == 0 ? Scope.Every : new(scene.Shots[r.Next(scene.Shots.Count)], r.Next(2) == 0);
    }

    /// <summary>Gives a scene two shots that differ from it.</summary>
    public static void Shoot(SceneDocument scene, int seed, params string[] only)
    {
        foreach (var shot in scene.Shots.ToList())
        {
            scene.Keep(new RemoveShot(shot));
        }

        scene.Keep(new MakeShot(new("one", Name: "One", Camera: "eye")), new MakeShot(new("two", Name: "Two")), new MakeShot(new("three", Name: "Three")));
        var r = new Random(seed);
        string[] verbs = only.Length > 0 ? only : ["move", "rotate", "scale", "mirror", "set", "setLight", "setCamera", "setConstraint", "see", "assign", "setSurroundings"];
        for (var i = 0; i < 8; i++)
        {
            try
            {
                scene.Apply(Batch.Run(scene, [Of(verbs[r.Next(verbs.Length)], scene, r.Next())], new(r.Next(3) == 0 ? "two" : "one", Narrow: true)).Change);
            }
            catch (Refusal)
            {
            }
        }
    }

    private static Vec3 Vector(Random random, double most) =>
        new((random.NextDouble() * 2 - 1) * most, (random.NextDouble() * 2 - 1) * most, (random.NextDouble() * 2 - 1) * most);

    private static Takes Taking(Random random) => new(random.Next(3) > 0, random.Next(2) == 0, random.Next(2) == 0);

    private static Placement Placed(Random random) => Placement.Default with
    {
        Position = Vector(random, 5),
        Rotation = Vector(random, 200),
        Order = (EulerOrder)random.Next(6),
        Scale = new(0.5 + random.NextDouble(), random.Next(2) == 0 ? -1 : 1, 1 + random.NextDouble()),
        Pivot = Vector(random, 1),
        PivotTurn = random.Next(3) == 0 ? Vector(random, 90) : Vec3.Zero,
    };
}
