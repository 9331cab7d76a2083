using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Server.Demo;

/// <summary>
/// The demo scene: an observatory under an open dome, with an orrery in its middle, a telescope on a fork, a stair along
/// the wall and a desk with a star globe. Pivots sit where things really turn.
/// </summary>
internal static class OrreryRoom
{
    public const string SceneId = "orrery-room";
    public const string SceneName = "Orrery Room";

    private const string Brass = "#C99A4E";
    private const string DarkBrass = "#A87B38";
    private const string Iron = "#515957";
    private const string Slate = "#6F7C79";
    private const string Wood = "#8C6844";
    private const string Plaster = "#D6CAB4";
    private const string Sand = "#DCCFB6";
    private const string Paper = "#EFE8D8";

    /// <summary>What the colours of the room are made of.</summary>
    private static readonly Dictionary<string, (string Name, Surface Surface)> Stuff = new()
    {
        [Brass] = ("Brass", new(Brass, 0.34, 0.45)),
        [DarkBrass] = ("Dark brass", new(DarkBrass, 0.42, 0.45)),
        [Iron] = ("Iron", new(Iron, 0.55, 0.35)),
        [Slate] = ("Slate", new(Slate, 0.8)),
        [Wood] = ("Wood", new("#FFFFFF", 0.62, Lies: new(LiesHow.Box, 0.9, 1, True: true)) { Textures = [new("BaseColor", WoodPicture.Hash)] }),
        [Plaster] = ("Plaster", new(Plaster, 0.95)),
        [Sand] = ("Sandstone", new(Sand, 0.9)),
        [Paper] = ("Paper", new(Paper, 1)),
        ["#C7B694"] = ("Floor inlay", new("#C7B694", 0.7)),
        ["#CDB893"] = ("Bent oak", new("#CDB893", 0.8)),
        ["#A69B8C"] = ("Grey rock", new("#A69B8C", 0.95)),
        ["#DBC9A2"] = ("Pale cloud", new("#DBC9A2", 0.7)),
        ["#5E8C92"] = ("Sea", new("#5E8C92", 0.4)),
        ["#B2553A"] = ("Red dust", new("#B2553A", 0.95)),
        ["#9FB9BD"] = ("Lens glass", new("#9FB9BD", 0.05, 0, 0.5, AlphaMode: AlphaMode.Blend, DoubleSided: true)),
        ["#4F6B58"] = ("Green leather", new("#4F6B58", 0.75, DoubleSided: true)),
        ["#7A3E35"] = ("Red cloth", new("#7A3E35", 0.95)),
        ["#3F5A78"] = ("Glass", new("#7FA3C4", 0.08, 0, 0.62, AlphaMode: AlphaMode.Blend)),
        ["#F0AC36"] = ("Glow of the sun", new("#F0AC36", 0.9, Emissive: "#4A2A05")),
    };

    public static SceneDocument Build()
    {
        var room = new Builder();
        Observatory(room);
        Orrery(room);
        Telescope(room);
        Desk(room);
        Lights(room);
        room.Shape("Finder target", null, "cone", new(-0.6, 0, 3.4), Brass, new() { Radius = 0.1, TopRadius = 0.02, Height = 0.3, Segments = 24 }, pivot: new(0, -0.15, 0));
        room.Camera("Wide camera", new(6.4, 3.3, 7.6), new(-13.5, 39, 0), 36);
        room.Mark("Chart place", new(new(2.9, 0.764, 2.2), Vec3.UnitY, new(0.81, 0, 0.59)));
        room.Mark("Tube line", new(Node: "tube"), follow: true);
        Scaffold(room);
        room.Edit(new Gather("Scaffold", "scaffold", Color: "#4F7A94", Nodes: ["scaffold-tower"]));
        room.Edit(new Gather("Set dressing", "set-dressing", Color: "#A8576B", Nodes: ["star-globe", "book", "chart", "desk-lamp", "stool", "finder-target"]));
        room.Edit(new Gather("Brass parts", "brass-parts", Color: Brass, Rule: new(Materials: [room.Material(Brass)])));
        Rigs(room);
        room.Camera("Orrery camera", new(1.9, 1.9, 3.4), new(-17, 26, 0), 40);
        Shots(room);
        return room.Scene;
    }

