using CalmPivot.Server.Hosting;
using Microsoft.AspNetCore.SignalR;

namespace CalmPivot.Server.Push;

/// <summary>What is refused in the hub is a line, what fails there is one with its stack; not too many of each.</summary>
internal sealed partial class HubLog(LogLines lines) : IHubFilter
{
    public async ValueTask<object?> InvokeMethodAsync(HubInvocationContext invocationContext, Func<HubInvocationContext, ValueTask<object?>> next)
    {
        try
        {
            return await next(invocationContext);
        }
        catch (HubException e)
        {
            lines.Write("refused in the hub", log => Refused(log, invocationContext.HubMethodName, e.Message));
            throw;
        }
        catch (Exception e)
        {
            lines.Write("failed in the hub", log => Failed(log, e, invocationContext.HubMethodName));
            throw;
        }
    }

    [LoggerMessage(LogLevel.Information, "Hub {Method} refused: {Said}")]
    private static partial void Refused(ILogger log, string method, string said);

    [LoggerMessage(LogLevel.Error, "Hub {Method} failed.")]
    private static partial void Failed(ILogger log, Exception e, string method);
}
