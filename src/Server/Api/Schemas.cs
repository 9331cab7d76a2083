using System.Text.Json;
using System.Text.Json.Nodes;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Entities;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Wire;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace CalmPivot.Server.Api;

/// <summary>Says in the API's description what the framework cannot see: how what is written in a way of its own is written.</summary>
internal static class Schemas
{
    public static void Configure(OpenApiOptions options)
    {
        options.AddSchemaTransformer(Describe);
        options.AddDocumentTransformer<SharedSchemas>();
    }

    private static async Task Describe(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancelled)
    {
        Describe(schema, context);
        foreach (var (type, describe) in Written)
        {
            if (context.JsonTypeInfo.Type == type)
            {
                await describe(schema, context, cancelled);
            }
            else if (context.JsonTypeInfo.ElementType == type && context.Document is { } document)
            {
                if (document.Components?.Schemas?.ContainsKey(type.Name) != true)
                {
                    var fields = new OpenApiSchema();
                    await describe(fields, context, cancelled);
                    document.AddComponent(type.Name, fields);
                }

                schema.Items = new OpenApiSchemaReference(type.Name, document);
            }
        }
    }

    /// <summary>What is written by tables of fields.</summary>
    private static readonly (Type Type, Func<OpenApiSchema, OpenApiSchemaTransformerContext, CancellationToken, Task> Describe)[] Written =
    [
        (typeof(NodeData), (schema, context, cancelled) => DescribeFields(NodeFields.Table, AlwaysIn(new EntityData(Node.Bare("", "", NodeKind.Group, null, Placement.Default))), schema, context, cancelled)),
        (typeof(EntityData), DescribeEntity),
        (typeof(PartChange), DescribeParts),
        (typeof(MaterialChoice), DescribeChoice),
    ];

    private static async Task DescribeEntity(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancelled)
    {
        // By its kind it has the fields of one of these.
        var all = new Dictionary<string, IOpenApiSchema>();
        foreach (var describe in new Func<Task>[]
        {
            () => DescribeFields(ShotFields.Table, [], schema, context, cancelled),
            () => DescribeFields(CheatFields.Table, [], schema, context, cancelled),
            () => DescribeFields(TimingFields.Table, [], schema, context, cancelled),
            () => DescribeFields(SurroundingsFields.Table, [], schema, context, cancelled),
            () => DescribeFields(MaterialFields.Table, [], schema, context, cancelled),
            () => DescribeFields(CollectionFields.Table, ["id", "kind"], schema, context, cancelled),
        })
        {
            await describe();
            foreach (var (name, field) in schema.Properties!)
            {
                all[name] = field;
            }
        }

        schema.Properties = all;
        schema.Properties!["kind"] = new OpenApiSchema { Type = JsonSchemaType.String, Enum = [.. EntityKinds.All.Select(k => (JsonNode)k.Word)] };
    }

    private static async Task DescribeChoice(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancelled)
    {
        var said = new OpenApiSchema();
        await DescribeFields(MaterialFields.Table, [], said, context, cancelled);
        foreach (var name in new[] { "id", "index", "rank" })
        {
            said.Properties!.Remove(name);
        }

        Clear(schema);
        schema.Description = "A material: its id, or what it is like; then the one that is so, which is made where there is none.";
        schema.OneOf = [new OpenApiSchema { Type = JsonSchemaType.String }, said];
    }

    /// <summary>The fields that are written even of something of which nothing is said.</summary>
    private static IEnumerable<string> AlwaysIn(EntityData bare) =>
        JsonSerializer.SerializeToNode(bare, WireJson.Options.Of<EntityData>())!.AsObject().Select(f => f.Key).Where(f => f != "index");

    /// <summary>What is written by the table of its fields is described by it.</summary>
    private static async Task DescribeFields<T>(Fields<T> table, IEnumerable<string> always, OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancelled)
        where T : Entity
    {
        Clear(schema);
        schema.Type = JsonSchemaType.Object;
        schema.Properties = new Dictionary<string, IOpenApiSchema>
        {
            ["id"] = new OpenApiSchema { Type = JsonSchemaType.String },
            ["index"] = new OpenApiSchema { Type = JsonSchemaType.Integer, Description = "The place among the siblings when it was written." },
        };
        foreach (var (field, (name, type)) in table.All.SelectMany(f => f.Written.Select(w => (f, w))))
        {
            schema.Properties[name] = type == typeof(string) ? new OpenApiSchema { Type = JsonSchemaType.String | (field.Required ? 0 : JsonSchemaType.Null) }
                : type == typeof(double) ? Number()
                : await context.GetOrCreateSchemaAsync(type, cancellationToken: cancelled);
        }

        schema.Required = always.ToHashSet();
    }

