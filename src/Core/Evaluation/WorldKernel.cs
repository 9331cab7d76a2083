using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;

namespace CalmPivot.Core.Evaluation;

/// <summary>
/// The one hot loop: <c>world = parentWorld · local</c> over 3×4 matrices, twelve doubles each, row by row. Two numbers
/// are multiplied at once, which the page's interpreter and the server's compiler both turn into vector instructions.
/// </summary>
public static unsafe class WorldKernel
{
    public const int Stride = 12;

    /// <summary>Computes slots <paramref name="from"/> to before <paramref name="to"/>; every parent's slot is lower than its child's, −1 is the world.</summary>
    public static void Sweep(double* worlds, double* locals, int* parents, int from, int to)
    {
        var l = locals + from * (long)Stride;
        var w = worlds + from * (long)Stride;
        var p = parents + from;
        var end = worlds + to * (long)Stride;
        while (w < end)
        {
            if (*p < 0)
            {
                Copy(w, l);
            }
            else
            {
                Multiply(w, worlds + *p * (long)Stride, l);
            }

            l += Stride;
            w += Stride;
            p++;
        }
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static void Copy(double* w, double* l)
    {
        for (var i = 0; i < Stride; i += 2)
        {
            *(Vector128<double>*)(w + i) = *(Vector128<double>*)(l + i);
        }
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static void Multiply(double* w, double* p, double* l)
    {
        var l0 = *(Vector128<double>*)l;
        var l1 = *(Vector128<double>*)(l + 2);
        var l2 = *(Vector128<double>*)(l + 4);
        var l3 = *(Vector128<double>*)(l + 6);
        var l4 = *(Vector128<double>*)(l + 8);
        var l5 = *(Vector128<double>*)(l + 10);

        var a = Vector128.Create(p[0]);
        var b = Vector128.Create(p[1]);
        var c = Vector128.Create(p[2]);
        *(Vector128<double>*)w = a * l0 + b * l2 + c * l4;
        *(Vector128<double>*)(w + 2) = a * l1 + b * l3 + c * l5;
        w[3] += p[3];

        a = Vector128.Create(p[4]);
        b = Vector128.Create(p[5]);
        c = Vector128.Create(p[6]);
        *(Vector128<double>*)(w + 4) = a * l0 + b * l2 + c * l4;
        *(Vector128<double>*)(w + 6) = a * l1 + b * l3 + c * l5;
        w[7] += p[7];

        a = Vector128.Create(p[8]);
        b = Vector128.Create(p[9]);
        c = Vector128.Create(p[10]);
        *(Vector128<double>*)(w + 8) = a * l0 + b * l2 + c * l4;
        *(Vector128<double>*)(w + 10) = a * l1 + b * l3 + c * l5;
        w[11] += p[11];
    }
}
