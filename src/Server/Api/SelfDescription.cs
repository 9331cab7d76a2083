using System.Security.Cryptography;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.Net.Http.Headers;
using Microsoft.OpenApi;

namespace CalmPivot.Server.Api;

/// <summary>What the server says of itself, made once: going through all calls and types takes far longer than any of them.</summary>
internal sealed class SelfDescription([FromKeyedServices(SelfDescription.Name)] IOpenApiDocumentProvider provider)
{
    private const string Name = "v1";

    private readonly Lazy<Task<(byte[] Json, EntityTagHeaderValue Tag)>> _made = new(() => Make(provider));

    public static void Map(IEndpointRouteBuilder app) => app.MapGet($"/openapi/{Name}.json", async (SelfDescription self) =>
    {
        var (json, tag) = await self._made.Value;
        return Results.Bytes(json, "application/json;charset=utf-8", entityTag: tag);
    }).ExcludeFromDescription();

    private static async Task<(byte[] Json, EntityTagHeaderValue Tag)> Make(IOpenApiDocumentProvider provider)
    {
        var document = await provider.GetOpenApiDocumentAsync();
        using var json = new MemoryStream();
        await document.SerializeAsync(json, OpenApiSpecVersion.OpenApi3_1, OpenApiConstants.Json, CancellationToken.None);
        return (json.ToArray(), new($"\"{Convert.ToHexStringLower(SHA256.HashData(json.GetBuffer().AsSpan(0, (int)json.Length)))[..16]}\""));
    }
}