    private static void Observatory(Builder room)
    {
        var observatory = room.Group("Observatory", null, Vec3.Zero);
        room.Shape("Floor", observatory, "cylinder", new(0, -0.06, 0), Sand, new() { Radius = 6.4, Height = 0.12, Segments = 96 });
        room.Shape("Floor inlay", observatory, "disc", new(0, 0.004, 0), "#C7B694", new() { Radius = 2.6, Inner = 2.5, Segments = 96 });
        Dome(room, observatory);
        var stair = room.Group("Stair", observatory, Vec3.Zero, new(0, 12, 0));
        for (var i = 0; i < 9; i++)
        {
            var (s, c) = Degrees.SinCos(i * 8);
            room.Shape(
                $"Tread {i + 1}", stair, "box", new(4.35 * c, 0.16 + 0.17 * i, -4.35 * s), Plaster,
                new() { Size = [1, 0.09, 0.46] }, new(0, i * 8, 0), new(0, -0.045, 0));
        }

        room.Shape("Landing", stair, "box", new(4.35 * 0.259, 1.66, -4.35 * 0.966), Plaster, new() { Size = [1.1, 0.09, 1.1] }, new(0, 75, 0), new(0, -0.045, 0));
    }

    private static void Dome(Builder room, string observatory)
    {
        const double radius = 5.3;
        var dome = room.Group("Dome", observatory, Vec3.Zero);
        room.Shape("Base ring", dome, "ring", new(0, 0.08, 0), Plaster, new() { Radius = radius, Tube = 0.13, Segments = 72, Sides = 10 });
        var (crownS, crownC) = Degrees.SinCos(75);
        room.Shape("Crown ring", dome, "ring", new(0, radius * crownS, 0), Plaster, new() { Radius = radius * crownC, Tube = 0.1, Segments = 40, Sides = 10 });
        for (var i = 0; i < 6; i++)
        {
            var rib = room.Group($"Rib {i + 1}", dome, Vec3.Zero, new(0, 14 + 60 * i, 0));
            for (var part = 0; part < 5; part++)
            {
                var (s, c) = Degrees.SinCos(7.5 + 15 * part);
                room.Shape(
                    $"Rib {i + 1} part {part + 1}", rib, "capsule", new(radius * c, radius * s, 0), "#CDB893",
                    new() { Radius = 0.1, Height = 1.56, Segments = 12, Rings = 3 }, new(0, 0, 7.5 + 15 * part));
            }
        }

        // Each leaf turns about the edge that lies on the crown ring.
        var shutter = room.Group("Shutter", dome, new(0, radius * crownS + 0.06, 0), new(0, 30, 0));
        var half = radius * crownC;
        foreach (var (name, side) in new[] { ("Shutter leaf left", -1), ("Shutter leaf right", 1) })
        {
            room.Shape(
                name, shutter, "box", new(side * half, 0, 0), Slate,
                new() { Size = [half * 0.96, 0.05, half * 1.5] }, new(0, 0, -side * 58), new(side * half * 0.48, 0, 0));
        }

        // One leaf still turns about the point that its maker left it with, far from its hinge.
        room.Edit(new MovePivot(["shutter-leaf-right"], new(Point: Vec3.Zero)));
        room.Shape("Shutter hinge", shutter, "cylinder", new(-half, 0, 0), DarkBrass, new() { Radius = 0.05, Height = half * 1.5, Segments = 20 }, new(90, 0, 0));
    }

