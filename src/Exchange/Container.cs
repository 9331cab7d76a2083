using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using CalmPivot.Core;

namespace CalmPivot.Exchange;

/// <summary>
/// The outside of an upload, looked at before any of it is believed: what kind of file it is, where its description stands, and
/// which other files came along in the same upload. Nothing outside the upload is ever read, and nothing is unpacked beyond what is taken.
/// </summary>
/// <param name="Files">What the description names: in the same upload, in its own text, or behind it.</param>
internal sealed record Container(Description Description, IReadOnlyDictionary<string, byte[]> Files)
{
    /// <summary>The name by which a description names what lies behind it.</summary>
    private const string Behind = "behind-the-description";
    private const uint GlbMark = 0x46546C67;
    private const uint JsonChunk = 0x4E4F534A;
    private const uint BinChunk = 0x004E4942;
    private const int GlbHead = 20;
    private const int ChunkHead = 8;
    private const long MostUnpacked = 256L << 20;
    private const int MostEntries = 10_000;

    /// <summary>An archive may become so much and so many times its size: what unpacks to more was made for nothing else.</summary>
    private const long UnpackedAnyway = 32L << 20;
    private const long MostTimes = 32;

    /// <summary>How many bytes there are, all unpacked.</summary>
    public long Unpacked => Description.Json.Length + Files.Values.Sum(file => (long)file.Length);

    /// <summary>How large what an upload holds is once it is unpacked, and how much of that describes it; by what it says of itself.</summary>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static (long All, long Described) Look(Stream upload) => Kind(upload) switch
    {
        Outside.Glb => (upload.Length, LengthOfDescription(Head(upload, upload.Length))),
        Outside.Zip => Archived(upload, (entries, model, most) =>
        {
            using var from = model.Open();
            return (Math.Min(most, entries.Values.Sum(entry => entry.Length)), IsGlb(model) ? LengthOfDescription(Head(from, model.Length)) : model.Length);
        }),
        _ => (upload.Length, upload.Length),
    };

    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static Container Open(Stream upload) => Kind(upload) switch
    {
        Outside.Glb => OpenGlb(upload, upload.Length),
        Outside.Zip => Archived(upload, OpenZip),
        _ => Of(Exactly(upload, upload.Length), null, []),
    };

    private enum Outside
    {
        Glb,
        Zip,
        Text,
    }

    private static Outside Kind(Stream upload)
    {
        upload.Position = 0;
        Span<byte> first = stackalloc byte[256];
        first = first[..upload.ReadAtLeast(first, first.Length, throwOnEndOfStream: false)];
        upload.Position = 0;
        if (first.Length >= 4 && BinaryPrimitives.ReadUInt32LittleEndian(first) == GlbMark)
        {
            return Outside.Glb;
        }

        if (first.Length >= 4 && first.StartsWith("PK"u8))
        {
            return Outside.Zip;
        }

        var start = first.IndexOfAnyExcept<byte>([0xEF, 0xBB, 0xBF, (byte)' ', (byte)'\n', (byte)'\r', (byte)'\t']);
        return start >= 0 && first[start] == '{'
            ? Outside.Text
            : throw new Refusal(Refusals.UnsupportedFile, "This is no glTF file. Use a .glb, a .gltf with its data inside, or a .zip of a .gltf with its files.");
    }

    private static Container Of(ReadOnlySpan<byte> text, byte[]? behind, Dictionary<string, byte[]> files)
    {
        var start = Math.Max(0, text.IndexOf((byte)'{'));
        var description = Description.Of(text[start..], behind is null ? null : Behind);
        foreach (var (name, data) in description.Data)
        {
            files[name] = data;
        }

        if (behind is not null)
        {
            files[Behind] = behind;
        }

        return new(description, files);
    }

    private static byte[] Head(Stream glb, long there)
    {
        if (there < GlbHead)
        {
            throw Broken("it ends in its first lines");
        }

        var head = Exactly(glb, GlbHead);
        if (At(head, 4) != 2)
        {
            throw new Refusal(Refusals.UnsupportedFile, $"This file is glTF version {At(head, 4)}; version 2 can be read. Export it again as glTF 2.0.");
        }

        if (At(head, 8) != there)
        {
            throw Broken(At(head, 8) > there ? "its end is missing" : "it is longer than it says");
        }

        return At(head, 16) == JsonChunk && At(head, 12) <= there - GlbHead ? head : throw Broken("its description is missing");
    }

