using CalmPivot.Server.Hosting;

namespace CalmPivot.Server.Api;

/// <summary>Who calls; see <see cref="Persons"/>.</summary>
internal static class Person
{
    /// <summary>The name by which others see who calls.</summary>
    public static string Of(HttpContext context) => context.RequestServices.GetRequiredService<Persons>().Of(context);
}
