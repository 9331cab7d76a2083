using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using CalmPivot.Core.Json;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests;

/// <summary>
/// Random texts of any type that travels as JSON, made from what the reader itself says of the type: whole ones, and partial
/// ones in which any field may be missing. Numbers are whole, so that a text is the same however it is written.
/// </summary>
internal sealed class RandomJson(JsonSerializerOptions options, int seed, double leaveOut)
{
    private readonly Random _random = new(seed);
    private int _depth;

    public JsonNode? Of(Type type)
    {
        if (Nullable.GetUnderlyingType(type) is { } inner)
        {
            return Of(inner);
        }

        var info = options.GetTypeInfo(type);
        return info.Kind switch
        {
            _ when type == typeof(NodeData) => Fields(NodeFields.Table),
            _ when type == typeof(EntityData) => _random.Next(2) == 0 ? Fields(NodeFields.Table) : Fields(CollectionFields.Table, "collection"),
            JsonTypeInfoKind.Object => OfObject(info),
            JsonTypeInfoKind.Enumerable => new JsonArray([.. Enumerable.Range(0, _random.Next(1, 3)).Select(_ => Of(info.ElementType!))]),
            JsonTypeInfoKind.Dictionary => new JsonObject { ["key"] = Of(info.ElementType!) },
            _ => OfValue(type),
        };
    }

    /// <summary>The types that stand for an abstract one, by their words.</summary>
    public static IEnumerable<(string Word, Type Type)> Kinds(JsonTypeInfo info) =>
        info.PolymorphismOptions?.DerivedTypes.Select(d => ((string)d.TypeDiscriminator!, d.DerivedType)) ?? [];

    /// <summary>All types that can travel within others.</summary>
    public static HashSet<Type> Within(JsonSerializerOptions options, params Type[] types)
    {
        var all = new HashSet<Type>();
        var next = new Stack<Type>(types);
        while (next.TryPop(out var type))
        {
            if (!all.Add(type))
            {
                continue;
            }

            var info = options.GetTypeInfo(type);
            var fields = type == typeof(NodeData) ? NodeFields.Table.All.SelectMany(f => f.Written).Select(w => w.Type)
                : type == typeof(EntityData) ? CollectionFields.Table.All.SelectMany(f => f.Written).Select(w => w.Type).Append(typeof(NodeData))
                : [];
            foreach (var inner in info.Properties.Select(p => p.PropertyType).Concat(fields).Concat(Kinds(info).Select(k => k.Type)).Append(info.ElementType).Append(Nullable.GetUnderlyingType(type)))
            {
                if (inner is not null && inner != typeof(Shape) && inner != typeof(Constraint) && inner != typeof(Up))
                {
                    next.Push(inner);
                }
            }
        }

        return all;
    }

    /// <summary>Fields that may be left out when writing and are asked for when reading.</summary>
    public static IEnumerable<string> AskedForInVain(JsonSerializerOptions options, params Type[] types) =>
        from type in Within(options, types)
        from property in options.GetTypeInfo(type).Properties
        let given = property.AssociatedParameter
        where given is { HasDefaultValue: false, IsMemberInitializer: false }
            && property.IsGetNullable && (!property.PropertyType.IsValueType || Nullable.GetUnderlyingType(property.PropertyType) is not null)
        select $"{type.Name}.{property.Name}";

    /// <summary>A text of one of the kinds of an abstract type.</summary>
    public JsonObject OfKind(JsonTypeInfo info, string word)
    {
        var type = Kinds(info).Single(k => k.Word == word).Type;
        var text = new JsonObject { [info.PolymorphismOptions!.TypeDiscriminatorPropertyName] = word };
        Fill(text, options.GetTypeInfo(type));
        return text;
    }

