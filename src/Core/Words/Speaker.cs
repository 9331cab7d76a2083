using System.Globalization;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;

namespace CalmPivot.Core.Words;

/// <summary>
/// Puts edits into words: names of nodes, amounts with their units, spaces and points as the sentence says them.
/// <code>
/// var say = new Speaker(scene);
/// say.Names(["chair", "desk"]); // "2 objects"
/// say.Length(0.25);             // "25 cm", in the unit of the scene
/// </code>
/// </summary>
/// <param name="unsaid">Picked things to which an edit did nothing: they are not counted among the others.</param>
public sealed class Speaker(IScene scene, IReadOnlySet<string>? unsaid = null)
{
    private readonly Unit _unit = Unit.Of(scene.Unit);

    /// <summary>The scene that is spoken of, as it is before what is said.</summary>
    public IScene Scene => scene;

    /// <summary>A name as it stands in a sentence; long ones are cut in the middle.</summary>
    public static string Quoted(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        var trimmed = name.Trim();
        return trimmed.Length <= 40 ? trimmed : $"{WholeText.Start(trimmed, 20)}…{WholeText.End(trimmed, 18)}";
    }

    public string Name(string id) => scene.FindAny(id) switch
    {
        null => "an object that is gone",
        Shot shot => Quoted(shot.Title),
        Cheat cheat => $"{Name(cheat.Of)} in {Quoted(Shot.TitleOf(scene, cheat.Shot))}",
        Timing => "the frames of the scene",
        Surroundings => "the surroundings",
        var some => Quoted(some.Name),
    };

    /// <summary>The name that a new node really gets among its siblings: "Box 2".</summary>
    public string NewName(string wanted, NodeKind kind, string? parent) =>
        Quoted(new SceneDraft(scene).DistinctName(wanted.Trim(), kind, parent is null || scene.Find(parent) is not null ? parent : null));

    /// <summary>The same in any list.</summary>
    public string NewNameIn(string? list, string wanted) => Quoted(new SceneDraft(scene).DistinctNameIn(list, wanted.Trim()));

    public string Names(IReadOnlyList<string> ids)
    {
        var said = Said(ids);
        return said.Count switch { 0 => "nothing", 1 => Name(said[0]), _ => $"{said.Count} objects" };
    }

    /// <summary>"its", or "their" of several.</summary>
    public string Their(IReadOnlyList<string> ids) => Said(ids).Count == 1 ? "its" : "their";

    /// <summary>Each of those that are spoken of once, without those to which nothing was done.</summary>
    private List<string> Said(IReadOnlyList<string> ids)
    {
        ArgumentNullException.ThrowIfNull(ids);
        List<string> all = [.. ids.Distinct()];
        return unsaid is null || all.TrueForAll(unsaid.Contains) ? all : [.. all.Where(id => !unsaid.Contains(id))];
    }

    /// <summary>"Moved Chair +1 m along its own X".</summary>
    public string Did((string Did, string How) manner, IReadOnlyList<string> nodes) => $"{manner.Did} {Names(nodes)} {manner.How}";

    /// <summary>The same in the middle of a sentence, of something that was named before: "moved +1 m along its own X".</summary>
    public string DidEach((string Did, string How) manner) => $"{char.ToLowerInvariant(manner.Did[0])}{manner.Did[1..]} {manner.How}";

    /// <summary>Several things said in one sentence; null: there is nothing to say.</summary>
    public static string? Sentence(IReadOnlyList<string> parts)
    {
        ArgumentNullException.ThrowIfNull(parts);
        var all = string.Join("; ", parts);
        return all.Length == 0 ? null : $"{char.ToUpperInvariant(all[0])}{all[1..]}.";
    }

