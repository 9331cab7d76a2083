using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using CalmPivot.Server.Pictures;
using SkiaSharp;

namespace CalmPivot.Server.Tests;

/// <summary>Pictures for materials: brought in, looked at before they are decoded, kept upright and without what stands beside their pixels.</summary>
[Collection(nameof(SteadyServer))]
public sealed class MaterialPictureTests(RunningServer server)
{
    [Fact]
    public async Task A_picture_is_kept_listed_given_to_a_material_and_goes_out_with_the_scene()
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Pictures", like = "orrery-room" }))["id"]!;
        var kept = await Bring(caller, scene, Drawn(64, 32, SKEncodedImageFormat.Png), "Boards.png");
        Assert.Equal((64, 32, "Boards.png", "image/png"), ((int)kept["width"]!, (int)kept["height"]!, (string)kept["name"]!, (string)kept["mediaType"]!));
        var listed = Assert.Single((await caller.Get($"api/scenes/{scene}/pictures")).AsArray());
        Assert.Equal((string)kept["hash"]!, (string)listed!["hash"]!);
        var bytes = await caller.Http.GetByteArrayAsync($"api/scenes/{scene}/pictures/{kept["hash"]}");
        Assert.Equal((long)kept["bytes"]!, bytes.Length);

        // Clearing what nothing uses leaves what is kept for the next material.
        Assert.Equal(HttpStatusCode.OK, (await caller.Http.DeleteAsync($"api/scenes/{scene}/unused")).StatusCode);
        Assert.Single((await caller.Get($"api/scenes/{scene}/pictures")).AsArray());

        await Edit(caller, scene, new { @do = "material", id = "boards", name = "Boards", like = new { color = "#FFFFFF", textures = new[] { new { channel = "BaseColor", image = (string)kept["hash"]! } }, lies = new { how = "box", metres = 0.6, aspect = 2 } }, nodes = new[] { "floor" } });
        var file = await caller.Http.GetByteArrayAsync($"api/scenes/{scene}/export?format=gltf");
        var gltf = JsonNode.Parse(file)!;
        var material = gltf["materials"]!.AsArray().Single(m => (string?)m!["name"] == "Boards")!;
        Assert.NotNull(material["pbrMetallicRoughness"]!["baseColorTexture"]);

        // In again, it is in the list of the new scene, by the name of the material; here it keeps its own.
        using (var body = new ByteArrayContent(file))
        {
            body.Headers.ContentType = new MediaTypeHeaderValue("model/gltf+json");
            var again = JsonNode.Parse(await (await caller.Http.PostAsync("api/scenes/import?name=Again", body)).Content.ReadAsStringAsync())!;
            var back = Assert.Single((await caller.Get($"api/scenes/{again["id"]}/pictures")).AsArray(), p => (string?)p!["name"] == "Boards")!;
            Assert.Equal((64, 32), ((int)back["width"]!, (int)back["height"]!));
        }

        using (var body = new ByteArrayContent(file))
        {
            body.Headers.ContentType = new MediaTypeHeaderValue("model/gltf+json");
            Assert.Equal(HttpStatusCode.OK, (await caller.Http.PostAsync($"api/scenes/{scene}/import", body)).StatusCode);
            Assert.Equal("Boards.png", (string?)Assert.Single((await caller.Get($"api/scenes/{scene}/pictures")).AsArray(), p => (string)p!["hash"]! == (string)kept["hash"]!)!["name"]);
        }

