using System.Text.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Wire;
using SharpGLTF.Schema2;
using SharpGLTF.Validation;
using Gltf = SharpGLTF.Schema2;
using Node = CalmPivot.Core.Scene.Node;

namespace CalmPivot.Exchange;

/// <summary>
/// Reads glTF 2.0 into nodes. All placing is computed in 64 bits from the numbers in the file; pivots, orders and shear
/// come back from the extras that our own files carry, where they still agree with the file's matrices.
/// </summary>
public static class GltfReader
{
    /// <summary>The whole of an upload that is in memory.</summary>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large; nothing outside the upload has been read.</exception>
    public static ImportedFile Read(byte[] upload)
    {
        using var stream = new MemoryStream(upload);
        return GltfFile.Open(stream).Read();
    }

    internal static ImportedFile Read(Container container, IReadOnlyList<string> extensions, CancellationToken stopped) =>
        new Reading(Load(container), container.Description, extensions, stopped).Run();

    private static ModelRoot Load(Container container)
    {
        ArraySegment<byte> Resolve(string name) =>
            container.Files.TryGetValue(Uri.UnescapeDataString(name), out var bytes)
                ? bytes
                : throw new Refusal(
                    Refusals.UnsupportedFile,
                    $"The file points to “{Core.Words.Speaker.Quoted(name)}”, which is not in the upload. Send a .glb, or a .zip with all its files.");

        try
        {
            var context = ReadContext.Create(Resolve);
            context.Validation = ValidationMode.Strict;
            using var stream = new MemoryStream(container.Description.Json);
            return context.ReadTextSchema2(stream);
        }
        catch (Exception e) when (e.GetBaseException() is Refusal refusal)
        {
            throw refusal;
        }
    }

    /// <summary>One reading of one file.</summary>
    private sealed class Reading(ModelRoot model, Description description, IReadOnlyList<string> extensions, CancellationToken stopped)
    {
        private readonly List<Node> _nodes = [];
        private List<Collection> _collections = [];

        /// <summary>What was read so far, for where it stands.</summary>
        private readonly SceneDraft _scene = new(SceneDocument.Blank());
        private readonly SortedSet<string> _notes = new(StringComparer.Ordinal);
        private readonly MeshReader _meshes = new();
        private readonly MaterialReader _materials = new();

        /// <summary>From the ids that our own files carry to the fresh ones.</summary>
        private readonly Dictionary<string, string> _ids = [];

        /// <summary>What our own files say of nodes that constraints lead from where they are placed: these, and where.</summary>
        private readonly Dictionary<string, (Placement Placement, Constraint[] Constraints)> _tied = [];

        public ImportedFile Run()
        {
            NoteWhatIsLost();
            var roots = model.LogicalScenes.Count > 0
                ? description.Tops[model.DefaultScene?.LogicalIndex ?? 0].Select(top => model.LogicalNodes[top]).ToList()
                : WithoutParent();
            if (model.LogicalScenes.Count > 1)
            {
                _notes.Add($"Of {model.LogicalScenes.Count} scenes in the file, the one it shows first was taken.");
            }

            var own = model.DefaultScene is { } shown ? OwnForm.Of(shown) : null;
            foreach (var material in model.LogicalMaterials.Where(m => OwnForm.Of(m)?["id"] is not null))
            {
                // Ours come in their order, also those that nothing is made of.
                _materials.Id(material);
            }

            foreach (var (named, id) in _materials.Ids)
            {
                _ids.TryAdd(named, id);
            }

            var walk = new Stack<(Gltf.Node Node, string? Parent, double Rank)>();
            Push(walk, roots, null);
            while (walk.TryPop(out var next))
            {
                stopped.ThrowIfCancellationRequested();
                var (node, children) = ReadNode(next.Node, next.Parent, next.Rank);
                Push(walk, children, node.Id);
            }

            if (own is not null)
            {
                _collections = OwnScene.Collections(own, _ids, _notes);
                _nodes.AddRange(OwnScene.Marks(own, _ids, _notes));
            }

            Relate();
            Tied.Tie(_nodes, _tied, _ids, _meshes.Geometries, _notes);
            _notes.UnionWith(_meshes.Notes);
            _notes.UnionWith(_materials.Notes);
            var shots = own is null ? [] : OwnShots.Read(own, _ids, [.. _nodes, .. _collections], _notes);
            return new(_nodes, _meshes.Geometries, _materials.Images, [.. _notes])
            {
                Entities = [.. _materials.Found, .. _collections],
                Shots = shots,
                Unit = own is null ? null : OwnScene.UnitOf(own),
                Selections = own is null ? [] : OwnScene.Selections(own, _ids),
            };
        }