    private static void Orrery(Builder room)
    {
        var orrery = room.Group("Orrery", null, Vec3.Zero);
        room.Shape("Drum", orrery, "cone", Vec3.Zero, Plaster, new() { Radius = 0.78, TopRadius = 0.62, Height = 0.78, Segments = 64 }, pivot: new(0, -0.39, 0));
        room.Shape("Drum plate", orrery, "cylinder", new(0, 0.78, 0), Brass, new() { Radius = 0.66, Height = 0.08, Segments = 64 }, pivot: new(0, -0.04, 0));
        room.Shape("Mast", orrery, "cylinder", new(0, 0.86, 0), DarkBrass, new() { Radius = 0.05, Height = 0.52, Segments = 24 }, pivot: new(0, -0.26, 0));
        room.Shape("Sun lamp", orrery, "ball", new(0, 1.58, 0), "#F0AC36", new() { Radius = 0.27, Segments = 36, Rings = 18 }, emissive: "#4A2A05");

        Arm(room, orrery, "Mercury", 0.86, 205, 0.89, 0.3, 0.085, "#A69B8C");
        Arm(room, orrery, "Venus", 1.22, 158, 0.96, 0.34, 0.15, "#DBC9A2");
        var earthMount = Arm(room, orrery, "Earth", 1.78, 16, 1.03, 0.36, 0.2, "#5E8C92");
        Arm(room, orrery, "Mars", 1.5, 308, 1.1, 0.3, 0.16, "#B2553A");

        var moonArm = room.Shape(
            "Moon arm", earthMount, "box", new(0, 0.1, 0), Brass, new() { Size = [0.46, 0.035, 0.05] }, new(0, 35, 0), new(-0.23, 0, 0));
        room.Shape("Moon post", moonArm, "cylinder", new(0.21, 0.015, 0), Brass, new() { Radius = 0.014, Height = 0.26, Segments = 16 }, pivot: new(0, -0.13, 0));
        room.Shape("Moon", moonArm, "ball", new(0.21, 0.33, 0), Paper, new() { Radius = 0.08, Segments = 24, Rings = 12 });
        room.Shape("Moon clip", moonArm, "ring", new(0.21, 0.27, 0), DarkBrass, new() { Radius = 0.04, Tube = 0.012, Segments = 24, Sides = 8 });
    }

    /// <summary>An arm that turns about the mast, with a post at its end that carries a planet.</summary>
    private static string Arm(Builder room, string orrery, string planet, double length, double angle, double height, double post, double radius, string color)
    {
        var arm = room.Shape(
            $"{planet} arm", orrery, "box", new(0, height, 0), Brass, new() { Size = [length, 0.045, 0.07] }, new(0, angle, 0), new(-length / 2, 0, 0));
        var mount = room.Group($"{planet} mount", arm, new(length / 2, 0.02, 0));
        room.Shape($"{planet} post", mount, "cylinder", Vec3.Zero, Brass, new() { Radius = 0.022, Height = post, Segments = 20 }, pivot: new(0, -post / 2, 0));
        room.Shape(planet, mount, "ball", new(0, post + radius * 0.9, 0), color, new() { Radius = radius, Segments = 28, Rings = 14 });
        return mount;
    }

    private static void Telescope(Builder room)
    {
        var telescope = room.Group("Telescope", null, new(-2.9, 0, -0.5), new(0, 24, 0));
        room.Shape("Pier", telescope, "cone", Vec3.Zero, Iron, new() { Radius = 0.52, TopRadius = 0.4, Height = 0.8, Segments = 48 }, pivot: new(0, -0.4, 0));
        var fork = room.Group("Fork mount", telescope, new(0, 0.8, 0), new(0, -20, 0));
        room.Shape("Fork base", fork, "cylinder", Vec3.Zero, Slate, new() { Radius = 0.4, Height = 0.1, Segments = 48 }, pivot: new(0, -0.05, 0));
        room.Shape("Fork arm left", fork, "box", new(0, 0.1, 0.33), Iron, new() { Size = [0.2, 0.75, 0.08] }, pivot: new(0, -0.375, 0));
        room.Shape("Fork arm right", fork, "box", new(0, 0.1, -0.33), Iron, new() { Size = [0.2, 0.75, 0.08] }, pivot: new(0, -0.375, 0));

        // The tube's own Y runs along it; it tilts about the trunnions in the fork.
        var tube = room.Shape(
            "Tube", fork, "cylinder", new(0, 0.68, 0), Slate, new() { Radius = 0.26, Height = 2.1, Segments = 48 }, new(0, 0, 38), new(0, -0.35, 0));
        room.Shape("Lens ring", tube, "ring", new(0, 1.05, 0), DarkBrass, new() { Radius = 0.26, Tube = 0.03, Segments = 36, Sides = 8 });
        room.Shape("Lens", tube, "disc", new(0, 1.055, 0), "#9FB9BD", new() { Radius = 0.25, Segments = 48 });
        room.Shape("Eyepiece", tube, "cylinder", new(0, -1.05, 0), DarkBrass, new() { Radius = 0.07, Height = 0.2, Segments = 24 }, pivot: new(0, 0.1, 0));
        room.Shape("Finder scope", tube, "cylinder", new(-0.33, 0.1, 0), Brass, new() { Radius = 0.05, Height = 0.7, Segments = 24 });
        room.Shape("Weight rail", tube, "cylinder", new(0.32, -0.45, 0), Iron, new() { Radius = 0.02, Height = 0.9, Segments = 16 });
        room.Shape("Counterweight", tube, "cylinder", new(0.32, -0.6, 0), Iron, new() { Radius = 0.09, Height = 0.18, Segments = 32 });
        room.Shape("Trunnion", fork, "cylinder", new(0, 0.68, 0), DarkBrass, new() { Radius = 0.05, Height = 0.78, Segments = 24 }, new(90, 0, 0));
    }

