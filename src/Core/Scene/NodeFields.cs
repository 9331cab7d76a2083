using System.Collections.Immutable;
using System.Text.Json;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Scene;

/// <summary>The fields of a node, each declared once. A new one is added here, and to the record.</summary>
public static class NodeFields
{
    public static readonly Fields<Node> Table = new(
        Of("name", Parts.Name, Touches.Rows | Touches.Rules, n => n.Name, (n, v) => n with { Name = v }, required: true, sum: Digests.Add),
        Of("kind", Parts.Shape, Touches.Rows | Touches.Looks | Touches.Rules, n => n.Kind, (n, v) => n with { Kind = v }, required: true),
        Of("parent", Parts.Seat, Touches.Outline | Touches.Places | Touches.Members, n => n.Parent, (n, v) => n with { Parent = v }, sum: (d, v) => Digests.Add(d, v ?? "")),
        Of("rank", Parts.Seat, Touches.Outline | Touches.Places | Touches.Members, n => n.Rank, (n, v) => n with { Rank = v }, alike: SameBits, sum: Digests.Add),
        Of("placement", Parts.Placement, Touches.Places, n => n.Placement, (n, v) => n with { Placement = v }, required: true, sum: Sum),
        Of("shape", Parts.Shape, Touches.Rows | Touches.Looks | Touches.Rules, n => n.Shape, (n, v) => n with { Shape = v }, v => v is null),
        Of("geometry", Parts.Shape, Touches.Rows | Touches.Looks | Touches.Rules, n => n.Geometry, (n, v) => n with { Geometry = v }, v => v is null),
        Of("normals", Parts.Shape, Touches.Rows | Touches.Looks | Touches.Rules, n => n.Normals, (n, v) => n with { Normals = v }, v => v is null),
        new MaterialsField(),
        Of("camera", Parts.Lens, Touches.Places | Touches.Looks, n => n.Camera, (n, v) => n with { Camera = v }, v => v is null),
        Of("light", Parts.Lens, Touches.Places | Touches.Looks, n => n.Light, (n, v) => n with { Light = v }, v => v is null),
        Of("switches", Parts.Switches, Touches.Rows, n => n.Switches, (n, v) => n with { Switches = v }, _ => false),
        Of("collections", Parts.Collections, Touches.Rows | Touches.Members, n => n.Collections, (n, v) => n with { Collections = v }, v => v.IsEmpty, alike: SameItems),
        Of("shares", Parts.Shape, Touches.Rows | Touches.Looks | Touches.Rules, n => n.Shares, (n, v) => n with { Shares = v }, v => v is null),
        Of("label", Parts.Label, Touches.Rows, n => n.Label, (n, v) => n with { Label = v }, v => v == Label.None),
        Of("constraints", Parts.Constraints, Touches.Places | Touches.Rows, n => n.Constraints, (n, v) => n with { Constraints = Distinct(v) }, v => v.IsEmpty, alike: SameItems));

    /// <summary>Which parts differ between two states of a node.</summary>
    public static Parts Written(this NodeChange change) => Table.Written(change.Before, change.After);

    /// <summary>The node with the named parts taken from another state of it.</summary>
    public static Node Taking(this Node node, Parts parts, Node from) => Table.Taking(node, parts, from);

    private static Field<Node, TValue> Of<TValue>(
        string name,
        Parts part,
        Touches touches,
        Func<Node, TValue> get,
        Func<Node, TValue, Node> with,
        Predicate<TValue>? usual = null,
        bool required = false,
        Func<TValue, TValue, bool>? alike = null,
        Func<ulong, TValue, ulong>? sum = null) =>
        new(name, part, touches, get, with) { Usual = usual, Required = required, Alike = alike, Sum = sum };

    internal static bool SameBits(double a, double b) => BitConverter.DoubleToInt64Bits(a) == BitConverter.DoubleToInt64Bits(b);

    private static bool SameItems<T>(ImmutableArray<T> a, ImmutableArray<T> b)
        where T : IEquatable<T> => a == b || a.AsSpan().SequenceEqual(b.AsSpan());

    /// <summary>As read: each with an id of its own.</summary>
    private static ImmutableArray<Constraint> Distinct(ImmutableArray<Constraint> all) =>
        all.Length < 2 || all.DistinctBy(c => c.Id).Count() == all.Length ? all : throw new JsonException("Two constraints of one object have the same id.");

    private static ulong Sum(ulong digest, Placement p)
    {
        digest = Digests.Add(Digests.Add(Digests.Add(digest, p.Position), p.Rotation), p.Scale);
        digest = Digests.Add(Digests.Add(Digests.Add(digest, p.Shear), p.Pivot), p.PivotTurn);
        var takes = (p.Takes.Position ? 1u : 0) | (p.Takes.Rotation ? 2u : 0) | (p.Takes.Scale ? 4u : 0);
        return Digests.Add(digest, (ulong)p.Order << 3 | takes);
    }

    /// <summary>
    /// Materials are written as one where there is just one. Former versions wrote the surfaces themselves, in scenes and in steps: each stands for the
    /// material whose id is the hash of what it says, which the scene is given when it is loaded.
    /// </summary>
    private sealed class MaterialsField() : Field<Node, ImmutableArray<string>>(
        "materials", Parts.Material, Touches.Looks | Touches.Rules, n => n.Materials, (n, v) => n with { Materials = v })
    {
        private const string One = "material";

        public override IReadOnlyList<(string Name, Type Type)> Written => [(One, typeof(string)), (Name, typeof(ImmutableArray<string>))];

        public override bool Same(Node a, Node b) => SameItems(a.Materials, b.Materials);

        public override ulong Digest(ulong digest, Node entity, JsonSerializerOptions options) =>
            entity.Materials.IsEmpty ? Digests.Add(digest, 0) : base.Digest(digest, entity, options);

        public override void Write(Utf8JsonWriter writer, Node entity, JsonSerializerOptions options)
        {
            if (entity.Materials.Length == 1)
            {
                writer.WritePropertyName(One);
                writer.WriteStringValue(entity.Materials[0]);
            }
            else if (entity.Materials.Length > 1)
            {
                base.Write(writer, entity, options);
            }
        }

        public override Node Read(string written, ref Utf8JsonReader reader, Node into, JsonSerializerOptions options)
        {
            if (reader.TokenType == JsonTokenType.Null)
            {
                return into;
            }

            if (written == One)
            {
                return into with { Materials = Node.Trimmed([IdIn(ref reader, options)]) };
            }

            if (reader.TokenType != JsonTokenType.StartArray)
            {
                throw new JsonException("A list belongs here.");
            }

            var ids = ImmutableArray.CreateBuilder<string>();
            while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
            {
                ids.Add(IdIn(ref reader, options));
            }

            return into with { Materials = Node.Trimmed(ids.ToImmutable()) };
        }

        private static string IdIn(ref Utf8JsonReader reader, JsonSerializerOptions options) => MaterialChoice.Read(ref reader, options).Id;
    }
}
