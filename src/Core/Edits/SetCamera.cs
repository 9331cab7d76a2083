using CalmPivot.Core.Amounts;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// Changes what cameras see: those of their fields that are given; things that are no cameras stay as they are. Where a camera
/// stands does not change.
/// <code>
/// new SetCamera(["dome-camera"], Fov: 24) // a narrower view
/// </code>
/// </summary>
/// <param name="Fov">The vertical angle of view in degrees; for perspective.</param>
/// <param name="Height">The height of what is seen in metres; for parallel projection.</param>
/// <param name="Near">Metres before the camera from which on it sees; 0: all that stands before it.</param>
/// <param name="Far">Metres up to which it sees; 0: however far.</param>
/// <param name="Aspect">Width over height of the picture; 0: as usual, 16 to 9.</param>
/// <param name="FocalLength">Millimetres, instead of the angle of view.</param>
/// <param name="Pixels">How many pixels the picture is wide; 0: the usual number.</param>
/// <param name="ShiftX">How far the picture lies beside the axis, in picture heights.</param>
/// <param name="Aperture">The f-number; 0: all is sharp.</param>
/// <param name="Focus">Metres along the view at which it is sharp; then it is sharp at no thing any more.</param>
/// <param name="FocusOn">The id of a thing that it is to be sharp at; empty: none.</param>
/// <param name="Mode">Whether the numbers given are the new ones, or change each camera's own.</param>
public sealed record SetCamera(
    IReadOnlyList<string> Nodes,
    Projection? Projection = null,
    double? Fov = null,
    double? Height = null,
    double? Near = null,
    double? Far = null,
    double? Aspect = null,
    double? FocalLength = null,
    double? Pixels = null,
    double? ShiftX = null,
    double? ShiftY = null,
    double? Aperture = null,
    double? Focus = null,
    string? FocusOn = null,
    AmountMode Mode = AmountMode.Set) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        var cameras = Targets.Movers(draft, Nodes, ChildrenMode.Stay).Where(n => n.Camera is not null).ToList();
        if (cameras.Count == 0)
        {
            throw new Refusal(Refusals.NotUnderstood, "None of these is a camera. Pick one.");
        }

        if (FocusOn is { Length: > 0 } id && cameras.Any(c => c.Id == draft.Get(id).Id))
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{draft.Get(id).Name}” cannot be sharp at itself. Press another thing.");
        }

        foreach (var camera in cameras)
        {
            draft.Put(camera with { Camera = Changed(camera.Camera!, camera.Name) });
        }
    }

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        if (Projection is { } projection)
        {
            parts.Add(projection == Scene.Projection.Parallel ? "parallel" : "in perspective");
        }

        parts.AddRange(new[]
        {
            EditWords.Changed("angle of view", Fov, Mode, say.Angle),
            EditWords.Changed("height", Height, Mode, say.Length),
            Near == 0 && Mode == AmountMode.Set ? "near plane as needed" : EditWords.Changed("near plane", Near, Mode, say.Length),
            Far == 0 && Mode == AmountMode.Set ? "far plane as needed" : EditWords.Changed("far plane", Far, Mode, say.Length),
            EditWords.Changed("focal length", FocalLength, Mode, v => $"{Unit.Figure(v, 1)} mm"),
            Pixels == 0 && Mode == AmountMode.Set ? "as many pixels as usual" : EditWords.Changed("picture width", Pixels, Mode, v => $"{Unit.Figure(v, 0)} px"),
            EditWords.Changed("shift to the right", ShiftX, Mode, v => Unit.Figure(v, 3)),
            EditWords.Changed("shift up", ShiftY, Mode, v => Unit.Figure(v, 3)),
            Aperture == 0 && Mode == AmountMode.Set ? "all sharp" : EditWords.Changed("aperture", Aperture, Mode, v => $"f/{Unit.Figure(v, 1)}"),
            EditWords.Changed("focus", Focus, Mode, say.Length),
            FocusOn is { Length: > 0 } thing ? $"sharp at {say.Name(thing)}" : FocusOn is null ? null : "sharp as far as it says",
            Aspect == 0 && Mode == AmountMode.Set ? "picture as usual" : EditWords.Changed("width over height", Aspect, Mode, v => Unit.Figure(v, 4)),
        }.OfType<string>());
        return $"Changed the lens of {say.Names(Nodes)}: {(parts.Count == 0 ? "nothing" : string.Join(", ", parts))}";
    }

    private Camera Changed(Camera camera, string name)
    {
        double New(double? given, double present) => given is { } value ? new Amount(Mode, value).ApplyTo(present) : present;

        // What may be none has 0 for it; none stays none when it is changed by an amount.
        double? Given(double? given, double? present) => given is not { } value ? present
            : Mode == AmountMode.Set ? value == 0 ? null : value
            : present is { } known ? new Amount(Mode, value).ApplyTo(known) : null;
        var pixels = Given(Pixels, Mode == AmountMode.Set ? camera.Pixels : camera.Pixels ?? Camera.UsualPixels);
        if (FocalLength is not null && !(New(FocalLength, camera.FocalLength) is > 0 and < 1e6))
        {
            throw new Refusal(Refusals.NotUnderstood, $"“{name}” needs a focal length of more than nothing.");
        }

        // A length in millimetres is one of the picture that comes of this.
        var aspect = Aspect is null ? camera.Aspect
            : Aspect == 0 && Mode == AmountMode.Set ? null
            : New(Aspect, camera.Aspect ?? Camera.UsualAspect);
        return (camera with
        {
            Projection = Projection ?? camera.Projection,
            Fov = FocalLength is null ? New(Fov, camera.Fov) : Camera.FovOf(New(FocalLength, camera.FocalLength), aspect),
            Height = New(Height, camera.Height),
            Near = Given(Near, camera.Near),
            Far = Given(Far, camera.Far),
            Pixels = pixels is not { } wide ? null : (int)Math.Round(Math.Clamp(wide, 0, 1e6)),
            ShiftX = New(ShiftX, camera.ShiftX),
            ShiftY = New(ShiftY, camera.ShiftY),
            Aperture = Given(Aperture, camera.Aperture),
            Focus = Focus is { } focus ? Mode == AmountMode.Set ? focus : New(focus, camera.Focus ?? Camera.UsualFocus) : camera.Focus,
            FocusOn = FocusOn is not null ? FocusOn.Length == 0 ? null : FocusOn : Focus is null ? camera.FocusOn : null,
            Aspect = aspect,
        }).Checked(name);
    }
}
