using System.Runtime.InteropServices.JavaScript;
using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;

namespace CalmPivot.Browser;

/// <summary>
/// The narrow way between the page and the core. Bulk numbers are read in place from memory (<see cref="WorldsAddress"/>);
/// small things go as JSON. Every call that can be refused answers <c>{"refusal":…,"detail":…}</c> instead of throwing.
/// </summary>
public static unsafe partial class Bridge
{
    private static readonly PageGeometries Geometries = new();
    private static readonly JsonSerializerOptions Json = WireJson.With(BridgeJson.Default);

    /// <summary>Answers say what is not there, too.</summary>
    private static readonly JsonSerializerOptions Answers = new(Json) { DefaultIgnoreCondition = JsonIgnoreCondition.Never };
    private static Replica? _replica;
    private static SceneDocument? _loaded;

    private static Replica Replica => _replica ?? throw new InvalidOperationException("No scene is open.");

    /// <summary>Figures that the page needs to know of the core.</summary>
    [JSExport]
    public static string Limits() => Write(new LimitsAnswer(
        Duplicate.MostNew,
        Spread.Least,
        Euler.LinesUpBelow,
        Core.Scene.Node.MostNameLength,
        Label.MostNoteLength,
        Core.Words.Unit.OfScenes.ToDictionary(word => word, word => Core.Words.Unit.Of(word).Metres)));

    /// <summary>Reads a scene from its bulk form, for <see cref="Open"/>; the open one stays.</summary>
    [JSExport]
    public static string Load(byte[] scene)
    {
        _loaded = SceneBinary.Read(scene, Geometries);
        return Write(new LoadedAnswer(_loaded.Revision, [.. _loaded.Nodes.Select(n => n.Geometry).OfType<string>().Distinct()]));
    }

    /// <summary>Opens the scene that was loaded. What is being tried goes on where it is the same scene.</summary>
    [JSExport]
    public static string Open()
    {
        var scene = _loaded ?? throw new InvalidOperationException("No scene is loaded.");
        _loaded = null;
        void Enter()
        {
            // The same scene anew: whoever looks at it stays in the shot.
            var (scope, asInShot) = _replica?.Scene.Id == scene.Id && _replica.Scope.Shot is { } shot && scene.FindShot(shot) is not null
                ? (_replica.Scope, _replica.Sight.AsInShot)
                : (Scope.Every, true);
            _replica?.Dispose();
            _replica = new Replica(scene);
            _replica.SetScope(scope, asInShot);
        }

        OngoingAnswer? ongoing = null;
        if (_replica?.Scene.Id == scene.Id)
        {
            ongoing = Meanwhile(Enter);
        }
        else
        {
            _drawn = null;
            if (_replica is not null)
            {
                PutBack();
            }

            Enter();
            Geometries.KeepOnly(scene.Nodes.Select(n => n.Geometry).OfType<string>());
        }

        return Write(new HeardAnswer(Stale.Nothing, [], ongoing));
    }

    [JSExport]
    public static void AddGeometry(string hash, byte[] bytes) => Geometries.Add(hash, bytes);

    /// <summary>Takes in the order in which the triangles of a geometry are found fast, as the server stored it.</summary>
    [JSExport]
    public static void IndexGeometry(string hash, byte[] order) => Geometries.Index(hash, order);

    /// <summary>Geometry that the core knows by its hash, in the stored binary form; empty: it is to be fetched.</summary>
    [JSExport]
    public static byte[] KnownGeometry(string hash) => Geometries.Find(hash) is { } geometry ? GeometryBinary.Write(geometry) : [];

    /// <summary>Where the world matrices begin: twelve doubles a slot, row by row. Ask anew after any call that can add nodes.</summary>
    [JSExport]
    public static double WorldsAddress() => (double)(nint)Replica.Evaluator.Worlds;

    /// <summary>Where the slots that the last try changed begin, as 32-bit numbers.</summary>
    [JSExport]
    public static double ChangedAddress() => (double)(nint)Replica.Evaluator.Changed;

    [JSExport]
    public static int ChangedCount() => Replica.Evaluator.ChangedCount;

    [JSExport]
    public static int SlotCount() => Replica.Evaluator.Count;

    /// <summary>Where the entries that tell what is seen begin, sixteen bits a slot: <see cref="Core.Seeing.SightBits"/>.</summary>
    [JSExport]
    public static double SightAddress() => (double)(nint)Replica.Sight.Bits;

