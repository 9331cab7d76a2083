using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;

namespace CalmPivot.Server.Demo;

/// <summary>What a new scene begins with: a camera and a lamp.</summary>
internal static class StartScene
{
    public static List<Node> Nodes()
    {
        var scene = new SceneDocument("start", "Start", "m", 0, [], NoGeometries.Instance);
        scene.Apply(Batch.Run(scene, [
            new Create(new()
            {
                Id = "camera",
                Name = "Camera",
                Kind = NodeKind.Camera,
                Placement = new() { Position = new(3.2, 2.2, 4.4), Rotation = new(-18, 36, 0) },
            }),
            new Create(new()
            {
                Id = "lamp",
                Name = "Lamp",
                Kind = NodeKind.Light,
                Placement = new() { Position = new(1.5, 3.5, 2) },
                Light = new() { Color = "#FFF1DC", Intensity = 40 },
            }),
        ]).Change);
        return [.. scene.Nodes];
    }
}

/// <summary>For scenes that are built in code, of shapes alone.</summary>
internal sealed class NoGeometries : IGeometries
{
    public static readonly NoGeometries Instance = new();

    public Core.Shapes.Geometry? Find(string hash) => null;

    public void Keep(string hash, Core.Shapes.Geometry geometry) => throw new NotSupportedException();
}
