using System.Globalization;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Scene;

/// <summary>
/// What of a node or a collection can be otherwise in a shot, each declared once: how it is read, how it is put in place, and the part that it belongs to.
/// All else is the same in every shot. See model.md, Shots.
/// <code>
/// var channel = CheatChannel.Of("camera.fov");
/// var value = channel.Read(camera);             // null: it has none of it
/// var wide = channel.With(camera, CheatValue.Of(60));
/// </code>
/// </summary>
public sealed class CheatChannel
{
    public const string Seen = "seen";
    public const string FocusOn = "camera.focusOn";
    public const string OfSurroundings = "surroundings";
    public const string Exposure = "exposure";

    private const string OfColor = "light.color";
    private const string OfConstraint = "constraint:";
    private const string OfMaterial = "material:";
    private const int MostSlots = 65_536;

    private static readonly string[] Orders = Enum.GetNames<EulerOrder>();

    private static readonly CheatChannel[] Fixed =
    [
        new(Seen, Parts.Switches, a => a is Arranged some ? CheatValue.Of(some.Switches.Final) : null, (a, v) => (Arranged)a with { Switches = ((Arranged)a).Switches with { Final = v.IsOn } }),
        .. Three("position", p => p.Position, (p, v) => p with { Position = v }),
        OfPlacement("rotation", p => new([.. p.Rotation.ToArray()], Orders[(int)p.Order]), (p, v) => p with { Rotation = In(v), Order = Enum.Parse<EulerOrder>(v.Word!) }),
        .. Three("scale", p => p.Scale, (p, v) => p with { Scale = v }),
        OfPlacement("shear", p => new([.. p.Shear.ToArray()]), (p, v) => p with { Shear = In(v) }),
        OfCamera("projection", c => CheatValue.Of(c.Projection == Projection.Parallel ? "parallel" : "perspective"), (c, v) => c with { Projection = v.Word == "parallel" ? Projection.Parallel : Projection.Perspective }),
        OfCamera("fov", c => CheatValue.Of(c.Fov), (c, v) => c with { Fov = v.Number }),
        OfCamera("height", c => CheatValue.Of(c.Height), (c, v) => c with { Height = v.Number }),
        OfCamera("near", c => CheatValue.Of(c.Near), (c, v) => c with { Near = v.NumberOrNothing }),
        OfCamera("far", c => CheatValue.Of(c.Far), (c, v) => c with { Far = v.NumberOrNothing }),
        OfCamera("aspect", c => CheatValue.Of(c.Aspect), (c, v) => c with { Aspect = v.NumberOrNothing }),
        OfCamera("pixels", c => CheatValue.Of(c.Pixels), (c, v) => c with { Pixels = (int?)v.NumberOrNothing }),
        OfCamera("shiftX", c => CheatValue.Of(c.ShiftX), (c, v) => c with { ShiftX = v.Number }),
        OfCamera("shiftY", c => CheatValue.Of(c.ShiftY), (c, v) => c with { ShiftY = v.Number }),
        OfCamera("aperture", c => CheatValue.Of(c.Aperture), (c, v) => c with { Aperture = v.NumberOrNothing }),
        OfCamera("focus", c => CheatValue.Of(c.Focus), (c, v) => c with { Focus = v.NumberOrNothing }),
        OfCamera("focusOn", c => CheatValue.Of(c.FocusOn ?? ""), (c, v) => c with { FocusOn = v.Word is { Length: > 0 } id ? id : null }),
        OfLight("type", l => CheatValue.Of(l.Type.ToString().ToLowerInvariant()), (l, v) => l with { Type = Enum.Parse<LightType>(v.Word!, ignoreCase: true) }),
        OfLight("color", l => l.Color.Text is { } text ? CheatValue.Of(text) : new([.. l.Color.Linear.ToArray()]), (l, v) => l with { Color = v.Word is { } text ? text : Color.Of(In(v)) }),
        OfLight("intensity", l => CheatValue.Of(l.Intensity), (l, v) => l with { Intensity = v.Number }),
        OfLight("range", l => CheatValue.Of(l.Range), (l, v) => l with { Range = v.NumberOrNothing }),
        OfLight("innerCone", l => CheatValue.Of(l.InnerCone), (l, v) => l with { InnerCone = v.NumberOrNothing }),
        OfLight("outerCone", l => CheatValue.Of(l.OuterCone), (l, v) => l with { OuterCone = v.NumberOrNothing }),
        OfLight("temperature", l => CheatValue.Of(l.Temperature), (l, v) => l with { Temperature = v.NumberOrNothing }),
        OfLight("size", l => CheatValue.Of(l.Size), (l, v) => l with { Size = v.Number }),
        OfLight("panelHeight", l => CheatValue.Of(l.PanelHeight), (l, v) => l with { PanelHeight = v.NumberOrNothing }),
        OfLight("shadow", l => CheatValue.Of(l.CastsShadows), (l, v) => l with { Shadow = v.IsOn ? null : false }),
        OfScene(OfSurroundings, Parts.Colour | Parts.Pictures, SurroundingsWords.Of, SurroundingsWords.With),
        OfScene(Exposure, Parts.Lens, s => CheatValue.Of(s.Exposure), (s, v) => s with { Exposure = v.Number }),
    ];