    /// <summary>The colours of the collections that nodes belong to, and which of them each slot has.</summary>
    [JSExport]
    public static string CollectionColors()
    {
        var (palette, of) = Replica.Sight.Colors();
        return Write(new ColorsAnswer(palette, of));
    }

    /// <summary>Computes every world matrix anew; for measuring.</summary>
    [JSExport]
    public static void Sweep() => Replica.Evaluator.Sweep();

    /// <summary>A short word for all that is computed from the scene, for comparing with the server.</summary>
    [JSExport]
    public static string Digest() => Derived.Of(Replica.Shown, Replica.Evaluator);

    /// <summary>A node for the panels; empty when it is gone. While an edit is tried, its placement is the tried one.</summary>
    [JSExport]
    public static string Node(string id)
    {
        var scene = Replica.Shown;
        if (scene.Find(id) is not { } node)
        {
            return "";
        }

        node = Tried(id) ?? node;
        var world = Replica.Evaluator.World(id);
        var bounds = Extents.GeometryOf(scene, node)?.OwnBounds;
        var anchor = bounds is { } own ? Anchors.At(own, node.Placement.Pivot) : null;
        return Write(
            new NodeAnswer(
                new NodeData(node),
                world.ToArray(),
                world.Point(node.Placement.Pivot),
                bounds is { IsEmpty: false } b ? new(b.Low, b.High) : null,
                Euler.FromLiningUp(node.Placement.Rotation, node.Placement.Order),
                node.Placement.IsSheared ? Reading.UnevenAbove(node, scene)?.Name : null,
                anchor));
    }

    /// <summary>Where the pivots of nodes stand in the world, three numbers each; NaN where a node is gone.</summary>
    [JSExport]
    public static double[] PivotsOf(string ids)
    {
        var wanted = Read<string[]>(ids);
        var pivots = new double[3 * wanted.Length];
        for (var i = 0; i < wanted.Length; i++)
        {
            var node = Tried(wanted[i]) ?? Replica.Shown.Find(wanted[i]);
            var at = node is null ? new Vec3(double.NaN, double.NaN, double.NaN) : Replica.Evaluator.World(node.Id).Point(node.Placement.Pivot);
            (pivots[3 * i], pivots[3 * i + 1], pivots[3 * i + 2]) = (at.X, at.Y, at.Z);
        }

        return pivots;
    }

    /// <summary>A node as stored, as JSON; nothing where it is not.</summary>
    [JSExport]
    public static string Stored(string id) =>
        Replica.Shown.FindAny(id) is { } entity ? Write(new EntityData(entity)) : "";

    /// <summary>What nodes look like, for building their pictures.</summary>
    [JSExport]
    public static string LooksOf(string ids) =>
        Write(Looks.From(Now, Read<string[]>(ids), id => Replica.Evaluator.World(id)));

    /// <summary>The triangles of a node, with the normals it is shown with, in the stored binary form.</summary>
    [JSExport]
    public static byte[] GeometryOf(string id) =>
        Now is var scene && scene.Find(id) is { } node && Extents.DrawnGeometryOf(scene, node) is { } geometry
            ? GeometryBinary.Write(Laying.Of(scene, node, Replica.Evaluator.World(id))?.On(geometry) ?? geometry)
            : [];

