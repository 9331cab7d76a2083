using System.Security.Cryptography;
using System.Text;

namespace CalmPivot.Server.Api;

/// <summary>
/// Who calls: a random secret in a cookie until accounts exist. Others see only a name derived from it, so that reading the
/// history gives nobody the means to undo in somebody else's place.
/// </summary>
internal static class Person
{
    private const string Cookie = "calm-pivot-person";

    /// <summary>Whether the caller brought the secret along.</summary>
    public static bool IsKnown(HttpContext context) => context.Request.Cookies[Cookie] is { Length: 43 };

    public static string Of(HttpContext context)
    {
        if (context.Items[Cookie] is string known)
        {
            return known;
        }

        var secret = context.Request.Cookies[Cookie];
        if (secret is not { Length: 43 })
        {
            secret = Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).TrimEnd('=').Replace('+', '-').Replace('/', '_');
            context.Response.Cookies.Append(Cookie, secret, new()
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = context.Request.IsHttps,
                MaxAge = TimeSpan.FromDays(400),
            });
        }

        var name = Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(secret)))[..16];
        context.Items[Cookie] = name;
        return name;
    }
}
