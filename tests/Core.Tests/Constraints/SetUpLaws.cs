using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Constraints;

/// <summary>Set-ups in one go: the mount that pans and tilts, links given on, a controller ahead, a face that aims, another kind in place.</summary>
public sealed class SetUpLaws
{
    private static readonly Gen<double> Angle = Gen.Double[-180, 180];

    private static readonly Gen<Vec3> Somewhere = Gen.Select(Gen.Double[-5, 5], Gen.Double[-5, 5], Gen.Double[-5, 5], (x, y, z) => new Vec3(x, y, z));

    /// <summary>A plate that stands upright, turned about its Y; a barrel on it, not carried, whose axes are those of the plate in another order.</summary>
    private static SceneDocument Mount(double turn, Vec3 at, int quarter, Vec3 target)
    {
        var plate = Placement.Default with { Position = at, Rotation = new(0, turn, 0) };
        var barrel = plate with { Position = at + new Vec3(0, 1, 0), Rotation = new(0, turn + 90 * quarter, 0), Scale = new(0.4, 0.4, 3), Pivot = new(0, 0, -0.2) };
        return Some.Scene(Some.Box("plate", null, plate), Some.Box("barrel", null, barrel, 1), Some.Box("moon", null, Placement.Default with { Position = target }, 2));
    }

    [Fact]
    public void What_tips_faces_the_target_and_the_base_turns_about_its_upright_alone() =>
        Gen.Select(Angle, Somewhere, Gen.Int[0, 3], Somewhere).Where((_, at, _, to) => Aside(to - at) > 0.5).Sample((turn, at, quarter, to) =>
        {
            var scene = Mount(turn, at, quarter, to);
            var up = scene.Axes("plate") * Vec3.UnitY;
            scene.Keep(new PanAndTilt("plate", ["barrel"], "moon"));
            Assert.True((scene.Axes("plate") * Vec3.UnitY - up).Length < 1e-9);
            Assert.True((scene.Pivot("plate") - at).Length < 1e-9);
            Assert.True((scene.Pivot("barrel") - (at + new Vec3(0, 1, 0))).Length < 1e-9);

            // The long end of the barrel.
            var way = (scene.Pivot("moon") - scene.Pivot("barrel")).Unit();
            Assert.True((scene.Axes("barrel") * Vec3.UnitZ - way).Length < 1e-6, $"{scene.Axes("barrel") * Vec3.UnitZ} {way}");

            // As it goes on, both follow; nothing of the base tips.
            scene.Keep(new Move(["moon"], new(0.7, 0.9, -0.4), new WorldSpace()));
            way = (scene.Pivot("moon") - scene.Pivot("barrel")).Unit();
            Assert.True(Aside(way) < 0.01 || (scene.Axes("barrel") * Vec3.UnitZ - way).Length < 1e-6);
            Assert.True((scene.Axes("plate") * Vec3.UnitY - up).Length < 1e-9);
        });

    [Fact]
    public void A_pivot_aside_from_the_middle_is_said_and_mended_without_moving_the_base()
    {
        var scene = Mount(20, new(1, 0, 2), 0, new(4, 3, 1));
        scene.Keep(new MovePivot(["plate"], new(Own: new(0.12, 0, 0))));
        var edit = new PanAndTilt("plate", ["barrel"], "moon");
        Assert.Contains("The pivot of plate lies 0.12 m from its middle, so it would not turn in place. Mend it?", edit.Foretell(scene), StringComparison.Ordinal);
        Assert.DoesNotContain("Mend", (edit with { Mend = true }).Foretell(scene), StringComparison.Ordinal);
        var middle = scene.World("plate").Point(Vec3.Zero);
        scene.Keep(edit with { Mend = true });
        Assert.True((scene.Pivot("plate") - middle).Length < 1e-9);
        Assert.True((scene.World("plate").Point(Vec3.Zero) - middle).Length < 1e-9);
        Assert.Equal("Set up pan and tilt: plate turns and barrel tips to moon, its pivot mended", (edit with { Mend = true }).Say(new(scene)));
    }

    [Fact]
    public void What_aimed_before_makes_room_and_setting_up_twice_is_as_once()
    {
        var scene = Mount(30, Vec3.Zero, 1, new(4, 2, 1)).Tie(new() { Kind = "aim", Target = "moon" }, "barrel");
        var edit = new PanAndTilt("plate", ["barrel"], "moon");
        Assert.Contains("makes room", edit.Foretell(scene), StringComparison.Ordinal);
        scene.Keep(edit);
        var once = scene.Find("barrel")!.Constraints;
        Assert.Equal(["rideOn", "swivel"], once.Select(c => c.Kind));
        scene.Keep(edit);
        Assert.Equal(once.Select(c => c.Kind), scene.Find("barrel")!.Constraints.Select(c => c.Kind));
        Assert.Contains("the base last", scene.Refused(new PanAndTilt("plate", [], "moon")).Message, StringComparison.Ordinal);
        Assert.Contains("Press the target", scene.Refused(new PanAndTilt("plate", ["barrel"], "")).Message, StringComparison.Ordinal);
        scene.Refused(new PanAndTilt("plate", ["barrel"], "barrel"));
    }

