using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Tests;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>A shot goes out by itself as glTF: what it sees, where it stands there, and its camera.</summary>
public sealed class OneShotTests
{
    [Fact]
    public void What_the_shot_sees_stands_in_the_file_where_the_shot_has_it() => Gen.Int[0, 1_000_000].Sample(
        seed =>
        {
            var scene = AnyEdit.Room(seed);
            AnyEdit.Shoot(scene, seed);
            scene.Keep(new SeeIn(["one"], ["tray"], false));
            var file = GltfReader.Read(GltfWriter.Write(scene, "one", new Dictionary<string, byte[]>(), binary: true));
            var back = new SceneDocument("back", "Back", "m", 0, file.Whole, new Geometries(file));
            var shown = new ShotScene(scene, "one");
            var (there, here) = (new SceneDraft(shown), new SceneDraft(back));
            var seen = shown.Branch(null).Where(n => n.Id == "eye" || (n.Camera is null && Seen.Of(shown, n).Final)).ToList();
            var needed = seen.SelectMany(shown.Ancestors).Concat(seen).Distinct().Select(n => n.Name).Order();
            Assert.Equal(needed, back.Branch(null).Select(n => n.Name).Order());
            Assert.Empty(back.Shots);
            foreach (var node in seen)
            {
                var found = back.Branch(null).Single(n => n.Name == node.Name);
                var (a, b) = (there.World(shown.Find(node.Id)!), here.World(found));
                Assert.True(a.Distance(b) <= 1e-4 * Math.Max(1, Math.Max(a.Linear.Norm, a.Offset.Length)), $"{node.Name}\n{a}\n{b}");
                // What it is sharp at may be out of the file.
                var lens = shown.Find(node.Id)!.Camera;
                var sharpAt = lens?.FocusOn is { } thing ? back.Branch(null).FirstOrDefault(n => n.Name == shown.Find(thing)?.Name && seen.Concat(seen.SelectMany(shown.Ancestors)).Any(s => s.Id == thing))?.Id : null;
                Assert.Equal((node.Kind, lens is null ? null : lens with { FocusOn = sharpAt }, shown.Find(node.Id)!.Light), (found.Kind, found.Camera, found.Light));
                Assert.Empty(found.Constraints);
            }
        },
        iter: 60);

    [Fact]
    public void A_shot_that_is_gone_is_refused() =>
        Assert.Equal(Refusals.NotFound, Assert.Throws<Refusal>(() => GltfWriter.Write(AnyEdit.Room(1), "gone", new Dictionary<string, byte[]>(), binary: true)).Word);

    [Fact]
    public void What_is_damaged_of_shots_is_left_out_and_said() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 7]).Sample(
        (seed, what) =>
        {
            var scene = AnyEdit.Room(seed);
            AnyEdit.Shoot(scene, seed);
            scene.Keep(new SeeIn(["one"], ["cup"], false));
            var text = System.Text.Encoding.UTF8.GetString(GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary: false));
            (string Was, string Is)[] damages =
            [
                ("\"channel\": \"seen\"", "\"channel\": \"nothing\""), ("\"channel\": \"seen\"", "\"channel\": \"rotation\""), ("\"frames\": 96", "\"frames\": -5"), ("\"of\": \"cup\"", "\"of\": \"saucer\""),
                ("\"value\": false", "\"value\": [1,2,3]"), ("\"fps\": 24", "\"fps\": 0"), ("\"value\": false", "\"value\": \"teal\""), ("\"shot\": \"one\"", "\"shot\": \"none\""),
            ];
            Assert.Contains(damages[what].Was, text, StringComparison.Ordinal);
            var file = GltfReader.Read(System.Text.Encoding.UTF8.GetBytes(text.Replace(damages[what].Was, damages[what].Is, StringComparison.Ordinal)));
            var change = Change.Of(file.Whole.Select(e => new EntityChange(e.Id, null, e)));
            ShotChecks.Check(SceneDocument.Blank(), change);
            Assert.True(file.Notes.Any(n => n.Contains("hot", StringComparison.Ordinal)) || what == 5);
            Assert.All(file.Shots.OfType<Cheat>(), c => Assert.NotNull(CheatChannel.Of(c.Channel)));
        },
        iter: 60);

    private sealed class Geometries(ImportedFile file) : IGeometries
    {
        public Core.Shapes.Geometry? Find(string hash) => file.Geometries.TryGetValue(hash, out var bytes) ? Core.Shapes.GeometryBinary.Read(bytes) : null;

        public void Keep(string hash, Core.Shapes.Geometry geometry) => throw new NotSupportedException();
    }
}
