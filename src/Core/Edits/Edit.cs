using System.Text.Json.Serialization;
using CalmPivot.Core.Json;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>
/// A value that changes a scene, says itself in a sentence, and can be undone. A drag, a typed amount and a call of the
/// API all end in the same <see cref="ApplyTo"/>; a preview is an edit on a draft that is thrown away. The attributes below
/// are the one registration that a verb needs.
/// <code>
/// Edit edit = new Move(["chair"], By: new(1, 0, 0), new WorldSpace());
/// var (change, sentence) = Batch.Run(document, [edit]); // "Moved Chair +1 m along the world's X"
/// document.Apply(change);
/// </code>
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "do")]
[JsonDerivedType(typeof(Create), "create")]
[JsonDerivedType(typeof(Add), "add")]
[JsonDerivedType(typeof(Remove), "remove")]
[JsonDerivedType(typeof(Rename), "rename")]
[JsonDerivedType(typeof(SetShape), "setShape")]
[JsonDerivedType(typeof(Place), "place")]
[JsonDerivedType(typeof(Move), "move")]
[JsonDerivedType(typeof(Rotate), "rotate")]
[JsonDerivedType(typeof(Scale), "scale")]
[JsonDerivedType(typeof(MovePivot), "movePivot")]
[JsonDerivedType(typeof(PutUnder), "putUnder")]
[JsonDerivedType(typeof(See), "see")]
[JsonDerivedType(typeof(LockNodes), "lock")]
[JsonDerivedType(typeof(SetNormals), "setNormals")]
[JsonDerivedType(typeof(Steer), "steer")]
[JsonDerivedType(typeof(SetOrder), "setOrder")]
[JsonDerivedType(typeof(SetTakes), "setTakes")]
[JsonDerivedType(typeof(DropShear), "dropShear")]
[JsonDerivedType(typeof(Mirror), "mirror")]
[JsonDerivedType(typeof(Align), "align")]
[JsonDerivedType(typeof(Spread), "spread")]
[JsonDerivedType(typeof(Drop), "drop")]
[JsonDerivedType(typeof(SetChannel), "set")]
[JsonDerivedType(typeof(Bring), "bring")]
[JsonDerivedType(typeof(CreateMark), "mark")]
[JsonDerivedType(typeof(FollowNode), "follow")]
[JsonDerivedType(typeof(Group), "group")]
[JsonDerivedType(typeof(Ungroup), "ungroup")]
[JsonDerivedType(typeof(Duplicate), "duplicate")]
[JsonDerivedType(typeof(Unshare), "unshare")]
[JsonDerivedType(typeof(Unlink), "unlink")]
[JsonDerivedType(typeof(Gather), "collection")]
[JsonDerivedType(typeof(Collect), "collect")]
[JsonDerivedType(typeof(SetRule), "setRule")]
[JsonDerivedType(typeof(SetLabel), "label")]
[JsonDerivedType(typeof(Draw), "draw")]
[JsonDerivedType(typeof(RenameMany), "renameMany")]
[JsonDerivedType(typeof(Paste), "paste")]
[JsonDerivedType(typeof(Separate), "separate")]
[JsonDerivedType(typeof(Join), "join")]
[JsonDerivedType(typeof(SetLight), "setLight")]
[JsonDerivedType(typeof(SetCamera), "setCamera")]
[JsonDerivedType(typeof(Constrain), "constrain")]
[JsonDerivedType(typeof(SetConstraint), "setConstraint")]
[JsonDerivedType(typeof(Unconstrain), "unconstrain")]
[JsonDerivedType(typeof(Bake), "bake")]
[JsonDerivedType(typeof(TurnTo), "turnTo")]
[JsonDerivedType(typeof(PanAndTilt), "panAndTilt")]
[JsonDerivedType(typeof(GiveLinks), "giveLinks")]
[JsonDerivedType(typeof(Drive), "drive")]
[JsonDerivedType(typeof(FaceWith), "faceWith")]
[JsonDerivedType(typeof(MakeShot), "shot")]
[JsonDerivedType(typeof(SetShot), "setShot")]
[JsonDerivedType(typeof(CopyShot), "copyShot")]
[JsonDerivedType(typeof(RemoveShot), "removeShot")]
[JsonDerivedType(typeof(Renumber), "renumber")]
[JsonDerivedType(typeof(SetTiming), "setTiming")]
[JsonDerivedType(typeof(SetSurroundings), "setSurroundings")]
[JsonDerivedType(typeof(PutHighlight), "highlight")]
[JsonDerivedType(typeof(SeeIn), "seeIn")]
[JsonDerivedType(typeof(TakeBack), "takeBack")]
[JsonDerivedType(typeof(Everywhere), "everywhere")]
[JsonDerivedType(typeof(CarryAlong), "carryAlong")]
[JsonDerivedType(typeof(TakeFrom), "takeFrom")]
[JsonDerivedType(typeof(OwnCamera), "ownCamera")]
[JsonDerivedType(typeof(ListShots), "shotList")]
[JsonDerivedType(typeof(KeepSize), "keepSize")]
[JsonDerivedType(typeof(Level), "level")]
[JsonDerivedType(typeof(MakeMaterial), "material")]
[JsonDerivedType(typeof(SetMaterial), "setMaterial")]
[JsonDerivedType(typeof(RemoveMaterial), "removeMaterial")]
[JsonDerivedType(typeof(Assign), "assign")]
[JsonDerivedType(typeof(TakeMaterial), "takeMaterial")]
[JsonDerivedType(typeof(MergeMaterials), "mergeMaterials")]
[JsonDerivedType(typeof(ClearMaterials), "clearMaterials")]
public abstract record Edit
{
    /// <summary>The nodes that the edit is about, in picking order.</summary>
    [JsonIgnore]
    public abstract IReadOnlyList<string> Picked { get; }

