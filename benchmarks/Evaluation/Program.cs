using System.Diagnostics;
using System.Globalization;
using System.Runtime.InteropServices;
using CalmPivot.Core.Evaluation;

namespace CalmPivot.Bench;

/// <summary>Sweeps a tree of 100 000 nodes with the core's own loop and prints the median in microseconds. Its twin is sweep.cpp.</summary>
internal static unsafe class Program
{
    private const int Count = 100_000;

    private static void Main(string[] args)
    {
        if (args is ["draft"])
        {
            Console.WriteLine(string.Join(' ', DraftTimes.Of(50_000, 1_000).Select(t => t.ToString("F2", CultureInfo.InvariantCulture))));
            return;
        }

        var locals = Allocate<double>(Count * WorldKernel.Stride);
        var worlds = Allocate<double>(Count * WorldKernel.Stride);
        var parents = Allocate<int>(Count);
        for (var i = 0; i < Count; i++)
        {
            parents[i] = i == 0 ? -1 : (i - 1) / 4;
            ReadOnlySpan<double> local = [0.96, -0.28, 0, 0.1, 0.28, 0.96, 0, 0.2, 0, 0, 1, 0.3];
            local.CopyTo(new Span<double>(locals + i * WorldKernel.Stride, WorldKernel.Stride));
        }

        var times = new List<double>();
        for (var run = 0; run < 150; run++)
        {
            locals[3] = run;
            var start = Stopwatch.GetTimestamp();
            WorldKernel.Sweep(worlds, locals, parents, 0, Count);
            times.Add(Stopwatch.GetElapsedTime(start).TotalMicroseconds);
        }

        // The first half lets the compiler warm up.
        var late = times.Skip(75).Order().ToList();
        Console.WriteLine(late[late.Count / 2].ToString("F1", CultureInfo.InvariantCulture) + " " + worlds[Count * WorldKernel.Stride - 1].ToString("R", CultureInfo.InvariantCulture));
    }

    private static T* Allocate<T>(int count)
        where T : unmanaged => (T*)NativeMemory.AlignedAlloc((nuint)(count * sizeof(T)), 64);
}