        /// <summary>Memberships and sharing, by the ids in here. What no longer looks alike does not share its shape any more.</summary>
        private void Relate()
        {
            var collections = _collections.Select(c => c.Id).ToHashSet();
            var shared = _nodes.Where(n => n.Shares is not null).ToLookup(n => n.Shares!);
            bool Shares(Node node) => node.Shares is { } key && shared[key].Count() > 1
                && shared[key].All(n => Equals(n.Shape, node.Shape) && n.Geometry == node.Geometry);
            for (var i = 0; i < _nodes.Count; i++)
            {
                var node = _nodes[i];
                _nodes[i] = NodeReferences.Led(node, (reference, named) =>
                    reference == NodeReferences.Collections ? (_ids.GetValueOrDefault(named) is { } id && collections.Contains(id) ? id : null)
                    : reference == NodeReferences.Shares ? (Shares(node) ? NodeReferences.Sharing(shared[node.Shares!].First().Id) : null)
                    : reference == NodeReferences.Focus ? _ids.GetValueOrDefault(named)
                    : named);
            }
        }

        private (int Node, JsonObject? Own) _latest = (-1, null);

        /// <summary>Of each node whether its extras were looked at for being a helper or a lens, and what was found.</summary>
        private readonly Helps[] _helps = new Helps[model.LogicalNodes.Count];

        [Flags]
        private enum Helps : byte
        {
            Known = 1,
            Helper = 2,
            Lens = 4,
        }

        /// <summary>What our own files say of a node.</summary>
        private JsonObject? OwnOf(Gltf.Node node)
        {
            if (_latest.Node != node.LogicalIndex)
            {
                _latest = (node.LogicalIndex, description.ExtrasOf(node.LogicalIndex)?[OwnForm.Key] as JsonObject);
            }

            return _latest.Own;
        }

        private bool Is(Gltf.Node node, Helps what)
        {
            ref var helps = ref _helps[node.LogicalIndex];
            if (helps == 0)
            {
                var own = description.ExtrasOf(node.LogicalIndex)?[OwnForm.Key] as JsonObject;
                bool Says(string word) => own?[word]?.GetValueKind() == JsonValueKind.True;
                helps = Helps.Known | (Says("helper") ? Helps.Helper : 0) | (Says("lens") ? Helps.Lens : 0);
            }

            return helps.HasFlag(what);
        }

        /// <summary>What is nobody's child, of a file that has no scene.</summary>
        private List<Gltf.Node> WithoutParent()
        {
            var children = model.LogicalNodes.SelectMany(node => node.VisualChildren).ToHashSet();
            return [.. model.LogicalNodes.Where(node => !children.Contains(node))];
        }

        private static MaterialChoice Checked(MaterialChoice choice) => choice.Said is { } said ? choice with { Said = said with { Surface = said.Surface.Checked() } } : choice;

        /// <summary>The material of a mesh; where our own files say that there is none, none.</summary>
        private string IdOf(Gltf.Material? material) =>
            material is not null && OwnForm.Of(material)?["none"]?.GetValueKind() == JsonValueKind.True ? Core.Scene.Material.None : _materials.Id(material);

        private static void Push(Stack<(Gltf.Node, string?, double)> walk, List<Gltf.Node> nodes, string? parent)
        {
            for (var i = nodes.Count - 1; i >= 0; i--)
            {
                walk.Push((nodes[i], parent, i + 1));
            }
        }

        private (Node Node, List<Gltf.Node> Children) ReadNode(Gltf.Node source, string? parent, double rank)
        {
            var local = LocalOf(source);
            var content = source;

            // A helper of our own files carries a part of the matrix that one node cannot hold.
            if (source.VisualChildren.ToList() is [var only] && Is(only, Helps.Helper))
            {
                local *= LocalOf(only);
                content = only;
            }

            var name = Rename.Nearest(source.Name, KindWord(content));
            var placement = PlacementOf(source, parent, local, name);
            var node = new Node(OwnScene.Fresh(), name, KindOf(content), parent, rank, placement, null, null, [], null, null, Switches.Default);
            node = WithOwn(Fill(node, content), source);
            if (OwnOf(source) is { } tied && OwnForm.Read<Constraint[]>(tied["constraints"]) is { Length: > 0 } constraints && OwnForm.Read<PlacementPatch>(tied["placement"]) is { } stored)
            {
                _tied[node.Id] = (stored.ApplyTo(Placement.Default), constraints);
            }

            _nodes.Add(node);
            _scene.Put(node);
            AddSeconds(node, content);
            return (node, [.. content.VisualChildren.Where(child => child != LensOf(content))]);
        }

