using System.Runtime.InteropServices;
using System.Runtime.InteropServices.JavaScript;
using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;

namespace CalmPivot.Browser;

/// <summary>What the page tries before it keeps it: drags, typed amounts, shapes that are drawn, and edits as a whole.</summary>
public static unsafe partial class Bridge
{
    private static readonly Tryout Tryout = new(() => Replica);
    private static DrawnShape? _drawn;

    /// <summary>Where the handles of an edit stand, which way their needles point, and what it would do besides.</summary>
    [JSExport]
    public static string Frame(string edit, string space, bool foretell) => Answer(() =>
    {
        var template = Read<Edit>(edit);
        var (centre, axes) = Trial.FrameOf(Replica.Shown, template, ReadSpace(space));
        (string? warning, string? refused) = (null, null);
        try
        {
            warning = foretell ? Trial.Foretell(Replica.Shown, template, Replica.Scope) ?? StayingOf(template) : null;
        }
        catch (Refusal refusal)
        {
            (warning, refused) = (refusal.Message, refusal.Word);
        }

        return Write(
            new FrameAnswer(centre, [.. axes.X.ToArray(), .. axes.Y.ToArray(), .. axes.Z.ToArray()], warning, refused));
    });

    /// <summary>The same of a drag, by a usual amount; of one that leaves nothing where it is, nothing is asked.</summary>
    private static string? StayingOf(Edit template) =>
        template is IDragged { Usual: { } usual } dragged && (dragged.IsOfPivot || dragged.ChildrenStay) ? Staying([usual]) : null;

    /// <summary>Begins to try an edit with amounts.</summary>
    [JSExport]
    public static string Begin(string edit, string space) => Answer(() =>
    {
        Tryout.Begin(Read<Edit>(edit), ReadSpace(space));
        return "{}";
    });

    /// <summary>Takes hold of a handle of the edit begun.</summary>
    /// <param name="view">The view's world matrix, sixteen numbers.</param>
    /// <param name="ray">Origin and direction, six numbers.</param>
    [JSExport]
    public static string Grab(string part, int axis, double[] view, bool parallel, double size, double[] ray) => Answer(() =>
    {
        var handle = new Handle(Enum.Parse<HandlePart>(part, ignoreCase: true), axis);
        Tryout.Trial?.Grab(handle, new(Affine.From(view), parallel), size, RayOf(ray));
        return "{}";
    });

    private static readonly double* Numbers = (double*)NativeMemory.AllocZeroed((nuint)TriedNumber.Count, sizeof(double));

    /// <summary>Where the numbers of the last answer to a move of the pointer stand, as <see cref="TriedNumber"/> names them.</summary>
    [JSExport]
    public static double TriedAddress() => (double)(nint)Numbers;

    /// <summary>Follows the pointer: numbers both ways, and the words of the answer as lines (<see cref="TriedLine"/>).</summary>
    /// <param name="pointer">As <see cref="PointerNumber"/> names them.</param>
    /// <param name="near">Slots of the nodes near the pointer, each with the count of numbers that follow of it.</param>
    /// <param name="triangles">What the page's index proposes: the corners of triangles, nine numbers each, node after node.</param>
    [JSExport]
    public static string DragTo(double[] pointer, int[] near, double[] triangles)
    {
        double At(PointerNumber number) => pointer[(int)number];
        var step = At(PointerNumber.Step);
        return Said(TriedBy(trial => trial.DragTo(
            RayOf(pointer),
            At(PointerNumber.Fine) != 0,
            step > 0 ? step : null,
            At(PointerNumber.OnGrid) != 0,
            At(PointerNumber.SnapKinds) == 0 ? null : SnapOf(pointer, near, triangles))));
    }

    /// <summary>Tries an amount.</summary>
    [JSExport]
    public static string Try(double x, double y, double z) => Tried(trial => trial.Try(new(x, y, z)));

