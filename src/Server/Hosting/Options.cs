using System.ComponentModel.DataAnnotations;

namespace CalmPivot.Server.Hosting;

/// <summary>"Limits": how much may be asked for at once; a fiftieth of it comes back each second.</summary>
internal sealed class LimitOptions
{
    public const string Section = "Limits";

    /// <summary>Edits, undos and redos of a person.</summary>
    [Range(1, 1_000_000_000)]
    public int Edits { get; init; } = 5_000;

    /// <summary>Scenes that a person makes.</summary>
    [Range(1, 1_000_000_000)]
    public int Scenes { get; init; } = 500;

    /// <summary>Files that a person brings.</summary>
    [Range(1, 1_000_000_000)]
    public int Uploads { get; init; } = 250;

    /// <summary>New persons of an address; of these one comes back in five seconds.</summary>
    [Range(1, 1_000_000_000)]
    public int Persons { get; init; } = 200;
}

/// <summary>"Collecting": what goes by itself.</summary>
internal sealed class CollectingOptions
{
    public const string Section = "Collecting";

    /// <summary>So often it is looked for.</summary>
    [Range(0.0001, 87_600)]
    public double Hours { get; init; } = 6;

    /// <summary>So long geometry and pictures are unused before they go.</summary>
    [Range(0, 87_600)]
    public double UnusedHours { get; init; } = 24;
}

/// <summary>"Scenes": what is in memory.</summary>
internal sealed class SceneOptions
{
    public const string Section = "Scenes";

    /// <summary>A scene that nobody has asked for in so long is let go.</summary>
    [Range(1, 1_000_000)]
    public int IdleSeconds { get; init; } = 120;
}

/// <summary>"Logs": what is written down of what happens.</summary>
public sealed class LogOptions
{
    public const string Section = "Logs";

    /// <summary>Each call by a line of its own, and not only what was refused, failed or took long.</summary>
    public bool Each { get; init; }

    /// <summary>So many lines a minute of one kind; what comes beyond is counted.</summary>
    [Range(1, 1_000_000)]
    public int LinesAMinute { get; init; } = 30;

    /// <summary>The file that it goes to; left out: to where the server was started.</summary>
    public string? File { get; init; }

    /// <summary>A file of this size is put aside and a new one begun.</summary>
    [Range(1, 1_024)]
    public int Megabytes { get; init; } = 8;

    /// <summary>So many files are kept.</summary>
    [Range(1, 1_000)]
    public int Files { get; init; } = 5;
}