    public string NamesWithBranches(IReadOnlyList<string> ids)
    {
        ArgumentNullException.ThrowIfNull(ids);
        var all = ids.Select(scene.FindArranged).OfType<Arranged>().SelectMany(some => scene.With(some)).Select(some => some.Id).ToHashSet();
        var below = all.Except(ids).Count();
        return below == 0 ? Names(ids) : $"{Names(ids)} with {below} below {(ids.Count == 1 ? "it" : "them")}";
    }

    /// <summary>What a rule asks of a member: "shapes named “Rod*” under Scaffold".</summary>
    public string RuleInWords(Rule rule)
    {
        ArgumentNullException.ThrowIfNull(rule);
        var kind = rule.Kind switch
        {
            NodeKind.Shape => "shapes",
            NodeKind.Mesh => "meshes",
            NodeKind.Group => "groups",
            NodeKind.Light => "lights",
            NodeKind.Camera => "cameras",
            _ => "all",
        };
        return kind
            + (rule.Name is null ? "" : $" named “{rule.Name}”")
            + (rule.Material is null ? "" : $" in “{rule.Material}”")
            + (rule.Materials is not { } materials ? "" : $" in {(materials.Length > 3 ? $"{materials.Length} materials" : string.Join(" or ", materials.Select(Name)))}")
            + (rule.Under is null ? "" : scene.Find(rule.Under) is null ? " under an object that is gone, so that none fits" : $" under {Name(rule.Under)}");
    }

    public string Length(double metres) => _unit.Say(metres);

    /// <summary>Amounts along axes: one with its sign, several as three figures.</summary>
    public string Lengths(Vec3 by)
    {
        var axes = Given(by);
        return axes.Length == 1 ? Signed(by[axes[0]], Length) : Lengths3(by);
    }

    /// <summary>Three lengths, their unit once.</summary>
    public string Lengths3(Vec3 v) => _unit.Say(v);

    public string Angle(double degrees) => Unit.Figure(degrees, 2) + "°";

    public string Degrees(double by) => Signed(by, Angle);

    /// <summary>Factors: one where all are equal or only one axis is scaled, else three.</summary>
    public string Factors(Vec3 by)
    {
        double[] scaled = [.. by.ToArray().Where(f => f != 1)];
        return (by.X == by.Y && by.Y == by.Z) || scaled.Length == 1
            ? "× " + Unit.Figure(scaled.Length == 1 ? scaled[0] : by.X, 4)
            : "× (" + string.Join(", ", by.ToArray().Select(f => Unit.Figure(f, 4))) + ")";
    }

    public string Angles(Vec3 angles) => string.Join(", ", angles.ToArray().Select(a => Unit.Figure(a, 2) + "°"));

    /// <summary>A space with the axes that an edit uses: "its parent's Y".</summary>
    public string Axes(Space space, IReadOnlyList<string> nodes, Vec3 used) => $"{Of(space, nodes)} {Letters(used)}";

    /// <summary>What a turn runs along: "along its parent's Y", "in the view's plane", "freely about (0.12, 0.98, −0.15) of the world".</summary>
    public string Turning(Space space, IReadOnlyList<string> nodes, Vec3 axis)
    {
        if (Given(axis).Length > 1)
        {
            // Of no letter's axis; those of a view are nobody's for long.
            var (about, whose) = space is ViewSpace view ? (view.World.Linear.RotationPart() * axis.Unit(), "the world") : (axis.Unit(), $"{Of(space, nodes)} axes");
            return $"freely about ({string.Join(", ", about.ToArray().Select(v => Unit.Figure(v, 2)))}) of {whose}";
        }

        return space is ViewSpace && axis.Z != 0 ? "in the view's plane" : $"along {Axes(space, nodes, axis)}";
    }

    public string Of(Space space, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(nodes);
        var many = Said(nodes).Count > 1;
        return space switch
        {
            WorldSpace => "the world's",
            ParentSpace => many ? "their parents'" : "its parent's",
            OwnSpace => many ? "their own" : "its own",
            LeadSpace => nodes.Count > 1 ? $"{Name(nodes[^1])}'s own" : "its own",
            ViewSpace => "the view's",
            SurfaceSpace => "the surface's",
            ChannelsSpace => many ? "their rotation channels'" : "its rotation channels'",
            MarkSpace mark => $"the mark {Name(mark.Mark)}'s",
            _ => "some",
        };
    }

