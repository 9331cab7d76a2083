using System.Collections.Concurrent;
using System.Reflection;
using System.Text.Json;
using CalmPivot.Core.Json;
using ZstdSharp;

namespace CalmPivot.Server.Store;

/// <summary>
/// JSON as the rows of nodes and of the log hold it: Zstandard (RFC 8878) with a dictionary of what such rows have in common, since
/// most of them are short. The first byte says which dictionary. A dictionary is never changed: rows are read by it for years.
/// </summary>
internal static class Packed
{
    /// <summary>JSON as it is: so short that packing it would save nothing worth its time.</summary>
    private const byte Plain = 0;

    private const int MostPlain = 80;

    /// <summary>Trained on rows of the demo, of imported files and of random scenes.</summary>
    private const byte First = 1;

    /// <summary>Beyond this the server's memory would be at the mercy of a damaged row.</summary>
    private const int MostBytes = 1 << 30;

    private const int Level = 3;

    private static readonly byte[] Dictionary = Read($"Packed.{First}.zdict");
    private static readonly ConcurrentBag<Compressor> Compressors = [];
    private static readonly ConcurrentBag<Decompressor> Decompressors = [];

    public static byte[] Of<T>(T value) => Pack(JsonSerializer.SerializeToUtf8Bytes(value, StoreJson.Writing.Of<T>()));

    private static byte[] Pack(byte[] json)
    {
        if (json.Length <= MostPlain)
        {
            return [Plain, .. json];
        }

        if (!Compressors.TryTake(out var compressor))
        {
            compressor = new(Level);
            compressor.LoadDictionary(Dictionary);
        }

        var packed = new byte[1 + Compressor.GetCompressBound(json.Length)];
        packed[0] = First;
        var length = compressor.Wrap(json, packed.AsSpan(1));
        Compressors.Add(compressor);
        Array.Resize(ref packed, 1 + length);
        return packed;
    }

    /// <summary>The JSON itself.</summary>
    public static string TextOf(byte[] packed) => As(packed, json => System.Text.Encoding.UTF8.GetString(json));

    public static T As<T>(byte[] packed) => As(packed, json => JsonSerializer.Deserialize(json, StoreJson.Reading.Of<T>())!);

    private delegate T Reading<T>(ReadOnlySpan<byte> json);

    private static T As<T>(byte[] packed, Reading<T> read)
    {
        if (packed is [Plain, .. var plain])
        {
            return read(plain);
        }

        if (packed is not [First, ..])
        {
            throw new InvalidDataException("A row was packed by a later version.");
        }

        if (!Decompressors.TryTake(out var decompressor))
        {
            decompressor = new();
            decompressor.LoadDictionary(Dictionary);
        }

        var json = decompressor.Unwrap(packed.AsSpan(1), MostBytes);
        var value = read(json);
        Decompressors.Add(decompressor);
        return value;
    }

    private static byte[] Read(string name)
    {
        var assembly = Assembly.GetExecutingAssembly();
        using var stream = assembly.GetManifestResourceStream(assembly.GetManifestResourceNames().Single(n => n.EndsWith(name, StringComparison.Ordinal)))!;
        using var bytes = new MemoryStream();
        stream.CopyTo(bytes);
        return bytes.ToArray();
    }
}
