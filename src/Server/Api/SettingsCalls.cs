using System.Text.Json;
using CalmPivot.Core;
using CalmPivot.Server.Store;

namespace CalmPivot.Server.Api;

/// <summary>What a person has set; the page gives it its meaning.</summary>
internal static class SettingsCalls
{
    private const int MostBytes = 64 * 1024;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/me/settings", async (HttpContext context, SettingsStore store) =>
            Results.Text(await store.Read(Person.Of(context)), "application/json"));
        api.MapPut("/me/settings", async (JsonElement settings, HttpContext context, SettingsStore store) =>
        {
            var text = settings.GetRawText();
            if (settings.ValueKind != JsonValueKind.Object || text.Length > MostBytes)
            {
                throw new Refusal(Refusals.NotUnderstood, "Settings are one JSON object of at most 64 kB.");
            }

            await store.Write(Person.Of(context), text);
            return Results.Text(text, "application/json");
        });
    }
}
