using CalmPivot.Server.Api;
using CalmPivot.Server.Demo;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Npgsql;

var builder = WebApplication.CreateSlimBuilder(args);
if (builder.Configuration.GetConnectionString("CalmPivot") is not { Length: > 0 } connectionString)
{
    await Console.Error.WriteLineAsync("Say where PostgreSQL is: ConnectionStrings__CalmPivot=\"Host=…;Database=…\".");
    return 1;
}

builder.Configuration["AllowedHosts"] ??= "localhost;127.0.0.1;[::1]";
builder.Logging.ClearProviders();
builder.Logging.AddFilter("Microsoft.AspNetCore", LogLevel.Warning);
builder.Logging.AddJsonConsole(options => options.TimestampFormat = "O");
builder.WebHost.UseKestrelHttpsConfiguration();
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = 16 * 1024 * 1024;

    // Whoever is slower than any line is gives up the connection.
    kestrel.Limits.MinRequestBodyDataRate = new(bytesPerSecond: 1_000, gracePeriod: TimeSpan.FromSeconds(10));
});

builder.Services.AddSingleton(_ => Database.Open(connectionString));
builder.Services.AddSingleton<SceneStore>();
builder.Services.AddSingleton<BlobStore>();
builder.Services.AddSingleton<CommitLine>();
builder.Services.AddSingleton<LogStore>();
builder.Services.AddSingleton<StepStore>();
builder.Services.AddSingleton<Stores>();
builder.Services.AddSingleton<CollectingStore>();
builder.Services.AddSingleton<Collector>();
builder.Services.AddHostedService(services => services.GetRequiredService<Collector>());
builder.Services.AddSingleton<SettingsStore>();
builder.Services.AddSingleton<SelectionStore>();
builder.Services.AddSingleton<PictureStore>();
builder.Services.AddSingleton<KeptPictureStore>();
builder.Services.AddSingleton<StillStore>();
builder.Services.AddSingleton<OpenScenes>();
builder.Services.AddHostedService<IdleScenes>();
builder.Services.AddSingleton<IScenePush, ScenePush>();
builder.Services.AddSingleton<DemoSeed>();
builder.Services.AddSingleton<Imports>();
builder.Services.AddSingleton<Exports>();
builder.Services.AddSingleton<LongWork>();
builder.Services.AddSingleton<CalmPivot.Server.Pictures.PictureTurns>();
builder.Services.AddSingleton<CalmPivot.Server.Pictures.StillTurns>();
builder.Services.AddSignalR().AddJsonProtocol(options => ApiJson.Configure(options.PayloadSerializerOptions));
builder.Services.AddProblemDetails();

// Whole scenes go out packed; files of the page lie packed already.
builder.Services.AddResponseCompression(options => options.MimeTypes = ["application/octet-stream"]);
builder.Services.AddOpenApi(Schemas.Configure);
Limits.Add(builder.Services, builder.Configuration);
builder.Services.AddHostFiltering(_ => { });
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.ConfigureHttpJsonOptions(options => ApiJson.Configure(options.SerializerOptions));

var app = builder.Build();
Guards.Use(app);
Problems.Use(app);
RequestLog.Use(app);
if (app.Configuration["Web"] is { } web && Directory.Exists(web))
{
    Pages.Use(app, web);
}

app.UseResponseCompression();
app.UseRouting();
app.UseRateLimiter();
app.MapGet("/healthz", async (SceneStore store) => await store.IsAlive()
    ? Results.Ok(new { status = "ok" })
    : Results.Json(new { status = "no database" }, statusCode: StatusCodes.Status503ServiceUnavailable)).ExcludeFromDescription();
app.MapOpenApi("/openapi/{documentName}.json");
app.MapHub<SceneHub>("/hub");
var api = app.MapGroup("/api");
SceneCalls.Map(api);
EditCalls.Map(api);
ExchangeCalls.Map(api);
SettingsCalls.Map(api);
LongWork.Map(api);
SelectionCalls.Map(api);
PictureCalls.Map(api);
MaterialPictureCalls.Map(api);
StillCalls.Map(api);
ShotCalls.Map(api);
UnusedCalls.Map(api);

try
{
    await Database.Alone(connectionString, async () =>
    {
        Database.Migrate(connectionString);
        await app.Services.GetRequiredService<DemoSeed>().SeedOnce();
    });
}
catch (NpgsqlException e)
{
    await Console.Error.WriteLineAsync($"The database cannot be reached or used: {e.Message.Split('\n')[0]}. Is PostgreSQL running, and is ConnectionStrings__CalmPivot right?");
    return 1;
}

await app.RunAsync();
return 0;

/// <summary>Named so that the tests can start the server.</summary>
public partial class Program;
