using System.Diagnostics.CodeAnalysis;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Evaluation;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Trials;

/// <summary>Where the handles of an edit stand and which way their needles point, in the world.</summary>
public readonly record struct HandleFrame(Vec3 Centre, Mat3 Axes);

/// <summary>
/// An edit that is being tried: a drag, or a number that is being typed. Each new amount starts from the scene as it was
/// at the beginning, on a draft that is thrown away, and only the evaluator shows it. Keep returns the edit with its final
/// amount; put back leaves everything as it was.
/// <code>
/// var trial = new Trial(scene, evaluator, new Rotate(["chair"], 0, Vec3.UnitY, space, about), space);
/// trial.Try(new(15, 0, 0));       // degrees
/// trial.PutBack();                // or keep trial.Edits
/// </code>
/// </summary>
public sealed class Trial
{
    private readonly Edit _template;
    private readonly Space _space;
    private readonly Scope _scope;
    private readonly Dictionary<string, Vec3> _centres = [];
    private IScene _scene;
    private Evaluator _evaluator;
    private Preview _preview;
    private HandleFrame _frame;
    private Vec3 _grid;
    private Action? _last;
    private Drag? _drag;
    private View _view;
    private Handle _handle;
    private Snapping? _snapping;
    private Vec3? _turnAxis;
    private double _turnSign = 1;
    private ViewSpace? _turnedIn;
    private bool _free;
    private bool _mayBeNarrow;

    /// <param name="template">The edit with no amount yet.</param>
    /// <param name="space">Whose axes the handles follow; that of the template where it has one.</param>
    /// <exception cref="Refusal">The edit could not be done with any amount.</exception>
    public Trial(IScene scene, Evaluator evaluator, Edit template, Space space, Scope? scope = null)
    {
        (_template, _space, _scope) = (template, space, scope ?? Scope.Every);
        Edits = [template];
        Stand(scene, evaluator);
    }

    /// <summary>The edit with no amount yet.</summary>
    public Edit Template => _template;

    /// <summary>The edit with the amount of the last try, and what follows from what it snapped to.</summary>
    public IReadOnlyList<Edit> Edits { get; private set; }

    /// <summary>The scene as the last try left it.</summary>
    public SceneDraft? Draft { get; private set; }

    /// <summary>What the last try snapped to, in words; null: nothing.</summary>
    public (SnapTarget Target, string Words, int InReach)? Caught { get; private set; }

    public Reading Reading { get; private set; } = Reading.None;

    /// <summary>The amount of the last try that could be done.</summary>
    public Vec3 Amount { get; private set; }

    /// <summary>The lead as the last try left it.</summary>
    public Node? Lead { get; private set; }

    /// <summary>Where the handles of an edit stand before anything is tried.</summary>
    public static HandleFrame FrameOf(IScene scene, Edit template, Space space, Dictionary<string, Vec3>? centres = null)
    {
        var draft = new SceneDraft(scene) { KnownCentres = centres ?? [] };
        var nodes = template.Picked;
        Targets.CheckPicked(nodes);
        var lead = draft.Get(nodes[^1]);
        var about = (template as IDragged)?.About ?? new AboutOwn();
        // Only two points depend on all that moves; of thousands picked, the others need not look at each.
        var movers = about is AboutBounds or AboutMean ? Targets.Movers(draft, nodes) : [lead];
        var centre = about.Centre(draft, movers, lead);
        return new(centre ?? draft.PivotOf(lead), space.Axes(draft, lead, lead));
    }

    /// <summary>Takes hold of a handle.</summary>
    /// <param name="size">How long the needles are drawn, in metres at the centre.</param>
    public void Grab(Handle handle, View view, double size, Ray ray)
    {
        _drag = new Drag(handle, _frame.Centre, _frame.Axes, view, size, ray);
        (_view, _handle) = (view, handle);
        (_turnAxis, _turnSign, _turnedIn) = (null, 1, null);
        _free = handle.Part == HandlePart.Ball;
        switch (handle.Part)
        {
            case HandlePart.Arc:
                _turnAxis = Vec3.Axis(handle.Axis);
                _turnSign = TurnSign(_turnAxis.Value);
                break;
            case HandlePart.ViewArc:
                // Everything that is picked turns as it is seen, whatever axes the sentence says.
                (_turnAxis, _turnedIn) = (Vec3.UnitZ, new ViewSpace(_drag.FacingView));
                break;
            case HandlePart.Ball:
                (_turnAxis, _turnedIn) = (Vec3.UnitZ, new ViewSpace(view.World));
                break;
        }
    }

