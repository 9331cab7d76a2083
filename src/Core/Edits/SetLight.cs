using CalmPivot.Core.Amounts;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Changes what lamps are: those of their fields that are given; things that are no lamps stay as they are. Of the two cones
/// the one that is given holds, and the other gives way.
/// <code>
/// new SetLight(["sun-lamp"], Intensity: 2, Mode: AmountMode.Multiply) // twice as bright
/// </code>
/// </summary>
/// <param name="Intensity">Candela; of directional lamps lux.</param>
/// <param name="Range">Metres; 0: without end.</param>
/// <param name="InnerCone">Degrees from the axis, within which a spot is at its full strength.</param>
/// <param name="OuterCone">Degrees from the axis, beyond which it is dark.</param>
/// <param name="Temperature">Kelvin, and the colour follows; 0: it shines in its colour. A colour that is given takes it off.</param>
/// <param name="Size">How wide what shines is: metres, of directional ones degrees; of panels their width.</param>
/// <param name="PanelHeight">Metres; 0: as high as wide.</param>
/// <param name="Shadow">Whether what stands in its light casts a shadow.</param>
/// <param name="Mode">Whether the numbers given are the new ones, or change each lamp's own.</param>
public sealed record SetLight(
    IReadOnlyList<string> Nodes,
    LightType? Type = null,
    Color? Color = null,
    double? Intensity = null,
    double? Range = null,
    double? InnerCone = null,
    double? OuterCone = null,
    double? Temperature = null,
    double? Size = null,
    double? PanelHeight = null,
    bool? Shadow = null,
    AmountMode Mode = AmountMode.Set) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var lamps = Targets.Movers(draft, Nodes, ChildrenMode.Stay).Where(n => n.Light is not null).ToList();
        if (lamps.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, "None of these is a lamp. Pick one.");
        }

        foreach (var lamp in lamps)
        {
            draft.Put(lamp with { Light = Changed(lamp.Light!, lamp.Name) });
        }
    }

    public override string Say(Speaker say)
    {
        var types = Nodes.Select(id => say.Scene.Find(id)?.Light).OfType<Light>().Select(l => Type ?? l.Type).Distinct().ToList();
        var unit = types.Contains(LightType.Directional) ? types.Count == 1 ? " lx" : "" : " cd";
        List<string> parts = [];
        if (Type is { } type)
        {
            parts.Add(type switch { LightType.Spot => "a spot", LightType.Directional => "directional", LightType.Panel => "a panel", _ => "a point" });
        }

        if (Color is { } color)
        {
            parts.Add($"colour {color}");
        }

        parts.AddRange(new[]
        {
            EditWords.Changed("intensity", Intensity, Mode, v => Unit.Figure(v, 3) + unit),
            Range == 0 && Mode == AmountMode.Set ? "without end" : EditWords.Changed("range", Range, Mode, say.Length),
            EditWords.Changed("inner cone", InnerCone, Mode, say.Angle),
            EditWords.Changed("outer cone", OuterCone, Mode, say.Angle),
            Temperature == 0 && Mode == AmountMode.Set ? "in its colour" : EditWords.Changed("temperature", Temperature, Mode, v => $"{Unit.Figure(v, 0)} K"),
            EditWords.Changed("size", Size, Mode, types is [LightType.Directional] ? say.Angle : say.Length),
            PanelHeight == 0 && Mode == AmountMode.Set ? "as high as wide" : EditWords.Changed("height", PanelHeight, Mode, say.Length),
            Shadow is { } shadow ? shadow ? "with shadows" : "without shadows" : null,
        }.OfType<string>());
        return $"Changed the light of {say.Names(Nodes)}: {(parts.Count == 0 ? "nothing" : string.Join(", ", parts))}";
    }

    /// <summary>How wide a panel is that was something else, in metres.</summary>
    private const double UsualPanel = 1;

    /// <summary>A number that may be none, which 0 says; none stays none when it is changed by an amount.</summary>
    private double? Given(double? given, double? present) => given is not { } value ? present
        : Mode == AmountMode.Set ? value == 0 ? null : value
        : present is { } known ? new Amount(Mode, value).ApplyTo(known) : null;

    private Light Changed(Light light, string name)
    {
        double? New(double? given, double present) => given is { } value ? new Amount(Mode, value).ApplyTo(present) : null;
        // What is without end stays so when it is changed by an amount.
        var range = Range is null ? light.Range
            : Mode == AmountMode.Set ? Range == 0 ? null : Range
            : New(Range, light.Range ?? double.PositiveInfinity) is { } reached && double.IsFinite(reached) ? reached : light.Range;
        var (inner, outer) = (New(InnerCone, light.InnerCone ?? 0), New(OuterCone, light.OuterCone ?? Light.UsualOuterCone));
        if (inner is { } within && outer is null && within > (light.OuterCone ?? Light.UsualOuterCone))
        {
            outer = within;
        }
        else if (outer is { } around && inner is null && around < (light.InnerCone ?? 0))
        {
            inner = around;
        }

        var type = Type ?? light.Type;

        // Degrees are no metres, and a panel without any size is none.
        var size = Size is null && (type == LightType.Directional) != (light.Type == LightType.Directional) ? 0 : light.Size;
        size = New(Size, size) ?? size;
        return (light with
        {
            Type = type,
            Size = type == LightType.Panel && Size is null && size == 0 ? UsualPanel : size,
            PanelHeight = Given(PanelHeight, light.PanelHeight),
            Shadow = Shadow is { } shadow ? shadow ? null : false : light.Shadow,
            Temperature = Color is not null && Temperature is null ? null : Given(Temperature, light.Temperature),
            Color = Color ?? light.Color,
            Intensity = New(Intensity, light.Intensity) ?? light.Intensity,
            Range = range,
            InnerCone = inner ?? light.InnerCone,
            OuterCone = outer ?? light.OuterCone,
        }).Checked(name);
    }
}
