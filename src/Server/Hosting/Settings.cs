using System.Net;
using System.Reflection;
using System.Text.RegularExpressions;
using Microsoft.Extensions.Options;
using Npgsql;

namespace CalmPivot.Server.Hosting;

/// <summary>What can be set where the server is started. Whatever is wrong with it is said in a sentence, before anything is begun.</summary>
internal static partial class Settings
{
    private static readonly (string Section, Type Options)[] Sections =
    [
        (LimitOptions.Section, typeof(LimitOptions)),
        (CollectingOptions.Section, typeof(CollectingOptions)),
        (SceneOptions.Section, typeof(SceneOptions)),
        (LogOptions.Section, typeof(LogOptions)),
    ];

    /// <summary>What else may be said in the command line; the framework's own among it.</summary>
    private static readonly string[] Others =
        ["Web", "Proxies", "AllowedHosts", "ConnectionStrings", "Kestrel", "Logging", "urls", "http_ports", "https_ports", "https_port", "environment", "contentRoot", "applicationName"];

    /// <summary>The database; see <see cref="Check"/>.</summary>
    public const string Database = "CalmPivot";

    public static void Add(IServiceCollection services)
    {
        services.AddOptions<LimitOptions>().BindConfiguration(LimitOptions.Section).ValidateDataAnnotations().ValidateOnStart();
        services.AddOptions<CollectingOptions>().BindConfiguration(CollectingOptions.Section).ValidateDataAnnotations().ValidateOnStart();
        services.AddOptions<SceneOptions>().BindConfiguration(SceneOptions.Section).ValidateDataAnnotations().ValidateOnStart();
        services.AddOptions<LogOptions>().BindConfiguration(LogOptions.Section).ValidateDataAnnotations().ValidateOnStart();
    }

    /// <summary>What is wrong with what was set; null: nothing.</summary>
    public static string? Check(IConfiguration configuration, IEnumerable<string> arguments) =>
        Misspelt(configuration) ?? Unknown(arguments) ?? OfDatabase(configuration.GetConnectionString(Database)) ?? OfProxies(configuration["Proxies"]) ?? OfWeb(configuration["Web"]);

    /// <summary>What is wrong with the values; null: nothing.</summary>
    public static string? Check(IServiceProvider services)
    {
        try
        {
            services.GetRequiredService<IStartupValidator>().Validate();
            return null;
        }
        catch (OptionsValidationException e)
        {
            var section = Sections.First(s => s.Options == e.OptionsType).Section;
            return $"{section}: {string.Join(" ", e.Failures.Select(f => Failure().Match(f) is { Success: true } said ? said.Groups[1].Value : f))}";
        }
        catch (InvalidOperationException e)
        {
            return e.Message;
        }
    }

    /// <summary>The addresses of what stands before this server and says how it was asked, with commas.</summary>
    public static IEnumerable<string> Proxies(string said) => said.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    private static string? Misspelt(IConfiguration configuration)
    {
        foreach (var (section, options) in Sections)
        {
            var names = options.GetProperties(BindingFlags.Public | BindingFlags.Instance).Select(p => p.Name).ToList();
            if (configuration.GetSection(section).GetChildren().FirstOrDefault(c => !names.Contains(c.Key, StringComparer.OrdinalIgnoreCase)) is { } wrong)
            {
                return $"There is no setting “{wrong.Path}”. There are {string.Join(", ", names.Select(n => $"{section}:{n}"))}.";
            }
        }

        return null;
    }

    private static string? Unknown(IEnumerable<string> arguments)
    {
        foreach (var argument in arguments)
        {
            if (Name().Match(argument) is { Success: true } name && !Sections.Select(s => s.Section).Concat(Others).Contains(name.Groups[1].Value, StringComparer.OrdinalIgnoreCase))
            {
                return $"There is no setting “{name.Groups[1].Value}”. The README says what there is.";
            }
        }

        return null;
    }

    private static string? OfDatabase(string? connection)
    {
        if (connection is not { Length: > 0 })
        {
            return "Say where PostgreSQL is: ConnectionStrings__CalmPivot=\"Host=…;Database=…\".";
        }

        try
        {
            _ = new NpgsqlConnectionStringBuilder(connection);
            return null;
        }
        catch (Exception e) when (e is ArgumentException or FormatException)
        {
            return $"ConnectionStrings:CalmPivot is not understood: {e.Message.Split('\n')[0]}";
        }
    }

    private static string? OfProxies(string? said) => said is null ? null
        : Proxies(said).FirstOrDefault(one => !IPAddress.TryParse(one, out _)) is { } wrong ? $"Proxies: “{wrong}” is no address. Write addresses like 10.0.0.2, with commas." : null;

    private static string? OfWeb(string? folder) => folder is null || Directory.Exists(folder) ? null : $"Web: there is no folder “{folder}”.";

    [GeneratedRegex("with the error: '(.+)'\\.?$")]
    private static partial Regex Failure();

    [GeneratedRegex("^(?:--|/)([A-Za-z_]+)(?:[:=].*)?$")]
    private static partial Regex Name();
}
