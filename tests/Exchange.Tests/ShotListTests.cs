using System.Text;
using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Tests;
using CalmPivot.Exchange.ShotLists;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>Lists of shots go out as tables and timelines and come in again, from here and from elsewhere.</summary>
public sealed class ShotListTests
{
    private static readonly string[] Words = ["=HYPERLINK(\"http://example.org\",\"here\")", "@SUM(A1)", "+1+cmd|' /C calc'!A0", "-2", "'=said so", "''@", "＝1", "Dome", "Room, large", "The \"lens\"", "Zwölf ✓", "a;b", " padded", "=1+1", "two\nlines"];

    private static readonly Gen<SceneDocument> Shot = Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[1, 9], Some.Of(24.0, 25, 30, 23.976, 60)).Select((seed, count, fps) =>
    {
        var (scene, r) = (AnyEdit.Room(seed), new Random(seed));
        AnyEdit.Shoot(scene, seed);
        scene.Keep(new SetTiming(fps, r.Next(1000)));
        foreach (var i in Enumerable.Range(0, count))
        {
            scene.Keep(new MakeShot(new(null, maybe(r) ? $"{i}" : "", Words[r.Next(Words.Length - 1)].Trim(), maybe(r) ? "eye" : null, 1 + r.Next(500), maybe(r) ? Words[r.Next(Words.Length)] : null, maybe(r) ? "#A0B0C0" : null)));
        }

        return scene;
        static bool maybe(Random r) => r.Next(2) == 0;
    });

    private static readonly Dictionary<string, Func<SceneDocument, string>> Forms = new()
    {
        ["csv"] = CsvShots.Write,
        ["otio"] = scene => TimelineShots.Write(scene, "Orrery"),
        ["json"] = scene => JsonSerializer.Serialize(JsonShots.Of(scene), JsonSerializerOptions.Web),
    };

    private static ShotListFile Read(string text, double fps = 24) => ShotListReader.Read(Encoding.UTF8.GetBytes(text), fps);

    private static Refusal Refused(string text) => Assert.Throws<Refusal>(() => Read(text));

    [Theory]
    [InlineData("csv")]
    [InlineData("otio")]
    [InlineData("json")]
    public void Out_and_in_changes_nothing(string form) => Shot.Sample(
        scene =>
        {
            var file = Read(Forms[form](scene), scene.Timing.Fps);
            Assert.Empty(file.Notes);
            var (edit, notes) = file.For(scene);
            Assert.Empty(notes);
            Assert.All(edit.Changes(scene), c => Assert.Empty(c.Changes));
            Assert.Empty(Batch.Run(scene, [edit]).Change.All);
        },
        iter: 60);

    [Fact]
    public void No_text_of_a_table_is_computed_by_a_spreadsheet() => Shot.Sample(scene =>
    {
        using var csv = new CsvHelper.CsvReader(new StringReader(CsvShots.Write(scene)), System.Globalization.CultureInfo.InvariantCulture);
        while (csv.Read())
        {
            Assert.All(csv.Parser.Record!, field => Assert.False(field.Length > 0 && "=+-@\t\r\n＝＋－＠".Contains(field[0], StringComparison.Ordinal), field));
        }
    });

    [Theory]
    [InlineData("csv")]
    [InlineData("otio")]
    [InlineData("json")]
    public void In_a_scene_without_shots_it_makes_them_as_they_were(string form) => Shot.Sample(
        scene =>
        {
            var text = Forms[form](scene);
            var (before, timing) = (scene.AllShots().Select(s => s with { Id = "", Rank = 0 }).ToList(), scene.Timing);
            foreach (var shot in scene.Shots.ToList())
            {
                scene.Keep(new RemoveShot(shot));
            }

            scene.Keep(new SetTiming(FirstFrame: timing.FirstFrame + 1));

            scene.Keep(Read(text, scene.Timing.Fps).For(scene).Edit);
            Assert.Equal(timing, scene.Timing);
            Assert.Equal(before, scene.AllShots().Select(s => s with { Id = "", Rank = 0 }));
        },
        iter: 40);

    [Fact]
    public void Tables_lists_and_timelines_begin_at_the_same_number() => Shot.Sample(
        scene =>
        {
            var (first, fps) = (scene.Timing.FirstFrame, scene.Timing.Fps);
            var json = JsonShots.Of(scene);
            Assert.All(Forms, form => Assert.Equal(first, Read(form.Value(scene), fps).FirstFrame));
            Assert.Equal((first, Core.Words.FrameTime.Code(first, fps)), (json.Shots[0].First, json.Shots[0].Code));
            Assert.Contains($",{first},{json.Shots[0].Code},", CsvShots.Write(scene), StringComparison.Ordinal);

            // At another rate it is the same moment.
            Assert.Equal((int)Math.Round(first / fps * 48), Read(Forms["otio"](scene), 48).FirstFrame);
        },
        iter: 30);

    [Fact]
    public void What_is_switched_off_in_a_list_is_passed_over_or_taken_and_said()
    {
        var scene = AnyEdit.Room(1);
        scene.Keep(new MakeShot(new(Name: "Dome", Frames: 10)), new MakeShot(new(Name: "Lens", Frames: 20)));
        var file = Read(TimelineShots.Write(scene, "Orrery").Replace("\"name\": \"Lens\"", "\"enabled\": false, \"name\": \"Lens\"", StringComparison.Ordinal).Replace("\"enabled\": true", "\"was\": true", StringComparison.Ordinal));
        Assert.Equal([false, true], file.Shots.TakeLast(2).Select(s => s.IsOff));
        var (edit, notes) = file.For(scene);
        Assert.Equal(("Dome", "1 shot that is switched off in the list is passed over."), (edit.Shots[^1].Name, notes[^1]));
        (edit, notes) = file.For(scene, withOff: true);
        Assert.Equal(("Lens", "1 shot that is switched off in the list is taken in as well."), (edit.Shots[^1].Name, notes[^1]));
    }

    [Fact]
    public void A_first_frame_is_said_before_and_is_none_where_it_cannot_be_read()
    {
        var scene = AnyEdit.Room(1);
        var (edit, _) = Read("name,first frame\nA,1001\nB,1200\n").For(scene);
        Assert.EndsWith(" The first frame becomes 1001.", edit.Foretell(scene), StringComparison.Ordinal);
        Assert.EndsWith(", from frame 1001 on", edit.Say(new(scene)), StringComparison.Ordinal);
        scene.Keep(edit);
        Assert.Equal(1001, scene.Timing.FirstFrame);
        foreach (var odd in new[] { "1e300", "nan", "soon", "999999999999" })
        {
            var file = Read($"name,first frame\nA,{odd}\n");
            Assert.Null(file.FirstFrame);
            Assert.Equal(["The number of its first frame could not be read and was left out."], file.Notes);
        }

        foreach (var odd in new[] { "{\"fps\":24,\"firstFrame\":999999999,\"shots\":[{\"name\":\"A\"}]}", TimelineShots.Write(scene, "Orrery").Replace("\"value\": 1001", "\"value\": 1e300", StringComparison.Ordinal) })
        {
            Assert.Null(Read(odd).FirstFrame);
            Assert.Contains("The number of its first frame could not be read and was left out.", Read(odd).Notes);
        }

        // A line without a name is no shot, and begins nothing.
        Assert.Equal(1001, Read("name,first frame\nA,1001\n,1200\n").FirstFrame);
        Assert.Equal("-00:00:01:12", Core.Words.FrameTime.Code(-36, 24));
    }

    [Fact]
    public void A_timeline_is_read_by_who_knows_its_published_description_alone() => Shot.Sample(
        scene =>
        {
            var clips = PlainTimeline.Clips(TimelineShots.Write(scene, "Orrery"), out var start);
            Assert.Equal(scene.Timing.FirstFrame / scene.Timing.Fps, start, 1e-9);
            var at = 0.0;
            foreach (var (shot, clip) in scene.AllShots().Zip(clips, (s, c) => (s, c)))
            {
                Assert.Equal((shot.Name, scene.Timing.Fps, (double)shot.Frames), (clip.Name, clip.Rate, clip.Duration));
                Assert.Equal(at, clip.Begins, 1e-9);
                Assert.Equal(shot.Note is null ? [] : [shot.Note], clip.Markers);
                at += shot.Frames / scene.Timing.Fps;
            }

            Assert.Equal(scene.Shots.Count, clips.Count);
        },
        iter: 30);

    [Fact]
    public void Tables_from_elsewhere_are_read_as_far_as_they_tell()
    {
        var file = Read("Shot;Title;Length;FPS;Notes;Editor\n010;Dome;4s;25;slow;A\n020;Lens;2:12;25;;B\n030;Room;many;25;;C\n;;;;;\n");
        Assert.Equal(
            [new("Dome", "010", 96, null, "slow", null), new("Lens", "020", 60, null, "", null), new ListedShot("Room", "030", null, null, "", null)],
            file.Shots);
        Assert.Equal(
            ["Lengths at other rates were told in the scene's 24 frames a second.", "Lengths that could not be read were left out; those shots keep theirs.", "Lines without a name were left out.", "Some lengths are no whole frames here and were rounded."],
            file.Notes);
        Assert.Equal("Dome", Assert.Single(Read("shot\nDome\n").Shots).Name);
    }

    [Fact]
    public void Cameras_are_found_by_their_names_and_said_where_there_is_none()
    {
        var scene = AnyEdit.Room(1);
        var (edit, notes) = Read("name,camera\nA,Eye\nB,Nose\nC,\n").For(scene);
        Assert.Equal(["eye", null, ""], edit.Shots.Select(s => s.Camera));
        Assert.Equal(["No camera of the scene is called “Nose”: those shots keep the camera that they have."], notes);
    }

    [Fact]
    public void Timelines_from_elsewhere_are_read_as_far_as_they_tell()
    {
        const string Clip = """{"OTIO_SCHEMA":"Clip.1","name":"A","source_range":{"OTIO_SCHEMA":"TimeRange.1","duration":{"OTIO_SCHEMA":"RationalTime.1","rate":30,"value":45},"start_time":null},"media_reference":null}""";
        const string Media = """{"OTIO_SCHEMA":"Clip.2","name":"B","source_range":null,"active_media_reference_key":"X","media_references":{"X":{"available_range":{"duration":{"rate":24,"value":12}}}}}""";
        string Of(string children, string kind = "Video") =>
            $$$"""{"OTIO_SCHEMA":"Timeline.1","tracks":{"OTIO_SCHEMA":"Stack.1","children":[{"OTIO_SCHEMA":"Track.1","kind":"Audio","children":[]},{"OTIO_SCHEMA":"Track.1","kind":"{{{kind}}}","children":[{{{children}}}]}]}}""";
        var file = Read(Of($$"""{{Clip}},{"OTIO_SCHEMA":"Gap.1"},{{Media}},{"OTIO_SCHEMA":"Stack.1"},{"OTIO_SCHEMA":"Clip.2"}"""));
        Assert.Equal([("A", 36), ("B", 12), ("Shot", null)], file.Shots.Select(s => (s.Name, s.Frames)));
        Assert.Equal(5, file.Notes.Count);
        Assert.Equal(Refusals.UnsupportedFile, Refused(Of(Clip, "Data")).Word);
        Assert.Equal(Refusals.UnsupportedFile, Refused("""{"OTIO_SCHEMA":"Clip.2"}""").Word);
        Assert.Equal(Refusals.BrokenFile, Refused(Of("")).Word);
        Assert.Equal(Refusals.TooLarge, Refused(Of(string.Join(",", Enumerable.Repeat(Clip, 10_000)))).Word);
    }

    [Fact]
    public void Damaged_and_foreign_lists_are_refused_in_a_sentence()
    {
        Assert.Equal(Refusals.UnsupportedFile, Assert.Throws<Refusal>(() => ShotListReader.Read([0xFF, 0xFE, 0x00], 24)).Word);
        Assert.Equal(Refusals.TooLarge, Assert.Throws<Refusal>(() => ShotListReader.Read(new byte[ShotListReader.MostBytes + 1], 24)).Word);
        Assert.Equal(Refusals.TooLarge, Refused("name\n" + string.Concat(Enumerable.Repeat("A\n", 10_000))).Word);
        Assert.All(["", "   ", "a,b\n1,2\n", "name\n", "{", "[]", "{}", "{\"shots\":[]}", "{\"shots\":3}", "name,x\n\"A\"B,1\n", new string('[', 5000) + "\"OTIO_SCHEMA\""], text =>
            Assert.Contains("Nothing was changed.", Some.Refuses(Refusals.BrokenFile, () => Read(text)).Message, StringComparison.Ordinal));
    }

    [Fact]
    public void Whatever_is_cut_out_of_a_list_it_is_read_or_refused() => Gen.Select(Shot, Some.Of("csv", "otio", "json"), Gen.Double[0, 1], Gen.Int[0, 40], Gen.Char[' ', '~']).Sample(
        (scene, form, where, length, other) =>
        {
            var text = Forms[form](scene);
            var at = (int)(where * (text.Length - 1));
            text = text.Remove(at, Math.Min(length, text.Length - at)).Insert(at, length % 3 == 0 ? $"{other}" : "");
            try
            {
                var (edit, _) = Read(text, scene.Timing.Fps).For(scene);
                scene.Keep(edit);
                Assert.All(scene.AllShots(), SetShot.CheckNumbers);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                Assert.NotEmpty(refusal.Message);
            }
        },
        iter: 300);

    /// <summary>Reads timelines as the standard's own pages describe them, and knows nothing of how they were written.</summary>
    private static class PlainTimeline
    {
        internal sealed record Read(string Name, double Begins, double Duration, double Rate, string[] Markers);

        public static List<Read> Clips(string text, out double start)
        {
            using var file = JsonDocument.Parse(text);
            var root = file.RootElement;
            Is(root, "Timeline.1", "metadata", "name", "global_start_time", "tracks");
            start = Seconds(root.GetProperty("global_start_time"));
            var stack = root.GetProperty("tracks");
            Is(stack, "Stack.1", "metadata", "name", "source_range", "effects", "markers", "enabled", "children");
            var (clips, at) = (new List<Read>(), 0.0);
            foreach (var track in stack.GetProperty("children").EnumerateArray())
            {
                Is(track, "Track.1", "metadata", "name", "source_range", "effects", "markers", "enabled", "children", "kind");
                Assert.Equal("Video", track.GetProperty("kind").GetString());
                foreach (var clip in track.GetProperty("children").EnumerateArray())
                {
                    Is(clip, "Clip.2", "metadata", "name", "source_range", "effects", "markers", "enabled", "media_references", "active_media_reference_key");
                    var range = clip.GetProperty("source_range");
                    Is(range, "TimeRange.1", "start_time", "duration");
                    var (begins, duration) = (at, range.GetProperty("duration"));
                    at += Seconds(duration);
                    Assert.Equal(0, Seconds(range.GetProperty("start_time")));
                    Is(clip.GetProperty("media_references").GetProperty(clip.GetProperty("active_media_reference_key").GetString()!), "MissingReference.1", "metadata", "name", "available_range", "available_image_bounds");
                    clips.Add(new(
                        clip.GetProperty("name").GetString()!, begins, duration.GetProperty("value").GetDouble(), duration.GetProperty("rate").GetDouble(),
                        [.. clip.GetProperty("markers").EnumerateArray().Select(Marker)]));
                }
            }

            return clips;
        }

        private static string Marker(JsonElement marker)
        {
            Is(marker, "Marker.2", "metadata", "name", "color", "marked_range", "comment");
            Assert.Contains(marker.GetProperty("color").GetString(), (string[])["PINK", "RED", "ORANGE", "YELLOW", "GREEN", "CYAN", "BLUE", "PURPLE", "MAGENTA", "BLACK", "WHITE"]);
            Seconds(marker.GetProperty("marked_range").GetProperty("duration"));
            return marker.GetProperty("name").GetString()!;
        }

        private static double Seconds(JsonElement time)
        {
            Is(time, "RationalTime.1", "rate", "value");
            return time.GetProperty("value").GetDouble() / time.GetProperty("rate").GetDouble();
        }

        /// <summary>The schema's name and version, and exactly its fields.</summary>
        private static void Is(JsonElement thing, string schema, params string[] fields)
        {
            Assert.Equal(schema, thing.GetProperty("OTIO_SCHEMA").GetString());
            Assert.Equal(fields.Append("OTIO_SCHEMA").Order(), thing.EnumerateObject().Select(p => p.Name).Order());
        }
    }
}