        // Let go, the material goes on showing it.
        Assert.Equal(HttpStatusCode.NoContent, (await caller.Http.DeleteAsync($"api/scenes/{scene}/pictures/{kept["hash"]}")).StatusCode);
        Assert.DoesNotContain((await caller.Get($"api/scenes/{scene}/pictures")).AsArray(), p => (string)p!["hash"]! == (string)kept["hash"]!);
        Assert.Equal(HttpStatusCode.OK, (await caller.Http.GetAsync($"api/scenes/{scene}/pictures/{kept["hash"]}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await caller.Http.DeleteAsync($"api/scenes/{scene}/pictures/{kept["hash"]}")).StatusCode);
    }

    [Fact]
    public async Task A_material_with_a_picture_that_nobody_brought_in_is_refused_and_nothing_changes()
    {
        using var caller = server.NewCaller();
        var scene = (string)(await caller.Post("api/scenes", new { name = "Bare", like = "orrery-room" }))["id"]!;
        var before = (await caller.Get($"api/scenes/{scene}")).ToJsonString();
        var refused = await caller.Http.PostAsync($"api/scenes/{scene}/edits", Json(new { @base = 1, edits = new[] { new { @do = "material", name = "Ghost", like = new { textures = new[] { new { channel = "BaseColor", image = new string('d', 64) } } } } } }));
        Assert.Equal(HttpStatusCode.NotFound, refused.StatusCode);
        Assert.Contains("Bring it in first", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(before, (await caller.Get($"api/scenes/{scene}")).ToJsonString());
    }

    public static TheoryData<string, byte[], string> Bad
    {
        get
        {
            var png = Drawn(40, 40, SKEncodedImageFormat.Png);
            return new()
            {
                { "empty", [], "empty" },
                { "a text", "no picture at all"u8.ToArray(), "no picture" },
                { "cut short", png[..(png.Length / 2)], "damaged" },
                { "huge in a few bytes", Bomb(30_000, 30_000), "30000 × 30000" },
                { "a program", [0x7F, (byte)'E', (byte)'L', (byte)'F', 1, 2, 3], "no picture" },
                { "a drawing of another kind", "<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray(), "no picture" },
            };
        }
    }

    [Theory]
    [MemberData(nameof(Bad))]
    public void What_is_no_picture_is_refused_in_a_sentence(string what, byte[] bytes, string said)
    {
        var refusal = Assert.Throws<Core.Refusal>(() => ImageCheck.Read(bytes));
        Assert.True(refusal.Message.Contains(said, StringComparison.Ordinal), $"{what}: {refusal.Message}");
    }

    [Theory]
    [InlineData("png", "image/png")]
    [InlineData("jpeg", "image/jpeg")]
    [InlineData("webp", "image/jpeg")]
    public void Every_kind_is_kept_in_one_that_all_readers_of_glTF_take(string kind, string kept)
    {
        var image = ImageCheck.Read(Drawn(50, 20, kind switch { "png" => SKEncodedImageFormat.Png, "jpeg" => SKEncodedImageFormat.Jpeg, _ => SKEncodedImageFormat.Webp }));
        Assert.Equal((kept, 50, 20), (image.Blob.MediaType, image.Width, image.Height));
        using var back = SKBitmap.Decode(image.Blob.Bytes);
        Near(new(200, 40, 30), back.GetPixel(5, 5));
        Near(new(30, 60, 200), back.GetPixel(45, 15));
    }

    [Fact]
    public void What_lets_light_through_is_kept_as_it_is_and_reduced_when_asked()
    {
        using var bitmap = new SKBitmap(new SKImageInfo(80, 40, SKColorType.Rgba8888, SKAlphaType.Unpremul));
        bitmap.Erase(new SKColor(10, 200, 30, 128));
        var image = ImageCheck.Read(Encoded(bitmap, SKEncodedImageFormat.Webp, 100), side: 20);
        Assert.Equal(("image/png", 20, 10), (image.Blob.MediaType, image.Width, image.Height));
        using var back = SKBitmap.Decode(image.Blob.Bytes);
        Assert.InRange((int)back.GetPixel(10, 5).Alpha, 126, 130);
    }

    [Fact]
    public void A_picture_that_says_it_lies_on_its_side_is_turned_upright_and_says_nothing_more()
    {
        var jpeg = Drawn(60, 30, SKEncodedImageFormat.Jpeg);

        // Orientation 6: the top is on the right.
        var image = ImageCheck.Read(Saying(6, jpeg));
        Assert.Equal((30, 60), (image.Width, image.Height));
        using var back = SKBitmap.Decode(image.Blob.Bytes);
        Near(new(200, 40, 30), back.GetPixel(25, 5));
        Assert.False(image.Blob.Bytes.AsSpan().IndexOf("SecretDevice"u8) >= 0);
    }

    [Theory]
    [InlineData(1, "top", "left")]
    [InlineData(2, "top", "right")]
    [InlineData(3, "bottom", "right")]
    [InlineData(4, "bottom", "left")]
    [InlineData(5, "left", "top")]
    [InlineData(6, "right", "top")]
    [InlineData(7, "right", "bottom")]
    [InlineData(8, "left", "bottom")]
    public void Every_orientation_is_turned_as_the_standard_says(int orientation, string firstRow, string firstColumn)
    {
        // Of each of the four corners another colour, with sides that are no multiple of anything.
        SKColor[] corners = [new(200, 40, 30), new(30, 60, 200), new(40, 180, 60), new(220, 210, 60)];
        using var bitmap = new SKBitmap(new SKImageInfo(150, 70, SKColorType.Rgba8888, SKAlphaType.Opaque));
        for (var y = 0; y < 70; y++)
        {
            for (var x = 0; x < 150; x++)
            {
                bitmap.SetPixel(x, y, corners[(y < 35 ? 0 : 2) + (x < 75 ? 0 : 1)]);
            }
        }

        var image = ImageCheck.Read(Saying(orientation, Encoded(bitmap, SKEncodedImageFormat.Jpeg, 95)));
        var lying = firstRow is "left" or "right";
        Assert.Equal(lying ? (70, 150) : (150, 70), (image.Width, image.Height));
        using var back = SKBitmap.Decode(image.Blob.Bytes);
        (int X, int Y) At(bool lowRow, bool lowColumn)
        {
            int Along(string first, bool low, int size) => (first is "top" or "left") == low ? 5 : size - 6;
            var (row, column) = (Along(firstRow, lowRow, lying ? image.Width : image.Height), Along(firstColumn, lowColumn, lying ? image.Height : image.Width));
            return lying ? (row, column) : (column, row);
        }

        for (var i = 0; i < 4; i++)
        {
            var (x, y) = At(i < 2, i % 2 == 0);
            Near(corners[i], back.GetPixel(x, y));
        }
    }

    [Fact]
    public void A_picture_is_let_go_when_its_caller_has_gone() =>
        Assert.Throws<OperationCanceledException>(() => ImageCheck.Read(Saying(6, Drawn(60, 30, SKEncodedImageFormat.Jpeg)), null, new(canceled: true)));

    [Fact]
    public void What_is_too_large_is_reduced_while_it_is_read_or_refused_with_the_figure()
    {
        using var bitmap = new SKBitmap(new SKImageInfo(8_000, 5_200, SKColorType.Gray8, SKAlphaType.Opaque));
        var jpeg = Encoded(bitmap, SKEncodedImageFormat.Jpeg, 50);
        var image = ImageCheck.Read(jpeg);
        Assert.Equal((7_000, 4_550), (image.Width, image.Height));
        Assert.Contains("reduced from 8000 × 5200", Assert.Single(image.Notes), StringComparison.Ordinal);
        Assert.Equal(4L * 7_000 * 4_550, ImageCheck.Takes(new MemoryStream(jpeg)));

        var refused = Assert.Throws<Core.Refusal>(() => ImageCheck.Read(Png(8_192, 8_192, 8, 0, new byte[8_192 * 8_193])));
        Assert.Contains("67 million; of its kind at most 40 million", refused.Message, StringComparison.Ordinal);

        // It claims 8 192 pixels a side, and holds nothing of them.
        var small = Drawn(16, 16, SKEncodedImageFormat.Jpeg);
        var frame = small.AsSpan().IndexOf((ReadOnlySpan<byte>)[0xFF, 0xC0]);
        (small[frame + 5], small[frame + 6], small[frame + 7], small[frame + 8]) = (0x20, 0, 0x20, 0);
        Assert.Contains("cut short", Assert.Throws<Core.Refusal>(() => ImageCheck.Read(small)).Message, StringComparison.Ordinal);
        var whole = Drawn(400, 400, SKEncodedImageFormat.Jpeg);
        Assert.Contains("cut short", Assert.Throws<Core.Refusal>(() => ImageCheck.Read(whole[..(whole.Length - 40)])).Message, StringComparison.Ordinal);
    }

    /// <summary>A JPEG with an Exif segment right after the start: an orientation, and a name of a device.</summary>
    private static byte[] Saying(int orientation, byte[] jpeg)
    {
        byte[] exif = [.. "Exif\0\0"u8, .. "MM"u8, 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, (byte)orientation, 0, 0, 0, 0, 0, 0, .. "SecretDevice"u8];
        return [.. jpeg[..2], 0xFF, 0xE1, (byte)((exif.Length + 2) >> 8), (byte)(exif.Length + 2), .. exif, .. jpeg[2..]];
    }

    [Fact]
    public void A_moving_picture_gives_its_first_and_says_so()
    {
        // Two frames of one pixel each, in an animated WebP built from the parts of two still ones.
        var image = ImageCheck.Read(Animated());
        Assert.Equal((8, 8), (image.Width, image.Height));
        Assert.Contains("first", Assert.Single(image.Notes), StringComparison.Ordinal);
    }

    private static byte[] Animated()
    {
        static byte[] Chunk(string name, byte[] body) => [.. System.Text.Encoding.ASCII.GetBytes(name), .. BitConverter.GetBytes(body.Length), .. body, .. body.Length % 2 == 1 ? new byte[1] : []];
        static byte[] Frame()
        {
            var still = Drawn(8, 8, SKEncodedImageFormat.Webp);
            return Chunk("ANMF", [0, 0, 0, 0, 0, 0, 7, 0, 0, 7, 0, 0, 100, 0, 0, 0, .. still[12..]]);
        }

        byte[] body = [.. "WEBP"u8, .. Chunk("VP8X", [2, 0, 0, 0, 7, 0, 0, 7, 0, 0]), .. Chunk("ANIM", [0, 0, 0, 0, 0, 0]), .. Frame(), .. Frame()];
        return [.. "RIFF"u8, .. BitConverter.GetBytes(body.Length), .. body];
    }

    [Theory]
    [InlineData(16, 0, 2, 255)]
    [InlineData(8, 4, 2, 64)]
    [InlineData(16, 4, 4, 64)]
    public void Sixteen_bits_and_grey_with_and_without_alpha_are_taken(int depth, int type, int bytesEach, int alpha)
    {
        // Four by four pixels, each of a grey of 128, with the alpha where the kind has one.
        byte[] pixel = (depth, type) switch { (16, 0) => [128, 0], (8, 4) => [128, (byte)alpha], _ => [128, 0, (byte)alpha, 0] };
        Assert.Equal(bytesEach, pixel.Length);
        byte[] row = [0, .. Enumerable.Repeat(pixel, 4).SelectMany(p => p)];
        var image = ImageCheck.Read(Png(4, 4, depth, type, [.. Enumerable.Repeat(row, 4).SelectMany(r => r)]));
        using var back = SKBitmap.Decode(image.Blob.Bytes);
        Near(new(128, 128, 128), back.GetPixel(2, 2));
        Assert.InRange(back.GetPixel(2, 2).Alpha - alpha, -2, 2);
    }

    /// <summary>A PNG that says how large it is and holds next to nothing.</summary>
    private static byte[] Bomb(int width, int height) => Png(width, height, 8, 6, new byte[30_000 * 4 + 1]);

    private static byte[] Png(int width, int height, int depth, int type, byte[] rows)
    {
        static byte[] Big(int n) => [(byte)(n >> 24), (byte)(n >> 16), (byte)(n >> 8), (byte)n];
        static byte[] Chunk(string name, byte[] data)
        {
            byte[] told = [.. System.Text.Encoding.ASCII.GetBytes(name), .. data];
            var crc = 0xFFFFFFFFu;
            foreach (var b in told)
            {
                crc ^= b;
                for (var k = 0; k < 8; k++)
                {
                    crc = (crc >> 1) ^ ((crc & 1) != 0 ? 0xEDB88320u : 0);
                }
            }

            return [.. Big(data.Length), .. told, .. Big((int)~crc)];
        }

        using var packed = new MemoryStream();
        using (var z = new System.IO.Compression.ZLibStream(packed, System.IO.Compression.CompressionLevel.SmallestSize, leaveOpen: true))
        {
            z.Write(rows);
        }

        return [0x89, .. "PNG"u8, 0x0D, 0x0A, 0x1A, 0x0A, .. Chunk("IHDR", [.. Big(width), .. Big(height), (byte)depth, (byte)type, 0, 0, 0]), .. Chunk("IDAT", packed.ToArray()), .. Chunk("IEND", [])];
    }

    /// <summary>Left half red, right half blue.</summary>
    private static byte[] Drawn(int width, int height, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        for (var x = 0; x < width; x++)
        {
            for (var y = 0; y < height; y++)
            {
                bitmap.SetPixel(x, y, x < width / 2 ? new(200, 40, 30) : new(30, 60, 200));
            }
        }

        return Encoded(bitmap, format, 95);
    }

    private static byte[] Encoded(SKBitmap bitmap, SKEncodedImageFormat format, int quality)
    {
        using var image = SKImage.FromBitmap(bitmap);
        using var data = image.Encode(format, quality);
        return data.ToArray();
    }

    private static void Near(SKColor expected, SKColor found)
    {
        Assert.InRange(found.Red - expected.Red, -12, 12);
        Assert.InRange(found.Green - expected.Green, -12, 12);
        Assert.InRange(found.Blue - expected.Blue, -12, 12);
    }

    private static async Task<JsonNode> Bring(Caller caller, string scene, byte[] bytes, string name)
    {
        using var body = new ByteArrayContent(bytes);
        body.Headers.ContentType = new MediaTypeHeaderValue("image/png");
        var answer = await caller.Http.PostAsync($"api/scenes/{scene}/pictures?name={name}", body);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.StatusCode == HttpStatusCode.Created, text);
        return JsonNode.Parse(text)!;
    }

    private static async Task Edit(Caller caller, string scene, object edit) =>
        await caller.Post($"api/scenes/{scene}/edits", new { @base = (long)(await caller.Get($"api/scenes/{scene}"))["revision"]!, edits = new[] { edit } });

    private static StringContent Json(object body) => new(System.Text.Json.JsonSerializer.Serialize(body), System.Text.Encoding.UTF8, "application/json");
}
