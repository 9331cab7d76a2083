using System.Runtime.InteropServices.JavaScript;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using CalmPivot.Core;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.History;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
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
    private static Replica? _replica;
    private static Trial? _trial;
    private static Preview? _tried;
    private static SceneDraft? _triedDraft;
    private static DrawnShape? _drawn;

    private static Replica Replica => _replica ?? throw new InvalidOperationException("No scene is open.");

    /// <summary>Opens a scene from its bulk form.</summary>
    [JSExport]
    public static void Open(byte[] scene)
    {
        (_trial, _tried, _triedDraft, _drawn) = (null, null, null, null);
        _replica?.Dispose();
        _replica = new Replica(SceneBinary.Read(scene, Geometries));
    }

    [JSExport]
    public static void AddGeometry(string hash, byte[] bytes) => Geometries.Add(hash, bytes);

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

    /// <summary>Where the bytes that tell what is seen begin, one a slot: <see cref="Core.Seeing.SightBits"/>.</summary>
    [JSExport]
    public static double SightAddress() => (double)(nint)Replica.Sight.Bits;

    /// <summary>The colours of the collections that nodes belong to, and which of them each slot has.</summary>
    [JSExport]
    public static string CollectionColors()
    {
        var (palette, of) = Replica.Sight.Colors();
        return Write(new ColorsAnswer(palette, of), BridgeJson.Default.ColorsAnswer);
    }

    /// <summary>Computes every world matrix anew; for measuring.</summary>
    [JSExport]
    public static void Sweep() => Replica.Evaluator.Sweep();

    /// <summary>A node for the panels; empty when it is gone. While an edit is tried, its placement is the tried one.</summary>
    [JSExport]
    public static string Node(string id)
    {
        var scene = Replica.Scene;
        if (scene.Find(id) is not { } node)
        {
            return "";
        }

        node = Tried(id) ?? node;
        var world = node.Kind == NodeKind.Collection ? Affine.Identity : Replica.Evaluator.WorldOf(id);
        var bounds = Extents.GeometryOf(scene, node)?.OwnBounds;
        return Write(
            new NodeAnswer(
                NodeData.From(node),
                world.ToArray(),
                world.Point(node.Placement.Pivot).ToArray(),
                bounds is { IsEmpty: false } b ? new(b.Low.ToArray(), b.High.ToArray()) : null,
                Euler.FromLiningUp(node.Placement.Rotation, node.Placement.Order),
                node.Placement.IsSheared ? Reading.UnevenAbove(node, scene)?.Name : null),
            BridgeJson.Default.NodeAnswer);
    }

    /// <summary>Where the pivots of nodes stand in the world, three numbers each; NaN where a node is gone.</summary>
    [JSExport]
    public static double[] PivotsOf(string ids)
    {
        var wanted = CoreJson.Read(ids, CoreJson.Default.StringArray);
        var pivots = new double[3 * wanted.Length];
        for (var i = 0; i < wanted.Length; i++)
        {
            var node = Tried(wanted[i]) ?? Replica.Scene.Find(wanted[i]);
            var at = node is null or { Kind: NodeKind.Collection } ? new Vec3(double.NaN, double.NaN, double.NaN) : Replica.Evaluator.WorldOf(node.Id).Point(node.Placement.Pivot);
            (pivots[3 * i], pivots[3 * i + 1], pivots[3 * i + 2]) = (at.X, at.Y, at.Z);
        }

        return pivots;
    }

    /// <summary>A node as stored, as JSON; nothing where it is not.</summary>
    [JSExport]
    public static string Stored(string id) =>
        Replica.Scene.Find(id) is { } node ? JsonSerializer.Serialize(NodeData.From(node), CoreJson.Default.NodeData) : "";

    /// <summary>What nodes look like, for building their pictures.</summary>
    [JSExport]
    public static string LooksOf(string ids) =>
        Write(Looks.From(Replica.Scene, CoreJson.Read(ids, CoreJson.Default.StringArray)), BridgeJson.Default.Looks);

    /// <summary>The triangles of a node, with the normals it is shown with, in the stored binary form.</summary>
    [JSExport]
    public static byte[] GeometryOf(string id) =>
        Replica.Scene.Find(id) is { } node && Extents.DrawnGeometryOf(Replica.Scene, node) is { } geometry ? GeometryBinary.Write(geometry) : [];

    /// <summary>The upright of a face in the world.</summary>
    /// <param name="corners">Its three corners in the node's own frame, nine numbers.</param>
    [JSExport]
    public static double[] NormalOf(string id, double[] corners)
    {
        Vec3 At(int i) => new(corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]);
        return Replica.Scene.Find(id) is null ? [0, 0, 0] : Faces.Normal(Replica.Evaluator.WorldOf(id), At(0), At(1), At(2)).ToArray();
    }

    /// <summary>The view of a camera of the scene: its world matrix without size and shear, and its lens; empty where it is none.</summary>
    [JSExport]
    public static string CameraView(string id)
    {
        if (Replica.Scene.Find(id)?.Camera is not { } camera)
        {
            return "";
        }

        var world = Replica.Evaluator.WorldOf(id);
        var view = new Affine(world.Linear.RotationPart(), world.Offset);
        return Write(
            new CameraAnswer(view.ToArray(), new(camera.Projection, camera.Fov, camera.Height, camera.Aspect ?? Camera.UsualAspect)),
            BridgeJson.Default.CameraAnswer);
    }

    /// <summary>Where nodes stood as a step had them, beside where they stand now.</summary>
    /// <param name="nodes">The nodes as they were, or would be.</param>
    [JSExport]
    public static string Shadows(string nodes)
    {
        var then = CoreJson.Read(nodes, CoreJson.Default.NodeDataArray).Select(n => n.ToNode());
        return Write(
            [.. Shadow.Of(Replica.Scene, then).Select(s => new ShadowAnswer(s.Id, s.World.ToArray(), s.Then.ToArray(), s.Now.ToArray()))],
            BridgeJson.Default.ShadowAnswerArray);
    }

    /// <summary>The bounds in the world of nodes with all that rides on them: low and high, or nothing; for framing.</summary>
    [JSExport]
    public static double[] BoundsOf(string ids)
    {
        var draft = new SceneDraft(Replica.Scene);
        var bounds = Bounds.Empty;
        foreach (var id in CoreJson.Read(ids, CoreJson.Default.StringArray))
        {
            if (draft.Find(id) is { Kind: not NodeKind.Collection } node)
            {
                bounds = bounds.With(Extents.OfBranch(draft, node, Affine.Identity));
                bounds = bounds.With(draft.World(node).Point(node.Placement.Pivot));
            }
        }

        return bounds.IsEmpty ? [] : [.. bounds.Low.ToArray(), .. bounds.High.ToArray()];
    }

    /// <summary>Where the handles of an edit stand, which way their needles point, and what it would do besides.</summary>
    [JSExport]
    public static string Frame(string edit, string space, bool foretell) => Answer(() =>
    {
        var template = CoreJson.Read(edit, CoreJson.Default.Edit);
        var (centre, axes) = Trial.FrameOf(Replica.Scene, template, ReadSpace(space));
        string? warning = null;
        try
        {
            warning = foretell ? Trial.Foretell(Replica.Scene, template) : null;
        }
        catch (Refusal refusal)
        {
            warning = refusal.Message;
        }

        return Write(
            new FrameAnswer(centre.ToArray(), [.. axes.X.ToArray(), .. axes.Y.ToArray(), .. axes.Z.ToArray()], warning),
            BridgeJson.Default.FrameAnswer);
    });

    /// <summary>Begins to try an edit with amounts.</summary>
    [JSExport]
    public static string Begin(string edit, string space) => Answer(() =>
    {
        PutBack();
        _trial = new Trial(Replica.Scene, Replica.Evaluator, CoreJson.Read(edit, CoreJson.Default.Edit), ReadSpace(space));
        return "{}";
    });

    /// <summary>Takes hold of a handle of the edit begun.</summary>
    /// <param name="view">The view's world matrix, sixteen numbers.</param>
    /// <param name="ray">Origin and direction, six numbers.</param>
    [JSExport]
    public static string Grab(string part, int axis, double[] view, bool parallel, double size, double[] ray) => Answer(() =>
    {
        var handle = new Handle(Enum.Parse<HandlePart>(part, ignoreCase: true), axis);
        _trial?.Grab(handle, new(Affine.From(view), parallel), size, RayOf(ray));
        return "{}";
    });

    /// <summary>Follows the pointer.</summary>
    /// <param name="step">The step in metres, degrees or as a factor; 0: none.</param>
    [JSExport]
    /// <param name="onGrid">Steps lie on the grid of the space.</param>
    /// <param name="snap">How it snaps; empty: not.</param>
    /// <param name="triangles">What the page's index proposes: the corners of triangles, nine numbers each, object after object.</param>
    /// <param name="counts">How many of these numbers belong to each of the objects that <paramref name="snap"/> names.</param>
    public static string DragTo(double[] ray, bool fine, double step, bool onGrid, string snap, double[] triangles, int[] counts) => Tried(trial =>
        trial.DragTo(RayOf(ray), fine, step > 0 ? step : null, onGrid, snap.Length == 0 ? null : SnapOf(snap, triangles, counts)));


    /// <summary>Tries an amount.</summary>
    [JSExport]
    public static string Try(double x, double y, double z) => Tried(trial => trial.Try(new(x, y, z)));

    /// <summary>Tries a value that the sentence's axes are to have, instead of an amount by which they change.</summary>
    [JSExport]
    public static string TryTo(double value, bool x, bool y, bool z) => Tried(trial =>
        trial.TryEdit(Towards.Value(Replica.Scene, trial.Template, value, [x, y, z])));

    /// <summary>Begins a shape that is drawn by eye on a surface.</summary>
    [JSExport]
    public static string DrawShape(string type, double[] origin, double[] upright, double[] view, bool parallel) => Answer(() =>
    {
        PutBack();
        _drawn = new(type, new(origin[0], origin[1], origin[2]), new(upright[0], upright[1], upright[2]), new(Affine.From(view), parallel));
        return "{}";
    });

    /// <summary>Draws its footprint, or then its height, to a ray; tells its corners, its sizes and the edit that makes it.</summary>
    [JSExport]
    public static string DrawTo(double[] ray, double step, bool rising, string id, string name) => Answer(() =>
    {
        var drawn = _drawn ?? throw new Refusal(Refusals.NotUnderstood, "Nothing is being drawn.");
        if (rising)
        {
            drawn.RiseTo(RayOf(ray), step > 0 ? step : null);
        }
        else
        {
            drawn.FootTo(RayOf(ray), step > 0 ? step : null);
        }

        var unit = Core.Words.Unit.Of(Replica.Scene.Unit);
        var size = drawn.Size;
        double[] said = drawn.HasHeight && rising ? [size.X, size.Z, size.Y] : [size.X, size.Z];
        var edit = drawn.IsThere ? JsonSerializer.SerializeToElement<Edit>(drawn.ToEdit(id, name), CoreJson.Default.Edit) : (JsonElement?)null;
        return Write(
            new DrawnAnswer([.. drawn.Corners().SelectMany(c => c.ToArray())], string.Join(" × ", said.Select(unit.Say)), drawn.HasHeight, edit),
            BridgeJson.Default.DrawnAnswer);
    });

    /// <summary>A length in the scene's unit.</summary>
    [JSExport]
    public static string SayLength(double metres) => Core.Words.Unit.Of(Replica.Scene.Unit).Say(metres);

    /// <summary>Position, rotation, scale and size that nodes have in common, as stored or in the world; while an edit is tried, the tried ones.</summary>
    [JSExport]
    public static string ChannelsOf(string ids, bool world, bool size) => Write(
        CommonChannels.Of(TriedDraft ?? new SceneDraft(Replica.Scene), CoreJson.Read(ids, CoreJson.Default.StringArray), world, size),
        BridgeJson.Default.CommonChannels);

    /// <summary>Nodes whose pivot lies outside their bounds.</summary>
    [JSExport]
    public static string StrayPivots() => Write([.. PivotCheck.Of(Replica.Scene)], BridgeJson.Default.StrayPivotArray);

    /// <summary>A node's placement, or one channel of it, as text for the clipboard.</summary>
    /// <param name="channel">position, rotation or scale; empty: all.</param>
    [JSExport]
    public static string PlacementAsText(string id, string channel) => Replica.Scene.Find(id) is { } node
        ? PlacementText.Write(node.Placement, channel.Length == 0 ? null : Enum.Parse<ChannelName>(channel, ignoreCase: true))
        : "";

    /// <summary>The edits that give nodes a placement from a pasted text.</summary>
    [JSExport]
    public static string PlacementFromText(string text, string ids, string bare) => Answer(() => Write(
        [.. PlacementText.Read(text, CoreJson.Read(ids, CoreJson.Default.StringArray), bare.Length == 0 ? ChannelName.Position : Enum.Parse<ChannelName>(bare, ignoreCase: true))],
        CoreJson.Default.EditArray));

    /// <summary>What of a surface was pressed, with its upright: a vertex or an edge within reach, else the face.</summary>
    /// <param name="corners">Triangles near the pointer in the node's own frame, nine numbers each; the pressed one first.</param>
    /// <param name="at">The pressed point in the world.</param>
    [JSExport]
    public static string SurfaceAt(string id, double[] corners, double[] at, double reach)
    {
        var world = Replica.Scene.Find(id) is null ? Affine.Identity : Replica.Evaluator.WorldOf(id);
        var (part, upright, point) = Faces.Pressed(world, corners, new(at[0], at[1], at[2]), reach);
        return Write(new SurfaceAnswer(part.ToString().ToLowerInvariant(), upright.ToArray(), point.ToArray()), BridgeJson.Default.SurfaceAnswer);
    }

    /// <summary>The mean upright of several faces by their areas; zeros where they point against each other.</summary>
    /// <param name="faces">Nine numbers each, in the frames of the nodes of the same places.</param>
    [JSExport]
    public static double[] MeanUpright(string ids, double[] faces)
    {
        var nodes = CoreJson.Read(ids, CoreJson.Default.StringArray);
        Vec3 At(int i) => new(faces[i], faces[i + 1], faces[i + 2]);
        return Faces.Mean(nodes.Select((id, i) => (Replica.Evaluator.WorldOf(id), At(9 * i), At(9 * i + 3), At(9 * i + 6)))).ToArray();
    }

    /// <summary>Tries edits as they are, without an amount that changes; only the evaluator shows them.</summary>
    [JSExport]
    public static string TryEdits(string edits) => Answer(() =>
    {
        _trial?.PutBack();
        _trial = null;
        var draft = Batch.Draft(Replica.Scene, CoreJson.Read(edits, CoreJson.Default.EditArray));
        _tried ??= new Preview(Replica.Scene, Replica.Evaluator);
        _tried.Show(draft);
        _triedDraft = draft;
        return "{}";
    });

    /// <summary>Ends the trial and makes its edit, ahead of the server's answer.</summary>
    [JSExport]
    public static string KeepTrial() => Answer(() =>
    {
        var edits = _trial?.Edits ?? throw new Refusal(Refusals.NotUnderstood, "Nothing is being tried.");
        PutBack();
        return Keep([.. edits], told: true);
    });

    /// <summary>Ends the trial and makes its edit of a copy; the original stays where it was.</summary>
    /// <param name="ids">The ids of the copies, in the order of what is tried.</param>
    [JSExport]
    public static string KeepTrialAsCopy(string ids) => Answer(() =>
    {
        var trial = _trial ?? throw new Refusal(Refusals.NotUnderstood, "Nothing is being tried.");
        var edits = trial.AsCopy(CoreJson.Read(ids, CoreJson.Default.StringArray));
        PutBack();
        return Keep([.. edits], told: true);
    });

    /// <summary>Ends the trial with everything as it was.</summary>
    [JSExport]
    public static void PutBack()
    {
        _trial?.PutBack();
        _trial = null;
        _tried?.PutBack();
        _tried = null;
        _triedDraft = null;
    }

    /// <summary>Makes edits at once, as one step, ahead of the server's answer.</summary>
    [JSExport]
    public static string KeepEdits(string edits) => Answer(() =>
    {
        PutBack();
        return Keep(CoreJson.Read(edits, CoreJson.Default.EditArray), told: false);
    });

    /// <summary>Takes in what the server says of a step.</summary>
    [JSExport]
    public static string Hear(string step)
    {
        PutBack();
        var heard = JsonSerializer.Deserialize(step, BridgeJson.Default.HeardStep)!;
        var stale = Replica.Hear(heard.Revision, [.. heard.Changed.Select(n => n.ToNode())], heard.Removed, heard.Ticket, out var dropped);
        return Write(new HeardAnswer(stale, [.. dropped.Select(AnswerOf)]), BridgeJson.Default.HeardAnswer);
    }

    /// <summary>Takes in an own step by its digest alone; false: it is to be heard in full.</summary>
    [JSExport]
    public static bool Agree(double revision, double ticket, string digest) => Replica.Agree((long)revision, (long)ticket, digest);

    /// <summary>Takes back an own edit that the server refused.</summary>
    [JSExport]
    public static string Drop(double ticket)
    {
        PutBack();
        var stale = Replica.Drop((long)ticket, out var dropped);
        return Write(new HeardAnswer(stale, [.. dropped.Select(AnswerOf)]), BridgeJson.Default.HeardAnswer);
    }

    [JSExport]
    public static double Revision() => Replica.Scene.Revision;

    /// <summary>Sets the unit that lengths are shown and typed in.</summary>
    [JSExport]
    public static void SetUnit(string unit) => Replica.Scene.Unit = unit;

    /// <summary>Understands a typed amount. For a field, the value that it leads to from the present one; for the sentence, the amount itself.</summary>
    /// <param name="quantity">length, angle or factor.</param>
    [JSExport]
    public static string Understand(string text, string quantity, bool field, double present) => Answer(() =>
    {
        var kind = Enum.Parse<Quantity>(quantity, ignoreCase: true);
        var unit = Replica.Scene.Unit;
        var value = field ? AmountParser.Field(text, kind, unit).ApplyTo(present) : AmountParser.Sentence(text, kind, unit);
        return $"{{\"value\":{JsonSerializer.Serialize(value, CoreJson.Default.Double)}}}";
    });

    /// <summary>One of the 27 points of the bounds, in words.</summary>
    [JSExport]
    public static string AnchorInWords(double x, double y, double z) => Core.Words.Speaker.AnchorInWords(new(x, y, z));

    private static string Keep(Edit[] edits, bool told)
    {
        var (pending, stale) = Replica.Keep(edits);
        JsonElement? sent = told ? JsonSerializer.SerializeToElement(edits, CoreJson.Default.EditArray) : null;
        return Write(
            new KeptAnswer(pending.Ticket, pending.Sentence, sent, pending.Change.IsEmpty, stale),
            BridgeJson.Default.KeptAnswer);
    }

    private static string Tried(Action<Trial> act)
    {
        if (_trial is not { } trial)
        {
            return Write(new TrialAnswer(Reading.None, [0, 0, 0], null, null, null), BridgeJson.Default.TrialAnswer);
        }

        RefusalAnswer? refused = null;
        try
        {
            act(trial);
        }
        catch (Refusal refusal)
        {
            refused = AnswerOf(refusal);
        }

        return Write(new TrialAnswer(trial.Reading, trial.Amount.ToArray(), refused, LeadOf(trial), CaughtOf(trial)), BridgeJson.Default.TrialAnswer);
    }

    private static SceneDraft? TriedDraft => _trial?.Draft ?? _triedDraft;

    /// <summary>A node as the edit that is tried would leave it.</summary>
    private static Node? Tried(string id) => TriedDraft?.Find(id);

    private static CaughtAnswer? CaughtOf(Trial trial) => trial.Caught is var (target, words, inReach)
        ? new(target.Kind, words, target.Point.ToArray(), target.Normal?.ToArray(), inReach)
        : null;

    private static LeadAnswer? LeadOf(Trial trial)
    {
        if (trial.Lead is not { } lead)
        {
            return null;
        }

        var (world, placement) = (Replica.Evaluator.WorldOf(lead.Id), lead.Placement);
        return new(placement, world.Point(placement.Pivot).ToArray(), Euler.FromLiningUp(placement.Rotation, placement.Order));
    }

    private static string Answer(Func<string> act)
    {
        try
        {
            return act();
        }
        catch (Refusal refusal)
        {
            return Write(AnswerOf(refusal), BridgeJson.Default.RefusalAnswer);
        }
    }

    private static RefusalAnswer AnswerOf(Refusal refusal) => new(refusal.Word, refusal.Message);

    /// <summary>Small things as JSON, the many numbers in bulk.</summary>
    private static SnapRequest SnapOf(string snap, double[] triangles, int[] counts)
    {
        var request = JsonSerializer.Deserialize(snap, BridgeJson.Default.SnapRequest)!;
        var near = new List<SnapNear>(counts.Length);
        for (int i = 0, at = 0; i < counts.Length; at += counts[i++])
        {
            near.Add(new(request.Near[i].Node, new ArraySegment<double>(triangles, at, counts[i])));
        }

        return request with { Near = near };
    }

    private static Space ReadSpace(string space) => CoreJson.Read(space, CoreJson.Default.Space);

    private static Ray RayOf(double[] ray) => new(new(ray[0], ray[1], ray[2]), new(ray[3], ray[4], ray[5]));

    private static string Write<T>(T value, JsonTypeInfo<T> type) => JsonSerializer.Serialize(value, type);
}
