using System.Text.Json.Nodes;
using CalmPivot.Core.Constraints;
using Microsoft.OpenApi;

namespace CalmPivot.Server.Api;

/// <summary>Says in the API's description how constraints are written: their kind, and of the fields of all kinds those of their own.</summary>
internal static class ConstraintSchema
{
    private static readonly string[] Words = ["target", "axis", "upAxis", "facing", "axes", "frame", "of", "how", "align"];
    private static readonly string[] Figures = ["from", "to", "factor"];
    private static readonly string[] Directions = ["hinge", "zero", "along"];
    private static readonly string[] Bounds = ["low", "high"];
    private static readonly string[] Ups = ["world", "parent", "toward"];

    public static void Describe(OpenApiSchema schema)
    {
        schema.Type = JsonSchemaType.Object;
        schema.Description = "An entry of a node's constraints, with the fields of its kind.";
        schema.Required = new HashSet<string> { "kind", "id", "enabled", "weight" };
        var up = new OpenApiSchema();
        DescribeUp(up, mayBeNull: false);
        schema.Properties = new Dictionary<string, IOpenApiSchema>
        {
            ["kind"] = new OpenApiSchema { Type = JsonSchemaType.String, Enum = [.. Constraint.Kinds.Select(k => (JsonNode)k.Kind)] },
            ["id"] = new OpenApiSchema { Type = JsonSchemaType.String },
            ["enabled"] = new OpenApiSchema { Type = JsonSchemaType.Boolean },
            ["weight"] = Schemas.Number(),
            ["up"] = up,
            ["offset"] = new OpenApiSchema { Type = JsonSchemaType.Array, Items = Schemas.Number() },
        };
        Add(Words, () => new() { Type = JsonSchemaType.String });
        Add(Figures, Schemas.Number);
        Add(Directions, () => Schemas.Numbers(3));
        Add(Bounds, () => new() { Type = JsonSchemaType.Array, Items = new OpenApiSchema { Type = JsonSchemaType.Number | JsonSchemaType.Null } });

        void Add(string[] names, Func<OpenApiSchema> of)
        {
            foreach (var name in names)
            {
                schema.Properties![name] = of();
            }
        }
    }

    public static void DescribeUp(OpenApiSchema schema, bool mayBeNull)
    {
        schema.Description = "Where up is: along an axis of the world or of the parent, toward a node, or by nothing.";
        List<IOpenApiSchema> ways = [new OpenApiSchema { Type = JsonSchemaType.String, Enum = ["least"] }];
        ways.AddRange(Ups.Select(name => new OpenApiSchema
        {
            Type = JsonSchemaType.Object,
            Properties = new Dictionary<string, IOpenApiSchema> { [name] = new OpenApiSchema { Type = JsonSchemaType.String } },
            Required = new HashSet<string> { name },
        }));
        if (mayBeNull)
        {
            ways.Add(new OpenApiSchema { Type = JsonSchemaType.Null });
        }

        schema.OneOf = ways;
    }
}
