using System.Diagnostics;
using CalmPivot.Proof;

// tests/prove [server] [database] [two] [fuzz]: all where none is named.
var proofs = new (string Name, Func<Task<string>> Run)[]
{
    ("server", Kills.OfServer),
    ("database", Kills.OfDatabase),
    ("two", TwoServers.Run),
    ("fuzz", Fuzzing.Run),
};
var failed = 0;
foreach (var (name, run) in proofs.Where(p => args.Length == 0 || args.Contains(p.Name)))
{
    var clock = Stopwatch.StartNew();
    try
    {
        Console.WriteLine($"{name}: {await run()}. {clock.Elapsed.TotalSeconds:0} s");
    }
    catch (Exception e)
    {
        failed++;
        Console.WriteLine($"{name}: FAILED after {clock.Elapsed.TotalSeconds:0} s: {(e is ProofFailed ? e.Message : e)}");
    }
}

return failed;

namespace CalmPivot.Proof
{
    internal sealed class ProofFailed(string message) : Exception(message);

    internal static class Check
    {
        public static void That(bool holds, string otherwise)
        {
            if (!holds)
            {
                throw new ProofFailed(otherwise);
            }
        }
    }
}
