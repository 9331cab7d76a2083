using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Drags;

/// <summary>What kind of handle is held.</summary>
[JsonConverter(typeof(CamelCase<HandlePart>))]
public enum HandlePart
{
    /// <summary>A needle: moves along one axis.</summary>
    Needle,

    /// <summary>A quarter disc: moves along two axes; the axis named is the one left out.</summary>
    Quarter,

    /// <summary>The open ring: moves in the view plane.</summary>
    Ring,

    /// <summary>An arc: turns about one axis.</summary>
    Arc,

    /// <summary>The outer arc: turns in the view plane.</summary>
    ViewArc,

    /// <summary>A pad: scales along one axis.</summary>
    Pad,

    /// <summary>The round pad: scales along all three.</summary>
    RoundPad,

    /// <summary>A pad between two needles: scales along both; the axis named is the one left out.</summary>
    QuarterPad,

    /// <summary>The room inside the arcs: turns freely, as a ball rolls under the pointer.</summary>
    Ball,
}

/// <summary>A handle: its kind and, where it has one, its axis 0, 1 or 2.</summary>
public readonly record struct Handle(HandlePart Part, int Axis);
