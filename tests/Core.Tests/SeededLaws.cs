using System.Buffers.Binary;
using System.Globalization;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using CsCheck;

namespace CalmPivot;

/// <summary>
/// Laws over random input whose input is the same in every run of the same clone. CsCheck's own <c>Sample</c> begins elsewhere each time; these
/// stand before it, since they lie in a namespace nearer to the tests.
/// <para>
/// A law runs first by the seeds that were written down for it (<c>tests/seeds.txt</c>: those by which it has failed before), then by a sequence
/// that begins with its name. <c>./test laws 10</c> (CALM_PIVOT_LAWS=10) goes ten times as far, from a beginning of its own, and prints the seed of
/// what fails, to be written down.
/// </para>
/// <example><code>
/// Some.Placements.Sample(placement => Assert.Equal(placement, Again(placement)), iter: 500);
/// </code></example>
/// </summary>
internal static class SeededLaws
{
    private static readonly double Times = double.Parse(Environment.GetEnvironmentVariable("CALM_PIVOT_LAWS") ?? "1", CultureInfo.InvariantCulture);

    private static readonly string Beginning = Environment.GetEnvironmentVariable("CALM_PIVOT_LAWS") is null ? "" : Guid.NewGuid().ToString("N");

    private static readonly ILookup<string, string> Written = typeof(SeededLaws).Assembly.GetManifestResourceStream("seeds.txt") is { } stream
        ? new StreamReader(stream).ReadToEnd().Split('\n').Select(line => line.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            .Where(words => words.Length == 2 && words[0][0] != '#').ToLookup(words => words[0], words => words[1])
        : throw new InvalidOperationException("The written seeds are not in the assembly.");

    /// <summary>Holds a law against inputs of a generator.</summary>
    /// <param name="iter">How many inputs in a usual run.</param>
    /// <param name="least">The share of what is tried that is done at least, where some of it may be refused.</param>
    /// <param name="law">The law's name; the caller's own.</param>
    /// <param name="file">Where it stands; its class is named like the file.</param>
    public static void Sample<T>(this Gen<T> gen, Action<T> assert, long iter = 100, double least = 0.1, [CallerMemberName] string law = "", [CallerFilePath] string file = "")
    {
        var name = $"{Path.GetFileNameWithoutExtension(file)}.{law}";
        using var tally = Tally.Begin(name);
        foreach (var seed in Written[name])
        {
            Hold(gen, assert, PCG.Parse(seed), name);
        }

        var count = (long)(iter * Times);
        for (var i = 0L; i < count; i++)
        {
            var hash = SHA256.HashData(Encoding.UTF8.GetBytes($"{name} {Beginning} {i}"));
            Hold(gen, assert, new PCG(BinaryPrimitives.ReadUInt32LittleEndian(hash), BinaryPrimitives.ReadUInt64LittleEndian(hash.AsSpan(8))), name);
        }

        tally.Check(least);
    }

    public static void Sample<T1, T2>(this Gen<(T1, T2)> gen, Action<T1, T2> assert, long iter = 100, double least = 0.1, [CallerMemberName] string law = "", [CallerFilePath] string file = "") =>
        gen.Sample(t => assert(t.Item1, t.Item2), iter, least, law, file);

    public static void Sample<T1, T2, T3>(this Gen<(T1, T2, T3)> gen, Action<T1, T2, T3> assert, long iter = 100, double least = 0.1, [CallerMemberName] string law = "", [CallerFilePath] string file = "") =>
        gen.Sample(t => assert(t.Item1, t.Item2, t.Item3), iter, least, law, file);

    public static void Sample<T1, T2, T3, T4>(
        this Gen<(T1, T2, T3, T4)> gen, Action<T1, T2, T3, T4> assert, long iter = 100, double least = 0.1, [CallerMemberName] string law = "", [CallerFilePath] string file = "") =>
        gen.Sample(t => assert(t.Item1, t.Item2, t.Item3, t.Item4), iter, least, law, file);

    public static void Sample<T1, T2, T3, T4, T5>(
        this Gen<(T1, T2, T3, T4, T5)> gen, Action<T1, T2, T3, T4, T5> assert, long iter = 100, double least = 0.1, [CallerMemberName] string law = "", [CallerFilePath] string file = "") =>
        gen.Sample(t => assert(t.Item1, t.Item2, t.Item3, t.Item4, t.Item5), iter, least, law, file);

    public static void Sample<T1, T2, T3, T4, T5, T6>(
        this Gen<(T1, T2, T3, T4, T5, T6)> gen, Action<T1, T2, T3, T4, T5, T6> assert, long iter = 100, double least = 0.1, [CallerMemberName] string law = "", [CallerFilePath] string file = "") =>
        gen.Sample(t => assert(t.Item1, t.Item2, t.Item3, t.Item4, t.Item5, t.Item6), iter, least, law, file);

    public static void Sample<T1, T2, T3, T4, T5, T6, T7, T8>(
        this Gen<(T1, T2, T3, T4, T5, T6, T7, T8)> gen,
        Action<T1, T2, T3, T4, T5, T6, T7, T8> assert,
        long iter = 100,
        double least = 0.1,
        [CallerMemberName] string law = "",
        [CallerFilePath] string file = "") =>
        gen.Sample(t => assert(t.Item1, t.Item2, t.Item3, t.Item4, t.Item5, t.Item6, t.Item7, t.Item8), iter, least, law, file);

    private static void Hold<T>(Gen<T> gen, Action<T> assert, PCG random, string law)
    {
        var state = random.State;
        var input = gen.Generate(random, null, out _);
        try
        {
            assert(input);
        }
        catch (Exception broken)
        {
            throw new BrokenLawException(law, random.ToString(state), Smaller(gen, assert, random.ToString(state)) ?? Check.Print(input), broken);
        }
    }

    /// <summary>What CsCheck says of a smaller input that breaks the law as well, with its seed; null where it finds none.</summary>
    private static string? Smaller<T>(Gen<T> gen, Action<T> assert, string seed)
    {
        try
        {
            Check.Sample(gen, assert, seed: seed, iter: 100, threads: 1);
            return null;
        }
        catch (CsCheckException smaller)
        {
            return smaller.Message;
        }
    }
}

/// <summary>A law that did not hold, with the line that <c>tests/seeds.txt</c> takes.</summary>
internal sealed class BrokenLawException(string law, string seed, string input, Exception broken)
    : Exception($"Does not hold; for tests/seeds.txt: {law} {seed}\nInput: {(input.Length > 2000 ? input[..2000] + " …" : input)}\n{broken.Message}", broken);
