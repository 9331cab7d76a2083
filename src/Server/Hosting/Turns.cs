namespace CalmPivot.Server.Hosting;

/// <summary>
/// Lets work begin as far as there is room for it over all callers, in the order in which it comes; of each person one at a time, so that nobody
/// waits for more than one of anybody else's.
/// <code>
/// using (await turns.Of(person, bytes, stopped)) { … }
/// </code>
/// </summary>
/// <param name="most">What all work together may take while it is done.</param>
public class Turns(long most)
{
    /// <summary>What all work together may take while it is done.</summary>
    public long Most { get; } = most;

    private readonly Lock _gate = new();

    /// <summary>Of each person the first that waits, in the order in which these came to the front of their own.</summary>
    private readonly LinkedList<Waiting> _line = [];

    /// <summary>Of each person that is in the line or has a turn, those that come after.</summary>
    private readonly Dictionary<string, LinkedList<Waiting>> _behind = [];

    private long _taken;

    /// <summary>Waits for a turn.</summary>
    /// <param name="takes">What it takes; more than there is counts as all of it.</param>
    /// <returns>To be disposed when it is done with.</returns>
    /// <exception cref="OperationCanceledException">The caller has gone.</exception>
    public async Task<IDisposable> Of(string person, long takes, CancellationToken stopped)
    {
        var mine = new Waiting(this, person, Math.Min(takes, Most));
        lock (_gate)
        {
            if (_behind.TryGetValue(person, out var before))
            {
                before.AddLast(mine);
            }
            else
            {
                _behind[person] = [];
                _line.AddLast(mine);
                Next();
            }
        }

        await using var leaving = stopped.Register(() => Leave(mine));
        await mine.Turn.Task;
        return mine;
    }

    /// <summary>Waits for a turn, and tells first if there is anything to wait for.</summary>
    public async Task<IDisposable> Turn(string person, long takes, Func<Task> waits, CancellationToken stopped)
    {
        var turn = Of(person, takes, stopped);
        if (!turn.IsCompleted)
        {
            await waits();
        }

        return await turn;
    }

    /// <summary>Those begin that are first in the line, as long as there is room; nobody smaller goes before, or a large one would wait for ever.</summary>
    private void Next()
    {
        while (_line.First is { Value: var one } && _taken + one.Takes <= Most)
        {
            _line.RemoveFirst();
            _taken += one.Takes;
            one.Turn.SetResult();
        }
    }

    private void Leave(Waiting one)
    {
        lock (_gate)
        {
            if (_behind.TryGetValue(one.Person, out var behind) && behind.Remove(one))
            {
                one.Turn.SetCanceled(CancellationToken.None);
            }
            else if (_line.Remove(one))
            {
                one.Turn.SetCanceled(CancellationToken.None);
                Follow(one.Person);
            }
        }
    }

    private void Done(Waiting one)
    {
        lock (_gate)
        {
            _taken -= one.Takes;
            Follow(one.Person);
        }
    }

    /// <summary>The next of a person goes to the end of the line.</summary>
    private void Follow(string person)
    {
        if (_behind[person].First is { Value: var next } first)
        {
            _behind[person].Remove(first);
            _line.AddLast(next);
        }
        else
        {
            _behind.Remove(person);
        }

        Next();
    }

    private sealed class Waiting(Turns turns, string person, long takes) : IDisposable
    {
        private int _done;

        public string Person => person;

        public long Takes => takes;

        public TaskCompletionSource Turn { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);

        public void Dispose()
        {
            if (Interlocked.Exchange(ref _done, 1) == 0)
            {
                turns.Done(this);
            }
        }
    }
}
