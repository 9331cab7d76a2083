using System.Reflection;
using System.Runtime.CompilerServices;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using CalmPivot.Browser;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Wire;

namespace CalmPivot.Core.Tests;

/// <summary>
/// What the page is told of the bridge: all that its context of JSON lists, as a document that types are generated from, and
/// the numbers whose places and bits are named by an enumeration. The core writes every field of an answer, so that all are there.
/// </summary>
public class BridgeTypes
{
    private static readonly JsonSerializerOptions Options = WireJson.With(BridgeJson.Default);
    private static readonly JsonSerializerOptions Neat = new() { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Numbers by name, which go as such.</summary>
    private static readonly Type[] Named = [typeof(SightBits), typeof(RowBits), typeof(RowColumn), typeof(PointerNumber), typeof(TriedNumber), typeof(TriedLine), typeof(SnapKind), typeof(SnapSource)];

    private readonly JsonObject _schemas = [];
    private readonly Queue<Type> _asked = new();

    [Fact]
    public void The_page_is_told_of_the_bridge_as_it_is()
    {
        var written = Document().ToJsonString(Neat) + "\n";
        if (Environment.GetEnvironmentVariable("CALM_PIVOT_WRITE_TYPES") is { Length: > 0 })
        {
            File.WriteAllText(Place(), written);
        }

        Assert.True(written == File.ReadAllText(Place()), "The bridge has changed: run scripts/types.sh.");
    }

    private static string Place([CallerFilePath] string here = "") =>
        Path.Combine(Path.GetDirectoryName(here)!, "..", "..", "web", "schema", "bridge.json");

    private JsonObject Document()
    {
        foreach (var type in typeof(BridgeJson).GetCustomAttributesData().Where(a => a.AttributeType == typeof(JsonSerializableAttribute)))
        {
            Refer((Type)type.ConstructorArguments[0].Value!);
        }

        while (_asked.TryDequeue(out var type))
        {
            _schemas[NameOf(type)] = Describe(type);
        }

        var sorted = new JsonObject(_schemas.OrderBy(s => s.Key, StringComparer.Ordinal).Select(s => KeyValuePair.Create(s.Key, s.Value?.DeepClone())));
        return new()
        {
            ["openapi"] = "3.1.1",
            ["info"] = new JsonObject { ["title"] = "The bridge between page and core", ["version"] = "1" },
            ["paths"] = new JsonObject(),
            ["components"] = new JsonObject { ["schemas"] = sorted },
            ["x-numbers"] = new JsonObject(Named.Select(n => KeyValuePair.Create<string, JsonNode?>(n.Name, NumbersOf(n)))),
        };
    }

    private static JsonObject NumbersOf(Type named) =>
        new(Enum.GetNames(named).Select(name => KeyValuePair.Create<string, JsonNode?>(
            JsonNamingPolicy.CamelCase.ConvertName(name), Convert.ToInt32(Enum.Parse(named, name), System.Globalization.CultureInfo.InvariantCulture))));

    private static string NameOf(Type type) => type.Name;

    private static bool IsNamed(Type type) => type.Namespace?.StartsWith("CalmPivot", StringComparison.Ordinal) == true && !type.IsGenericType;

    /// <summary>What stands where a type is written.</summary>
    private JsonObject Refer(Type type)
    {
        if (Nullable.GetUnderlyingType(type) is { } some)
        {
            return OrNull(Refer(some));
        }

        if (type == typeof(double) || type == typeof(long) || type == typeof(int))
        {
            return new JsonObject { ["type"] = "number" };
        }

        if (type == typeof(string) || type == typeof(bool))
        {
            return new JsonObject { ["type"] = type == typeof(bool) ? "boolean" : "string" };
        }

        if (type == typeof(JsonElement))
        {
            return new JsonObject();
        }

        var info = Options.GetTypeInfo(type);
        if (info.ElementType is { } element)
        {
            var items = Refer(element);
            return info.Kind == System.Text.Json.Serialization.Metadata.JsonTypeInfoKind.Dictionary
                ? new JsonObject { ["type"] = "object", ["additionalProperties"] = items }
                : new JsonObject { ["type"] = "array", ["items"] = items };
        }

        Assert.True(IsNamed(type), $"{type} has no name.");
        if (_schemas.TryAdd(NameOf(type), null))
        {
            _asked.Enqueue(type);
        }

        return new JsonObject { ["$ref"] = $"#/components/schemas/{NameOf(type)}" };
    }

    private static JsonObject OrNull(JsonNode schema) => new() { ["oneOf"] = new JsonArray(new JsonObject { ["type"] = "null" }, schema) };

    private JsonNode Describe(Type type)
    {
        if (type == typeof(Vec3))
        {
            return new JsonObject { ["type"] = "array", ["items"] = new JsonObject { ["type"] = "number" }, ["minItems"] = 3, ["maxItems"] = 3 };
        }

        if (type == typeof(Color))
        {
            return new JsonObject { ["oneOf"] = new JsonArray(new JsonObject { ["type"] = "string" }, Describe(typeof(Vec3))) };
        }

        if (type == typeof(NodeData))
        {
            var fields = NodeFields.Table.All.SelectMany(f => f.Written);
            return Written(fields, new EntityData(Node.Bare("", "", NodeKind.Group, null, Placement.Default)), null);
        }

        if (type == typeof(EntityData))
        {
            return Written(CollectionFields.Table.All.SelectMany(f => f.Written), new EntityData(new Collection("", "")), "collection");
        }

        if (type == typeof(Shape))
        {
            var parameters = ((JsonObject)Describe(typeof(ShapePatch)))["properties"]!.DeepClone().AsObject();
            return Written(parameters.Select(p => (p.Key, p.Key == "type" ? new JsonObject { ["type"] = "string" } : (p.Value!["oneOf"]?[1] ?? p.Value).DeepClone(), p.Key == "type")));
        }

        if (type == typeof(Uv))
        {
            return new JsonObject { ["type"] = "array", ["items"] = new JsonObject { ["type"] = "number" }, ["minItems"] = 2, ["maxItems"] = 2 };
        }

        if (type == typeof(Up))
        {
            return new JsonObject
            {
                ["oneOf"] = new JsonArray(
                [
                    new JsonObject { ["const"] = "least" },
                    .. new[] { "world", "parent", "toward" }.Select(name => Written([(name, new JsonObject { ["type"] = "string" }, true)])),
                ]),
            };
        }

        if (type == typeof(PartChange))
        {
            static JsonObject Fields() => new() { ["type"] = "object", ["additionalProperties"] = true };
            var word = new JsonObject { ["type"] = "string" };
            return Written([("id", word, true), ("of", word.DeepClone(), false), ("parts", new JsonObject { ["type"] = "array", ["items"] = word.DeepClone() }, true), ("was", Fields(), false), ("is", Fields(), false)]);
        }

        if (type == typeof(Constraint))
        {
            // As the fields of all kinds are written, of which those of its own are there.
            string[] always = ["kind", "id", "enabled", "weight"];
            var fields = ((JsonObject)Describe(typeof(ConstraintPatch)))["properties"]!.DeepClone().AsObject();
            return Written(fields.Where(p => p.Key != "without").Select(p => (p.Key, (p.Value!["oneOf"]?[1] ?? p.Value).DeepClone(), always.Contains(p.Key))));
        }

        if (type.IsEnum)
        {
            return Options.GetJsonSchemaAsNode(type);
        }

        return Written(Options.GetTypeInfo(type).Properties
            .Where(p => p.Get is not null)
            .Select(p => (p.Name, (JsonNode)(p is { IsGetNullable: true, PropertyType.IsValueType: false } ? OrNull(Refer(p.PropertyType)) : Refer(p.PropertyType)), true)));
    }

    /// <summary>By the table of its fields: what is written even of something bare is always there.</summary>
    private JsonObject Written(IEnumerable<(string Name, Type Type)> fields, EntityData bare, string? kind)
    {
        var always = JsonSerializer.SerializeToNode(bare, Options.Of<EntityData>())!.AsObject();
        var parts = fields.Select(f => (f.Name, always.TryGetPropertyValue(f.Name, out var value) && value is null ? OrNull(Refer(f.Type)) : (JsonNode)Refer(f.Type), always.ContainsKey(f.Name)));
        return Written([
            ("id", new JsonObject { ["type"] = "string" }, true),
            .. kind is null ? [] : new[] { ("kind", (JsonNode)new JsonObject { ["const"] = kind }, true) },
            .. parts]);
    }

    private static JsonObject Written(IEnumerable<(string Name, JsonNode Schema, bool Always)> fields)
    {
        var all = fields.ToList();
        return new()
        {
            ["type"] = "object",
            ["properties"] = new JsonObject(all.Select(f => KeyValuePair.Create<string, JsonNode?>(f.Name, f.Schema))),
            ["required"] = new JsonArray([.. all.Where(f => f.Always).Select(f => (JsonNode)f.Name)]),
        };
    }
}
