using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>
/// Two pages and a server, in every order in which edits, answers and pushes can pass each other: when all has been heard,
/// all three hold the same scene to the bit.
/// </summary>
public sealed class ReplicaLaws
{
    private static readonly string[] Ids = ["a", "b", "c"];

    private static readonly Gen<Edit> Edits = Gen.Select(
        Gen.Int[0, 5],
        Some.Of(Ids),
        Some.Of(Ids),
        Some.Point,
        Edit (kind, node, other, by) => kind switch
        {
            0 => new Move([node], by, new WorldSpace()),
            1 => new Rotate([node], by.X * 20, Vec3.UnitY, new ParentSpace(), new AboutOwn()),
            2 => new PutUnder([node], other),
            3 => new Remove([node], RemovedChildren.Lift),
            4 => new Create(new() { Id = node, Name = node, Kind = NodeKind.Group }),
            _ => new Rename(node, other),
        });

    private static readonly Gen<(bool First, int Act, Edit Edit)> Moments = Gen.Select(Gen.Bool, Gen.Int[0, 2], Edits);

    [Fact]
    public void When_all_has_been_heard_all_agree() => Moments.Array[30].Sample(
        moments =>
        {
            var server = new FakeServer();
            using var first = new FakePage(server);
            using var second = new FakePage(server);
            foreach (var (isFirst, act, edit) in moments)
            {
                var page = isFirst ? first : second;
                switch (act)
                {
                    case 0: page.Make(edit); break;
                    case 1: page.Send(); break;
                    default: page.Hear(); break;
                }
            }

            // Everything that is still under way arrives, one after the other.
            while (first.Send() | second.Send() | first.Hear() | second.Hear())
            {
            }

            first.Check();
            second.Check();
        },
        iter: 400);

    private static SceneDocument Scene() => Some.Scene([.. Ids.Select((id, i) => Some.Box(id, null, rank: i))]);

    /// <summary>Makes edits in the order in which they come, and tells every page of each.</summary>
    private sealed class FakeServer
    {
        public SceneDocument Document { get; } = Scene();

        public List<FakePage> Pages { get; } = [];

        public void Take(FakePage from, Pending pending)
        {
            Change change;
            try
            {
                change = Document.Keep([.. pending.Edits]);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                from.Inbox.Enqueue(new(0, null, pending.Ticket));
                return;
            }

            Document.Revision++;
            foreach (var page in Pages)
            {
                page.Inbox.Enqueue(new(Document.Revision, change, page == from ? pending.Ticket : null));
            }
        }
    }

    private sealed record Word(long Revision, Change? Change, long? Ticket);

    private sealed class FakePage : IDisposable
    {
        private readonly FakeServer _server;
        private readonly Replica _replica = new(Scene());
        private readonly HashSet<long> _sent = [];

        public FakePage(FakeServer server)
        {
            _server = server;
            server.Pages.Add(this);
        }

        public Queue<Word> Inbox { get; } = new();

        public void Make(Edit edit)
        {
            try
            {
                _replica.Keep([edit]);
                Tally.Done();
            }
            catch (Refusal refusal)
            {
                Tally.Refused(refusal);
                // Refused here already, so never sent.
            }
        }

        /// <summary>Sends the next own edit; the one before it must have been answered.</summary>
        public bool Send()
        {
            if (_replica.Unanswered.Count == 0 || !_sent.Add(_replica.Unanswered[0].Ticket))
            {
                return false;
            }

            _server.Take(this, _replica.Unanswered[0]);
            return true;
        }

        public bool Hear()
        {
            if (!Inbox.TryDequeue(out var word))
            {
                return false;
            }

            if (word.Change is not { } change)
            {
                _replica.Drop(word.Ticket!.Value, out _);
                return true;
            }

            _replica.Hear(
                word.Revision,
                [.. change.Nodes.Where(n => n.After is not null).Select(n => n.After!)],
                [.. change.Nodes.Where(n => n.After is null).Select(n => n.Id)],
                word.Ticket,
                out _);
            return true;
        }

        public void Check()
        {
            Assert.Empty(_replica.Unanswered);
            Assert.Equal(_server.Document.Branch(null), _replica.Scene.Branch(null));
            Assert.Equal(_server.Document.Revision, _replica.Scene.Revision);
            Assert.All(
                _server.Document.Nodes,
                node => Some.Near(_server.Document.World(node.Id), _replica.Evaluator.World(node.Id)));
        }

        public void Dispose() => _replica.Dispose();
    }
}