    private static readonly Dictionary<string, CheatChannel> ByName = Fixed.ToDictionary(c => c.Name);

    private readonly Func<Cheatable, CheatValue?> _read;
    private readonly Func<Cheatable, CheatValue, Cheatable> _with;

    private CheatChannel(string name, Parts part, Func<Cheatable, CheatValue?> read, Func<Cheatable, CheatValue, Cheatable> with) =>
        (Name, Part, _read, _with) = (name, part, read, with);

    public string Name { get; }

    /// <summary>The part of a node that it belongs to.</summary>
    public Parts Part { get; }

    /// <summary>Whether it says where a node stands; of constraints their offsets.</summary>
    public bool IsPlace => Part == Parts.Placement || Name.EndsWith(".offset", StringComparison.Ordinal);

    /// <summary>Whether something can be added to its numbers; the shares of a colour are none that others are carried along by.</summary>
    public bool IsAmount => Name != OfColor;

    /// <summary>Whether it is of the scene as a whole, and not of something in it.</summary>
    public bool IsOfScene => Name is OfSurroundings or Exposure;

    /// <summary>The entry of the list of constraints that it is about; null: it is about none.</summary>
    public string? Entry => Name.StartsWith(OfConstraint, StringComparison.Ordinal) ? Name[OfConstraint.Length..Name.LastIndexOf('.')] : null;

    /// <summary>
    /// Whether it means after a change what it meant before. Every kind of constraint has a switch and a weight, but an offset is one of its kind.
    /// </summary>
    public bool Outlasts(Cheatable before, Cheatable after) =>
        Read(after) is not null && (Entry is not { } entry || !IsPlace || KindOf(before, entry) is not { } kind || kind == KindOf(after, entry));

    /// <returns>Null: there is no such channel.</returns>
    public static CheatChannel? Of(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        if (ByName.TryGetValue(name, out var channel))
        {
            return channel;
        }

        if (IsOfMaterial(name))
        {
            return int.TryParse(name.AsSpan(OfMaterial.Length), NumberStyles.None, CultureInfo.InvariantCulture, out var slot) && slot < MostSlots && name == $"{OfMaterial}{slot}" ? OfSlot(slot) : null;
        }

        var dot = name.LastIndexOf('.');
        return name.StartsWith(OfConstraint, StringComparison.Ordinal) && dot > OfConstraint.Length ? OfEntry(name[OfConstraint.Length..dot], name[(dot + 1)..]) : null;
    }

    /// <summary>All that something has; those of some parts.</summary>
    public static IEnumerable<CheatChannel> All(Cheatable some, Parts parts = ~Parts.None)
    {
        foreach (var channel in Fixed)
        {
            if ((channel.Part & parts) != 0 && (some is Node || (some is Surroundings ? channel.IsOfScene : channel.Name == Seen)))
            {
                yield return channel;
            }
        }

        if (some is Node { Kind: NodeKind.Shape or NodeKind.Mesh } drawn && (parts & Parts.Material) != 0)
        {
            for (var slot = 0; slot < Math.Max(1, drawn.Materials.Length); slot++)
            {
                yield return OfSlot(slot);
            }
        }

        if (some is Node node && (parts & Parts.Constraints) != 0)
        {
            foreach (var entry in node.Constraints)
            {
                yield return OfEntry(entry.Id, "enabled")!;
                yield return OfEntry(entry.Id, "weight")!;
                yield return OfEntry(entry.Id, "offset")!;
            }
        }
    }

    /// <summary>The value; null: it has none of this.</summary>
    public CheatValue? Read(Cheatable some) => _read(some);

    /// <summary>The same with another value; what has none of this stays as it is.</summary>
    public Cheatable With(Cheatable some, CheatValue value) => Read(some) is null ? some : _with(some, value);

    /// <summary>Whether a value, wherever it comes from, is one of this channel.</summary>
    public bool Takes(Cheatable some, CheatValue value)
    {
        ArgumentNullException.ThrowIfNull(value);
        try
        {
            return Read(some) is not null && value.Equals(Read(_with(some, value)));
        }
        catch (Exception odd) when (odd is ArgumentException or IndexOutOfRangeException or Refusal)
        {
            return false;
        }
    }

