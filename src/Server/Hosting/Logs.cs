using Microsoft.Extensions.Options;
using Serilog;
using Serilog.Formatting.Compact;

namespace CalmPivot.Server.Hosting;

/// <summary>Where the log goes: lines of JSON, into files that turn over by size where one is named (<see cref="LogOptions"/>), else to where the server was started.</summary>
internal static class Logs
{
    public static void Add(WebApplicationBuilder builder)
    {
        var logging = builder.Logging;
        logging.ClearProviders();
        logging.AddFilter("Microsoft.AspNetCore", LogLevel.Warning);

        // Keys lie in the database as all else; that it does not hide them from who can read it is known.
        logging.AddFilter("Microsoft.AspNetCore.DataProtection", LogLevel.Error);

        // What is refused in the hub is no failure; HubLog writes what is.
        logging.AddFilter("Microsoft.AspNetCore.SignalR.Internal.DefaultHubDispatcher", LogLevel.None);
        builder.Services.AddSingleton<LogLines>();
        builder.Services.AddHostedService(services => services.GetRequiredService<LogLines>());
        if (string.IsNullOrEmpty(builder.Configuration[$"{LogOptions.Section}:{nameof(LogOptions.File)}"]))
        {
            logging.AddJsonConsole(options => options.TimestampFormat = "O");
        }
        else
        {
            builder.Services.AddSingleton<ILoggerProvider>(services =>
            {
                var to = services.GetRequiredService<IOptions<LogOptions>>().Value;
                return new Serilog.Extensions.Logging.SerilogLoggerProvider(
                    new LoggerConfiguration().MinimumLevel.Verbose()
                        .WriteTo.File(new CompactJsonFormatter(), to.File!, fileSizeLimitBytes: (long)to.Megabytes << 20, rollOnFileSizeLimit: true, retainedFileCountLimit: to.Files)
                        .CreateLogger(),
                    dispose: true);
            });
        }
    }
}
