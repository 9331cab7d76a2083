using System.Runtime.Versioning;

[assembly: SupportedOSPlatform("browser")]

namespace CalmPivot.Browser;

/// <summary>The core in the page. Nothing runs here by itself: the page calls the exports of <see cref="Bridge"/>.</summary>
internal static class Program
{
    private static void Main()
    {
    }
}
