using System.Collections.Concurrent;
using System.Globalization;
using System.Threading.Channels;
using CalmPivot.Server.Hosting;
using CalmPivot.Server.Store;
using Npgsql;

namespace CalmPivot.Server.Neighbours;

/// <summary>
/// What servers of one database tell each other, by LISTEN and NOTIFY. Each is heard every few seconds; of who is not, it is taken that it is gone. Letters may be
/// lost while the database is: what scenes came to is looked for in them then (<see cref="Regular"/>), all else is told again by the pages.
/// </summary>
public sealed partial class Post(Company company, NpgsqlDataSource source, string connectionString, LogLines lines) : BackgroundService
{
    public static readonly TimeSpan Beat = TimeSpan.FromSeconds(2);

    /// <summary>Who was not heard for so long is gone.</summary>
    private static readonly TimeSpan Silent = TimeSpan.FromSeconds(7);

    /// <summary>Whoever is there has answered by then.</summary>
    private static readonly TimeSpan Answering = TimeSpan.FromSeconds(3);

    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    private const int MostWaiting = 2_000;

    private readonly Channel<Letter> _going = Channel.CreateBounded<Letter>(new BoundedChannelOptions(MostWaiting) { FullMode = BoundedChannelFullMode.DropOldest, SingleReader = true });
    private readonly Channel<(string Channel, string Text)> _coming = Channel.CreateUnbounded<(string, string)>(new() { SingleReader = true });
    private readonly ConcurrentDictionary<string, long> _heard = new();
    private readonly PieceReader _pieces = new();
    private long _number;
    private long _connected;

    /// <summary>A letter of another server.</summary>
    public event Func<Letter, Task>? Came;

    /// <summary>Another server has led a scene to a revision.</summary>
    public event Action<string, long>? Stepped;

    /// <summary>A server is heard for the first time, or again.</summary>
    public event Action? Found;

    /// <summary>A server is gone, whether it said so or not.</summary>
    public event Func<string, Task>? Lost;

    /// <summary>Time to look whether anything was missed: every few seconds while others are there, and whenever the database is back.</summary>
    public event Func<Task>? Regular;

    /// <summary>The others that are there.</summary>
    public IReadOnlyCollection<string> Others => [.. _heard.Keys.Where(name => name != company.Name)];

