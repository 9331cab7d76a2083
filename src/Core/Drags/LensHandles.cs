using System.Text.Json.Serialization;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Drags;

/// <summary>What of a lamp or a camera can be taken hold of on the stage.</summary>
[JsonConverter(typeof(CamelCase<LensPart>))]
public enum LensPart
{
    Range,
    InnerCone,
    OuterCone,
    Fov,
    Height,
    Size,
    PanelHeight,
}

/// <summary>A place to take hold of.</summary>
/// <param name="At">In the world.</param>
/// <param name="Words">What it is now: "Outer cone 30°".</param>
/// <param name="Angle">It is in degrees; else in metres.</param>
public sealed record LensGrip(LensPart Part, Vec3 At, string Words, bool Angle);

/// <summary>What is drawn of a lens: lines through points in the world, and what can be taken hold of.</summary>
public sealed record LensShape(IReadOnlyList<IReadOnlyList<Vec3>> Lines, IReadOnlyList<LensGrip> Grips)
{
    public static readonly LensShape Nothing = new([], []);
}

/// <summary>
/// The cone and the range of a lamp, the angle of view of a camera: where they are drawn on the stage, and what a drag of one
/// makes of it. They keep one size on the screen, but for a range, which stands where it ends. Lamps shine and cameras look
/// along their −Z, by the lens axes: size, mirror and shear of their world matrix do not count.
/// <code>
/// var lens = new LensHandles(scene, lamp, world, view, size: 1.2);
/// lens.Shape.Grips[0].Words;                 // "Outer cone 30°"
/// Edit edit = lens.To(LensPart.OuterCone, ray, step: 5);
/// </code>
/// </summary>
/// <param name="world">The node's world matrix.</param>
/// <param name="size">How long the handles are, in metres at the node.</param>
public sealed class LensHandles(IScene scene, Node node, Affine world, View view, double size)
{
    /// <summary>A plane that is seen flatter than this (about 9°) is not dragged in.</summary>
    private const double OnEdge = 0.15;

    /// <summary>Points of a circle, the first once more at its end.</summary>
    private const int Parts = 48;

    private readonly Vec3 _at = world.Offset;
    private readonly Mat3 _turn = world.Linear.LensAxes();
    private readonly Speaker _say = new(scene);

    /// <summary>Where it looks or shines.</summary>
    private Vec3 Along => -_turn.Z;

    public LensShape Shape => node switch
    {
        { Light: { Type: LightType.Spot } light } => Spot(light),
        { Light: { Type: LightType.Directional } } => Directional(),
        { Light: { Type: LightType.Panel } light } => Panel(light),
        { Light: { } light } => Point(light),
        { Camera: { Projection: Projection.Parallel } camera } => Parallel(camera),
        { Camera: { } camera } => Perspective(camera),
        _ => LensShape.Nothing,
    };

    /// <summary>The edit that brings a part to where a ray points; null where the ray says nothing of it.</summary>
    /// <param name="step">What its amount is rounded to, degrees or metres; null: three figures.</param>
    public Edit? To(LensPart part, Ray ray, double? step)
    {
        string[] nodes = [node.Id];
        double Stepped(double value) => step is { } s and > 0 ? Math.Round(value / s) * s : double.Parse(value.ToString("G3", System.Globalization.CultureInfo.InvariantCulture), System.Globalization.CultureInfo.InvariantCulture);
        return (part, node) switch
        {
            (LensPart.Range, { Light.Type: LightType.Point }) => Facing(ray) is { } p
                ? new SetLight(nodes, Range: Math.Max(Stepped((p - _at).Length), size * 0.05))
                : null,
            (LensPart.Range, { Light: not null }) => AlongAxis(ray) is { } away ? new SetLight(nodes, Range: Math.Max(Stepped(away), size * 0.05)) : null,
            (LensPart.OuterCone, { Light: { } light }) => AngleTo(ray, Side, CircleAt(light.OuterCone ?? Light.UsualOuterCone)) is { } angle
                ? new SetLight(nodes, OuterCone: Math.Clamp(Stepped(angle), 0.1, 90))
                : null,
            (LensPart.InnerCone, { Light: { } light }) => AngleTo(ray, Side, CircleAt(light.InnerCone ?? 0)) is { } angle
                ? new SetLight(nodes, InnerCone: Math.Clamp(Stepped(angle), 0, 90))
                : null,
            (LensPart.Size, { Light: { Type: LightType.Panel } }) => Met(ray, _at, Along) is { } p
                ? new SetLight(nodes, Size: Math.Max(Stepped(2 * Math.Abs((p - _at).Dot(_turn.X))), 1e-3))
                : null,
            (LensPart.Size, { Light: not null }) => Facing(ray) is { } p ? new SetLight(nodes, Size: Math.Max(Stepped(2 * (p - _at).Length), 0)) : null,
            (LensPart.PanelHeight, { Light: not null }) => Met(ray, _at, Along) is { } p
                ? new SetLight(nodes, PanelHeight: Math.Max(Stepped(2 * Math.Abs((p - _at).Dot(_turn.Y))), 1e-3))
                : null,
            (LensPart.Fov, { Camera: { } camera }) => AngleTo(ray, _turn.Y, size) is { } half
                ? new SetCamera(nodes, Fov: Math.Clamp(Stepped(2 * half), 0.1, 170))
                : null,
            (LensPart.Height, { Camera: not null }) => Aside(ray, _turn.Y) is { } half
                ? new SetCamera(nodes, Height: Math.Max(Stepped(2 * half), size * 1e-3))
                : null,
            _ => null,
        };
    }

