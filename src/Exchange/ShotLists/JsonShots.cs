using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>A shot as the plain list of JSON has it.</summary>
/// <param name="First">The number of its first frame.</param>
/// <param name="Code">Where it begins.</param>
public sealed record JsonShot(string? Id, string? Number, string? Name, int? Frames, int? First, string? Code, string? Camera, string? Note, string? Colour);

/// <summary>Lists of shots as plain JSON.</summary>
public sealed record JsonShots(double Fps, int? FirstFrame, IReadOnlyList<JsonShot> Shots)
{
    private static readonly JsonSerializerOptions Web = new(JsonSerializerDefaults.Web);

    public static JsonShots Of(IScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var shots = ListedShot.Of(scene).Zip(ShotReading.All(scene), (s, r) => new JsonShot(r.Id, s.Number, s.Name, s.Frames, r.First, r.Code, s.Camera, s.Note, s.Colour));
        return new(scene.Timing.Fps, scene.Timing.FirstFrame, [.. shots]);
    }

    /// <exception cref="Refusal">broken-file, too-large.</exception>
    public static ShotListFile Read(string text, double fps)
    {
        try
        {
            var list = JsonSerializer.Deserialize<JsonShots>(text, Web);
            var shots = list?.Shots ?? throw new JsonException();
            if (shots.Count > Shot.Most)
            {
                throw new Refusal(Refusals.TooLarge, $"This list holds {shots.Count} shots; a scene has at most {Shot.Most}. Take a part of it.");
            }

            var notes = new SortedSet<string>(StringComparer.Ordinal);
            var rate = list.Fps > 0 ? list.Fps : fps;
            var first = list.FirstFrame is { } number ? InScene.First(number, rate, fps, notes) : null;
            return new([.. shots.Select(s => InScene.Fitting(
                new(s?.Name?.Trim() is { Length: > 0 } name ? name : "Shot", s?.Number, s?.Frames is { } frames ? InScene.Frames(frames, rate, fps, notes) : null, s?.Camera, s?.Note, s?.Colour), notes)).ToList()],
                [.. notes],
                first);
        }
        catch (JsonException)
        {
            throw new Refusal(Refusals.BrokenFile, "This list of shots cannot be read: it is no whole JSON, or no list of shots. Nothing was changed.");
        }
    }
}
