using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using CalmPivot.Core;

namespace CalmPivot.Exchange;

/// <summary>
/// The outside of an upload, looked at before any of it is believed: what kind of file it is, where its JSON stands, and
/// which other files came along in the same upload. Nothing outside the upload is ever read.
/// </summary>
internal sealed record Container(byte[] Json, byte[]? Glb, IReadOnlyDictionary<string, byte[]> Files)
{
    private const uint GlbMark = 0x46546C67;
    private const uint JsonChunk = 0x4E4F534A;
    private const long MostUnpacked = 512L * 1024 * 1024;
    private const int MostEntries = 10_000;

    private static readonly Dictionary<string, byte[]> NoFiles = [];

    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static Container Open(byte[] upload)
    {
        if (upload.Length >= 4 && BinaryPrimitives.ReadUInt32LittleEndian(upload) == GlbMark)
        {
            return OpenGlb(upload, NoFiles);
        }

        if (upload.Length >= 4 && upload[0] == 'P' && upload[1] == 'K')
        {
            return OpenZip(upload);
        }

        var start = upload.AsSpan().IndexOfAnyExcept<byte>([0xEF, 0xBB, 0xBF, (byte)' ', (byte)'\n', (byte)'\r', (byte)'\t']);
        if (start >= 0 && upload[start] == '{')
        {
            return new(upload[start..], null, NoFiles);
        }

        throw new Refusal(Refusals.UnsupportedFile, "This is no glTF file. Use a .glb, a .gltf with its data inside, or a .zip of a .gltf with its files.");
    }

    private static Container OpenGlb(byte[] glb, Dictionary<string, byte[]> files)
    {
        if (glb.Length < 20)
        {
            throw Broken("it ends in its first lines");
        }

        uint At(int offset) => BinaryPrimitives.ReadUInt32LittleEndian(glb.AsSpan(offset));
        if (At(4) != 2)
        {
            throw new Refusal(Refusals.UnsupportedFile, $"This file is glTF version {At(4)}; version 2 can be read. Export it again as glTF 2.0.");
        }

        if (At(8) != glb.Length)
        {
            throw Broken(At(8) > glb.Length ? "its end is missing" : "it is longer than it says");
        }

        var length = At(12);
        if (At(16) != JsonChunk || length > glb.Length - 20)
        {
            throw Broken("its description is missing");
        }

        return new(glb[20..(20 + (int)length)], glb, files);
    }

    /// <summary>Unpacks the one model of an archive and the files that it names, nothing else.</summary>
    private static Container OpenZip(byte[] upload)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(upload), ZipArchiveMode.Read, leaveOpen: false, Encoding.UTF8);
            if (zip.Entries.Count > MostEntries)
            {
                throw new Refusal(Refusals.TooLarge, $"The archive holds {zip.Entries.Count} files; at most {MostEntries} are read.");
            }

            var entries = new Dictionary<string, ZipArchiveEntry>(StringComparer.Ordinal);
            foreach (var entry in zip.Entries.Where(e => !e.FullName.EndsWith('/')))
            {
                entries[entry.FullName.Replace('\\', '/')] = entry;
            }

            var models = entries.Keys.Where(n => n.EndsWith(".gltf", StringComparison.OrdinalIgnoreCase) || n.EndsWith(".glb", StringComparison.OrdinalIgnoreCase)).ToList();
            if (models.Count != 1)
            {
                throw new Refusal(Refusals.UnsupportedFile, $"The archive holds {models.Count} glTF files; it must hold just one.");
            }

            var left = MostUnpacked;
            var model = Unpack(entries[models[0]], ref left);
            var folder = models[0][..(models[0].LastIndexOf('/') + 1)];
            var alone = models[0].EndsWith(".glb", StringComparison.OrdinalIgnoreCase) ? OpenGlb(model, NoFiles) : new Container(model, null, NoFiles);
            var files = new Dictionary<string, byte[]>(StringComparer.Ordinal);
            foreach (var name in Inspection.FilesOf(alone.Json))
            {
                if (entries.TryGetValue(folder + name, out var entry))
                {
                    files[name] = Unpack(entry, ref left);
                }
            }

            return alone with { Files = files };
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException or NotSupportedException)
        {
            throw Broken("the archive is damaged");
        }
    }

    /// <summary>Unpacks by what comes out, not by what the archive says about itself.</summary>
    private static byte[] Unpack(ZipArchiveEntry entry, ref long left)
    {
        using var from = entry.Open();

        // What it says of its size is a good beginning, where it is not more than its packed bytes can hold.
        var said = Math.Clamp(Math.Min(entry.Length, 1_100 * entry.CompressedLength), 0, left);
        using var to = new MemoryStream((int)said);
        var buffer = new byte[81920];
        int read;
        while ((read = from.Read(buffer)) > 0)
        {
            left -= read;
            if (left < 0)
            {
                throw new Refusal(Refusals.TooLarge, $"The archive unpacks to more than {MostUnpacked / (1024 * 1024)} MB. Send less at once.");
            }

            to.Write(buffer, 0, read);
        }

        return to.Length == to.Capacity ? to.GetBuffer() : to.ToArray();
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