    /// <summary>Square to where it shines, and across the way it is looked at, so that a cone's grips stand at its outline.</summary>
    private Vec3 Side
    {
        get
        {
            var side = Along.Cross(view.TowardEye(_at));
            return side.Length < 0.05 ? _turn.X : side.Unit();
        }
    }

    private LensShape Spot(Light light)
    {
        var (inner, outer) = (light.InnerCone ?? 0, light.OuterCone ?? Light.UsualOuterCone);
        var (edge, other) = (Direction(outer, Side), Direction(outer, -Side));
        var lines = new List<IReadOnlyList<Vec3>> { Circle(outer), new[] { _at + edge * size, _at, _at + other * size }, new[] { _at, Range(light, Along).At } };
        if (inner > 0)
        {
            lines.Add(Circle(inner));
        }

        return new(lines, [
            new(LensPart.OuterCone, _at + edge * size, $"Outer cone {_say.Angle(outer)}", Angle: true),
            new(LensPart.InnerCone, _at + Direction(inner, -Side) * size, $"Inner cone {_say.Angle(inner)}", Angle: true),
            Range(light, Along),
            .. Size(light) is { } grip ? [grip] : Array.Empty<LensGrip>(),
        ]);
    }

    /// <summary>Its area, with a stroke to where it shines.</summary>
    private LensShape Panel(Light light)
    {
        var (x, y) = (_turn.X * (light.Size / 2), _turn.Y * ((light.PanelHeight ?? light.Size) / 2));
        return new(
            [new[] { _at - x - y, _at + x - y, _at + x + y, _at - x + y, _at - x - y }, new[] { _at, _at + Along * size }],
            [
                new(LensPart.Size, _at + x, $"Width {_say.Length(light.Size)}", Angle: false),
                new(LensPart.PanelHeight, _at + y, $"Height {_say.Length(light.PanelHeight ?? light.Size)}", Angle: false),
                Range(light, Along),
            ]);
    }

    /// <summary>How wide what shines is; across the way it is looked at.</summary>
    private LensGrip? Size(Light light) => light.Size > 0 ? new(LensPart.Size, _at - Side * (light.Size / 2), $"Size {_say.Length(light.Size)}", Angle: false) : null;

    /// <summary>Some rays side by side.</summary>
    private LensShape Directional() => new(
        [.. new[] { (0.0, 0.0), (0.18, 0), (-0.18, 0), (0, 0.18), (0, -0.18) }.Select(o =>
        {
            var from = _at + (_turn.X * o.Item1 + _turn.Y * o.Item2) * size;
            return (IReadOnlyList<Vec3>)new[] { from, from + Along * size };
        })],
        []);

    /// <summary>Where its light ends, as it is looked at.</summary>
    private LensShape Point(Light light)
    {
        var eye = view.TowardEye(_at);
        var way = (view.World.Linear.X - eye * eye.Dot(view.World.Linear.X)).Unit();
        var grip = Range(light, way);
        IReadOnlyList<Vec3> reach = light.Range is { } range ? Ring(_at, way, eye.Cross(way), range) : new[] { _at, grip.At };
        return light.Size > 0
            ? new([reach, Ring(_at, way, eye.Cross(way), light.Size / 2)], [grip, new(LensPart.Size, _at - way * (light.Size / 2), $"Size {_say.Length(light.Size)}", Angle: false)])
            : new([reach], [grip]);
    }

    private LensGrip Range(Light light, Vec3 way) => light.Range is { } range
        ? new(LensPart.Range, _at + way * range, $"Range {_say.Length(range)}", Angle: false)
        : new(LensPart.Range, _at + way * (size * 1.5), "Range without end", Angle: false);

    private LensShape Perspective(Camera camera)
    {
        var high = size * Math.Tan(camera.Fov / 2 * Math.PI / 180);
        var middle = _at + Along * size + Beside(camera, high);
        var corners = Picture(middle, high, camera.Aspect ?? Camera.UsualAspect);
        return new(
            [corners, .. corners.Take(4).Select(c => (IReadOnlyList<Vec3>)new[] { _at, c }), Roof(middle, high)],
            [new(LensPart.Fov, _at + Along * size + _turn.Y * high, $"Angle of view {_say.Angle(camera.Fov)}", Angle: true)]);
    }

