using CalmPivot.Core;

namespace CalmPivot.Exchange;

/// <summary>
/// A glTF file that was unpacked and looked over, but of which nothing has been made yet: how much memory reading it takes is known before.
/// <code>
/// var file = GltfFile.Open(upload);   // its description and data
/// if (file.Takes &lt;= allowed) { var imported = file.Read(stopped); }
/// </code>
/// </summary>
public sealed class GltfFile
{
    /// <summary>
    /// What is made of each byte of a description, of extras, and of each object. Measured on 100 000 and 200 000 objects of our own (36 and 74 MB), which take 242 and 428 MB.
    /// </summary>
    private const int TimesDescribed = 8;
    private const int TimesExtras = 2;
    private const int EachNode = 1_000;
    private const int TimesAtFirst = 7;

    private readonly Container _container;
    private readonly IReadOnlyList<string> _extensions;

    private GltfFile(Container container, IReadOnlyList<string> extensions, long becomes)
    {
        (_container, _extensions) = (container, extensions);
        var description = container.Description;
        Takes = container.Unpacked + becomes + (long)TimesDescribed * description.Json.Length + TimesExtras * description.ExtrasBytes + (long)EachNode * description.Children.Count;
    }

    /// <summary>How many bytes of memory reading it takes, of which what it becomes is a part.</summary>
    public long Takes { get; }

    /// <summary>How many bytes of memory opening an upload, and reading it as it is most often, takes; by what it says of itself.</summary>
    /// <param name="upload">Anything that can be gone through again.</param>
    /// <exception cref="Refusal">unsupported-file, broken-file, too-large.</exception>
    public static long TakesAtFirst(Stream upload)
    {
        ArgumentNullException.ThrowIfNull(upload);
        var (all, described) = Container.Look(upload);
        return described == upload.Length ? 3 * all : 2 * (all - described) + TimesAtFirst * described;
    }

    /// <exception cref="Refusal">unsupported-file, broken-file, too-large; nothing outside the upload has been read.</exception>
    public static GltfFile Open(Stream upload)
    {
        ArgumentNullException.ThrowIfNull(upload);
        return Guarded(() =>
        {
            var container = Container.Open(upload);
            using var description = Container.Parse(container.Description.WithoutNodes);
            var becomes = Inspection.Check(description.RootElement, container);
            return new GltfFile(container, [.. Inspection.Strings(description.RootElement, "extensionsUsed")], becomes);
        });
    }

    /// <exception cref="Refusal">unsupported-file, broken-file.</exception>
    /// <exception cref="OperationCanceledException">It was stopped.</exception>
    public ImportedFile Read(CancellationToken stopped = default) => Guarded(() => GltfReader.Read(_container, _extensions, stopped));

    /// <summary>Whatever a foreign file brings about in the library or in here, it is the file's fault, not the artist's.</summary>
    private static T Guarded<T>(Func<T> act)
    {
        try
        {
            return act();
        }
        catch (Exception e) when (e is not (Refusal or OperationCanceledException))
        {
            throw Container.Broken("it does not keep to glTF 2.0");
        }
    }
}