    private static CheatChannel OfPlacement(string name, Func<Placement, CheatValue> read, Func<Placement, CheatValue, Placement> with) => new(
        name,
        Parts.Placement,
        a => a is Node node ? read(node.Placement) : null,
        (a, v) => ((Node)a) with { Placement = with(((Node)a).Placement, v) });

    private static IEnumerable<CheatChannel> Three(string name, Func<Placement, Vec3> read, Func<Placement, Vec3, Placement> with) =>
        Enumerable.Range(0, 3).Select(i => OfPlacement($"{name}.{"xyz"[i]}", p => CheatValue.Of(read(p)[i]), (p, v) => with(p, With(read(p), i, v.Number))));

    private static CheatChannel OfCamera(string name, Func<Camera, CheatValue> read, Func<Camera, CheatValue, Camera> with) => new(
        $"camera.{name}",
        Parts.Lens,
        a => a is Node { Camera: { } camera } ? read(camera) : null,
        (a, v) => ((Node)a) with { Camera = with(((Node)a).Camera!, v) });

    private static CheatChannel OfLight(string name, Func<Light, CheatValue> read, Func<Light, CheatValue, Light> with) => new(
        $"light.{name}",
        Parts.Lens,
        a => a is Node { Light: { } light } ? read(light) : null,
        (a, v) => ((Node)a) with { Light = with(((Node)a).Light!, v) });

    private static CheatChannel OfScene(string name, Parts parts, Func<Surroundings, CheatValue> read, Func<Surroundings, CheatValue, Surroundings> with) => new(
        name,
        parts,
        a => a is Surroundings surroundings ? read(surroundings) : null,
        (a, v) => with((Surroundings)a, v));

    /// <summary>The material of a slot, by its id; empty: none.</summary>
    private static CheatChannel OfSlot(int slot) => new(
        $"{OfMaterial}{slot}",
        Parts.Material,
        a => a is Node { Kind: NodeKind.Shape or NodeKind.Mesh } node && (slot == 0 || node.Kind == NodeKind.Mesh) ? CheatValue.Of(node.MaterialOf(slot)) : null,
        (a, v) => v.Numbers.IsEmpty && v.Word is { } id ? ((Node)a).WithMaterial(slot, id) : a);

    /// <summary>Whether a channel is what a slot is made of.</summary>
    public static bool IsOfMaterial(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        return name.StartsWith(OfMaterial, StringComparison.Ordinal);
    }

    /// <summary>The slot that such a channel is of; null: it is another channel.</summary>
    public static int? SlotOf(string name) =>
        IsOfMaterial(name) && int.TryParse(name.AsSpan(OfMaterial.Length), NumberStyles.None, CultureInfo.InvariantCulture, out var slot) ? slot : null;

    public static string OfMaterialIn(int slot) => $"{OfMaterial}{slot}";

    private static string? KindOf(Cheatable some, string entry) => (some as Node)?.Constraints.FirstOrDefault(c => c.Id == entry)?.Kind;

    private static CheatChannel? OfEntry(string entry, string field)
    {
        Constraint? In(Cheatable some) => (some as Node)?.Constraints.FirstOrDefault(c => c.Id == entry);
        CheatChannel Made(Func<Constraint, CheatValue?> read, Func<Constraint, CheatValue, Constraint> with) => new(
            $"{OfConstraint}{entry}.{field}",
            Parts.Constraints,
            a => In(a) is { } there ? read(there) : null,
            (a, v) => ((Node)a) with { Constraints = ((Node)a).Constraints.Replace(In(a)!, with(In(a)!, v)) });
        return field switch
        {
            "enabled" => Made(c => CheatValue.Of(c.Enabled), (c, v) => c with { Enabled = v.IsOn }),
            "weight" => Made(c => CheatValue.Of(c.Weight), (c, v) => v.Number is >= 0 and <= 1 ? c with { Weight = v.Number } : c),
            "offset" => Made(c => c.ToPatch().Offset is { } offset ? new([.. offset]) : null, OffsetBy),
            _ => null,
        };
    }

    /// <summary>An entry may have become another kind since, with offsets of its own: then this is none for it.</summary>
    private static Constraint OffsetBy(Constraint entry, CheatValue value)
    {
        try
        {
            return entry.With(new() { Offset = [.. value.Numbers] });
        }
        catch (Refusal)
        {
            return entry;
        }
    }

    private static Vec3 In(CheatValue v) => new(v.Numbers[0], v.Numbers[1], v.Numbers[2]);

    private static Vec3 With(Vec3 v, int at, double value) => new(at == 0 ? value : v.X, at == 1 ? value : v.Y, at == 2 ? value : v.Z);
}
