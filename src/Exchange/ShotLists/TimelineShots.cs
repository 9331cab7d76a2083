using System.Text.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>
/// Lists of shots as timelines in the JSON of the open standard OpenTimelineIO: a clip a shot, one after the other on one track, with its length in the scene's rate
/// and its note as a marker. What the standard has no place for stands in its metadata.
/// </summary>
public static class TimelineShots
{
    /// <summary>Deeper than this no list of clips is nested.</summary>
    private const int MostDepth = 64;

    private const string Own = "calm_pivot";
    private static readonly JsonSerializerOptions Indented = new() { WriteIndented = true };

    public static string Write(IScene scene, string name)
    {
        var (fps, shots) = (scene.Timing.Fps, ListedShot.Of(scene));
        var track = new JsonObject
        {
            ["OTIO_SCHEMA"] = "Track.1",
            ["metadata"] = new JsonObject(),
            ["name"] = "Shots",
            ["source_range"] = null,
            ["effects"] = new JsonArray(),
            ["markers"] = new JsonArray(),
            ["enabled"] = true,
            ["children"] = new JsonArray([.. shots.Select(s => Clip(s, fps))]),
            ["kind"] = "Video",
        };
        return new JsonObject
        {
            ["OTIO_SCHEMA"] = "Timeline.1",
            ["metadata"] = new JsonObject(),
            ["name"] = name,
            ["global_start_time"] = Time(scene.Timing.FirstFrame, fps),
            ["tracks"] = new JsonObject
            {
                ["OTIO_SCHEMA"] = "Stack.1",
                ["metadata"] = new JsonObject(),
                ["name"] = "tracks",
                ["source_range"] = null,
                ["effects"] = new JsonArray(),
                ["markers"] = new JsonArray(),
                ["enabled"] = true,
                ["children"] = new JsonArray(track),
            },
        }.ToJsonString(Indented);
    }

    /// <exception cref="Refusal">broken-file, unsupported-file, too-large.</exception>
    public static ShotListFile Read(string text, double fps)
    {
        JsonNode? root;
        try
        {
            root = JsonNode.Parse(text, documentOptions: new() { MaxDepth = MostDepth });
        }
        catch (JsonException)
        {
            throw new Refusal(Refusals.BrokenFile, "This timeline cannot be read: it is no whole JSON. Nothing was changed.");
        }

        try
        {
            return Read(root, fps);
        }
        catch (Exception odd) when (odd is InvalidOperationException or FormatException or ArgumentException)
        {
            throw new Refusal(Refusals.BrokenFile, "This timeline is damaged: something in it is of the wrong kind. Nothing was changed.");
        }
    }

    private static ShotListFile Read(JsonNode? root, double fps)
    {
        if (SchemaOf(root) != "Timeline" || root!["tracks"] is not JsonObject stack || SchemaOf(stack) != "Stack")
        {
            throw new Refusal(Refusals.UnsupportedFile, "This is no timeline of OpenTimelineIO: neither it nor its tracks say that they are. Nothing was changed.");
        }

        var notes = new SortedSet<string>(StringComparer.Ordinal);
        var tracks = Children(stack).Where(t => SchemaOf(t) == "Track").ToList();
        var pictures = tracks.Where(t => Text(t!["kind"]) is null or "Video").ToList();
        if (pictures.Count == 0)
        {
            throw new Refusal(Refusals.UnsupportedFile, "This timeline has no track of pictures. Nothing was changed.");
        }

        if (tracks.Count > 1)
        {
            notes.Add("Only the first track of pictures was read.");
        }

        var shots = new List<ListedShot>();
        foreach (var item in Children(pictures[0]!))
        {
            switch (SchemaOf(item))
            {
                case "Clip" when shots.Count >= Shot.Most:
                    throw new Refusal(Refusals.TooLarge, $"This timeline holds more than {Shot.Most} clips, which is the most shots that a scene has. Take a part of it.");
                case "Clip":
                    shots.Add(InScene.Fitting(ShotOf(item!, fps, notes), notes));
                    break;
                case "Gap" or "Transition":
                    notes.Add("Gaps and transitions were left out: shots follow each other.");
                    break;
                default:
                    notes.Add("Tracks within the track were left out.");
                    break;
            }
        }

        // Before the notes are told, for it may add one.
        var first = root["global_start_time"] is JsonObject start ? InScene.First(Number(start["value"]), Number(start["rate"]), fps, notes) : null;
        return new(shots, [.. notes], first);
    }

