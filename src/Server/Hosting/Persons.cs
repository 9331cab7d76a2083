using System.Buffers.Text;
using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using System.Threading.RateLimiting;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Options;

namespace CalmPivot.Server.Hosting;

/// <summary>
/// Who calls. Until accounts exist a person is a random secret in a cookie that the server has signed: what is made up is nobody. Others see only a name derived from
/// it, so that reading the history gives nobody the means to undo in somebody else's place.
/// </summary>
/// <remarks>
/// New persons are limited by address ("Limits:Persons"), since every other limit counts by person. Beyond, whoever comes from an address is one person together, and is
/// given no cookie; nobody is refused for it.
/// </remarks>
internal sealed class Persons(IDataProtectionProvider protection, PersonStore store, IOptions<LimitOptions> limits) : IDisposable
{
    private const string Cookie = "calm-pivot-person";
    private const int SecretBytes = 32;

    /// <summary>Of a secret in base 64.</summary>
    private const int SecretLength = 43;

    private static readonly TimeSpan ComesBack = TimeSpan.FromSeconds(5);

    /// <summary>Whoever has an address of the sixth version has all that begin alike so far.</summary>
    private const int OwnBytes = 8;

    private readonly IDataProtector _signed = protection.CreateProtector("person");
    private readonly byte[] _addresses = RandomNumberGenerator.GetBytes(SecretBytes);
    private readonly PartitionedRateLimiter<string> _coming = PartitionedRateLimiter.Create<string, string>(address => RateLimitPartition.GetTokenBucketLimiter(
        address, _ => new() { TokenLimit = limits.Value.Persons, TokensPerPeriod = 1, ReplenishmentPeriod = ComesBack, QueueLimit = 0 }));

    /// <summary>Finds out who calls, where they say so.</summary>
    public static void Use(WebApplication app)
    {
        var persons = app.Services.GetRequiredService<Persons>();
        app.Use(async (context, next) =>
        {
            if (context.Request.Path.StartsWithSegments("/api"))
            {
                await persons.Recognise(context);
            }

            await next(context);
        });
    }

    /// <summary>Makes the key that cookies are signed with, where there is none: for who does so alone.</summary>
    public void MakeKey() => _signed.Protect([]);

    /// <summary>Where limits count: the person, or the address of who has not said who they are.</summary>
    public static string Counted(HttpContext context) => context.Items[Cookie] as string ?? AddressOf(context);

    /// <summary>The name of who calls. Who is nobody yet is somebody new from now on.</summary>
    public string Of(HttpContext context)
    {
        if (context.Items[Cookie] is string known)
        {
            return known;
        }

        var address = AddressOf(context);
        string name;
        if (MayCome(address))
        {
            var secret = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(SecretBytes));
            name = NameOf(secret);
            Give(context, secret);
        }
        else
        {
            name = Convert.ToHexStringLower(HMACSHA256.HashData(_addresses, Encoding.ASCII.GetBytes(address)))[..16];
        }

        context.Items[Cookie] = name;
        return name;
    }

    public void Dispose() => _coming.Dispose();

    private async Task Recognise(HttpContext context)
    {
        if (context.Request.Cookies[Cookie] is not { Length: >= SecretLength } cookie)
        {
            return;
        }

        if (cookie.Length > SecretLength)
        {
            if (Signed(cookie) is { } secret)
            {
                context.Items[Cookie] = NameOf(secret);
            }
        }
        else if (cookie.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_') && MayCome(AddressOf(context)) && await store.TakeOver(NameOf(cookie)))
        {
            context.Items[Cookie] = NameOf(cookie);
            Give(context, cookie);
        }
    }

    private string? Signed(string cookie)
    {
        try
        {
            return Encoding.ASCII.GetString(_signed.Unprotect(Base64Url.DecodeFromChars(cookie)));
        }
        catch (Exception e) when (e is FormatException or CryptographicException)
        {
            return null;
        }
    }

    private void Give(HttpContext context, string secret) => context.Response.Cookies.Append(Cookie, Base64Url.EncodeToString(_signed.Protect(Encoding.ASCII.GetBytes(secret))), new()
    {
        HttpOnly = true,
        SameSite = SameSiteMode.Strict,
        Secure = context.Request.IsHttps,
        MaxAge = TimeSpan.FromDays(400),
    });

    private bool MayCome(string address)
    {
        using var lease = _coming.AttemptAcquire(address);
        return lease.IsAcquired;
    }

    private static string NameOf(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(secret)))[..16];

    private static string AddressOf(HttpContext context) => context.Connection.RemoteIpAddress switch
    {
        null => "somewhere",
        { AddressFamily: AddressFamily.InterNetworkV6, IsIPv4MappedToIPv6: false } six => new IPAddress([.. six.GetAddressBytes()[..OwnBytes], .. new byte[OwnBytes]]).ToString(),
        var other => (other.IsIPv4MappedToIPv6 ? other.MapToIPv4() : other).ToString(),
    };
}
