namespace CalmPivot.Browser;

/// <summary>Where what goes to the core at every move of the pointer stands among its numbers.</summary>
public enum PointerNumber
{
    /// <summary>Origin and direction, six numbers.</summary>
    Ray = 0,
    Fine = 6,

    /// <summary>Metres, degrees or a factor; 0: none.</summary>
    Step = 7,
    OnGrid = 8,

    /// <summary>The kinds that it snaps to, a bit each in their order; 0: it does not snap.</summary>
    SnapKinds = 9,
    SnapRadius = 10,
    SnapFocal = 11,
    SnapGrid = 12,

    /// <summary>Pivot, corner or picked point, in the order of <see cref="Core.Drags.SnapSource"/>.</summary>
    SnapSource = 13,
    SnapTurn = 14,
    SnapNext = 15,

    /// <summary>Whether a point was picked, and where: four numbers.</summary>
    SnapFrom = 16,
    Count = 20,
}

/// <summary>Where what the core answers to a move of the pointer stands among its numbers; lists take several places.</summary>
public enum TriedNumber
{
    Amount = 0,

    /// <summary>Whether there is a lead; else what follows of it says nothing.</summary>
    Lead = 3,
    Position = 4,
    Rotation = 7,
    Scale = 10,
    Shear = 13,
    Pivot = 16,
    PivotTurn = 19,
    PivotInWorld = 22,
    LiningUp = 25,

    /// <summary>Whether something was caught, and its kind in the order of <see cref="Core.Drags.SnapKind"/>.</summary>
    Caught = 26,
    CaughtKind = 27,
    CaughtPoint = 28,
    HasNormal = 31,
    CaughtNormal = 32,
    InReach = 35,
    Count = 36,
}

/// <summary>The words of such an answer, a line each.</summary>
public enum TriedLine
{
    Amount,
    From,
    To,
    Warning,
    RefusalWord,
    RefusalDetail,
    Caught,
}
