using CalmPivot.Server.Api;
using CalmPivot.Server.Demo;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Neighbours;
using CalmPivot.Server.Push;
using CalmPivot.Server.Scenes;
using CalmPivot.Server.Store;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Npgsql;

var builder = WebApplication.CreateSlimBuilder(args);
if (Settings.Check(builder.Configuration, args) is { } wrong)
{
    await Console.Error.WriteLineAsync(wrong);
    return 1;
}

var connectionString = builder.Configuration.GetConnectionString(Settings.Database)!;

builder.Configuration["AllowedHosts"] ??= "localhost;127.0.0.1;[::1]";
Settings.Add(builder.Services);
Logs.Add(builder);
builder.WebHost.UseKestrelHttpsConfiguration();
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = 16 * 1024 * 1024;

    // Whoever is slower than any line is gives up the connection.
    kestrel.Limits.MinRequestBodyDataRate = new(bytesPerSecond: 1_000, gracePeriod: TimeSpan.FromSeconds(10));
});

builder.Services.AddSingleton(_ => Database.Open(connectionString));
builder.Services.AddSingleton<Company>();
builder.Services.AddSingleton(services => new Post(services.GetRequiredService<Company>(), services.GetRequiredService<NpgsqlDataSource>(), connectionString, services.GetRequiredService<LogLines>()));
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
builder.Services.AddSingleton<Audience>();
builder.Services.AddSingleton<IScenePush, ScenePush>();

// Who hears is there before it is listened.
builder.Services.AddHostedService<FromOthers>();
builder.Services.AddHostedService(services => services.GetRequiredService<Post>());
builder.Services.AddSingleton<DemoSeed>();
builder.Services.AddSingleton<Imports>();
builder.Services.AddSingleton<Exports>();
builder.Services.AddSingleton<LongWork>();
builder.Services.AddSingleton<CalmPivot.Server.Pictures.PictureTurns>();
builder.Services.AddSingleton<CalmPivot.Server.Pictures.StillTurns>();
builder.Services.AddSingleton<Health>();
builder.Services.AddSingleton<PersonStore>();
builder.Services.AddSingleton<Persons>();
builder.Services.AddDataProtection().SetApplicationName("Calm Pivot");
builder.Services.AddOptions<KeyManagementOptions>().Configure<PersonStore>((options, store) => options.XmlRepository = store);
builder.Services.AddSingleton<SelfDescription>();
builder.Services.AddSingleton<HubLog>();
builder.Services.AddSignalR(options => Microsoft.AspNetCore.SignalR.HubOptionsExtensions.AddFilter<HubLog>(options)).AddJsonProtocol(options => ApiJson.Configure(options.PayloadSerializerOptions));
builder.Services.AddProblemDetails();

// Whole scenes go out packed; files of the page lie packed already.
builder.Services.AddResponseCompression(options => options.MimeTypes = ["application/octet-stream"]);
builder.Services.AddOpenApi(Schemas.Configure);
Limits.Add(builder.Services);
builder.Services.AddHostFiltering(_ => { });
Guards.Add(builder.Services);
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.ConfigureHttpJsonOptions(options => ApiJson.Configure(options.SerializerOptions));

var app = builder.Build();
if (Settings.Check(app.Services) is { } unfit)
{
    await Console.Error.WriteLineAsync(unfit);
    return 1;
}

RequestLog.Use(app);
Guards.Use(app);
Problems.Use(app);
if (app.Configuration["Web"] is { } web)
{
    Pages.Use(app, web);
}

app.UseResponseCompression();
app.UseRouting();
Persons.Use(app);
app.UseRateLimiter();
app.MapGet("/healthz", async (Health health) => await health.Read() is var status && status == "ok"
    ? Results.Ok(new { status })
    : Results.Json(new { status }, statusCode: StatusCodes.Status503ServiceUnavailable)).ExcludeFromDescription();
SelfDescription.Map(app);
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
        app.Services.GetRequiredService<Persons>().MakeKey();
        await app.Services.GetRequiredService<DemoSeed>().SeedOnce();
    });
}
catch (NpgsqlException e)
{
    await Console.Error.WriteLineAsync($"The database cannot be reached or used: {e.Message.Split('\n')[0]}. Is PostgreSQL running, and is ConnectionStrings__CalmPivot right?");
    return 1;
}
catch (InvalidOperationException e) when (e.InnerException is { } inner)
{
    await Console.Error.WriteLineAsync($"{e.Message} {inner.Message.Split('\n')[0]}");
    return 1;
}

try
{
    await app.StartAsync();
}
catch (Exception e) when (e is IOException or FormatException or InvalidOperationException)
{
    await Console.Error.WriteLineAsync($"The server cannot listen where it was told to: {e.Message} Choose another address with --urls.");
    return 1;
}

await app.WaitForShutdownAsync();
return 0;

/// <summary>Named so that the tests can start the server.</summary>
public partial class Program;