    private LensShape Parallel(Camera camera)
    {
        var (high, aspect) = (camera.Height / 2, camera.Aspect ?? Camera.UsualAspect);
        var middle = _at + Beside(camera, high);
        var (here, there) = (Picture(middle, high, aspect), Picture(middle + Along * size, high, aspect));
        return new(
            [here, there, .. Enumerable.Range(0, 4).Select(i => (IReadOnlyList<Vec3>)new[] { here[i], there[i] }), Roof(middle + Along * size, high)],
            [new(LensPart.Height, _at + Along * size + _turn.Y * high, $"Height {_say.Length(camera.Height)}", Angle: false)]);
    }

    /// <summary>How far a shifted picture lies beside the axis.</summary>
    /// <param name="high">Half the height of the picture.</param>
    private Vec3 Beside(Camera camera, double high) => (_turn.X * camera.ShiftX + _turn.Y * camera.ShiftY) * (2 * high);

    /// <summary>The four corners of the picture, the first once more at the end.</summary>
    private List<Vec3> Picture(Vec3 middle, double high, double aspect)
    {
        var (x, y) = (_turn.X * (high * aspect), _turn.Y * high);
        return [middle - x - y, middle + x - y, middle + x + y, middle - x + y, middle - x - y];
    }

    /// <summary>Which way the picture stands upright.</summary>
    private Vec3[] Roof(Vec3 middle, double high)
    {
        var foot = middle + _turn.Y * (high + size * 0.04);
        return [foot - _turn.X * (size * 0.08), foot + _turn.Y * (size * 0.1), foot + _turn.X * (size * 0.08)];
    }

    private List<Vec3> Circle(double degrees)
    {
        var angle = degrees * Math.PI / 180;
        return Ring(_at + Along * (size * Math.Cos(angle)), _turn.X, _turn.Y, size * Math.Sin(angle));
    }

    private static List<Vec3> Ring(Vec3 middle, Vec3 x, Vec3 y, double radius) =>
        [.. Enumerable.Range(0, Parts + 1).Select(i => Math.Tau * i / Parts).Select(a => middle + (x * Math.Cos(a) + y * Math.Sin(a)) * radius)];

    /// <summary>A direction that leaves the axis by an angle, towards a side.</summary>
    private Vec3 Direction(double degrees, Vec3 side)
    {
        var angle = degrees * Math.PI / 180;
        return Along * Math.Cos(angle) + side * Math.Sin(angle);
    }

    /// <summary>
    /// The angle from the axis at which a ray passes, in the plane of axis and side; where that stands on edge, in the plane
    /// square to the axis in which the circle or the picture lies now. Degrees.
    /// </summary>
    /// <param name="high">How far along the axis that lies.</param>
    private double? AngleTo(Ray ray, Vec3 side, double high)
    {
        if (Met(ray, _at, Along.Cross(side)) is { } p)
        {
            var way = p - _at;
            return Math.Atan2(Math.Abs(way.Dot(side)), way.Dot(Along)) * 180 / Math.PI;
        }

        return Met(ray, _at + Along * high, Along) is { } q ? Math.Atan2((q - (_at + Along * high)).Length, high) * 180 / Math.PI : null;
    }

    /// <summary>How far along the axis the circle of a cone lies; a wide open one has hardly any way to go.</summary>
    private double CircleAt(double degrees) => size * Math.Max(Math.Cos(degrees * Math.PI / 180), 0.05);

    /// <summary>How far aside of the axis a ray passes.</summary>
    private double? Aside(Ray ray, Vec3 side) =>
        (Met(ray, _at, Along.Cross(side)) ?? Met(ray, _at + Along * size, Along)) is { } p ? Math.Abs((p - _at).Dot(side)) : null;

    /// <summary>How far along the axis a ray comes nearest to it.</summary>
    private double? AlongAxis(Ray ray)
    {
        var (from, across) = (ray.Origin - _at, Along.Dot(ray.Direction));
        var apart = 1 - across * across;
        return apart < 1e-3 ? null : (from.Dot(Along) - from.Dot(ray.Direction) * across) / apart;
    }

    /// <summary>Where a ray meets the plane through the node that faces the eye.</summary>
    private Vec3? Facing(Ray ray) => Met(ray, _at, view.TowardEye(_at));

    private static Vec3? Met(Ray ray, Vec3 through, Vec3 normal)
    {
        var slope = ray.Direction.Dot(normal);
        return Math.Abs(slope) < OnEdge ? null : ray.Origin + ray.Direction * ((through - ray.Origin).Dot(normal) / slope);
    }
}