    public string Point(About about, IReadOnlyList<string> nodes)
    {
        ArgumentNullException.ThrowIfNull(nodes);
        var many = Said(nodes).Count > 1;
        return about switch
        {
            AboutOwn => many ? "their pivots" : "its pivot",
            AboutLead => nodes.Count > 1 ? $"{Name(nodes[^1])}'s pivot" : "its pivot",
            AboutBounds => "the middle of the bounds",
            AboutMean => nodes.Count > 1 ? "the mean of the pivots" : "its pivot",
            AboutZero => "world zero",
            AboutPoint => "a picked point",
            AboutMark mark => $"the mark {Name(mark.Mark)}",
            _ => "a point",
        };
    }

    /// <summary>One of the 27 points in words: "the middle of the base".</summary>
    public static string AnchorInWords(Vec3 anchor)
    {
        string Side(double v, string axis) => v < 0 ? $"−{axis}" : v > 0 ? $"+{axis}" : "";
        var sides = string.Concat(Side(anchor.X, "X"), anchor.X != 0 && anchor.Z != 0 ? " " : "", Side(anchor.Z, "Z"));
        var level = anchor.Y < 0 ? "base" : anchor.Y > 0 ? "top" : "";
        return (level, sides) switch
        {
            ("", "") => "the middle",
            ("", _) => anchor.X != 0 && anchor.Z != 0 ? $"the middle of the {sides} edge" : $"the middle of the {sides} side",
            (_, "") => $"the middle of the {level}",
            _ => $"the {sides} {(anchor.X != 0 && anchor.Z != 0 ? "corner" : "edge")} of the {level}",
        };
    }

    public string ShapeChange(ShapePatch patch)
    {
        ArgumentNullException.ThrowIfNull(patch);
        List<string> parts = [];
        void Add(string name, object? value, Func<string> say)
        {
            if (value is not null)
            {
                parts.Add($"{name} {say()}");
            }
        }

        Add("type", patch.Type, () => patch.Type!);
        Add("size", patch.Size, () => string.Join(" × ", patch.Size!.Select(Length)));
        Add("radius", patch.Radius, () => Length(patch.Radius!.Value));
        Add("top radius", patch.TopRadius, () => Length(patch.TopRadius!.Value));
        Add("height", patch.Height, () => Length(patch.Height!.Value));
        Add("tube", patch.Tube, () => Length(patch.Tube!.Value));
        Add("hole", patch.Inner, () => Length(patch.Inner!.Value));
        Add("segments", patch.Segments, () => patch.Segments!.Value.ToString(CultureInfo.InvariantCulture));
        Add("rings", patch.Rings, () => patch.Rings!.Value.ToString(CultureInfo.InvariantCulture));
        Add("sides", patch.Sides, () => patch.Sides!.Value.ToString(CultureInfo.InvariantCulture));
        Add("divisions", patch.Divisions, () => patch.Divisions!.Value.ToString(CultureInfo.InvariantCulture));
        Add("caps", patch.Caps, () => patch.Caps!.Value ? "on" : "off");
        return parts.Count == 0 ? "nothing" : string.Join(", ", parts);
    }

    /// <summary>An amount with its sign before it.</summary>
    public static string Signed(double value, Func<double, string> say) =>
        (value < 0 ? "−" : "+") + say(Math.Abs(value));

    private static int[] Given(Vec3 v) => [.. Enumerable.Range(0, 3).Where(i => Math.Abs(v[i]) > 1e-12)];

    private static string Letters(Vec3 used)
    {
        var given = Given(used);
        return string.Join(" ", (given.Length == 0 ? [0, 1, 2] : given).Select(i => "XYZ"[i]));
    }
}