    private static uint At(byte[] bytes, int offset) => BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan(offset));

    private static long LengthOfDescription(byte[] head) => At(head, 12);

    private static Container OpenGlb(Stream glb, long there)
    {
        var length = LengthOfDescription(Head(glb, there));
        var text = Exactly(glb, length);
        var left = there - GlbHead - length;
        if (left < ChunkHead)
        {
            return Of(text, null, []);
        }

        var head = Exactly(glb, ChunkHead);
        return At(head, 0) <= left - ChunkHead ? Of(text, At(head, 4) == BinChunk ? Exactly(glb, At(head, 0)) : null, []) : throw Broken("its end is missing");
    }

    /// <summary>Unpacks the one model of an archive and the files that it names, nothing else.</summary>
    private static Container OpenZip(Dictionary<string, ZipArchiveEntry> entries, ZipArchiveEntry model, long most)
    {
        var left = most;

        // By what an entry says that it holds: less is damage, and more is not looked at.
        byte[] Unpack(ZipArchiveEntry entry)
        {
            Take(entry);
            using var from = entry.Open();
            return Exactly(from, entry.Length);
        }

        void Take(ZipArchiveEntry entry)
        {
            left -= entry.Length;
            if (left < 0)
            {
                throw new Refusal(Refusals.TooLarge, $"What the archive holds of the scene unpacks to more than {most >> 20} MB, which is the most for one of its size. Send less at once.");
            }
        }

        Container OpenBinary()
        {
            Take(model);
            using var from = model.Open();
            return OpenGlb(from, model.Length);
        }

        var alone = IsGlb(model) ? OpenBinary() : Of(Unpack(model), null, []);
        var (name, files) = (model.FullName.Replace('\\', '/'), new Dictionary<string, byte[]>(alone.Files, StringComparer.Ordinal));
        foreach (var named in Inspection.FilesOf(alone.Description.WithoutNodes))
        {
            if (!files.ContainsKey(named) && entries.TryGetValue(name[..(name.LastIndexOf('/') + 1)] + named, out var entry))
            {
                files[named] = Unpack(entry);
            }
        }

        return alone with { Files = files };
    }

    private static bool IsGlb(ZipArchiveEntry entry) => entry.FullName.EndsWith(".glb", StringComparison.OrdinalIgnoreCase);

    /// <summary>Does something with an archive: its files by name, its one model, and how much may be unpacked of it.</summary>
    private static T Archived<T>(Stream upload, Func<Dictionary<string, ZipArchiveEntry>, ZipArchiveEntry, long, T> act)
    {
        try
        {
            using var zip = new ZipArchive(upload, ZipArchiveMode.Read, leaveOpen: true, Encoding.UTF8);
            if (zip.Entries.Count > MostEntries)
            {
                throw new Refusal(Refusals.TooLarge, $"The archive holds {zip.Entries.Count} files; at most {MostEntries} are read.");
            }

            var entries = new Dictionary<string, ZipArchiveEntry>(StringComparer.Ordinal);
            foreach (var entry in zip.Entries.Where(e => !e.FullName.EndsWith('/')))
            {
                entries[entry.FullName.Replace('\\', '/')] = entry;
            }

            var models = entries.Values.Where(e => IsGlb(e) || e.FullName.EndsWith(".gltf", StringComparison.OrdinalIgnoreCase)).ToList();
            if (models.Count != 1)
            {
                throw new Refusal(Refusals.UnsupportedFile, $"The archive holds {models.Count} glTF files; it must hold just one.");
            }

            return act(entries, models[0], Math.Min(MostUnpacked, UnpackedAnyway + MostTimes * upload.Length));
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException or NotSupportedException or OverflowException)
        {
            throw Broken("the archive is damaged");
        }
    }

    /// <summary>So many bytes, as an array that grows with what comes, so that a claim alone takes nothing.</summary>
    private static byte[] Exactly(Stream from, long count)
    {
        const int atOnce = 1 << 20;
        var bytes = new byte[Math.Min(count, atOnce)];
        var read = 0;
        while (true)
        {
            read += from.ReadAtLeast(bytes.AsSpan(read), bytes.Length - read, throwOnEndOfStream: false);
            if (read < bytes.Length)
            {
                throw Broken("its end is missing");
            }

            if (read == count)
            {
                return bytes;
            }

            Array.Resize(ref bytes, (int)(from.CanSeek ? count : Math.Min(count, 4L * read)));
        }
    }

    internal static Refusal Broken(string why) => new(Refusals.BrokenFile, $"The file is damaged: {why}. Export it again.");

    internal static JsonDocument Parse(byte[] json)
    {
        try
        {
            return JsonDocument.Parse(json.AsMemory(), new() { MaxDepth = 64 });
        }
        catch (JsonException)
        {
            throw Broken("its description cannot be read");
        }
    }
}