        private Node Fill(Node node, Gltf.Node source) => node.Kind switch
        {
            NodeKind.Mesh => OwnOf(source)?["shape"] is { } shape && ShapeOf(shape) is { } made
                ? node with { Kind = NodeKind.Shape, Shape = made, Normals = NormalsOf(source), Materials = [.. source.Mesh.Primitives.Take(1).Select(p => IdOf(p.Material))] }
                : node with
                {
                    Geometry = _meshes.Read(source.Mesh),
                    Materials = Core.Scene.Node.Trimmed([.. MeshReader.Slots(source.Mesh).Select(IdOf)]),
                },
            NodeKind.Camera => node with { Camera = LensReader.Camera(CameraOf(source)!) },
            NodeKind.Light => node with { Light = LensReader.Light(source.PunctualLight) },
            _ => node,
        };

        /// <summary>What our own files say of a node beyond glTF: its id, switches, label, memberships, sharing, lens and lamp in full.</summary>
        private Node WithOwn(Node node, Gltf.Node source)
        {
            if (OwnOf(source) is not { } own)
            {
                return node;
            }

            string? Text(JsonNode? json) => json is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;
            if (Text(own["id"]) is { } id)
            {
                _ids.TryAdd(id, node.Id);
            }

            if (own["baked"] is not null)
            {
                _notes.Add("Facets or rounding of meshes are now part of their shape and cannot be taken back to how they were made.");
            }

            if (node.Kind == NodeKind.Group && OwnForm.ReadSwitches(own["switches"]) is { Drawn: DrawnAs.Controller } && own["shape"] is { } lines && ShapeOf(lines) is { } made)
            {
                node = node with
                {
                    Kind = NodeKind.Shape,
                    Shape = made,
                    Normals = NormalsOf(source),
                    Materials = Core.Scene.Node.Trimmed(OwnForm.Checked<MaterialChoice>(own["material"], Checked) is { } choice ? [_materials.Id(choice)] : []),
                };
            }

            return node with
            {
                Switches = (OwnForm.ReadSwitches(own["switches"]) ?? node.Switches).On(node.Kind),
                Label = node.Kind == NodeKind.Group ? OwnScene.LabelOf(own["label"]) : Label.None,
                Collections = [.. (own["collections"] as JsonArray ?? []).Select(Text).OfType<string>()],
                Shares = node.Shape is null && node.Geometry is null ? null : Text(own["shares"]),
                Camera = node.Camera is { } camera && OwnForm.Checked<Core.Scene.Camera>(own["camera"], c => c.Checked()) is { } lens && LensReader.Agree(lens, camera) ? lens : node.Camera,
                Light = node.Light is { } light && OwnForm.Checked<Light>(own["light"], l => l.Checked()) is { } lamp && LensReader.Agree(lamp, light) ? lamp : node.Light,
            };
        }

        /// <summary>glTF lets one node be mesh, camera and light at once; here each becomes a node of its own.</summary>
        private void AddSeconds(Node node, Gltf.Node source)
        {
            void Add(bool there, NodeKind kind, Func<Node, Node> fill)
            {
                if (there && node.Kind != kind && !(node.Kind == NodeKind.Shape && kind == NodeKind.Mesh))
                {
                    _nodes.Add(fill(Node.Bare(OwnScene.Fresh(), node.Name, kind, node.Id, Placement.Default)));
                }
            }

            Add(CameraOf(source) is not null, NodeKind.Camera, n => n with { Camera = LensReader.Camera(CameraOf(source)!) });
            Add(source.PunctualLight is not null, NodeKind.Light, n => n with { Light = LensReader.Light(source.PunctualLight!) });
        }