    private static void Desk(Builder room)
    {
        var desk = room.Group("Desk", null, new(2.5, 0, 2.05), new(0, -36, 0));
        var top = room.Shape("Desk top", desk, "box", new(0, 0.7, 0), Wood, new() { Size = [1.5, 0.06, 0.75] }, pivot: new(0, -0.03, 0));
        foreach (var (name, x, z) in new[] { ("front left", -1, 1), ("front right", 1, 1), ("back left", -1, -1), ("back right", 1, -1) })
        {
            room.Shape($"Desk leg {name}", desk, "box", new(0.68 * x, 0, 0.31 * z), Wood, new() { Size = [0.07, 0.7, 0.07] }, pivot: new(0, -0.35, 0));
        }

        var globe = room.Group("Star globe", top, new(-0.38, 0.03, -0.02));
        room.Shape("Globe foot", globe, "cone", Vec3.Zero, DarkBrass, new() { Radius = 0.12, TopRadius = 0.03, Height = 0.1, Segments = 32 }, pivot: new(0, -0.05, 0));
        var meridian = room.Shape("Meridian ring", globe, "ring", new(0, 0.3, 0), Brass, new() { Radius = 0.22, Tube = 0.012, Segments = 48, Sides = 8 }, new(90, 0, 0));
        room.Shape("Globe", meridian, "ball", Vec3.Zero, "#3F5A78", new() { Radius = 0.19, Segments = 32, Rings = 16 }, new(-90, 0, 23.5));

        var book = room.Shape("Book", top, "box", new(0.2, 0.03, 0.08), "#7A3E35", new() { Size = [0.34, 0.05, 0.25] }, new(0, 14, 0), new(0, -0.025, 0));
        room.Shape("Book pages", book, "box", new(0.005, 0.026, 0), Paper, new() { Size = [0.31, 0.02, 0.23] }, pivot: new(0, -0.01, 0));
        room.Shape("Chart", top, "plane", new(0.5, 0.034, -0.12), Paper, new() { Size = [0.36, 0.26], Divisions = 1 }, new(0, -9, 0));
        var lampArm = room.Shape("Desk lamp", top, "cylinder", new(0.62, 0.03, -0.24), DarkBrass, new() { Radius = 0.018, Height = 0.42, Segments = 16 }, pivot: new(0, -0.21, 0));
        room.Shape("Desk lamp shade", lampArm, "cone", new(-0.05, 0.21, 0.03), "#4F6B58", new() { Radius = 0.14, TopRadius = 0.05, Height = 0.13, Segments = 32, Caps = false }, new(12, 0, -16), new(0, 0.065, 0));
        var stool = room.Group("Stool", null, new(2.0, 0, 2.75));
        room.Shape("Stool seat", stool, "cylinder", new(0, 0.45, 0), Wood, new() { Radius = 0.2, Height = 0.05, Segments = 40 }, pivot: new(0, -0.025, 0));
        for (var i = 0; i < 3; i++)
        {
            var (s, c) = Degrees.SinCos(120 * i + 20);
            room.Shape($"Stool leg {i + 1}", stool, "cylinder", new(0.13 * c, 0.45, 0.13 * s), Wood, new() { Radius = 0.02, Height = 0.46, Segments = 12 }, new(-12 * s, 0, 12 * c), new(0, 0.23, 0));
        }
    }