    [Fact]
    public void Links_given_on_go_by_what_each_has_of_its_own()
    {
        var parts = new List<Node>();
        for (var i = 0; i < 8; i++)
        {
            parts.Add(Node.Bare($"rig{i}", $"Rig {i}", NodeKind.Group, null, Placement.Default with { Position = new(3 * i, 0, 0), Rotation = new(0, 45 * i, 0) }) with { Rank = i });
            parts.Add(Some.Box($"eye{i}", $"rig{i}") with { Name = "Eye" });
            parts.Add(Some.Box($"aim{i}", $"rig{i}", Placement.Default with { Position = new(0.3, 1, 4) }, 1) with { Name = i % 2 == 0 ? "Aim here" : $"Aim {i}" });
        }

        var scene = Some.Scene([.. parts]);
        scene.Keep(new Constrain(["eye0"], new() { Kind = "aim", Target = "aim0", Axis = "+z" }), new Constrain(["eye0"], new() { Kind = "limit", Of = "scale", High = [2, 2, 2] }));
        string[] others = [.. Enumerable.Range(1, 7).Select(i => $"eye{i}")];
        var edit = new GiveLinks("eye0", [.. others, "eye0"]);
        Assert.Equal("Gave 7 objects the constraints of Eye", edit.Say(new(scene)));
        scene.Keep(edit);
        scene.Keep(edit);
        for (var i = 1; i < 8; i++)
        {
            Assert.Equal([$"aim{i}", null], scene.Find($"eye{i}")!.Constraints.Select(c => c.Target));
            var way = (scene.Pivot($"aim{i}") - scene.Pivot($"eye{i}")).Unit();
            Assert.True((scene.Axes($"eye{i}") * Vec3.UnitZ - way).Length < 1e-9);
        }

        Assert.Contains("no constraints to give", scene.Refused(new GiveLinks("aim0", ["eye1"])).Message, StringComparison.Ordinal);
        Assert.Contains("Only the one", scene.Refused(new GiveLinks("eye0", ["eye0"])).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Hinges_given_on_lie_along_the_same_own_axes_and_offsets_move_nothing() =>
        Gen.Select(Rig.Bare, Some.Placements, Gen.Int[0, 2], Gen.Int[0, 5]).Sample((scene, placement, hinge, facing) =>
        {
            scene.Keep(new Create(new() { Id = "other", Name = "Other", Kind = NodeKind.Shape, Placement = new() { Position = placement.Position, Rotation = placement.Rotation } }));
            var at = scene.Pivot("other");
            scene.Tie(new() { Kind = "follow", Target = "up" });
            var draft = new SceneDraft(scene);
            var part = scene.Part();
            var patch = Facings.Swivel(draft, part, "target", new(hinge), new((hinge + 1 + facing % 2) % 3));
            scene.Tie(patch);
            scene.Keep(new GiveLinks("part", ["other"]));
            var (carrier, now) = (scene.Find("other")!, new SceneDraft(scene));
            var given = Assert.Single(carrier.Constraints.OfType<Swivel>());
            Assert.True((scene.Pivot("other") - at).Length < 1e-9 * Math.Max(1, at.Length));
            var own = carrier.Placement.OwnAxes(now.Placed(carrier).Linear).Transposed() * now.FrameOf(carrier).Basis.RotationPart() * given.Hinge;
            Assert.True(Math.Abs(own[hinge] - 1) < 1e-9);
        });

    [Fact]
    public void A_controller_stands_ahead_and_what_is_upright_does_not_move()
    {
        var scene = Some.Scene(Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default with { Position = new(1, 2, 3), Rotation = new(0, 40, 0) }) with { Camera = new() });
        var before = scene.World("eye");
        var edit = new Drive(["eye"], "knob", 4);
        Assert.Null(edit.Foretell(scene));
        scene.Keep(edit);
        Assert.True(scene.Find("knob")!.IsController);
        Assert.True(before.Linear.Distance(scene.World("eye").Linear) < 1e-9);
        Assert.True((scene.Pivot("knob") - (new Vec3(1, 2, 3) + before.Linear * new Vec3(0, 0, -4))).Length < 1e-9);
        var name = new string('n', Node.MostNameLength);
        scene.Keep(new Rename("eye", name), new Drive(["eye"], "second"));
        Assert.EndsWith("n controller", scene.Find("second")!.Name, StringComparison.Ordinal);
        Assert.Contains("above zero", scene.Refused(new Drive(["eye"], "other", -1)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_controller_of_what_stands_upright_is_at_no_pole_of_it()
    {
        var scene = Some.Scene(Some.Box("mast", null, Placement.Default with { Rotation = new(0, 30, 0) }), Some.Box("post", null, Placement.Default with { Position = new(3, 0, 0), Rotation = new(2, 0, 0) }, 1));
        scene.Keep(new SetShape("mast", new() { Size = [0.2, 3, 0.2] }), new SetShape("post", new() { Size = [0.2, 3, 0.2] }));
        foreach (var id in new[] { "mast", "post" })
        {
            var before = scene.World(id);
            scene.Keep(new Drive([id], $"{id}-knob"));
            Assert.Equal([LinkWarning.None], scene.Warnings(id));
            Some.Near(before, scene.World(id));
        }
    }

    [Fact]
    public void A_pressed_face_aims_and_nothing_moves_until_it_does() =>
        Gen.Select(Some.Placements, Somewhere, Gen.Int[0, 5]).Where((_, way, _) => way.Length > 0.1).Sample((placement, way, axis) =>
        {
            var scene = Some.Scene(Some.Box("box", null, placement));
            var (before, signed) = (scene.World("box"), new SignedAxis(axis % 3, axis > 2));
            scene.Keep(new FaceWith("box", signed.ToString(), way));
            Assert.True(before.Linear.Distance(scene.World("box").Linear) < 1e-7 * Math.Max(1, before.Linear.X.Length));
            Assert.True((scene.Axes("box") * signed.Vector - way.Unit()).Length < 1e-6);
        });

    [Fact]
    public void Turning_to_something_once_is_as_aiming_and_does_not_last() =>
        Gen.Select(Rig.Bare, Gen.Int[0, 5]).Sample((scene, index) =>
        {
            string? axis = index < 3 ? new SignedAxis(index).ToString() : null;
            var aimed = new SceneDraft(scene);
            new Constrain(["part"], new() { Kind = "aim", Target = "target", Axis = axis }).ApplyTo(aimed);
            var (wanted, placed) = (aimed.World(aimed.Get("part")), scene.Part());
            scene.Keep(new TurnTo(["part", "target"], "target", axis));
            Some.Near(wanted, scene.World("part"), 1e-7);
            Assert.Empty(scene.Part().Constraints);
            Assert.Equal(placed.Placement.Pivot, scene.Part().Placement.Pivot);
            Assert.Equal("Turned part to target with its +Y", new TurnTo(["part"], "target", "+y").Say(new(scene)));
            Assert.Contains("rides on", scene.Refused(new TurnTo(["base"], "part")).Message, StringComparison.Ordinal);
        });

    [Fact]
    public void Another_kind_in_place_keeps_target_switch_weight_and_axis()
    {
        var scene = Mount(0, Vec3.Zero, 0, new(3, 4, 5)).Tie(new() { Kind = "aim", Id = "one", Target = "moon", Axis = "-x", UpAxis = "+y", Weight = 0.5, Enabled = false }, "plate");
        scene.Keep(new SetConstraint([new("plate", "one")], Kind: "swivel"));
        var swivel = Assert.IsType<Swivel>(scene.Find("plate")!.Constraints[0]);
        Assert.Equal(("one", false, 0.5, "moon", "-x"), (swivel.Id, swivel.Enabled, swivel.Weight, swivel.At, swivel.Facing.ToString()));
        scene.Keep(new SetConstraint([new("plate", "one")], Kind: "follow", Enabled: true));
        var follow = Assert.IsType<Follow>(scene.Find("plate")!.Constraints[0]);
        Assert.True((scene.Pivot("plate") - Vec3.Zero).Length < 1e-9 && follow.Target == "moon");
        scene.Keep(new SetConstraint([new("plate", "one")], Kind: "limit"));
        Assert.Contains("Press the target", scene.Refused(new SetConstraint([new("plate", "one")], Kind: "aim")).Message, StringComparison.Ordinal);
        scene.Keep(new SetConstraint([new("plate", "one")], Kind: "aim", Target: "moon"));
        Assert.Equal("plate: Limit of position now Aim, target moon", new SetConstraint([new("plate", "one")], Kind: "aim", Target: "moon").Say(new(Limited())));
        Assert.Contains("There is no constraint", scene.Refused(new SetConstraint([new("plate", "one")], Kind: "glue")).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Threads_say_what_is_so() =>
        Gen.Select(Rig.Tied, Gen.Double[-170, 170]).Sample((scene, degrees) =>
        {
            var draft = new SceneDraft(scene);
            var threads = LinkThread.Of(draft, scene.Part());
            Assert.Equal(scene.Part().Constraints.Select(c => c.Id), threads.Select(t => t.Link));
            foreach (var (thread, entry) in threads.Zip(scene.Part().Constraints))
            {
                Assert.Equal(scene.Pivot("part"), thread.At);
                Assert.True(thread.Target is null || thread.Target == (entry.Place is { } place ? scene.World(entry.Target!).Point(place) : scene.Pivot(entry.Target!)));
                if (thread.Hinge is { } arc && !thread.Warns)
                {
                    Assert.True(Math.Abs(arc.Axis.Length - 1) < 1e-9 && Math.Abs(arc.Axis.Dot(arc.Zero)) < 1e-9);
                    var point = thread.At + Mat3.Rotation(arc.Axis, degrees) * arc.Zero * 2;
                    var met = arc.Met(thread.At, point + arc.Axis * 3 + arc.Zero, arc.Axis * -3 - arc.Zero, degrees + 720);
                    Assert.Equal(degrees + 720, met!.Value, 1e-6);
                }
            }
        });

    [Fact]
    public void What_places_goes_before_what_looks_from_there_so_that_a_follower_keeps_its_aim()
    {
        foreach (var kind in new[] { "follow", "rideOn", "stayOnSurface" })
        {
            var scene = Mount(0, Vec3.Zero, 0, new(3, 4, 5)).Tie(new() { Kind = "aim", Target = "moon", Axis = "+z" }, "plate");
            var before = scene.Axes("plate") * Vec3.UnitZ;
            var edit = new Constrain(["plate"], new() { Kind = kind, Target = "moon" });
            Assert.Contains("moon", edit.Say(new(scene)), StringComparison.Ordinal);
            scene.Keep(edit);
            Assert.Equal([kind, "aim"], scene.Find("plate")!.Constraints.Select(c => c.Kind));
            scene.Keep(new Move(["moon"], new(1, -2, 0.5), new WorldSpace()));
            var way = scene.Pivot("moon") - scene.Pivot("plate");
            Assert.True(way.Length < 1e-6 || (scene.Axes("plate") * Vec3.UnitZ - way.Unit()).Length < 1e-9);
            Assert.True(kind == "stayOnSurface" || (scene.Axes("plate") * Vec3.UnitZ - before).Length < 1e-9);
        }
    }

    [Fact]
    public void What_was_followed_is_aimed_at_by_a_camera_with_what_it_looks_along()
    {
        var scene = Some.Scene(
            Node.Bare("eye", "Eye", NodeKind.Camera, null, Placement.Default) with { Camera = new() },
            Some.Box("moon", null, Placement.Default with { Position = new(3, 4, 5) }, 1));
        scene.Tie(new() { Kind = "follow", Id = "one", Target = "moon" }, "eye");
        scene.Keep(new SetConstraint([new("eye", "one")], Kind: "aim"));
        Assert.Equal("-z", Assert.IsType<Aim>(scene.Find("eye")!.Constraints[0]).Axis.ToString());
        Assert.True((scene.Axes("eye") * -Vec3.UnitZ - new Vec3(3, 4, 5).Unit()).Length < 1e-9);
    }

    [Fact]
    public void Ghosts_are_of_all_that_would_stand_elsewhere_and_of_nothing_else()
    {
        var scene = Mount(20, Vec3.Zero, 0, new(3, 4, 5));
        scene.Keep(new PutUnder(["barrel"], "plate"), new Create(new() { Id = "far", Name = "Far", Kind = NodeKind.Shape }, "barrel"));
        IReadOnlyList<string> Of(params Edit[] edits)
        {
            var draft = new SceneDraft(scene);
            Array.ForEach(edits, e => e.ApplyTo(draft));
            return [.. Trials.Ghost.Moved(scene, draft).Select(g => g.LooksLike).Order(StringComparer.Ordinal)];
        }

        Assert.Equal(["barrel", "far", "plate"], Of(new Constrain(["plate"], new() { Kind = "aim", Target = "moon", Axis = "+x" })));
        Assert.Empty(Of(new Constrain(["plate"], new() { Kind = "follow", Target = "moon" }), new Rename("plate", "Disc"), new Group(["barrel"], "G")));
        Assert.Equal(["barrel", "far"], Of(new Create(new() { Id = "new", Name = "New", Kind = NodeKind.Shape }, "barrel"), new Move(["barrel"], new(0, 1, 0), new WorldSpace())));
    }

    private static SceneDocument Limited() => Mount(0, Vec3.Zero, 0, new(3, 4, 5)).Tie(new() { Kind = "limit", Id = "one", Of = "position" }, "plate");

    /// <summary>How far a way leads aside from straight up.</summary>
    private static double Aside(Vec3 way) => Math.Sqrt(way.X * way.X + way.Z * way.Z);
}