    /// <summary>Tells all other servers, where there are any. It does not wait for them.</summary>
    public void Tell(LetterKind kind, IReadOnlyList<string> scenes, string? page = null, string? of = null, string? method = null, object? said = null)
    {
        if (!company.Alone)
        {
            Send(new(company.Name, kind, scenes, page, of, method, said is null ? null : System.Text.Json.JsonSerializer.SerializeToElement(said, Api.ApiJson.Options)));
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.WhenAll(Listening(stoppingToken), Sending(stoppingToken), Hearing(stoppingToken), Beating(stoppingToken));
        await Leave();
    }

    private void Send(Letter letter) => _going.Writer.TryWrite(letter);

    private async Task Listening(CancellationToken stopped)
    {
        while (!stopped.IsCancellationRequested)
        {
            try
            {
                await using var connection = Database.Listening(connectionString);
                await connection.OpenAsync(stopped);
                connection.Notification += (_, said) => _coming.Writer.TryWrite((said.Channel, said.Payload));
                await connection.Run($"listen {Company.Steps}");
                await connection.Run($"listen {Company.Letters}");
                _heard[company.Name] = Environment.TickCount64;
                Volatile.Write(ref _connected, Environment.TickCount64);
                Send(new(company.Name, LetterKind.Hello, []));
                await Raise(Regular);
                while (true)
                {
                    await connection.WaitAsync(stopped);
                }
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception e)
            {
                Volatile.Write(ref _connected, 0);
                company.Alone = false;
                lines.Write("listening", log => NotListening(log, e.Message.Split('\n')[0]));
                await Task.Delay(Pause, stopped).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    /// <summary>What waits goes together, in one statement.</summary>
    private async Task Sending(CancellationToken stopped)
    {
        while (!stopped.IsCancellationRequested)
        {
            try
            {
                await _going.Reader.WaitToReadAsync(stopped);
                var pieces = new List<string>();
                while (pieces.Count < MostWaiting && _going.Reader.TryRead(out var letter))
                {
                    pieces.AddRange(Pieces.Cut(letter, _number++));
                }

                await Notify(pieces);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception e)
            {
                lines.Write("telling others", log => NotTold(log, e.Message.Split('\n')[0]));
                await Task.Delay(Pause, stopped).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private async Task Notify(List<string> pieces)
    {
        await using var connection = await source.OpenConnectionAsync();
        await connection.Rows("select count(pg_notify(@channel, piece)) from unnest(@pieces) piece", r => r.GetInt64(0), ("channel", Company.Letters), ("pieces", pieces.ToArray()));
    }

    private async Task Hearing(CancellationToken stopped)
    {
        try
        {
            await foreach (var (channel, text) in _coming.Reader.ReadAllAsync(stopped))
            {
                try
                {
                    await (channel == Company.Steps ? HearStep(text) : Hear(text));
                }
                catch (Exception e)
                {
                    lines.Write("heard from others", log => NotHeard(log, e));
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The server stops.
        }
    }

    private Task HearStep(string text)
    {
        if (text.Split(' ') is [var from, var scene, var revision] && from != company.Name && long.TryParse(revision, CultureInfo.InvariantCulture, out var number))
        {
            Stepped?.Invoke(scene, number);
        }

        return Task.CompletedTask;
    }

    private async Task Hear(string piece)
    {
        if (_pieces.Take(piece) is not { } letter)
        {
            return;
        }

        if (letter.From == company.Name)
        {
            _heard[company.Name] = Environment.TickCount64;
            return;
        }

        if (letter.Kind == LetterKind.Leaving)
        {
            await Lose(letter.From);
            return;
        }

        var known = _heard.ContainsKey(letter.From);
        _heard[letter.From] = Environment.TickCount64;
        company.Alone = false;
        if (!known)
        {
            Found?.Invoke();
        }

        if (letter.Kind == LetterKind.Hello)
        {
            Send(new(company.Name, LetterKind.Here, []));
        }
        else if (letter.Kind != LetterKind.Here && Came is { } came)
        {
            await came(letter);
        }
    }

    private async Task Beating(CancellationToken stopped)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(1));
        long beaten = 0;
        try
        {
            while (await timer.WaitForNextTickAsync(stopped))
            {
                var now = Environment.TickCount64;
                foreach (var gone in _heard.Where(h => now - h.Value > Silent.TotalMilliseconds).Select(h => h.Key).ToList())
                {
                    await Lose(gone);
                }

                // Who does not hear itself hears nobody.
                company.Alone = Others.Count == 0 && _heard.ContainsKey(company.Name) && Volatile.Read(ref _connected) is var since and > 0 && now - since > Answering.TotalMilliseconds;
                if (now - beaten >= Beat.TotalMilliseconds)
                {
                    beaten = now;
                    Send(new(company.Name, LetterKind.Here, []));
                    if (!company.Alone)
                    {
                        await Raise(Regular);
                    }
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The server stops.
        }
    }

    private async Task Lose(string name)
    {
        _pieces.Forget(name);
        if (_heard.TryRemove(name, out _) && name != company.Name)
        {
            await Raise(Lost is { } lost ? () => lost(name) : null);
        }
    }

    private async Task Raise(Func<Task>? act)
    {
        try
        {
            await (act?.Invoke() ?? Task.CompletedTask);
        }
        catch (Exception e)
        {
            lines.Write("heard from others", log => NotHeard(log, e));
        }
    }

    private async Task Leave()
    {
        try
        {
            await Notify([.. Pieces.Cut(new(company.Name, LetterKind.Leaving, []), _number++)]);
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException or TimeoutException)
        {
            // They notice by themselves.
        }
    }

    [LoggerMessage(LogLevel.Warning, "What other servers tell is not heard at the moment: {Said}")]
    private static partial void NotListening(ILogger log, string said);

    [LoggerMessage(LogLevel.Warning, "Other servers were not told: {Said}")]
    private static partial void NotTold(ILogger log, string said);

    [LoggerMessage(LogLevel.Error, "What another server told could not be taken in.")]
    private static partial void NotHeard(ILogger log, Exception e);
}
