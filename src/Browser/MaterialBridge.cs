using System.Runtime.InteropServices.JavaScript;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>Materials: what there are, what they are like, who is made of them. While an edit is tried, as it makes them.</summary>
public static partial class Bridge
{
    [JSExport]
    public static string Materials() => Write(MaterialReading.All(Now));

    /// <summary>One material; empty: it is gone.</summary>
    [JSExport]
    public static string MaterialOf(string id) => Now is var scene && scene.FindMaterial(id) is { } material ? Write(MaterialReading.Of(scene, material)) : "";

    /// <summary>What nodes are made of in a slot.</summary>
    [JSExport]
    public static string MadeOf(string ids, int slot) => Write(Core.Words.MadeOf.Of(Now, Replica.Scene, Read<string[]>(ids), slot));

    /// <summary>The nodes that are made of a material.</summary>
    [JSExport]
    public static string MaterialUsers(string id) => Write<string[]>([.. Now.Referrers(id).Where(user => Replica.Shown.Find(user) is not null)]);

    /// <summary>Who uses a material, in words; empty: nobody.</summary>
    [JSExport]
    public static string MaterialUsersInWords(string id) => Core.Edits.Materials.UsersInWords(Replica.Scene, [id]) ?? "";
}
