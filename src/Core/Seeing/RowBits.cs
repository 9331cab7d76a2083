namespace CalmPivot.Core.Seeing;

/// <summary>What a line of the tree says of a node or a collection, in one number.</summary>
[Flags]
public enum RowBits
{
    None = 0,
    Working = 1,
    Final = 2,
    Locked = 4,
    DrawnAsWire = 8,
    DrawnAsBox = 16,

    /// <summary>A press on a member picks this group.</summary>
    Closed = 32,

    /// <summary>A collection with a rule.</summary>
    Smart = 64,
    Noted = 128,

    /// <summary>Seen in the current shot otherwise than the scene says.</summary>
    OwnInShot = 256,
}

/// <summary>What stands between the tabs of a line of the tree, in this order.</summary>
public enum RowColumn
{
    Id,

    /// <summary>Its place in the evaluated memory.</summary>
    Slot,
    Parent,
    Kind,

    /// <summary><see cref="RowBits"/>.</summary>
    Bits,

    /// <summary>The hash of stored geometry.</summary>
    Geometry,

    /// <summary>Nodes with the same word here share their shape.</summary>
    Shares,
    Color,

    /// <summary>The collections that it was put into, with commas between.</summary>
    Collections,

    /// <summary>Last: a name may hold anything.</summary>
    Name,
}