    /// <summary>Follows the pointer.</summary>
    /// <param name="onGrid">Steps lie on the grid of the space, instead of beginning where the drag began.</param>
    /// <param name="snap">How it snaps; null: not.</param>
    /// <exception cref="Refusal">This amount cannot be done; the last one that could stays.</exception>
    public void DragTo(Ray ray, bool fine, double? step, bool onGrid = false, SnapRequest? snap = null)
    {
        if (_drag is null)
        {
            return;
        }

        _last = () => DragTo(ray, fine, step, onGrid, snap);
        Caught = null;
        var amount = _drag.To(ray, fine, step, onGrid ? _grid : null) * (_turnAxis is null ? 1 : _turnSign);
        if (snap is not null && _turnAxis is null && _template is IDragged { Snaps: true } && Snapped(snap, ray, amount))
        {
            return;
        }

        Try(amount);
    }

    private bool Snapped(SnapRequest snap, Ray ray, Vec3 unsnapped)
    {
        _snapping ??= new(_scene, _evaluator, _template);
        var targets = _snapping.InReach(snap, _view, ray);
        if (targets.Count == 0 && _template is IDragged { IsOfPivot: true } && _handle.Part == HandlePart.Needle
            && _snapping.Level(snap, _view, _frame.Centre + _frame.Axes * unsnapped, _frame.Axes.Column(_handle.Axis)) is { } level)
        {
            targets = [level];
        }

        if (targets.Count == 0)
        {
            return false;
        }

        var target = targets[snap.Next % targets.Count];
        var from = _snapping.Source(snap, _frame.Centre, _frame.Axes * unsnapped, target.Point);
        var amount = _drag!.Bringing(from, target.Point);
        Caught = (target, _snapping.Say(target), targets.Count);
        Try(amount, snap.Turn && _template is IDragged { TurnsToSurfaces: true } && target.Normal is { } up ? TurnedTo(up, from + _frame.Axes * amount) : []);
        return true;
    }

    /// <summary>The turn that brings the lead's own y to an upright by the shortest arc, about the point that snapped.</summary>
    private Edit[] TurnedTo(Vec3 up, Vec3 about)
    {
        var draft = new SceneDraft(_scene);
        var y = OwnSpace.Of(draft, draft.Get(_template.Picked[^1])).Y;
        var axis = y.Cross(up);
        var angle = Degrees.Atan2(axis.Length, y.Dot(up));
        if (angle < 1e-9)
        {
            return [];
        }

        axis = axis.Length > 1e-9 ? axis.Unit() : OwnSpace.Of(draft, draft.Get(_template.Picked[^1])).X;
        return [new Rotate(_template.Picked, angle, axis, new WorldSpace(), new AboutPoint(about))];
    }

    /// <summary>Tries an amount: metres along the axes, degrees in X, or factors.</summary>
    /// <exception cref="Refusal">This amount cannot be done; the last one that could stays.</exception>
    public void Try(Vec3 amount)
    {
        _last = () => Try(amount);
        Try(amount, []);
    }

    /// <summary>
    /// Tries what was typed into the sentence: a bare number is how much the edit does along the sentence's axes, or with
    /// <paramref name="to"/> the value to reach; <c>=</c> and <c>to</c> reach a value, <c>*</c> and <c>/</c> multiply the present one.
    /// </summary>
    /// <param name="axes">The axes that the amount is for.</param>
    /// <exception cref="Refusal">It is not understood, or cannot be done; the last one that could stays.</exception>
    public void TryTyped(string text, IReadOnlyList<bool> axes, bool to, bool comma = false)
    {
        var amount = AmountParser.Sentence(text, (_template as IDragged)?.Quantity ?? Quantity.Length, _scene.Unit, to, comma);
        if (amount.Mode == AmountMode.Add)
        {
            Try((_template as IDragged)?.Along(amount.Value, axes) ?? Vec3.Zero);
            return;
        }

        _last = () => Show([Towards.Value(_scene, _template, amount.Value, axes, amount.Mode)]);
        _last();
    }

    private void Try(Vec3 amount, Edit[] more)
    {
        Show([WithAmount(amount), .. more]);
        Amount = amount;
    }

    private void Show(IReadOnlyList<Edit> edits)
    {
        var draft = Layered.Draft(_scope, edits, passed => new(_scene) { KnownCentres = edits.Count == 1 && passed.Count == 0 ? _centres : [], LeftOut = passed });
        if (_scope.Narrow && !_mayBeNarrow)
        {
            // What may differ from shot to shot by one amount may by every other.
            Narrow.Check(draft);
            _mayBeNarrow = true;
        }

        _preview.Show(draft);
        (Edits, Draft) = (edits, draft);

        var edit = edits[0];
        var nodes = edit.Picked;
        var id = nodes.LastOrDefault(n => draft.Written.Any(w => w.Key == n)) ?? nodes[^1];
        Lead = draft.Get(nodes[^1]);
        var (before, after) = (_scene.Find(id)!, draft.Get(id));
        Reading = before.Constraints.IsEmpty
            ? Reading.Of(edit, before, after, _scene, draft.Held.FirstOrDefault())
            : Reading.Of(edit, new SceneDraft(_scene).AsItStands(before), draft.AsItStands(after), _scene, draft.Held.FirstOrDefault());
        if (draft.LeftOut.Count > 0)
        {
            Reading = Reading with { Warning = LeftOutWords(draft.LeftOut) };
        }
    }

