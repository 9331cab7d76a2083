using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Scene;

/// <summary>
/// A material, named by its id or said in full: <c>"brass"</c>, <c>{"name":"Brass","color":"#C99A4E"}</c>. One that is said stands for the material of
/// the scene whose id is the hash of what it says.
/// </summary>
/// <param name="Said">Null: it is named.</param>
[JsonConverter(typeof(MaterialChoiceConverter))]
public sealed record MaterialChoice(string Id, Material? Said = null)
{
    public static MaterialChoice Of(Surface surface, string name = "")
    {
        var id = Material.IdOf(surface, name);
        return new(id, new(id, name) { Surface = surface });
    }

    internal static MaterialChoice Read(ref Utf8JsonReader reader, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.String)
        {
            return new(reader.GetString()!);
        }

        if (reader.TokenType != JsonTokenType.StartObject)
        {
            throw new JsonException("A material belongs here: its id, or what it is like.");
        }

        var (said, read) = (new Material("", ""), 0ul);
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var name = reader.GetString()!;
            reader.Read();

            // One that is said has no place in a list.
            if (name == "rank" || !MaterialFields.Table.Read(name, ref reader, ref said, ref read, options))
            {
                if (options.UnmappedMemberHandling == JsonUnmappedMemberHandling.Disallow)
                {
                    throw new JsonException($"There is no {name} here, or not twice.");
                }

                _ = reader.TrySkip();
            }
        }

        return Of(said.Surface, said.Name.Trim());
    }

    internal sealed class MaterialChoiceConverter : JsonConverter<MaterialChoice>
    {
        public override MaterialChoice Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => MaterialChoice.Read(ref reader, options);

        public override void Write(Utf8JsonWriter writer, MaterialChoice value, JsonSerializerOptions options)
        {
            ArgumentNullException.ThrowIfNull(writer);
            ArgumentNullException.ThrowIfNull(value);
            if (value.Said is not { } said)
            {
                writer.WriteStringValue(value.Id);
                return;
            }

            writer.WriteStartObject();
            MaterialFields.Table.Write(writer, said, Entities.PartsOf.Every & ~(Entities.Parts.Existence | Entities.Parts.Seat), options);
            writer.WriteEndObject();
        }
    }
}