    /// <summary>What goes by something else: the telescope keeps to a star, the lamp looks at the globe, a board faces the camera, the shutter follows a wheel.</summary>
    private static void Rigs(Builder room)
    {
        // Along the tube as it stands, so that setting the mount up turns nothing.
        var draft = new SceneDraft(room.Scene);
        var tube = draft.Get("tube");
        var star = draft.PivotOf(tube) + draft.World(tube).Linear * Vec3.UnitY * 4.2;
        room.Shape("Finder star", null, "ball", star, Paper, new() { Radius = 0.07, Segments = 24, Rings = 12 }, emissive: "#6A6250");
        room.Edit(new PanAndTilt("fork-mount", ["tube"], "finder-star"));

        room.Edit(new Constrain(["desk-lamp-shade"], new() { Kind = "aim", Target = "star-globe", Axis = "-y", UpAxis = "+z" }));

        room.Shape("Earth board", "earth-mount", "box", new(0, 0.86, 0), Paper, new() { Size = [0.34, 0.14, 0.012] });
        room.Edit(new Constrain(["earth-board"], new() { Kind = "aim", Target = "wide-camera", Axis = "+z", UpAxis = "+y" }));

        // Ten turns of the wheel are one of the shutter.
        room.Shape("Wheel post", "dome", "cylinder", new(-4.4, 0, 1.9), Iron, new() { Radius = 0.05, Height = 0.9, Segments = 20 }, pivot: new(0, -0.45, 0));
        room.Shape("Handwheel", "dome", "ring", new(-4.4, 0.92, 1.9), Brass, new() { Radius = 0.24, Tube = 0.022, Segments = 48, Sides = 10 }, new(0, 300, 0));
        room.Shape("Handwheel spoke", "handwheel", "box", Vec3.Zero, Brass, new() { Size = [0.46, 0.03, 0.05] });
        room.Edit(new Constrain(["shutter"], new() { Kind = "matchRotation", Target = "handwheel", Axes = "y", Factor = 0.1, Offset = [0, 0, 0] }));
    }

    /// <summary>Left by the painters: two decks between four poles.</summary>
    private static void Scaffold(Builder room)
    {
        var tower = room.Group("Scaffold tower", null, new(-3.1, 0, -3.3), new(0, 42, 0));
        foreach (var (name, x, z) in new[] { ("front left", -1, 1), ("front right", 1, 1), ("back left", -1, -1), ("back right", 1, -1) })
        {
            room.Shape($"Scaffold pole {name}", tower, "cylinder", new(0.8 * x, 0, 0.35 * z), Slate, new() { Radius = 0.03, Height = 2.9, Segments = 12 }, pivot: new(0, -1.45, 0));
        }

        foreach (var (name, height) in new[] { ("lower", 1.1), ("upper", 2.2) })
        {
            room.Shape($"Scaffold deck {name}", tower, "box", new(0, height, 0), Wood, new() { Size = [1.8, 0.05, 0.72] }, pivot: new(0, -0.025, 0));
        }

        room.Shape("Scaffold brace", tower, "cylinder", new(-0.8, 0.1, 0.39), Slate, new() { Radius = 0.02, Height = 1.86, Segments = 10 }, new(0, 0, -58), new(0, -0.93, 0));
    }

    /// <summary>Five pictures of the room: what stands in the way is left out, and some things are not quite where they are.</summary>
    private static void Shots(Builder room)
    {
        room.Camera("Dome camera", new(-2.2, 1.5, 4.6), new(24, -28, 0), 48);
        room.Camera("Desk camera", new(4.1, 1.75, 3.7), new(-24, 41, 0), 34);
        room.Camera("Moon camera", new(2.6, 1.95, 1.5), new(-10, 58, 0), 30);
        foreach (var (number, name, camera, frames, note) in new[]
        {
            ("01", "Room", "wide-camera", 144, "The whole room, as one comes in."),
            ("02", "Orrery", "orrery-camera", 96, "The planets, without the painters' things."),
            ("03", "Dome", "dome-camera", 96, "Up to the open shutter."),
            ("04", "Desk", "desk-camera", 72, "The globe by lamplight."),
            ("05", "Moon", "moon-camera", 120, "The moon a little larger than it is."),
        })
        {
            room.Edit(new MakeShot(new($"shot-{number}", number, name, camera, frames, note)));
        }

        room.Edit(new SeeIn(["shot-02", "shot-03", "shot-05"], ["scaffold"], false));
        room.Edit(new SeeIn(["shot-03", "shot-05"], ["set-dressing"], false));
        room.In("shot-04", new Move(["desk-lamp"], new(-0.18, 0, 0.04), new ParentSpace()));
        room.In("shot-04", new Rotate(["globe"], 40, Vec3.UnitZ, new OwnSpace(), new AboutOwn()));
        room.In("shot-04", new SetLight(["desk-glow"], Intensity: 2.6));
        room.In("shot-05", new Scale(["moon"], new(1.6, 1.6, 1.6), new OwnSpace(), new AboutOwn()));
    }

