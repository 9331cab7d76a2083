using System.Text.Json;
using System.Text.Json.Serialization;
using CalmPivot.Core;
using CalmPivot.Core.Amounts;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Drags;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Replicas;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Seeing;
using CalmPivot.Core.Spaces;
using CalmPivot.Core.Trials;
using CalmPivot.Core.Wire;
using CalmPivot.Core.Words;

namespace CalmPivot.Browser;

/// <summary>Figures that page and core share.</summary>
/// <param name="Copies">How many objects one step makes at most.</param>
/// <param name="Spread">How many are picked at least to be spread.</param>
/// <param name="LinesUpBelow">Nearer than this, in degrees, two rotation axes are said to line up.</param>
/// <param name="Units">The units that a scene can be shown in, and the metres of each.</param>
internal sealed record LimitsAnswer(int Copies, int Spread, double LinesUpBelow, int Name, int Note, Dictionary<string, double> Units);

/// <summary>A refusal as the page reads it.</summary>
internal sealed record RefusalAnswer(string Refusal, string Detail);

/// <summary>A scene that was read, to be opened.</summary>
/// <param name="Geometries">The hashes of the stored geometry that it uses.</param>
internal sealed record LoadedAnswer(long Revision, string[] Geometries);

/// <summary>What came of keeping an edit: the ticket to send it under, and what is to be drawn anew.</summary>
/// <param name="Edits">What is to be sent, where the page does not know it: what a trial led to.</param>
/// <param name="Shot">The shot that was current; null: none.</param>
/// <param name="Narrow">Whether they were made in it alone.</param>
/// <param name="Carry">What would carry along the shots that keep their own; null: none does.</param>
internal sealed record KeptAnswer(long Ticket, string Sentence, JsonElement? Edits, bool Empty, Stale Stale, string? Shot, bool? Narrow, CarryAnswer? Carry);

/// <param name="Shots">"03 Dome and 05 Dusk".</param>
internal sealed record CarryAnswer(string Shots, JsonElement Edit);

/// <summary>The shots of the scene, and what it counts by.</summary>
/// <param name="Versions">How often the picture of each may have changed.</param>
/// <param name="Total">"14 s · 336".</param>
internal sealed record ShotsAnswer(IReadOnlyList<ShotReading> Shots, int[] Versions, double Fps, int FirstFrame, string Total);

internal sealed record FramesAnswer(int Frames);

/// <summary>What came of hearing the server.</summary>
/// <param name="Ongoing">What became of what is being tried; null: nothing is.</param>
internal sealed record HeardAnswer(Stale Stale, IReadOnlyList<RefusalAnswer> Dropped, OngoingAnswer? Ongoing = null);

/// <summary>What is being tried, after the scene has changed under it.</summary>
internal sealed record OngoingAnswer(bool Goes, string? Said = null, TrialAnswer? Tried = null);

/// <summary>A step of the server: what it changed.</summary>
/// <param name="Changed">Nodes; an answer of a former version had collections among them.</param>
internal sealed record HeardStep(long Revision, EntityData[] Changed, string[] Removed, long? Ticket = null, EntityData[]? Entities = null, GoneEntity[]? Gone = null, PartChange[]? Written = null);

/// <summary>The state of a trial: the words of the sentence, and a refusal where the last amount could not be done.</summary>
internal sealed record TrialAnswer(Reading Reading, Vec3 Amount, RefusalAnswer? Refused, LeadAnswer? Lead, CaughtAnswer? Caught);

/// <summary>What a drag snapped to: its sign on the stage and its name in words.</summary>
internal sealed record CaughtAnswer(SnapKind Kind, string Words, Vec3 Point, Vec3? Normal, int InReach);

/// <summary>A shape that is being drawn: the corners of its bounds, the four of the footprint first, and the edit that makes it.</summary>
internal sealed record DrawnAnswer(double[] Corners, string Words, bool HasHeight, JsonElement? Edit);

/// <summary>What of a surface was pressed.</summary>
internal sealed record SurfaceAnswer(SurfacePart Part, Vec3 Upright, Vec3 Point);

/// <summary>What of the lead a trial changes: few numbers, since it is asked at every move of the pointer.</summary>
internal sealed record LeadAnswer(Placement Placement, Vec3 PivotInWorld, double LiningUp);

/// <summary>Where handles stand: the centre, and the axes as nine numbers, column by column.</summary>
/// <param name="Refused">The word of the refusal, where it could not be done; the warning says why.</param>
internal sealed record FrameAnswer(Vec3 Centre, double[] Axes, string? Warning, string? Refused);

/// <summary>A node for the panels, with what only evaluation knows.</summary>
/// <param name="Anchor">Which of the 27 points of its bounds the pivot stands on; null: none.</param>
internal sealed record NodeAnswer(NodeData Node, double[] World, Vec3 PivotInWorld, BoundsAnswer? Bounds, double LiningUp, string? ShearedBy, Vec3? Anchor);

