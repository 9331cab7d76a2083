using System.Buffers;
using System.Buffers.Text;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core;

namespace CalmPivot.Exchange;

/// <summary>
/// The JSON of a glTF file without what makes it large: data that lies in it as text is taken out into files of its own, and of the objects at the top of a scene
/// only the first stays, since the library looks for each of them among the children of all. Extras of objects are read one after the other, when they are asked for.
/// What it says elsewhere is left to the letter.
/// </summary>
internal sealed class Description
{
    private const int MostTokens = 24_000_000;
    private const long MostBytes = 128L << 20;
    private const int MostDepth = 64;

    private readonly byte[] _extras;
    private readonly (int Start, int Length)[] _extrasOf;

    private Description(byte[] json, byte[] apart, Dictionary<string, byte[]> data, byte[] extras, Walked found)
    {
        (Json, WithoutNodes, Data, Tops, Children, _extras) = (json, apart, data, found.Tops, found.Children, extras);
        _extrasOf = new (int, int)[found.Children.Count];
        var at = 0;
        foreach (var cut in found.Extras)
        {
            _extrasOf[cut.Node] = (at, cut.End - cut.Start);
            at += cut.End - cut.Start;
        }
    }

    /// <summary>As the library reads it.</summary>
    public byte[] Json { get; }

    /// <summary>The same without its objects, which there may be more of than of all else.</summary>
    public byte[] WithoutNodes { get; }

    /// <summary>How many bytes objects carry in their extras.</summary>
    public long ExtrasBytes => _extras.Length;

    /// <summary>Of each object its children; −1: something that is no number.</summary>
    public IReadOnlyList<int[]> Children { get; }

    /// <summary>The extras of an object, read anew each time; null: it has none.</summary>
    public JsonObject? ExtrasOf(int node)
    {
        var (start, length) = _extrasOf[node];
        return length == 0 ? null : JsonNode.Parse(_extras.AsSpan(start, length), documentOptions: new() { MaxDepth = MostDepth }) as JsonObject;
    }

    /// <summary>What lay in the text, by the names that stand for it now.</summary>
    public IReadOnlyDictionary<string, byte[]> Data { get; }

    /// <summary>Of each scene the objects at its top.</summary>
    public IReadOnlyList<IReadOnlyList<int>> Tops { get; }

    /// <param name="behind">The name of what lies behind the description, which the first buffer means where it names nothing; null: nothing does.</param>
    /// <exception cref="Refusal">broken-file, too-large.</exception>
    public static Description Of(ReadOnlySpan<byte> text, string? behind)
    {
        var found = Walk(text, behind is not null);
        var data = new Dictionary<string, byte[]>(StringComparer.Ordinal);
        var names = new Dictionary<int, byte[]>();
        foreach (var cut in found.Cuts.Where(cut => cut.What != Part.Tops))
        {
            var name = cut.What == Part.Name ? behind! : $"inside-{data.Count}";
            names[cut.Start] = Encoding.UTF8.GetBytes(cut.What == Part.Name ? $",\"uri\":\"{name}\"" : $"\"{name}\"");
            if (cut.What == Part.Data)
            {
                data[name] = Decoded(text[cut.Start..cut.End]);
            }
        }

        using MemoryStream json = new(), apart = new(), extras = new(found.Extras.Sum(cut => cut.End - cut.Start));
        Splice(text, found.Cuts.Concat(found.Extras), names, json);
        Splice(text, found.Cuts.Append(found.Nodes), names, apart);
        foreach (var cut in found.Extras)
        {
            extras.Write(text[cut.Start..cut.End]);
        }

        return new(json.ToArray(), apart.ToArray(), data, extras.GetBuffer(), found);
    }

    /// <summary>Writes a text without some parts of it, of which some have a name instead.</summary>
    private static void Splice(ReadOnlySpan<byte> text, IEnumerable<Cut> cuts, Dictionary<int, byte[]> names, MemoryStream into)
    {
        var from = 0;
        foreach (var cut in cuts.Where(cut => cut.What != Part.None).OrderBy(cut => cut.Start))
        {
            into.Write(text[from..cut.Start]);
            if (cut.What == Part.Extras)
            {
                into.Write("null"u8);
            }
            else if (names.TryGetValue(cut.Start, out var name))
            {
                into.Write(name);
            }

            from = cut.End;
        }

        into.Write(text[from..]);
    }

    /// <summary>What is left out of the text, or left to be said.</summary>
    private enum Part
    {
        None,
        Tops,
        Data,
        Name,
        Nodes,
        Extras,
    }

    private readonly record struct Cut(int Start, int End, Part What, int Node = 0);

    private sealed record Walked(List<Cut> Cuts, List<List<int>> Tops, List<int[]> Children, List<Cut> Extras, Cut Nodes);