    private static void Lights(Builder room)
    {
        var lights = room.Group("Lights", null, Vec3.Zero);
        room.Light("Daylight", lights, new(4, 6, 3), new(-52, 38, 0), new() { Type = LightType.Directional, Temperature = 9000, Intensity = 0.9, Size = 2 });
        room.Light("Sun glow", lights, new(0, 1.58, 0), Vec3.Zero, new() { Type = LightType.Point, Temperature = 2300, Intensity = 2.2, Size = 0.3 });
        room.Light("Desk glow", lights, new(2.96, 1.09, 2.15), new(-34, 68, 0), new() { Type = LightType.Spot, Temperature = 2800, Intensity = 1.4, InnerCone = 24, OuterCone = 52, Size = 0.08 });
        room.Edit(new SetSurroundings(SurroundingsKind.Sky, "#8CA3C4", "#4B4238", Strength: 0.3, Exposure: 0.4));
    }

    /// <summary>Adds nodes by the same edits that artists make; ids are made from the names.</summary>
    private sealed class Builder
    {
        public SceneDocument Scene { get; } = new(SceneId, SceneName, "m", 0, [], NoGeometries.Instance);

        public string Group(string name, string? under, Vec3 position, Vec3? rotation = null) =>
            Add(under, new() { Id = IdOf(name), Name = name, Kind = NodeKind.Group, Placement = new() { Position = position, Rotation = rotation } });

        public string Shape(
            string name, string? under, string type, Vec3 position, string color, ShapePatch shape, Vec3? rotation = null, Vec3? pivot = null, string emissive = "#000000") =>
            Add(under, new()
            {
                Id = IdOf(name),
                Name = name,
                Kind = NodeKind.Shape,
                Placement = new() { Position = position, Rotation = rotation, Pivot = pivot },
                Shape = shape with { Type = type },
                Material = Stuff.TryGetValue(color, out var stuff) && (emissive == "#000000" || stuff.Surface.Emissive == emissive) ? MaterialChoice.Of(stuff.Surface, stuff.Name) : MaterialChoice.Of(new(color, 0.85, Emissive: emissive), "Starlight"),
            });

        /// <summary>The id of the material of a colour.</summary>
        public string Material(string color) => MaterialChoice.Of(Stuff[color].Surface, Stuff[color].Name).Id;

        public void Light(string name, string under, Vec3 position, Vec3 rotation, Light light) =>
            Add(under, new() { Id = IdOf(name), Name = name, Kind = NodeKind.Light, Placement = new() { Position = position, Rotation = rotation }, Light = light });

        public void Camera(string name, Vec3 position, Vec3 rotation, double fov) =>
            Add(null, new() { Id = IdOf(name), Name = name, Kind = NodeKind.Camera, Placement = new() { Position = position, Rotation = rotation }, Camera = new() { Fov = fov } });

        public void Mark(string name, MarkPlace at, bool follow = false) => Edit(new CreateMark(name, at, IdOf(name), follow));

        public void Edit(Edit edit) => Scene.Apply(Batch.Run(Scene, [edit]).Change);

        /// <summary>The same in one shot only.</summary>
        public void In(string shot, Edit edit) => Scene.Apply(Batch.Run(Scene, [edit], new(shot, Narrow: true)).Change);

        private static string IdOf(string name) => name.ToLowerInvariant().Replace(' ', '-');

        private string Add(string? under, NewNode node)
        {
            Edit(new Create(node, under));
            return node.Id!;
        }
    }
}
