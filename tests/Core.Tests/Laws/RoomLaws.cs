using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>The rooms of the core stand in an order: none needs, by whatever way round, one that needs it.</summary>
public sealed partial class RoomLaws
{
    [Fact]
    public void No_rooms_of_the_core_need_each_other()
    {
        var needs = Needs();
        Assert.InRange(needs.Count, 14, 40);
        foreach (var room in needs.Keys)
        {
            Assert.True(Way(needs, room) is not { } circle, $"A circle: {string.Join(" → ", Way(needs, room) ?? [])}");
        }
    }

    /// <summary>Which rooms each room names, in its usings or in full.</summary>
    private static Dictionary<string, HashSet<string>> Needs()
    {
        var core = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "../../../src/Core"));
        var rooms = Directory.GetDirectories(core).Select(Path.GetFileName).OfType<string>().Where(d => d is not ("bin" or "obj")).ToHashSet();
        return rooms.ToDictionary(
            room => room,
            room => Directory.GetFiles(Path.Combine(core, room), "*.cs")
                .SelectMany(file => Named().Matches(Comments().Replace(File.ReadAllText(file), "")).Select(m => m.Groups[1].Value))
                .Where(other => other != room && rooms.Contains(other))
                .ToHashSet());
    }

    private static List<string>? Way(Dictionary<string, HashSet<string>> needs, string room)
    {
        var from = new Dictionary<string, string>();
        var next = new Queue<string>([room]);
        while (next.TryDequeue(out var at))
        {
            foreach (var other in needs[at].Where(o => from.TryAdd(o, at)))
            {
                next.Enqueue(other);
            }
        }

        if (!from.ContainsKey(room))
        {
            return null;
        }

        List<string> way = [room];
        do
        {
            way.Insert(0, from[way[0]]);
        }
        while (way[0] != room);
        return way;
    }

    private static string Here([CallerFilePath] string path = "") => path;

    [GeneratedRegex(@"(?:using CalmPivot\.Core\.|(?<![\w.])(?=(?:Amounts|Drags|Edits|Evaluation|History|Replicas|Trials|Wire|Words)\.[A-Z]))(\w+)")]
    private static partial Regex Named();

    [GeneratedRegex(@"//.*")]
    private static partial Regex Comments();
}