    private static void Describe(OpenApiSchema schema, OpenApiSchemaTransformerContext context)
    {
        var type = context.JsonTypeInfo.Type;
        var written = Nullable.GetUnderlyingType(type) ?? type;
        var mayBeNull = written != type || context.JsonPropertyInfo is { IsGetNullable: true } ? JsonSchemaType.Null : 0;
        if (schema.OneOf is { Count: > 0 })
        {
            // Described by the edit that it is an axis of.
            return;
        }

        if (written == typeof(Vec3))
        {
            Into(schema, Numbers(3), mayBeNull, "Three numbers: along X, Y and Z.");
        }
        else if (written == typeof(Affine))
        {
            Into(schema, Numbers(16), mayBeNull, "A matrix of four columns, one after the other; the last row is 0, 0, 0, 1.");
        }
        else if (written == typeof(double))
        {
            schema.Type = JsonSchemaType.Number | mayBeNull;
        }
        else if (written == typeof(string))
        {
            schema.Type = JsonSchemaType.String | mayBeNull;
        }
        else if (written == typeof(Color))
        {
            Clear(schema);
            schema.Description = "A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1.";
            schema.OneOf = [new OpenApiSchema { Type = JsonSchemaType.String | mayBeNull }, Numbers(3)];

            // What is as usual is not black.
            schema.Default = null;
        }
        else if (written == typeof(Shape))
        {
            Clear(schema);
            schema.Type = JsonSchemaType.Object;
            schema.Description = "A type of shape with all its own parameters; lengths in metres.";
            schema.Required = new HashSet<string> { "type" };
            schema.Properties = ShapeParameters();
        }

        else if (written == typeof(Uv))
        {
            Into(schema, Numbers(2), mayBeNull, "Two numbers: across and down a picture.");
        }
        else if (written == typeof(Up))
        {
            Clear(schema);
            ConstraintSchema.DescribeUp(schema, mayBeNull != 0);
        }
        else if (written == typeof(Constraint))
        {
            Clear(schema);
            ConstraintSchema.Describe(schema);
        }

        if (context.JsonTypeInfo.ElementType is { } element && (Nullable.GetUnderlyingType(element) ?? element) is { } item && (item == typeof(string) || item == typeof(double)))
        {
            var items = item == typeof(string) ? JsonSchemaType.String : JsonSchemaType.Number;
            schema.Items = new OpenApiSchema { Type = item == element ? items : items | JsonSchemaType.Null };
        }

        foreach (var axis in context.JsonTypeInfo.Properties.Where(p => p.CustomConverter is AxisConverter))
        {
            schema.Properties![axis.Name] = new OpenApiSchema
            {
                Description = "A letter, or a direction of any length but zero.",
                OneOf = [new OpenApiSchema { Type = JsonSchemaType.String, Enum = [.. "xyz".Select(c => (JsonNode)c.ToString())] }, Numbers(3)],
            };
        }

        // What every edit is about can be read off it, and is not written.
        if (typeof(Edit).IsAssignableFrom(written))
        {
            schema.Properties?.Remove("picked");
        }

        foreach (var (kinds, word) in new[] { (typeof(Edit), "do"), (typeof(Space), "kind"), (typeof(About), "kind") })
        {
            if (kinds.IsAssignableFrom(written) && written != kinds && schema.Properties?.ContainsKey(word) == true)
            {
                schema.Required = new HashSet<string>(schema.Required ?? new HashSet<string>()) { word };
            }
        }
    }

    private static Task DescribeParts(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancelled)
    {
        Clear(schema);
        static OpenApiSchema Fields(string when) => new() { Type = JsonSchemaType.Object, AdditionalPropertiesAllowed = true, Description = $"The fields of the written parts {when}; those that are as usual are left out." };
        schema.Type = JsonSchemaType.Object;
        schema.Description = "What was written of one thing. Without “was” it was made, without “is” removed.";
        schema.Required = new HashSet<string> { "id", "parts" };
        schema.Properties = new Dictionary<string, IOpenApiSchema>
        {
            ["id"] = new OpenApiSchema { Type = JsonSchemaType.String },
            ["of"] = new OpenApiSchema { Type = JsonSchemaType.String, Enum = [.. EntityKinds.All.Select(k => (JsonNode)k.Word)], Description = "What it is; left out: a node." },
            ["parts"] = new OpenApiSchema { Type = JsonSchemaType.Array, Items = new OpenApiSchema { Type = JsonSchemaType.String, Enum = [.. PartsOf.Every.Words().Select(w => (JsonNode)w)] } },
            ["was"] = Fields("before"),
            ["is"] = Fields("after"),
        };
        return Task.CompletedTask;
    }

    private static Dictionary<string, IOpenApiSchema> ShapeParameters() => new()
    {
        ["type"] = new OpenApiSchema
        {
            Type = JsonSchemaType.String,
            Enum = [.. Shape.Types.Select(t => (JsonNode)t)],
        },
        ["size"] = new OpenApiSchema { Type = JsonSchemaType.Array, Items = new OpenApiSchema { Type = JsonSchemaType.Number } },
        ["radius"] = Number(),
        ["topRadius"] = Number(),
        ["height"] = Number(),
        ["tube"] = Number(),
        ["inner"] = Number(),
        ["segments"] = Count(),
        ["rings"] = Count(),
        ["sides"] = Count(),
        ["divisions"] = Count(),
        ["caps"] = new OpenApiSchema { Type = JsonSchemaType.Boolean },
    };

    internal static OpenApiSchema Number() => new() { Type = JsonSchemaType.Number };

    private static OpenApiSchema Count() => new() { Type = JsonSchemaType.Integer };

    internal static OpenApiSchema Numbers(int count) => new()
    {
        Type = JsonSchemaType.Array,
        Items = Number(),
        MinItems = count,
        MaxItems = count,
    };

    private static void Into(OpenApiSchema schema, OpenApiSchema from, JsonSchemaType mayBeNull, string description)
    {
        Clear(schema);
        (schema.Type, schema.Items, schema.MinItems, schema.MaxItems) = (from.Type | mayBeNull, from.Items, from.MinItems, from.MaxItems);
        schema.Description = description;
    }

    private static void Clear(OpenApiSchema schema)
    {
        schema.Type = null;
        schema.Items = null;
        schema.Properties = null;
        schema.Required = null;
        schema.OneOf = null;
        schema.AdditionalPropertiesAllowed = true;
    }
}