        private Placement PlacementOf(Gltf.Node source, string? parent, Affine local, string name)
        {
            if (OwnForm.Read<PlacementPatch>(OwnOf(source)?["placement"]) is { } patch)
            {
                var own = patch.ApplyTo(Placement.Default);
                var there = _scene.FrameUnder(parent, Takes.All).Place * local;
                var said = _scene.FrameUnder(parent, own.Takes).Placed(own);

                // The file holds 32-bit numbers; beyond their rounding, somebody has moved the node since.
                if (said.IsFinite && said.Distance(there) <= 1e-5 * (1 + there.Linear.Norm + there.Offset.Length))
                {
                    return own;
                }
            }

            var transform = source.LocalTransform;
            if (!local.IsFinite)
            {
                throw Container.Broken($"“{Core.Words.Speaker.Quoted(name)}” stands nowhere");
            }

            if (Math.Abs(local.Linear.Determinant) < 1e-24 || Triangular.Condition(local.Linear) > 1e9)
            {
                _notes.Add("Objects that were scaled to nothing were given a very small size.");
                var (x, y, z) = local.Linear;
                Vec3 Least(Vec3 v) => new(Math.Max(v.X, 1e-6), Math.Max(v.Y, 1e-6), Math.Max(v.Z, 1e-6));
                return Placement.Default with { Position = local.Offset, Scale = Least(new(x.Length, y.Length, z.Length)) };
            }

            // Plain parts are taken as they are, signs included; anything else is split exactly.
            if (transform.IsSRT && !source.VisualChildren.Any(c => Is(c, Helps.Helper)))
            {
                var s = transform.Scale;
                var q = transform.Rotation;
                var r = new Quat(q.X, q.Y, q.Z, q.W).ToMatrix();
                return Placement.Default with
                {
                    Position = local.Offset,
                    Rotation = Euler.FromMatrix(r, EulerOrder.XYZ, Vec3.Zero),
                    Scale = new(s.X, s.Y, s.Z),
                };
            }

            return Placement.Default.Storing(local);
        }

        private static Affine LocalOf(Gltf.Node node)
        {
            var transform = node.LocalTransform;
            if (transform.IsSRT)
            {
                var (t, q, s) = (transform.Translation, transform.Rotation, transform.Scale);
                var r = new Quat(q.X, q.Y, q.Z, q.W).ToMatrix();
                return new(r * Mat3.Diagonal(new(s.X, s.Y, s.Z)), new(t.X, t.Y, t.Z));
            }

            // The library's matrices act on row vectors; its rows are our columns.
            var m = transform.Matrix;
            return new(
                new(new(m.M11, m.M12, m.M13), new(m.M21, m.M22, m.M23), new(m.M31, m.M32, m.M33)),
                new(m.M41, m.M42, m.M43));
        }

        private void NoteWhatIsLost()
        {
            void Note(bool there, string what)
            {
                if (there)
                {
                    _notes.Add($"{what} cannot be kept yet and were left out.");
                }
            }

            Note(model.LogicalSkins.Count > 0, "Skins (meshes bent by joints)");
            Note(model.LogicalAnimations.Count > 0, "Animations");
            Note(model.LogicalMeshes.Any(m => m.Primitives.Any(p => p.MorphTargetsCount > 0)), "Morph targets");
            string[] kept = ["KHR_lights_punctual", "KHR_materials_unlit", "KHR_materials_emissive_strength", "KHR_texture_transform", "KHR_mesh_quantization", "EXT_texture_webp"];
            foreach (var extension in extensions.Except(kept))
            {
                _notes.Add($"The file uses {extension}, which was left out.");
            }
        }

        private static Core.Shapes.Shape? ShapeOf(JsonNode json)
        {
            try
            {
                var patch = OwnForm.Read<Core.Shapes.ShapePatch>(json);
                return patch?.Type is { } type ? Core.Shapes.Shape.Default(type).With(patch) : null;
            }
            catch (Refusal)
            {
                return null;
            }
        }

        private Core.Shapes.Normals? NormalsOf(Gltf.Node source) =>
            OwnForm.Read<Core.Shapes.Normals>(OwnOf(source)?["normals"]) is { Angle: >= 0 and <= 180 } normals
            && Enum.IsDefined(normals.How)
                ? normals
                : null;

        /// <summary>The helper of our own files by which the camera of a node sees without its scale; null: there is none.</summary>
        private Gltf.Node? LensOf(Gltf.Node node) => node.VisualChildren.FirstOrDefault(child => Is(child, Helps.Lens));

        private Gltf.Camera? CameraOf(Gltf.Node node) =>
            node.Camera ?? (LensOf(node) is { } lens ? lens.Camera ?? lens.VisualChildren.Select(child => child.Camera).FirstOrDefault(camera => camera is not null) : null);

        private NodeKind KindOf(Gltf.Node node) =>
            node.Mesh is not null ? NodeKind.Mesh : CameraOf(node) is not null ? NodeKind.Camera : node.PunctualLight is not null ? NodeKind.Light : NodeKind.Group;

        private string KindWord(Gltf.Node node) => KindOf(node) switch
        {
            NodeKind.Mesh => Rename.Nearest(node.Mesh.Name, "Mesh"),
            NodeKind.Camera => "Camera",
            NodeKind.Light => "Light",
            _ => "Group",
        };
    }
}