    /// <summary>A text of a thing that is written by the table of its fields; of two ways to say the same one is taken.</summary>
    public JsonObject Fields<T>(Fields<T> table, string? kind = null)
        where T : Entity
    {
        var text = new JsonObject { ["id"] = Of(typeof(string)) };
        foreach (var field in table.All)
        {
            var (name, type) = field.Written[_random.Next(field.Written.Count)];
            if (_random.NextDouble() >= leaveOut)
            {
                text[name] = Of(type);
            }
        }

        if (kind is not null)
        {
            text["kind"] = kind;
        }

        return text;
    }

    private JsonObject OfObject(JsonTypeInfo info)
    {
        if (info.PolymorphismOptions is not null)
        {
            var kinds = Kinds(info).ToArray();
            return OfKind(info, kinds[_random.Next(kinds.Length)].Word);
        }

        var text = new JsonObject();
        Fill(text, info);
        return text;
    }

    private void Fill(JsonObject text, JsonTypeInfo info)
    {
        _depth++;
        foreach (var property in info.Properties)
        {
            if (property.AttributeProvider?.IsDefined(typeof(System.Text.Json.Serialization.JsonIgnoreAttribute), true) == true && property.Get is null)
            {
                continue;
            }

            var given = property.CustomConverter switch
            {
                AxisConverter => new JsonArray(1, _random.Next(5), 0),
                Edits.RepeatsConverter => new JsonArray(new JsonObject { ["do"] = "move", ["by"] = new JsonArray(1, 0, 0), ["space"] = new JsonObject { ["kind"] = "own" } }),
                _ => _depth > 5 ? null : Of(property.PropertyType),
            };
            if (given is not null && _random.NextDouble() >= leaveOut)
            {
                text[property.Name] = given;
            }
        }

        _depth--;
    }

    private JsonNode OfValue(Type type)
    {
        if (type.IsEnum)
        {
            var name = Enum.GetNames(type)[_random.Next(Enum.GetNames(type).Length)];
            return type == typeof(EulerOrder) ? name : JsonNamingPolicy.CamelCase.ConvertName(name);
        }

        return type switch
        {
            _ when type == typeof(string) => "#A0B0C" + _random.Next(10),
            _ when type == typeof(char) => "xyz"[_random.Next(3)].ToString(),
            _ when type == typeof(bool) => _random.Next(2) == 0,
            _ when type == typeof(Uv) => new JsonArray(_random.Next(1, 9), 1 + _random.Next(9) / 8.0),
            _ when type == typeof(Color) => JsonNode.Parse(WireJson.Write(AnyEdit.AnyColor(_random)))!,
            _ when type == typeof(MaterialChoice) => _random.Next(2) == 0 ? "brass" : JsonNode.Parse(WireJson.Write(MaterialChoice.Of(AnyEdit.AnySurface(_random), "Stuff")))!,
            _ when type == typeof(Vec3) => new JsonArray(_random.Next(1, 90), _random.Next(1, 90), _random.Next(1, 90)),
            _ when type == typeof(Affine) => new JsonArray(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, _random.Next(90), 2, 3, 1),
            _ when type == typeof(Shape) => new JsonObject { ["type"] = "ball", ["radius"] = _random.Next(1, 9) },
            _ when type == typeof(Up) => _random.Next(2) == 0 ? "least" : new JsonObject { ["world"] = "+y" },
            _ when type == typeof(Constraint) => JsonNode.Parse(WireJson.Write<Constraint>(SomeConstraint()))!,
            _ when type == typeof(byte[]) => Convert.ToBase64String([1, 2, (byte)_random.Next(9)]),
            _ when type == typeof(Guid) => Guid.NewGuid().ToString(),
            _ => _random.Next(1, 60),
        };
    }

    /// <summary>Of any kind, with an id of its own.</summary>
    private Constraint SomeConstraint()
    {
        while (true)
        {
            try
            {
                var patch = AnyConstraint.Of(_random, _ => "node" + _random.Next(9), () => "node" + _random.Next(9));
                return Constraint.Made(patch with { Id = "c" + _random.Next(1_000_000) });
            }
            catch (Refusal)
            {
                // A mask that does not fit, say.
            }
        }
    }
}