/// <summary>A camera of the scene as it is looked through.</summary>
internal sealed record CameraAnswer(double[] World, LensAnswer Lens);

/// <summary>A lens as it is looked through.</summary>
/// <param name="Near">Null: as needed.</param>
/// <param name="ShiftX">In picture heights.</param>
/// <param name="Opening">How wide the light comes in, in metres; 0: all is sharp.</param>
/// <param name="Focus">Metres along the view.</param>
/// <param name="Width">The picture, in pixels.</param>
internal sealed record LensAnswer(
    Projection Projection, double Fov, double Height, double Aspect, double? Near, double? Far, double ShiftX, double ShiftY, double Opening, double Focus, int Width, int PictureHeight);

/// <summary>What lights the scene from all sides, and how bright its pictures are.</summary>
/// <param name="Own">Which of it the current shot has of its own: surroundings, exposure.</param>
internal sealed record SurroundingsAnswer(SurroundingsKind Style, string Color, string Ground, string? Picture, double Strength, double Turn, bool Behind, double Exposure, IReadOnlyList<string> Own);

internal sealed record ShadowAnswer(string Id, double[] World, Vec3 From, Vec3 To);

internal sealed record BoundsAnswer(Vec3 Low, Vec3 High);

/// <summary>Whether a node is seen, why not, and what it belongs to.</summary>
internal sealed record SeenAnswer(bool Working, bool Final, IReadOnlyList<Reason> Reasons, MembershipAnswer[] Collections);

internal sealed record MembershipAnswer(string Id, bool ByRule);

internal sealed record ColorsAnswer(IReadOnlyList<string> Palette, int[] Of);

/// <param name="Added">What is no copy: the eight corners of each.</param>
internal sealed record ForeseenAnswer(GhostAnswer[] Ghosts, string? Foretold, double[][] Added);

/// <summary>A typed amount, understood; and what it leads to.</summary>
internal sealed record AmountAnswer(AmountMode Mode, double Amount, double Value);

/// <summary>A copy that would be made; from where, unless it rides on another one.</summary>
internal sealed record GhostAnswer(string Id, double[] World, Vec3? From, Vec3 To);

[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(LimitsAnswer))]
[JsonSerializable(typeof(RefusalAnswer))]
[JsonSerializable(typeof(LoadedAnswer))]
[JsonSerializable(typeof(KeptAnswer))]
[JsonSerializable(typeof(HeardAnswer))]
[JsonSerializable(typeof(HeardStep))]
[JsonSerializable(typeof(TrialAnswer))]
[JsonSerializable(typeof(FrameAnswer))]
[JsonSerializable(typeof(NodeAnswer))]
[JsonSerializable(typeof(CameraAnswer))]
[JsonSerializable(typeof(Looks))]
[JsonSerializable(typeof(IReadOnlyList<MaterialReading>))]
[JsonSerializable(typeof(MaterialReading))]
[JsonSerializable(typeof(MadeOf))]
[JsonSerializable(typeof(ColorsAnswer))]
[JsonSerializable(typeof(ShadowAnswer[]))]
[JsonSerializable(typeof(string[]))]
[JsonSerializable(typeof(SeenAnswer))]
[JsonSerializable(typeof(ForeseenAnswer))]
[JsonSerializable(typeof(CommonChannels))]
[JsonSerializable(typeof(StrayPivot[]))]
[JsonSerializable(typeof(SurfaceAnswer))]
[JsonSerializable(typeof(DrawnAnswer))]
[JsonSerializable(typeof(AmountAnswer))]
[JsonSerializable(typeof(LampReading[]))]
[JsonSerializable(typeof(SurroundingsAnswer))]
[JsonSerializable(typeof(CommonLight))]
[JsonSerializable(typeof(CommonCamera))]
[JsonSerializable(typeof(LensShape))]
[JsonSerializable(typeof(IReadOnlyList<LinkReading>))]
[JsonSerializable(typeof(IReadOnlyList<LinkThread>))]
[JsonSerializable(typeof(Foretelling))]
[JsonSerializable(typeof(ShotsAnswer))]
[JsonSerializable(typeof(FramesAnswer))]
[JsonSerializable(typeof(DiffReading))]
[JsonSerializable(typeof(SeenTable))]
[JsonSerializable(typeof(SeenInReading))]
[JsonSerializable(typeof(CameraReading))]
[JsonSerializable(typeof(IReadOnlyList<SeenInReading>))]
[JsonSerializable(typeof(IReadOnlyList<CheatReading>))]
[JsonSerializable(typeof(ConstraintPatch))]
[JsonSerializable(typeof(Core.Shapes.ShapePatch))]
internal sealed partial class BridgeJson : JsonSerializerContext;
