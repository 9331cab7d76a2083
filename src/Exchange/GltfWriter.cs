using System.Numerics;
using System.Text;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using SharpGLTF.Schema2;
using SharpGLTF.Transforms;
using Gltf = SharpGLTF.Schema2;
using Material = CalmPivot.Core.Scene.Material;
using Node = CalmPivot.Core.Scene.Node;

namespace CalmPivot.Exchange;

/// <summary>
/// Writes a scene as glTF 2.0 that every reader understands. A matrix that translation, rotation and scale cannot hold is
/// split by singular values between the node and a helper below it; what glTF has no place for rides in the node's extras.
/// </summary>
public static class GltfWriter
{
    /// <param name="images">The pictures that materials name, by hash.</param>
    public static byte[] Write(
        SceneDocument scene, IReadOnlyDictionary<string, byte[]> images, bool binary, IReadOnlyList<KeptSelection>? selections = null, CancellationToken stopped = default)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return Bytes(new Writing(scene, scene.Name, images, stopped).Run(selections ?? []), binary, stopped);
    }

    /// <summary>
    /// Writes one shot: what its picture shows, with what it has of its own in place, as poses that need nothing of this program to be read, and its camera.
    /// What carries any of that goes along bare.
    /// </summary>
    /// <exception cref="Core.Refusal">not-found: there is no such shot.</exception>
    public static byte[] Write(SceneDocument scene, string shot, IReadOnlyDictionary<string, byte[]> images, bool binary, CancellationToken stopped = default)
    {
        var layer = (ShotScene)Layered.Over(scene, new(shot));
        return Bytes(new Writing(layer, $"{scene.Name} {layer.Shot!.Title}", images, stopped).Run(OneShot.Of(layer)), binary, stopped);
    }

    private static byte[] Bytes(ModelRoot model, bool binary, CancellationToken stopped)
    {
        // Put together here, the library makes no second model for it.
        model.MergeImages();
        model.MergeBuffers();
        stopped.ThrowIfCancellationRequested();
        return binary ? AsGlb(model) : AsText(model);
    }

    private static byte[] AsGlb(ModelRoot model)
    {
        // Its check of what is written asks of each node at the top whether it is below any other; the official validator holds our files in the laws.
        using var stream = new MemoryStream();
        model.WriteGLB(stream, new WriteSettings { Validation = SharpGLTF.Validation.ValidationMode.Skip, ImageWriting = ResourceWriteMode.SatelliteFile });
        return stream.ToArray();
    }

    /// <summary>As one text with all data inside, which stands in it by a name until then that is found nowhere else.</summary>
    private static byte[] AsText(ModelRoot model)
    {
        var files = new Dictionary<string, ArraySegment<byte>>();
        var context = WriteContext.CreateFromDictionary(files).WithTextSettings();
        context.Validation = SharpGLTF.Validation.ValidationMode.Skip;
        context.ImageWriting = ResourceWriteMode.EmbeddedAsBase64;
        context.JsonIndented = true;
        var name = Guid.NewGuid().ToString("N");
        context.WriteTextSchema2(name, model);
        var json = files[name + ".gltf"].AsSpan();
        var buffer = name + ".bin";
        if (!files.TryGetValue(buffer, out var data))
        {
            return json.ToArray();
        }

        var at = json.IndexOf(Encoding.UTF8.GetBytes(buffer));
        return [.. json[..at], .. Encoding.UTF8.GetBytes("data:application/octet-stream;base64," + Convert.ToBase64String(data)), .. json[(at + buffer.Length)..]];
    }

    /// <summary>One writing of one scene.</summary>
    private sealed class Writing(IScene scene, string name, IReadOnlyDictionary<string, byte[]> images, CancellationToken stopped)
    {
        private readonly ModelRoot _model = ModelRoot.CreateModel();
        private readonly Dictionary<(Geometry, string), Mesh> _meshes = [];
        private readonly Dictionary<string, Gltf.Node> _written = [];
        private readonly SceneDraft _draft = new(scene);

        public ModelRoot Run(IReadOnlyList<KeptSelection> selections)
        {
            var root = Begin();
            root.Extras = OwnForm.Extras(OwnScene.Write(scene, selections));
            return Write(root, scene.Branch(null).Select(node => (node, node)), scene.AllMaterials());
        }

        public ModelRoot Run(IEnumerable<(Node Node, Node Written)> some)
        {
            var root = Begin();
            root.Extras = OwnForm.Extras(new() { ["unit"] = scene.Unit });
            return Write(root, some, []);
        }

        private Gltf.Scene Begin()
        {
            _model.Asset.Generator = "Calm Pivot";
            return _model.UseScene(name);
        }

        /// <param name="some">Nodes as they stand in the scene, and as they are written.</param>
        /// <param name="first">Materials that go out in this order, be they used or not.</param>
        private ModelRoot Write(Gltf.Scene root, IEnumerable<(Node Node, Node Written)> some, IEnumerable<Material> first)
        {
            var materials = new MaterialWriter(_model, images);
            foreach (var material in first)
            {
                materials.Write(material);
            }

            foreach (var (node, written) in some)
            {
                stopped.ThrowIfCancellationRequested();
                WriteNode(root, node, written, materials);
            }

            return _model;
        }

        private void WriteNode(Gltf.Scene root, Node stands, Node node, MaterialWriter materials)
        {
            var parent = node.Parent is null ? null : _written[node.Parent];
            var local = stands.Constraints.IsEmpty && (parent is null || node.Placement.Takes == Takes.All)
                ? node.Placement.Local()
                : parent is null ? _draft.World(stands) : IntoCarrier(stands) * _draft.World(stands);
            var target = parent is null ? root.CreateNode(node.Name) : parent.CreateNode(node.Name);
            var holder = Place(target, local, node.Name);
            OwnNode.From(node).Into(target, stopped);
            _written[node.Id] = holder;
            if (!node.IsController && Extents.DrawnGeometryOf(scene, node) is { Parts.Count: > 0 } geometry)
            {
                holder.Mesh = MeshOf(geometry, node, materials);
                if (node.Shape is { } shape && !ReferenceEquals(holder, target))
                {
                    OwnForm.Of(holder)!["shape"] = OwnForm.Write(shape.ToPatch());
                    if (node.Normals is { } normals)
                    {
                        OwnForm.Of(holder)!["normals"] = OwnForm.Write(normals);
                    }
                }
            }

            if (node.Camera is { } camera)
            {
                LensWriter.Write(_model, Eye(holder, _draft.World(stands).Linear, node.Name), camera);
            }

            if (node.Light is { } light)
            {
                LensWriter.Write(_model, holder, light);
            }
        }

        /// <summary>
        /// What holds a camera: where the node is mirrored, scaled or sheared in the world, a helper in it that is not, so that any reader sees through it by the lens axes.
        /// </summary>
        private static Gltf.Node Eye(Gltf.Node holder, Mat3 world, string name)
        {
            var axes = world.LensAxes();
            if (axes.Distance(world) < 1e-6)
            {
                return holder;
            }

            var lens = holder.CreateNode(name + " (lens)");
            lens.Extras = OwnForm.Extras(new() { ["lens"] = true });
            return Place(lens, new(world.Inverse() * axes, Vec3.Zero), lens.Name);
        }

        /// <summary>Leads from the world into the frame of what carries a node.</summary>
        private Affine IntoCarrier(Node node)
        {
            var carrier = scene.Find(node.Parent!)!;
            return _draft.World(carrier).Inverse();
        }

        /// <summary>Places a node; where one is not enough, a helper below it holds the second turn and all content.</summary>
        private static Gltf.Node Place(Gltf.Node node, Affine local, string name)
        {
            var (x, y, z) = local.Linear;
            var lengths = new Vec3(x.Length, y.Length, z.Length);
            var most = 1e-6 * lengths.X * lengths.Y + 1e-6 * lengths.Y * lengths.Z + 1e-6 * lengths.X * lengths.Z;
            if (Math.Abs(x.Dot(y)) + Math.Abs(y.Dot(z)) + Math.Abs(x.Dot(z)) <= most)
            {
                var mirror = local.Linear.Determinant < 0 ? -1 : 1;
                var scale = lengths with { X = lengths.X * mirror };
                var rotation = new Mat3(x * (1 / scale.X), y * (1 / scale.Y), z * (1 / scale.Z));
                node.LocalTransform = Transform(local.Offset, rotation, scale);
                return node;
            }

            var (u, stretch, v) = Symmetric.Singular(local.Linear);
            node.LocalTransform = Transform(local.Offset, u, stretch);
            var helper = node.CreateNode(name + " (helper)");
            helper.LocalTransform = Transform(Vec3.Zero, v.Transposed(), Vec3.One);
            helper.Extras = OwnForm.Extras(new() { ["helper"] = true });
            return helper;
        }

        private static AffineTransform Transform(Vec3 t, Mat3 r, Vec3 s)
        {
            var q = Quat.From(r);
            return new AffineTransform(
                new Vector3((float)s.X, (float)s.Y, (float)s.Z),
                Quaternion.Normalize(new Quaternion((float)q.X, (float)q.Y, (float)q.Z, (float)q.W)),
                new Vector3((float)t.X, (float)t.Y, (float)t.Z));
        }

        private Mesh MeshOf(Geometry geometry, Node node, MaterialWriter materials)
        {
            var lies = Laying.Of(scene, node, scene.Find(node.Id) is { } stands ? _draft.World(stands) : node.Placement.Local());
            var look = string.Join(' ', node.Materials) + lies?.Key;
            if (!_meshes.TryGetValue((geometry, look), out var mesh))
            {
                _meshes[(geometry, look)] = mesh = MeshWriter.Write(_model, lies?.On(geometry) ?? geometry, node.Name, slot => materials.Write(scene.FindMaterial(node.MaterialOf(slot))));
            }

            return mesh;
        }
    }
}
