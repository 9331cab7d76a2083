using CalmPivot.Server.Push;

namespace CalmPivot.Server.Api;

/// <summary>Tells the page that asked for something long how far it is; nothing, where a caller has no page.</summary>
internal sealed class Progress(IScenePush push, string? page)
{
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(200);
    private DateTime _last = DateTime.MinValue;

    public static Progress Of(HttpContext context) =>
        new(context.RequestServices.GetRequiredService<IScenePush>(), EditCalls.PageOf(context));

    /// <summary>A new part of the work begins: "Reading the file".</summary>
    public Task Says(string what)
    {
        _last = DateTime.MinValue;
        return Tell(what, 0, 0);
    }

    /// <summary>How many of how many are done; told a few times a second at most.</summary>
    public Task Counts(string what, int done, int all) => DateTime.UtcNow - _last < Between ? Task.CompletedTask : Tell(what, done, all);

    private Task Tell(string what, int done, int all)
    {
        _last = DateTime.UtcNow;
        return page is null ? Task.CompletedTask : push.Progress(page, new(what, done, all));
    }
}