    /// <summary>Those of the picked that it is meant to change: what stays as it was is said by itself.</summary>
    [JsonIgnore]
    internal virtual IReadOnlyList<string> Edited => Picked;

    /// <summary>Whether it is about shots and what they have of their own, and so is made on the scene and not on the layer of the current one.</summary>
    [JsonIgnore]
    public virtual bool IsOfShots => false;

    /// <summary>What it means in one shot only, where that is something else than a difference of values.</summary>
    public virtual IReadOnlyList<Edit> InShot(string shot) => [this];

    /// <summary>Writes the edit into a draft.</summary>
    /// <exception cref="Refusal">The edit cannot be done; the draft is to be thrown away.</exception>
    public abstract void ApplyTo(SceneDraft draft);

    /// <summary>What the edit would do besides what it says, as a sentence said beforehand; null: nothing.</summary>
    public virtual string? Foretell(IScene scene) => null;

    /// <summary>
    /// What an edit of every shot does in layers that it is not computed on, where things stand otherwise: parts of a sentence, in which these are named.
    /// </summary>
    /// <param name="done">Said afterwards, not beforehand.</param>
    public virtual IReadOnlyList<string> Elsewhere(IScene scene, bool done) => [];

    /// <summary>The same edit of other nodes; for edits that can be repeated from copy to copy.</summary>
    /// <exception cref="Refusal">not-understood: it is not one of those.</exception>
    internal virtual Edit Instead(IReadOnlyList<string> nodes) =>
        throw new Refusal(Refusals.NotUnderstood, "Copies can be moved, rotated, scaled or mirrored from one to the next, nothing else.");

    /// <summary>The stored numbers that are shown while it is tried.</summary>
    [JsonIgnore]
    internal virtual Read Reads => Read.Position;

    /// <summary>The same edit with a point that is worked out of the nodes fixed where these have it, for their copies.</summary>
    internal virtual Edit Fixed(SceneDraft draft, IReadOnlyList<Node> nodes) => this;

    /// <summary>What the edit does and how, without the objects between; null: it cannot be repeated from copy to copy.</summary>
    internal virtual (string Did, string How)? Manner(Speaker say) => null;

    /// <summary>The edit in the past tense, as a line of the history; asked before the edit is applied.</summary>
    public abstract string Say(Speaker say);
}

/// <summary>Whether children ride along with an edit of what carries them, or keep their place in the world.</summary>
[JsonConverter(typeof(CamelCase<ChildrenMode>))]
public enum ChildrenMode
{
    Along,
    Stay,
}

/// <summary>Whether an edit turns and sizes nodes, or only carries their pivots to where it would take them.</summary>
[JsonConverter(typeof(CamelCase<Effect>))]
public enum Effect
{
    Whole,
    Places,
}

/// <summary>What stays when a node's reference changes: its place in the world, or its stored numbers.</summary>
[JsonConverter(typeof(CamelCase<Keep>))]
public enum Keep
{
    World,
    Numbers,
}