    /// <summary>The upright of a face in the world.</summary>
    /// <param name="corners">Its three corners in the node's own frame, nine numbers.</param>
    [JSExport]
    public static double[] NormalOf(string id, double[] corners)
    {
        Vec3 At(int i) => new(corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]);
        return Replica.Shown.Find(id) is null ? [0, 0, 0] : Faces.Normal(Replica.Evaluator.World(id), At(0), At(1), At(2)).ToArray();
    }

    /// <summary>The view of a camera of the scene: its world matrix without size and shear, and its lens; empty where it is none.</summary>
    [JSExport]
    public static string CameraView(string id)
    {
        if ((Tried(id) ?? Replica.Shown.Find(id))?.Camera is not { } camera)
        {
            return "";
        }

        var seen = SeenThrough.Of(camera, Replica.Evaluator.World(id));
        return Write(new CameraAnswer(seen.View.ToArray(), LensOf(camera, id, seen)));
    }

    /// <summary>Where nodes stood as a step had them, beside where they stand now.</summary>
    /// <param name="step">What it wrote.</param>
    /// <param name="after">As things would stand after it; else as they stood before.</param>
    [JSExport]
    public static string Shadows(string step, bool after) => Write<ShadowAnswer[]>(
        [.. Shadow.Of(Replica.Shown, Read<PartChange[]>(step), after).Select(s => new ShadowAnswer(s.Id, s.World.ToArray(), s.Then, s.Now))]);

    /// <summary>The bounds in the world of nodes with all that rides on them: low and high, or nothing; for framing.</summary>
    [JSExport]
    public static double[] BoundsOf(string ids)
    {
        var bounds = Framing.WithPivots(new SceneDraft(Replica.Shown), Read<string[]>(ids));
        return bounds.IsEmpty ? [] : [.. bounds.Low.ToArray(), .. bounds.High.ToArray()];
    }

    /// <summary>What a view shows whole when it frames nodes: low and high, or nothing.</summary>
    [JSExport]
    public static double[] FramingOf(string ids)
    {
        var bounds = Framing.Of(new SceneDraft(Replica.Shown), Read<string[]>(ids));
        return bounds.IsEmpty ? [] : [.. bounds.Low.ToArray(), .. bounds.High.ToArray()];
    }

    /// <summary>Whether the person's language writes decimals with a comma.</summary>
    [JSExport]
    public static void SetComma(bool comma) => Comma = comma;

    private static bool Comma { get; set; }

    /// <summary>A length in the scene's unit.</summary>
    [JSExport]
    public static string SayLength(double metres) => Core.Words.Unit.Of(Replica.Scene.Unit).Say(metres);

    /// <summary>Position, rotation, scale and size that nodes have in common, as stored or in the world; while an edit is tried, the tried ones.</summary>
    [JSExport]
    public static string ChannelsOf(string ids, bool world, bool size) => Write(
        CommonChannels.Of(TriedDraft ?? new SceneDraft(Replica.Shown), Read<string[]>(ids), world, size));

    /// <summary>Nodes whose pivot lies outside their bounds.</summary>
    [JSExport]
    public static string StrayPivots() => Write<StrayPivot[]>([.. PivotCheck.Of(Replica.Shown)]);

    /// <summary>A node's placement, or one channel of it, as text for the clipboard.</summary>
    /// <param name="channel">position, rotation or scale; empty: all.</param>
    [JSExport]
    public static string PlacementAsText(string id, string channel) => Replica.Shown.Find(id) is { } node
        ? PlacementText.Write(node.Placement, channel.Length == 0 ? null : Enum.Parse<ChannelName>(channel, ignoreCase: true))
        : "";

    /// <summary>The edits that give nodes a placement from a pasted text.</summary>
    [JSExport]
    public static string PlacementFromText(string text, string ids, string bare) => Answer(() => Write<Edit[]>(
        [.. PlacementText.Read(text, Read<string[]>(ids), bare.Length == 0 ? ChannelName.Position : Enum.Parse<ChannelName>(bare, ignoreCase: true))]));

    /// <summary>What of a surface was pressed, with its upright: a vertex or an edge within reach, else the face.</summary>
    /// <param name="corners">Triangles near the pointer in the node's own frame, nine numbers each; the pressed one first.</param>
    /// <param name="at">The pressed point in the world.</param>
    [JSExport]
    public static string SurfaceAt(string id, double[] corners, double[] at, double reach)
    {
        var world = Replica.Shown.Find(id) is null ? Affine.Identity : Replica.Evaluator.World(id);
        var (part, upright, point) = Faces.Pressed(world, corners, new(at[0], at[1], at[2]), reach);
        return Write(new SurfaceAnswer(part, upright, point));
    }

    /// <summary>The mean upright of several faces by their areas; zeros where they point against each other.</summary>
    /// <param name="faces">Nine numbers each, in the frames of the nodes of the same places.</param>
    [JSExport]
    public static double[] MeanUpright(string ids, double[] faces)
    {
        var nodes = Read<string[]>(ids);
        Vec3 At(int i) => new(faces[i], faces[i + 1], faces[i + 2]);
        return Faces.Mean(nodes.Select((id, i) => (Replica.Evaluator.World(id), At(9 * i), At(9 * i + 3), At(9 * i + 6)))).ToArray();
    }

    /// <summary>Makes edits at once, as one step, ahead of the server's answer.</summary>
    [JSExport]
    public static string KeepEdits(string edits) => Answer(() =>
    {
        PutBack();
        return Keep(Read<Edit[]>(edits), told: false);
    });

    /// <summary>Takes in what the server says of a step. What is being tried goes on.</summary>
    [JSExport]
    public static string Hear(string step)
    {
        var heard = Read<HeardStep>(step);
        return Heard((out IReadOnlyList<Refusal> dropped) => heard.Written is { } written
            ? Replica.Hear(heard.Revision, written, heard.Ticket, out dropped)
            : Replica.Hear(
                heard.Revision,
                [.. heard.Changed.Concat(heard.Entities ?? []).Select(e => e.Entity)],
                [.. heard.Removed, .. (heard.Gone ?? []).Select(g => g.Id)],
                heard.Ticket,
                out dropped));
    }

    /// <summary>Takes in an own step by its digest alone; false: it is to be heard in full.</summary>
    [JSExport]
    public static bool Agree(double revision, double ticket, string digest) => Replica.Agree((long)revision, (long)ticket, digest);

    /// <summary>Takes back an own edit that the server refused. What is being tried goes on.</summary>
    [JSExport]
    public static string Drop(double ticket) => Heard((out IReadOnlyList<Refusal> dropped) => Replica.Drop((long)ticket, out dropped));

    [JSExport]
    public static double Revision() => Replica.Scene.Revision;

    /// <summary>Sets the unit that lengths are shown and typed in.</summary>
    [JSExport]
    public static void SetUnit(string unit) => Replica.Scene.Unit = unit;

    /// <summary>
    /// Understands a typed amount: what it does (set, add, multiply) and how much. For a field also the value that it leads to
    /// from the present one; elsewhere that is the amount itself.
    /// </summary>
    /// <param name="quantity">length, angle or factor.</param>
    [JSExport]
    public static string Understand(string text, string quantity, bool field, double present) => Answer(() =>
    {
        var kind = Enum.Parse<Quantity>(quantity, ignoreCase: true);
        var unit = Replica.Scene.Unit;
        var amount = field ? AmountParser.Field(text, kind, unit, Comma) : AmountParser.Sentence(text, kind, unit, comma: Comma);
        return Write(new AmountAnswer(amount.Mode, amount.Value, field ? amount.ApplyTo(present) : amount.Value));
    });

    /// <summary>Width and height of a picture, typed as 640 × 360, and 1 after them where they are a proportion as 4:3; nothing where it is something else.</summary>
    [JSExport]
    public static double[] PictureSizeOf(string text) => Core.Amounts.PictureSize.Read(text) is var (width, height, proportion) ? [width, height, proportion ? 1 : 0] : [];

    /// <summary>One of the 27 points of the bounds, in words.</summary>
    [JSExport]
    public static string AnchorInWords(double x, double y, double z) => Core.Words.Speaker.AnchorInWords(new(x, y, z));

    /// <summary>The same as it is seen: "left front edge of the base".</summary>
    /// <param name="id">Whose bounds, in its own axes; "": along the world's.</param>
    /// <param name="view">The eye's world matrix.</param>
    [JSExport]
    public static string AnchorSeen(double x, double y, double z, string id, double[] view) => Core.Words.SeenAnchor.InWords(
        new(x, y, z), id.Length == 0 || Replica.Shown.Find(id) is null ? Mat3.Identity : Replica.Evaluator.World(id).Linear, Affine.From(view).Linear);

    private delegate Stale Hearing(out IReadOnlyList<Refusal> dropped);

    private static string Heard(Hearing hear)
    {
        var (stale, dropped) = (Stale.Nothing, (IReadOnlyList<Refusal>)[]);
        var ongoing = Meanwhile(() => stale = hear(out dropped));
        return Write(new HeardAnswer(stale, [.. dropped.Select(AnswerOf)], ongoing));
    }

    private static string Keep(Edit[] edits, bool told)
    {
        var (pending, stale) = Replica.Keep(edits);
        JsonElement? sent = told ? JsonSerializer.SerializeToElement(edits, Json.Of<Edit[]>()) : null;
        var (carry, scope) = (CarryAlong.Offered(Replica.Scene, pending.Change, pending.Scope), pending.Scope);
        return Write(
            new KeptAnswer(
                pending.Ticket,
                pending.Change.IsEmpty ? Batch.NothingToChange : pending.Sentence,
                sent,
                pending.Change.IsEmpty,
                stale,
                scope.Shot,
                scope.Shot is null ? null : scope.Narrow,
                carry is null ? null : new(carry.InWords(Replica.Scene), JsonSerializer.SerializeToElement<Edit>(carry, Json.Of<Edit>()))));
    }

    private static string Answer(Func<string> act)
    {
        try
        {
            return act();
        }
        catch (Refusal refusal)
        {
            return Write(AnswerOf(refusal));
        }
    }

    private static RefusalAnswer AnswerOf(Refusal refusal) => new(refusal.Word, refusal.Message);

    private static T Read<T>(string text) => WireJson.Read<T>(text, Json);

    private static string Write<T>(T value) => WireJson.Write(value, Answers);
}
