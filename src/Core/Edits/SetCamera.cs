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
/// <param name="Near">Metres before the camera from which on it sees.</param>
/// <param name="Far">Metres up to which it sees.</param>
/// <param name="Aspect">Width over height of the picture; 0: as usual, 16 to 9.</param>
/// <param name="Mode">Whether the numbers given are the new ones, or change each camera's own.</param>
public sealed record SetCamera(
    IReadOnlyList<string> Nodes,
    Projection? Projection = null,
    double? Fov = null,
    double? Height = null,
    double? Near = null,
    double? Far = null,
    double? Aspect = null,
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
            EditWords.Changed("near plane", Near, Mode, say.Length),
            EditWords.Changed("far plane", Far, Mode, say.Length),
            Aspect == 0 && Mode == AmountMode.Set ? "picture as usual" : EditWords.Changed("width over height", Aspect, Mode, v => Unit.Figure(v, 4)),
        }.OfType<string>());
        return $"Changed the lens of {say.Names(Nodes)}: {(parts.Count == 0 ? "nothing" : string.Join(", ", parts))}";
    }

    private Camera Changed(Camera camera, string name)
    {
        double New(double? given, double present) => given is { } value ? new Amount(Mode, value).ApplyTo(present) : present;
        return (camera with
        {
            Projection = Projection ?? camera.Projection,
            Fov = New(Fov, camera.Fov),
            Height = New(Height, camera.Height),
            Near = New(Near, camera.Near),
            Far = New(Far, camera.Far),
            Aspect = Aspect is null ? camera.Aspect
                : Aspect == 0 && Mode == AmountMode.Set ? null
                : New(Aspect, camera.Aspect ?? Camera.UsualAspect),
        }).Checked(name);
    }
}
