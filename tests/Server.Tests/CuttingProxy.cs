using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace CalmPivot.Server.Tests;

/// <summary>Stands between a server and its database: counts the ways there and back, and cuts the line at a chosen moment.</summary>
public sealed class CuttingProxy : IDisposable
{
    public enum Cut
    {
        None,

        /// <summary>What is asked next never arrives.</summary>
        Before,

        /// <summary>What is asked next is done; what the database says to it is lost.</summary>
        After,
    }

    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly (string Host, int Port) _target;
    private int _armed;
    private int _ways;

    public CuttingProxy(string connectionString)
    {
        var target = new NpgsqlConnectionStringBuilder(connectionString);
        _target = (target.Host!, target.Port);
        _listener.Start();
        ConnectionString = new NpgsqlConnectionStringBuilder(connectionString) { Host = "127.0.0.1", Port = ((IPEndPoint)_listener.LocalEndpoint).Port, SslMode = SslMode.Disable }.ConnectionString;
        _ = Accept();
    }

    public string ConnectionString { get; }

    /// <summary>How many times something was asked and answered.</summary>
    public int Ways => _ways;

    /// <summary>How many lines were cut.</summary>
    public int Cuts { get; private set; }

    public void Arm(Cut cut) => _armed = (int)cut;

    public void Dispose() => _listener.Dispose();

    private async Task Accept()
    {
        try
        {
            while (true)
            {
                _ = Carry(await _listener.AcceptTcpClientAsync());
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // It is over.
        }
    }

    private async Task Carry(TcpClient here)
    {
        using var there = new TcpClient();
        using (here)
        {
            await there.ConnectAsync(_target.Host, _target.Port);
            (here.NoDelay, there.NoDelay) = (true, true);
            var asking = false;
            var losing = false;
            async Task Pipe(NetworkStream from, NetworkStream to, bool asks)
            {
                var bytes = new byte[1 << 16];
                for (int count; (count = await from.ReadAsync(bytes)) > 0;)
                {
                    if (asks && (Cut)Interlocked.Exchange(ref _armed, 0) is var cut and not Cut.None)
                    {
                        losing = cut == Cut.After;
                        if (!losing)
                        {
                            break;
                        }
                    }

                    if (!asks && losing)
                    {
                        break;
                    }

                    if (asks != asking)
                    {
                        asking = asks;
                        Interlocked.Add(ref _ways, asks ? 1 : 0);
                    }

                    await to.WriteAsync(bytes.AsMemory(0, count));
                }
            }

            try
            {
                var (client, server) = (here.GetStream(), there.GetStream());
                var first = await Task.WhenAny(Pipe(client, server, asks: true), Pipe(server, client, asks: false));
                await first;
            }
            catch (IOException)
            {
                // One of them has gone.
            }

            Cuts++;
        }
    }
}