    /// <summary>Tries what was typed into the sentence.</summary>
    /// <param name="to">A bare number is the value that the sentence's axes are to have, instead of an amount by which they change.</param>
    [JSExport]
    public static string TryTyped(string text, bool to, bool x, bool y, bool z) => Tried(trial =>
        trial.TryTyped(text, [x, y, z], to, Comma));

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
        var edit = drawn.IsThere ? JsonSerializer.SerializeToElement(drawn.ToEdit(id, name), Json.Of<Edit>()) : (JsonElement?)null;
        return Write(
            new DrawnAnswer([.. drawn.Corners().SelectMany(c => c.ToArray())], string.Join(" × ", said.Select(unit.Say)), drawn.HasHeight, edit));
    });

    /// <summary>Tries edits as they are, without an amount that changes; only the evaluator shows them.</summary>
    [JSExport]
    /// <param name="shot">Where they are made: empty for where those of this page are, else a shot, and whether in it alone.</param>
    public static string TryEdits(string edits, string shot, bool narrow) => Answer(() =>
    {
        Tryout.TryEdits(Read<Edit[]>(edits), shot.Length == 0 ? null : new(shot, narrow));
        return "{}";
    });

    /// <summary>Tries a camera where a view stands, at every move of the view.</summary>
    /// <param name="view">The view's world matrix, sixteen numbers.</param>
    [JSExport]
    public static string TrySteer(string camera, double[] view) => Answer(() =>
    {
        Tryout.TryEdits([new Steer(camera, Affine.From(view))]);
        return "{}";
    });

    /// <summary>What is tried at the moment, for telling others; "null": nothing is.</summary>
    [JSExport]
    public static string TriedEdits() => Tryout.Edits is { } edits ? Write<Edit[]>([.. edits]) : "null";

    /// <summary>Ends the trial and makes its edit, ahead of the server's answer.</summary>
    [JSExport]
    public static string KeepTrial() => Answer(() =>
    {
        var edits = Tryout.Trial?.Edits ?? throw new Refusal(Refusals.NotUnderstood, "Nothing is being tried.");
        PutBack();
        return Keep([.. edits], told: true);
    });

    /// <summary>Ends the trial and makes its edit of a copy; the original stays where it was.</summary>
    /// <param name="ids">The ids of the copies, in the order of what is tried.</param>
    [JSExport]
    public static string KeepTrialAsCopy(string ids) => Answer(() =>
    {
        var trial = Tryout.Trial ?? throw new Refusal(Refusals.NotUnderstood, "Nothing is being tried.");
        var edits = trial.AsCopy(Read<string[]>(ids));
        PutBack();
        return Keep([.. edits], told: true);
    });

    /// <summary>Ends the trial with everything as it was.</summary>
    [JSExport]
    public static void PutBack() => Tryout.PutBack();

    private static string Tried(Action<Trial> act) => Write(TriedBy(act));

    private static TrialAnswer TriedBy(Action<Trial> act)
    {
        if (Tryout.Trial is not { } trial)
        {
            return new(Reading.None, Vec3.Zero, null, null, null);
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

        return AnswerOf(trial, refused);
    }

    /// <summary>Puts the numbers of an answer where the page reads them; tells its words.</summary>
    private static string Said(TrialAnswer answer)
    {
        Put(TriedNumber.Amount, answer.Amount);
        Set(TriedNumber.Lead, answer.Lead is null ? 0 : 1);
        if (answer.Lead is { } lead)
        {
            var placement = lead.Placement;
            Put(TriedNumber.Position, placement.Position);
            Put(TriedNumber.Rotation, placement.Rotation);
            Put(TriedNumber.Scale, placement.Scale);
            Put(TriedNumber.Shear, placement.Shear);
            Put(TriedNumber.Pivot, placement.Pivot);
            Put(TriedNumber.PivotTurn, placement.PivotTurn);
            Put(TriedNumber.PivotInWorld, lead.PivotInWorld);
            Set(TriedNumber.LiningUp, lead.LiningUp);
        }

        Set(TriedNumber.Caught, answer.Caught is null ? 0 : 1);
        if (answer.Caught is { } caught)
        {
            Set(TriedNumber.CaughtKind, (int)caught.Kind);
            Put(TriedNumber.CaughtPoint, caught.Point);
            Set(TriedNumber.HasNormal, caught.Normal is null ? 0 : 1);
            Put(TriedNumber.CaughtNormal, caught.Normal ?? Vec3.Zero);
            Set(TriedNumber.InReach, caught.InReach);
        }

        var reading = answer.Reading;
        string?[] lines = [reading.Amount, reading.From, reading.To, reading.Warning, answer.Refused?.Refusal, answer.Refused?.Detail, answer.Caught?.Words];
        return string.Join('\n', lines);
    }

    private static void Set(TriedNumber at, double value) => Numbers[(int)at] = value;

    private static void Put(TriedNumber at, Vec3 v)
    {
        Numbers[(int)at] = v.X;
        Numbers[(int)at + 1] = v.Y;
        Numbers[(int)at + 2] = v.Z;
    }

    private static TrialAnswer AnswerOf(Trial trial, RefusalAnswer? refused) =>
        new(trial.Reading, trial.Amount, refused, LeadOf(trial), CaughtOf(trial));

    /// <summary>Lets the replica change while something is tried; tells what became of that.</summary>
    private static OngoingAnswer? Meanwhile(Action change) => Tryout.During(change) is { } went
        ? new(went.Goes, went.Said, Tryout.Trial is { } trial ? AnswerOf(trial, null) : null)
        : null;

    private static SceneDraft? TriedDraft => Tryout.Draft;

    /// <summary>A node as the edit that is tried would leave it.</summary>
    private static Node? Tried(string id) => TriedDraft?.Find(id);

    private static CaughtAnswer? CaughtOf(Trial trial) => trial.Caught is var (target, words, inReach)
        ? new(target.Kind, words, target.Point, target.Normal, inReach)
        : null;

    private static LeadAnswer? LeadOf(Trial trial)
    {
        if (trial.Lead is not { } lead)
        {
            return null;
        }

        var (world, placement) = (Replica.Evaluator.World(lead.Id), lead.Placement);
        return new(placement, world.Point(placement.Pivot), Euler.FromLiningUp(placement.Rotation, placement.Order));
    }

    private static SnapRequest SnapOf(double[] pointer, int[] near, double[] triangles)
    {
        double At(PointerNumber number, int next = 0) => pointer[(int)number + next];
        var kinds = (int)At(PointerNumber.SnapKinds);
        var proposed = new List<SnapNear>(near.Length / 2);
        for (int i = 0, at = 0; i + 1 < near.Length; at += near[i + 1], i += 2)
        {
            if (Replica.Evaluator.IdAt(near[i]) is { } id)
            {
                proposed.Add(new(id, new ArraySegment<double>(triangles, at, near[i + 1])));
            }
        }

        return new(
            [.. Enum.GetValues<SnapKind>().Where(k => (kinds & 1 << (int)k) != 0)],
            proposed,
            At(PointerNumber.SnapRadius),
            At(PointerNumber.SnapFocal),
            At(PointerNumber.SnapGrid),
            (SnapSource)(int)At(PointerNumber.SnapSource),
            At(PointerNumber.SnapTurn) != 0,
            (int)At(PointerNumber.SnapNext),
            At(PointerNumber.SnapFrom) != 0 ? new(At(PointerNumber.SnapFrom, 1), At(PointerNumber.SnapFrom, 2), At(PointerNumber.SnapFrom, 3)) : null);
    }

    private static Space ReadSpace(string space) => Read<Space>(space);

    private static Ray RayOf(double[] ray) => new(new(ray[0], ray[1], ray[2]), new(ray[3], ray[4], ray[5]));
}
