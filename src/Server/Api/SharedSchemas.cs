using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace CalmPivot.Server.Api;

/// <summary>
/// Makes the API's description say everything once: what is described by name is referred to by name wherever it stands, so
/// that types can be generated from it. Kinds that are told apart by a word say nothing but which kinds there are.
/// </summary>
internal sealed class SharedSchemas : IOpenApiDocumentTransformer
{
    private readonly Dictionary<string, string> _names = [];

    public async Task TransformAsync(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancellationToken)
    {
        if (document.Components?.Schemas is not { } named)
        {
            return;
        }

        foreach (var schema in named.Values.OfType<OpenApiSchema>())
        {
            if (schema.Discriminator is not null)
            {
                (schema.Type, schema.Required) = (null, null);
            }
            else if (schema.Properties is { Count: > 0 })
            {
                schema.Type ??= JsonSchemaType.Object;
            }
        }

        DescribeRepeats(named, document);

        // What is inside what is named has to be named first, so it takes as many rounds as things stand in each other.
        for (var (round, found) = (0, true); found && round < 8; round++)
        {
            found = false;
            _names.Clear();
            foreach (var (name, schema) in named.Where(n => IsWorthNaming(n.Value)))
            {
                _names.TryAdd(await TextOf(schema, cancellationToken), name);
            }

            foreach (var schema in named.Values)
            {
                found |= await ReferIn(schema, document, cancellationToken);
            }

            var bodies = document.Paths.Values.SelectMany(p => p.Operations?.Values.ToList() ?? []).SelectMany(o =>
                (o.Responses?.Values.ToList() ?? []).SelectMany(r => r.Content?.Values.ToList() ?? []).Concat(o.RequestBody?.Content?.Values.ToList() ?? []));
            foreach (var body in bodies)
            {
                if (body is OpenApiMediaType media && media.Schema is { } schema)
                {
                    media.Schema = await Referred(schema, document, cancellationToken) ?? schema;
                    found |= await ReferIn(media.Schema, document, cancellationToken);
                }
            }
        }
    }

    /// <summary>What is repeated from copy to copy is an edit without what it is about.</summary>
    private static void DescribeRepeats(IDictionary<string, IOpenApiSchema> named, OpenApiDocument document)
    {
        var repeat = new OpenApiSchema { AnyOf = [] };
        foreach (var name in new[] { "Move", "Rotate", "Scale", "Mirror" })
        {
            var edit = (OpenApiSchema)((OpenApiSchema)named["Edit" + name]).CreateShallowCopy();
            edit.Properties = edit.Properties!.Where(p => p.Key != "nodes").ToDictionary();
            edit.Required = edit.Required!.Where(r => r != "nodes").ToHashSet();
            document.AddComponent("Repeat" + name, edit);
            repeat.AnyOf.Add(new OpenApiSchemaReference("Repeat" + name, document));
        }

        document.AddComponent("Repeat", repeat);
        foreach (var by in new[] { named["EditDuplicate"], named["Across"] }.Select(s => s.Properties!["by"]).OfType<OpenApiSchema>())
        {
            by.Items = new OpenApiSchemaReference("Repeat", document);
        }
    }

    private static bool IsWorthNaming(IOpenApiSchema schema) =>
        schema is OpenApiSchema && (schema.Properties is { Count: > 0 } || schema.Enum is { Count: > 0 } || schema.MinItems is not null);

    /// <summary>Puts references for what stands inside a schema.</summary>
    private async Task<bool> ReferIn(IOpenApiSchema schema, OpenApiDocument document, CancellationToken cancelled)
    {
        if (schema is not OpenApiSchema written)
        {
            return false;
        }

        var found = false;
        foreach (var (name, inner) in written.Properties?.ToList() ?? [])
        {
            found |= await Refer(inner, document, s => written.Properties![name] = s, cancelled);
        }

        foreach (var list in new[] { written.AnyOf, written.OneOf, written.AllOf }.OfType<IList<IOpenApiSchema>>())
        {
            for (var i = 0; i < list.Count; i++)
            {
                var at = i;
                found |= await Refer(list[i], document, s => list[at] = s, cancelled);
            }
        }

        if (written.Items is { } items)
        {
            found |= await Refer(items, document, s => written.Items = s, cancelled);
        }

        if (written.AdditionalProperties is { } others)
        {
            found |= await Refer(others, document, s => written.AdditionalProperties = s, cancelled);
        }

        return found;
    }

    private async Task<bool> Refer(IOpenApiSchema schema, OpenApiDocument document, Action<IOpenApiSchema> put, CancellationToken cancelled)
    {
        if (await Referred(schema, document, cancelled) is { } reference)
        {
            put(reference);
            return true;
        }

        return await ReferIn(schema, document, cancelled);
    }

    /// <summary>The reference to what says the same by name; null where there is none.</summary>
    private async Task<IOpenApiSchema?> Referred(IOpenApiSchema schema, OpenApiDocument document, CancellationToken cancelled)
    {
        if (schema is not OpenApiSchema written)
        {
            return null;
        }

        if (_names.TryGetValue(await TextOf(written, cancelled), out var name))
        {
            return new OpenApiSchemaReference(name, document);
        }

        if (written.Type?.HasFlag(JsonSchemaType.Null) != true || written.Type == JsonSchemaType.Null)
        {
            return null;
        }

        // What may also be null.
        if (!written.Type.Value.HasFlag(JsonSchemaType.Array))
        {
            written.Items = null;
            return null;
        }

        var some = (OpenApiSchema)written.CreateShallowCopy();
        some.Type = written.Type & ~JsonSchemaType.Null;
        if (some.MinItems is not null)
        {
            some.Items = new OpenApiSchema { Type = JsonSchemaType.Number };
        }

        return _names.TryGetValue(await TextOf(some, cancelled), out name)
            ? new OpenApiSchema { OneOf = [new OpenApiSchema { Type = JsonSchemaType.Null }, new OpenApiSchemaReference(name, document)] }
            : null;
    }

    /// <summary>What a schema says, without what it stands there as by default.</summary>
    private static async Task<string> TextOf(IOpenApiSchema schema, CancellationToken cancelled)
    {
        var text = await schema.SerializeAsJsonAsync(OpenApiSpecVersion.OpenApi3_1, cancelled);
        if (JsonNode.Parse(text) is not JsonObject said)
        {
            return text;
        }

        said.Remove("default");
        // Whether an enumeration calls itself a text is chance.
        if (said.ContainsKey("enum") && said["type"] is JsonValue)
        {
            said.Remove("type");
        }

        return said.ToJsonString();
    }
}