    private static Walked Walk(ReadOnlySpan<byte> text, bool isBehind)
    {
        var (cuts, tops, children, extras) = (new List<Cut>(), new List<List<int>>(), new List<int[]>(), new List<Cut>());
        Cut nodes = default;
        var reader = new Utf8JsonReader(text, new() { MaxDepth = MostDepth });
        try
        {
            var (part, buffer, named, tokens) = ("", -1, false, 0L);
            while (reader.Read())
            {
                if (++tokens > MostTokens)
                {
                    throw TooLong();
                }

                var (isName, depth) = (reader.TokenType == JsonTokenType.PropertyName, reader.CurrentDepth);
                if (isName && depth == 1)
                {
                    part = reader.ValueTextEquals("buffers") ? "buffers" : reader.ValueTextEquals("images") ? "images" : reader.ValueTextEquals("scenes") ? "scenes" : reader.ValueTextEquals("nodes") ? "nodes" : "";
                }
                else if (part == "nodes")
                {
                    nodes = ReadNodes(ref reader, children, extras, ref tokens);
                    part = "";
                }
                else if (reader.TokenType == JsonTokenType.StartObject && depth == 2)
                {
                    (buffer, named) = (part == "buffers" ? buffer + 1 : buffer, false);
                    if (part == "scenes")
                    {
                        tops.Add([]);
                    }
                }
                else if (part is "buffers" or "images" && isName && depth == 3 && reader.ValueTextEquals("uri"))
                {
                    reader.Read();
                    named = true;
                    if (reader.TokenType == JsonTokenType.String && reader.ValueSpan.StartsWith("data:"u8))
                    {
                        cuts.Add(new((int)reader.TokenStartIndex, (int)reader.BytesConsumed, Part.Data));
                    }
                }
                else if (part == "buffers" && reader.TokenType == JsonTokenType.EndObject && depth == 2 && buffer == 0 && !named && isBehind)
                {
                    cuts.Add(new((int)reader.TokenStartIndex, (int)reader.TokenStartIndex, Part.Name));
                }
                else if (part == "scenes" && isName && depth == 3 && reader.ValueTextEquals("nodes") && tops.Count > 0)
                {
                    ReadTops(ref reader, tops[^1], cuts);
                }
            }
        }
        catch (JsonException)
        {
            throw Container.Broken("its description cannot be read");
        }

        var left = text.Length - cuts.Where(cut => cut.What == Part.Data).Sum(cut => (long)cut.End - cut.Start);
        return left <= MostBytes ? new(cuts, tops, children, extras, nodes) : throw TooLong();
    }

    /// <summary>Reads the list of objects for their children.</summary>
    /// <returns>Where they stand.</returns>
    private static Cut ReadNodes(ref Utf8JsonReader reader, List<int[]> children, List<Cut> extras, ref long tokens)
    {
        var (start, depth) = ((int)reader.BytesConsumed, reader.CurrentDepth);
        if (reader.TokenType != JsonTokenType.StartArray || children.Count > 0)
        {
            throw Container.Broken("its tree of objects contradicts itself");
        }

        List<int> own = [];
        while (reader.Read() && reader.CurrentDepth > depth)
        {
            if (++tokens > MostTokens)
            {
                throw TooLong();
            }

            if (reader.CurrentDepth == depth + 1 && reader.TokenType is not (JsonTokenType.StartObject or JsonTokenType.EndObject))
            {
                throw Container.Broken("its tree of objects contradicts itself");
            }

            if (reader.CurrentDepth == depth + 1 && reader.TokenType == JsonTokenType.EndObject)
            {
                children.Add([.. own]);
                own.Clear();
            }
            else if (reader.CurrentDepth == depth + 2 && reader.TokenType == JsonTokenType.PropertyName && reader.ValueTextEquals("children"))
            {
                reader.Read();
                if (reader.TokenType == JsonTokenType.StartArray)
                {
                    while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
                    {
                        own.Add(reader.TokenType == JsonTokenType.Number && reader.TryGetInt32(out var child) ? child : -1);
                        tokens++;
                    }
                }
            }
            else if (reader.CurrentDepth == depth + 2 && reader.TokenType == JsonTokenType.PropertyName && reader.ValueTextEquals("extras"))
            {
                reader.Read();
                var from = (int)reader.TokenStartIndex;
                if (reader.TokenType == JsonTokenType.StartObject)
                {
                    reader.Skip();
                    extras.Add(new(from, (int)reader.BytesConsumed, Part.Extras, children.Count));
                }
            }
        }

        return new(start, (int)reader.TokenStartIndex, Part.Nodes);
    }

    /// <summary>Reads a list of objects, all but the first of which are left out.</summary>
    private static void ReadTops(ref Utf8JsonReader reader, List<int> tops, List<Cut> cuts)
    {
        if (!reader.Read() || reader.TokenType != JsonTokenType.StartArray)
        {
            throw Container.Broken("its tree of objects contradicts itself");
        }

        var first = 0;
        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
        {
            tops.Add(reader.TokenType == JsonTokenType.Number && reader.TryGetInt32(out var node) ? node : -1);
            first = first == 0 ? (int)reader.BytesConsumed : first;
            if (tops.Count > Core.Scene.SceneDocument.MostNodes || tops[^1] < 0)
            {
                throw Container.Broken("its tree of objects contradicts itself");
            }
        }

        if (tops.Count > 1)
        {
            cuts.Add(new(first, (int)reader.TokenStartIndex, Part.Tops));
        }
    }

    private static byte[] Decoded(ReadOnlySpan<byte> token)
    {
        // In quotes; a slash may be escaped.
        var uri = token[1..^1];
        if (uri.Contains((byte)'\\'))
        {
            uri = Encoding.UTF8.GetBytes(JsonSerializer.Deserialize<string>(token)!);
        }

        var comma = uri.IndexOf((byte)',');
        if (comma < 0 || !uri[..comma].EndsWith(";base64"u8))
        {
            throw Container.Broken("data inside it cannot be read");
        }

        var bytes = new byte[Base64.GetMaxDecodedFromUtf8Length(uri.Length - comma - 1)];
        return Base64.DecodeFromUtf8(uri[(comma + 1)..], bytes, out _, out var written) == OperationStatus.Done
            ? written == bytes.Length ? bytes : bytes[..written]
            : throw Container.Broken("data inside it cannot be read");
    }

    private static Refusal TooLong() => new(
        Refusals.TooLarge, $"The file describes more than is read at once ({MostBytes >> 20} MB of description, or {MostTokens / 1_000_000} million words of it). Split it into smaller files.");
}
