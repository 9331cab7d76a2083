using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using CalmPivot.Core.Tests;
using CalmPivot.Core;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CsCheck;

namespace CalmPivot.Exchange.Tests;

/// <summary>
/// Files of strangers may hold anything. Whatever is cut off, flipped or made up: a file is read, or refused in a sentence;
/// nothing else ever comes out of the reader.
/// </summary>
public sealed class DamageLaws
{
    private static readonly byte[] Binary = Written(binary: true);
    private static readonly byte[] Text = Written(binary: false);
    private static readonly string[] Made = ["-1", "99999999", "1e308", "2147483648", "0", "null", "\"x\"", "[]"];

    [Fact]
    public void A_file_cut_off_anywhere_is_read_or_refused() =>
        Gen.Select(Gen.Bool, Gen.Double[0, 1]).Sample((binary, share) =>
        {
            var whole = binary ? Binary : Text;
            ReadOrRefuse(whole[..(int)(share * whole.Length)]);
        },
        least: 0.05);

    [Fact]
    public void A_file_with_bytes_turned_over_is_read_or_refused() =>
        Gen.Select(Gen.Bool, Gen.Select(Gen.OneOf(Gen.Double[0, 1], Gen.Double[0.9, 1]), Gen.OneOf(Gen.Byte, Gen.Const((byte)1))).Array[1, 3]).Sample(
            (binary, flips) =>
            {
                var bytes = (byte[])(binary ? Binary : Text).Clone();
                foreach (var (share, value) in flips)
                {
                    bytes[(int)(share * (bytes.Length - 1))] ^= value;
                }

                ReadOrRefuse(bytes);
            },
            iter: 300,
            least: 0.05);

    [Fact]
    public void A_text_with_numbers_made_up_is_read_or_refused()
    {
        var json = Encoding.UTF8.GetString(Text);
        var places = Enumerable.Range(1, json.Length - 1).Where(i => char.IsAsciiDigit(json[i]) && !char.IsAsciiLetterOrDigit(json[i - 1]) && json[i - 1] is not '.').ToArray();
        Gen.Select(Gen.Int[0, places.Length - 1], Gen.Int[0, Made.Length - 1].Select(i => Made[i])).Sample(
            (at, instead) =>
            {
                var end = places[at];
                while (end < json.Length && (char.IsAsciiDigit(json[end]) || json[end] is '.' or 'e' or 'E' or '-' or '+'))
                {
                    end++;
                }

                ReadOrRefuse(Encoding.UTF8.GetBytes(json[..places[at]] + instead + json[end..]));
            },
            iter: 300);
    }

    [Fact]
    public void Bytes_of_any_kind_are_refused() =>
        Gen.Byte.Array[0, 400].Sample(bytes => Some.Refuses(bytes.SkipWhile(b => b is 9 or 10 or 13 or 32 or 0xEF or 0xBB or 0xBF).FirstOrDefault() == '{' ? Refusals.BrokenFile : Refusals.UnsupportedFile, () => GltfReader.Read(bytes)));

    [Fact]
    public void A_header_that_claims_more_than_there_is_is_refused()
    {
        foreach (var claimed in new[] { 0u, 12u, 20u, uint.MaxValue, (uint)Binary.Length + 4, (uint)Binary.Length - 4 })
        {
            var bytes = (byte[])Binary.Clone();
            BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(8), claimed);
            Some.Refuses(Refusals.BrokenFile, () => GltfReader.Read(bytes));
            bytes = (byte[])Binary.Clone();
            BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(12), claimed);
            ReadOrRefuse(bytes);
        }
    }

    [Fact]
    public void An_archive_is_no_larger_than_it_says_and_holds_one_scene()
    {
        Some.Refuses(Refusals.UnsupportedFile, () => GltfReader.Read(Archive()));
        Some.Refuses(Refusals.UnsupportedFile, () => GltfReader.Read(Archive(("notes.txt", "hello"u8.ToArray()))));
        Assert.NotEmpty(GltfReader.Read(Archive(("scene.gltf", Text))).Nodes);

        // A small archive of very many equal bytes must not fill the memory.
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var entry = zip.CreateEntry("scene.gltf", CompressionLevel.SmallestSize).Open();
            var zeros = new byte[1 << 20];
            for (var i = 0; i < 600; i++)
            {
                entry.Write(zeros);
            }
        }

        var refusal = Assert.Throws<Refusal>(() => GltfReader.Read(stream.ToArray()));
        Assert.Equal(Refusals.TooLarge, refusal.Word);
    }

    private static void ReadOrRefuse(byte[] bytes)
    {
        try
        {
            var read = GltfReader.Read(bytes);
            Assert.All(read.Nodes, node =>
            {
                Assert.True(node.Placement.Local().IsFinite);
                Assert.True(node.Parent is null || read.Nodes.Any(n => n.Id == node.Parent));
            });
            Tally.Done();
        }
        catch (Refusal refusal)
        {
            Tally.Refused(refusal);
            Assert.EndsWith(".", refusal.Message, StringComparison.Ordinal);
            Assert.Contains(refusal.Word, new[] { Refusals.BrokenFile, Refusals.UnsupportedFile, Refusals.TooLarge, Refusals.TooThin, Refusals.NotFinite });
        }
    }

    private static byte[] Archive(params (string Name, byte[] Bytes)[] files)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, bytes) in files)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }
        }

        return stream.ToArray();
    }

    private static byte[] Written(bool binary)
    {
        Node One(string id, string? parent, Placement placement) =>
            new(id, id, NodeKind.Shape, parent, id.Length, placement, new Box(Vec3.One), null, [], null, null, Switches.Default);
        var turned = Placement.Default with { Position = new(1, 2, 3), Rotation = new(10, 20, 30), Scale = new(1, 2, 3), Shear = new(0.2, 0, 0) };
        var eye = One("eye", null, turned) with { Kind = NodeKind.Camera, Shape = null, Materials = [], Camera = Camera.Default };
        var lamp = One("lamp", "a", turned) with { Kind = NodeKind.Light, Shape = null, Materials = [], Light = Light.Default };
        var scene = new SceneDocument("s", "Scene", "m", 0, [One("a", null, turned), One("bb", "a", turned), eye, lamp], new None());
        return GltfWriter.Write(scene, new Dictionary<string, byte[]>(), binary);
    }

    private sealed class None : IGeometries
    {
        public Geometry? Find(string hash) => null;

        public void Keep(string hash, Geometry geometry) => throw new NotSupportedException();
    }
}