    /// <summary>"“Globe” stays: it has of its own in 04 Desk what this would change."</summary>
    private string LeftOutWords(HashSet<string> ids)
    {
        var one = ids.Count == 1;
        return $"{new Speaker(_scene).Names([.. ids])} {(one ? "stays: it has" : "stay: they have")} of {(one ? "its" : "their")} own in {_scene.Shot?.Title} what this would change.";
    }

    public void PutBack() => _preview.PutBack();

    /// <summary>
    /// Goes on with the last amount on a scene that has changed meanwhile, or that was opened anew; what was shown must have
    /// been put back before. A drag keeps the axes that its handle had when it was taken, so that nothing jumps under the hand.
    /// </summary>
    /// <exception cref="Refusal">The edit could not be done there with any amount, or not with this one.</exception>
    public void GoOn(IScene scene, Evaluator evaluator)
    {
        Draft = null;
        Stand(scene, evaluator);
        _last?.Invoke();
    }

    /// <summary>The tried edit, made of copies that are made first.</summary>
    /// <exception cref="Refusal">not-understood: copies can be moved, rotated, scaled or mirrored.</exception>
    public IReadOnlyList<Edit> AsCopy(IReadOnlyList<string> ids) =>
        [new Duplicate(_template.Picked, Ids: [ids]), .. Edits.Select(edit => edit.Instead(ids))];

    /// <summary>What an edit of this kind would do besides, asked with a usual amount before it is made; null: nothing.</summary>
    public static string? Foretell(IScene scene, Edit template, Scope? scope = null)
    {
        var nodes = template.Picked;
        if (template is IDragged { ChildrenStay: true } && Targets.LockedChildren(new(scene), nodes.Where(id => scene.Find(id) is not null)).Select(n => n.Id).ToList() is { Count: > 0 } locked)
        {
            return $"{new Speaker(scene).Names(locked)} {(locked.Count == 1 ? "is locked and rides" : "are locked and ride")} along.";
        }

        var usual = (template as IDragged)?.Usual;
        if (usual is null || nodes.Count == 0)
        {
            return null;
        }

        SceneDraft Made(Edit edit) => Layered.Draft(scope ?? Scope.Every, [edit], passed => new(scene) { LeftOut = passed });
        var draft = Made(usual);
        if (scope is { Narrow: true })
        {
            Narrow.Check(draft);
        }

        if (UsualHold.Of(scene, (IDragged)template, draft, Made) is var (held, along))
        {
            return ConstraintWords.Held(held, new(scene), along);
        }

        return draft.Written
            .Select(w => Reading.ShearWarning(scene.Find(w.Key)!, w.Value!, scene))
            .FirstOrDefault(warning => warning is not null);
    }

    [MemberNotNull(nameof(_scene), nameof(_evaluator), nameof(_preview))]
    private void Stand(IScene scene, Evaluator evaluator)
    {
        (_scene, _evaluator, _preview, _snapping) = (scene, evaluator, new(scene, evaluator), null);
        _centres.Clear();
        _frame = FrameOf(scene, _template, _space, _centres);
        _grid = GridFrom();
    }

    private Edit WithAmount(Vec3 amount)
    {
        PulledTurn? turn = _turnAxis is not { } axis ? null
            : _free && amount.Length > 0 ? new(amount.Length, amount.Unit(), _turnedIn)
            : new(amount.X, axis, _turnedIn);
        return (_template as IDragged)?.With(new(amount, _space, turn)) ?? _template;
    }

    /// <summary>What the amounts of a drag count from, where its steps lie on the grid of the space.</summary>
    private Vec3 GridFrom()
    {
        var draft = new SceneDraft(_scene);
        var lead = draft.Get(_template.Picked[^1]);
        var inSpace = _frame.Axes.Transposed() * (_frame.Centre - _space.Origin(draft, lead));
        return (_template as IDragged)?.GridFrom(draft, lead, inSpace) ?? inSpace;
    }

    /// <summary>Under a mirrored parent a turn of the stored angles runs the other way round than its needle says.</summary>
    private double TurnSign(Vec3 axis)
    {
        if (_template is not IDragged { TurnsStored: true } || _space is not (OwnSpace or ParentSpace or ChannelsSpace))
        {
            return 1;
        }

        var draft = new SceneDraft(_scene);
        var lead = draft.AsItStands(draft.Get(_template.Picked[^1]));
        var basis = draft.FrameOf(lead).Basis;
        if (_space is ChannelsSpace)
        {
            return basis.Determinant < 0 ? -1 : 1;
        }

        var inParent = _space is OwnSpace ? lead.Placement.R * axis : axis;
        var turns = basis * inParent * (basis.Determinant < 0 ? -1 : 1);
        return turns.Dot(_frame.Axes * axis) < 0 ? -1 : 1;
    }
}
