using System.Text;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Core.Wire;

/// <summary>
/// A whole scene in bulk, for the page to open: parents before children, placements as plain numbers, and what many
/// nodes share (shape, materials, lens) written once as JSON.
/// </summary>
public static class SceneBinary
{
    private const uint Mark = 0x32535043; // "CPS2"

    private const byte HasShear = 1;
    private const byte HasPivot = 2;
    private const byte HasPivotTurn = 4;
    private const byte HasPartialTakes = 8;

    public static byte[] Write(SceneDocument scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return Write(scene.Id, scene.Name, scene.Revision, scene);
    }

    /// <summary>A scene, or a layer over it, under the name and revision of the document.</summary>
    public static byte[] Write(string id, string name, long revision, IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        using var stream = new MemoryStream();
        using var writer = new BinaryWriter(stream, Encoding.UTF8);
        writer.Write(Mark);
        writer.Write(id);
        writer.Write(name);
        writer.Write(scene.Unit);
        writer.Write(revision);
        var nodes = scene.All().ToList();
        var looks = new Dictionary<string, int>();
        var lookOf = nodes.ConvertAll(node =>
        {
            var look = WireJson.Write(LookOf(node));
            return looks.TryGetValue(look, out var at) ? at : looks[look] = looks.Count;
        });
        writer.Write(looks.Count);
        foreach (var look in looks.Keys)
        {
            writer.Write(look);
        }

        writer.Write(nodes.Count);
        var places = new Dictionary<string, int>(nodes.Count);
        for (var i = 0; i < nodes.Count; i++)
        {
            var node = nodes[i];
            places[node.Id] = i;
            writer.Write(node.Id);
            writer.Write(node.Name);
            writer.Write(node.Parent is null ? -1 : places[node.Parent]);
            writer.Write(node.Rank);
            writer.Write(lookOf[i]);
            Write(writer, node.Placement);
        }

        // What stands beside nodes, one after the other as it is sent otherwise.
        var entities = scene.BesideNodes().ToList();
        writer.Write(entities.Count);
        entities.ForEach(entity => writer.Write(WireJson.Write(new EntityData(entity))));
        writer.Flush();
        return stream.ToArray();
    }

    /// <exception cref="Refusal">broken-file.</exception>
    public static SceneDocument Read(byte[] bytes, IGeometries geometries)
    {
        using var reader = new BinaryReader(new MemoryStream(bytes), Encoding.UTF8);
        if (reader.ReadUInt32() != Mark)
        {
            throw new Refusal(Refusals.BrokenFile, "What the server sent is no scene. Reload the page.");
        }

        var (id, name, unit, revision) = (reader.ReadString(), reader.ReadString(), reader.ReadString(), reader.ReadInt64());
        var looks = new Node[reader.ReadInt32()];
        for (var i = 0; i < looks.Length; i++)
        {
            looks[i] = WireJson.Read<NodeData>(reader.ReadString()).Node;
        }

        var nodes = new Node[reader.ReadInt32()];
        for (var i = 0; i < nodes.Length; i++)
        {
            var (nodeId, nodeName, parent) = (reader.ReadString(), reader.ReadString(), reader.ReadInt32());
            var (rank, look) = (reader.ReadDouble(), looks[reader.ReadInt32()]);
            nodes[i] = look with
            {
                Id = nodeId,
                Name = nodeName,
                Parent = parent < 0 ? null : nodes[parent].Id,
                Rank = rank,
                Placement = ReadPlacement(reader),
            };
        }

        var entities = new Entity[reader.ReadInt32()];
        for (var i = 0; i < entities.Length; i++)
        {
            entities[i] = WireJson.Read<EntityData>(reader.ReadString()).Entity;
        }

        return new(id, name, unit, revision, [.. nodes, .. entities], geometries);
    }

    /// <summary>All but what is written for each node; a new field goes along by itself.</summary>
    private static NodeData LookOf(Node node) =>
        new NodeData(node with { Id = "", Name = "", Parent = null, Rank = 0, Placement = Placement.Default });

    private static void Write(BinaryWriter writer, Placement p)
    {
        var flags = (p.Shear != Vec3.Zero ? HasShear : 0) | (p.Pivot != Vec3.Zero ? HasPivot : 0)
            | (p.PivotTurn != Vec3.Zero ? HasPivotTurn : 0) | (p.Takes != Takes.All ? HasPartialTakes : 0);
        writer.Write((byte)flags);
        writer.Write((byte)p.Order);
        Write(writer, p.Position);
        Write(writer, p.Rotation);
        Write(writer, p.Scale);
        WriteIf(p.Shear, HasShear);
        WriteIf(p.Pivot, HasPivot);
        WriteIf(p.PivotTurn, HasPivotTurn);
        if ((flags & HasPartialTakes) != 0)
        {
            writer.Write(p.Takes.Position);
            writer.Write(p.Takes.Rotation);
            writer.Write(p.Takes.Scale);
        }

        void WriteIf(Vec3 v, byte flag)
        {
            if ((flags & flag) != 0)
            {
                Write(writer, v);
            }
        }
    }

    private static Placement ReadPlacement(BinaryReader reader)
    {
        var flags = reader.ReadByte();
        var order = (EulerOrder)reader.ReadByte();
        var (position, rotation, scale) = (ReadVec3(reader), ReadVec3(reader), ReadVec3(reader));
        Vec3 ReadIf(byte flag) => (flags & flag) != 0 ? ReadVec3(reader) : Vec3.Zero;
        var (shear, pivot, pivotTurn) = (ReadIf(HasShear), ReadIf(HasPivot), ReadIf(HasPivotTurn));
        var takes = (flags & HasPartialTakes) != 0
            ? new Takes(reader.ReadBoolean(), reader.ReadBoolean(), reader.ReadBoolean())
            : Takes.All;
        return new(position, rotation, order, scale, shear, pivot, pivotTurn, takes);
    }

    private static void Write(BinaryWriter writer, Vec3 v)
    {
        writer.Write(v.X);
        writer.Write(v.Y);
        writer.Write(v.Z);
    }

    private static Vec3 ReadVec3(BinaryReader reader) => new(reader.ReadDouble(), reader.ReadDouble(), reader.ReadDouble());
}