    private static ListedShot ShotOf(JsonNode clip, double fps, SortedSet<string> notes)
    {
        var own = (clip["metadata"] as JsonObject)?[Own] as JsonObject;
        var range = clip["source_range"] as JsonObject
            ?? (clip["media_reference"] as JsonObject ?? (clip["media_references"] as JsonObject)?[Text(clip["active_media_reference_key"]) ?? ""] as JsonObject)?["available_range"] as JsonObject;
        var duration = range?["duration"] as JsonObject;
        if (duration is null)
        {
            notes.Add("Lengths that could not be read were left out; those shots keep theirs.");
        }

        var markers = (clip["markers"] as JsonArray ?? []).Select(m => Text(m?["name"])).Where(n => !string.IsNullOrWhiteSpace(n)).ToList();
        var name = Text(clip["name"])?.Trim();
        return new(
            name is null or "" ? "Shot" : name,
            Text(own?["number"]),
            duration is null ? null : InScene.Frames(Number(duration["value"]), Number(duration["rate"]), fps, notes),
            Text(own?["camera"]),
            markers.Count > 0 ? string.Join("; ", markers) : own is null ? null : "",
            Text(own?["colour"]),
            clip["enabled"] is JsonValue enabled && enabled.TryGetValue<bool>(out var on) && !on);
    }

    private static JsonObject Clip(ListedShot shot, double fps) => new JsonObject
    {
        ["OTIO_SCHEMA"] = "Clip.2",
        ["metadata"] = new JsonObject { [Own] = new JsonObject { ["number"] = shot.Number, ["camera"] = shot.Camera, ["colour"] = shot.Colour } },
        ["name"] = shot.Name,
        ["source_range"] = Range(shot.Frames!.Value, fps),
        ["effects"] = new JsonArray(),
        ["markers"] = shot.Note is { Length: > 0 } ? new JsonArray(Marker(shot.Note, fps)) : new JsonArray(),
        ["enabled"] = true,
        ["media_references"] = new JsonObject
        {
            ["DEFAULT_MEDIA"] = new JsonObject
            {
                ["OTIO_SCHEMA"] = "MissingReference.1",
                ["metadata"] = new JsonObject(),
                ["name"] = "",
                ["available_range"] = null,
                ["available_image_bounds"] = null,
            },
        },
        ["active_media_reference_key"] = "DEFAULT_MEDIA",
    };

    private static JsonObject Marker(string note, double fps) => new JsonObject
    {
        ["OTIO_SCHEMA"] = "Marker.2",
        ["metadata"] = new JsonObject(),
        ["name"] = note,
        ["color"] = "PURPLE",
        ["marked_range"] = Range(0, fps),
        ["comment"] = "",
    };

    private static JsonObject Range(int frames, double fps) => new JsonObject { ["OTIO_SCHEMA"] = "TimeRange.1", ["start_time"] = Time(0, fps), ["duration"] = Time(frames, fps) };

    private static JsonObject Time(double value, double fps) => new JsonObject { ["OTIO_SCHEMA"] = "RationalTime.1", ["rate"] = fps, ["value"] = value };

    private static IEnumerable<JsonNode?> Children(JsonNode of) => of["children"] as JsonArray ?? [];

    /// <summary>"Clip" of "Clip.2"; null: it says nothing of itself.</summary>
    private static string? SchemaOf(JsonNode? node) => Text((node as JsonObject)?["OTIO_SCHEMA"])?.Split('.')[0];

    private static string? Text(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    private static double Number(JsonNode? node) => node is JsonValue value && value.TryGetValue<double>(out var number) ? number : double.NaN;
}
