using System.Collections.Immutable;
using System.Text.Json.Serialization;
using CalmPivot.Core.Constraints;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Shapes;

namespace CalmPivot.Core.Wire;

/// <summary>Which of the core's types travel as JSON. How they are read and written is said by <see cref="WireJson"/> alone.</summary>
[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(Edit))]
[JsonSerializable(typeof(Edit[]))]
[JsonSerializable(typeof(NodeData))]
[JsonSerializable(typeof(NodeData[]))]
[JsonSerializable(typeof(EntityData))]
[JsonSerializable(typeof(EntityData[]))]
[JsonSerializable(typeof(PartChange))]
[JsonSerializable(typeof(PartChange[]))]
[JsonSerializable(typeof(NodeKind))]
[JsonSerializable(typeof(Placement))]
[JsonSerializable(typeof(Shape))]
[JsonSerializable(typeof(Surface))]
[JsonSerializable(typeof(AlphaMode))]
[JsonSerializable(typeof(ImmutableArray<TextureUse>))]
[JsonSerializable(typeof(Lies))]
[JsonSerializable(typeof(MaterialChoice))]
[JsonSerializable(typeof(Camera))]
[JsonSerializable(typeof(Light))]
[JsonSerializable(typeof(Switches))]
[JsonSerializable(typeof(ImmutableArray<string>))]
[JsonSerializable(typeof(Label))]
[JsonSerializable(typeof(CheatValue))]
[JsonSerializable(typeof(int))]
[JsonSerializable(typeof(bool))]
[JsonSerializable(typeof(Rule))]
[JsonSerializable(typeof(CopiedNodes))]
[JsonSerializable(typeof(ShapePatch))]
[JsonSerializable(typeof(ImmutableArray<Constraint>))]
[JsonSerializable(typeof(ConstraintPatch))]
[JsonSerializable(typeof(Constraint[]))]
[JsonSerializable(typeof(Up))]
[JsonSerializable(typeof(Normals))]
[JsonSerializable(typeof(string[]))]
[JsonSerializable(typeof(double[]))]
[JsonSerializable(typeof(double))]
[JsonSerializable(typeof(Spaces.Space))]
internal sealed partial class CoreJson : JsonSerializerContext;
