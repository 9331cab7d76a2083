using System.Text.Json.Nodes;
using CalmPivot.Core;
using CalmPivot.Core.Wire;
using SharpGLTF.Schema2;

namespace CalmPivot.Exchange;

/// <summary>
/// What glTF has no place for rides in the extras of nodes, materials and the scene, under one key, in the core's own JSON.
/// It is read back only where it fits and still agrees with what the file itself says.
/// </summary>
internal static class OwnForm
{
    public const string Key = "calmPivot";

    /// <summary>The extras of something in a file; null where it carries none of ours.</summary>
    public static JsonObject? Of(ExtraProperties thing) => (thing.Extras as JsonObject)?[Key] as JsonObject;

    public static JsonObject Extras(JsonObject own) => new() { [Key] = own };

    public static JsonNode? Write<T>(T value) => JsonNode.Parse(WireJson.Write(value));

    /// <summary>A value; null where it is missing, or where others use our name for something else.</summary>
    public static T? Read<T>(JsonNode? json)
        where T : class
    {
        try
        {
            return json is null ? null : WireJson.Read<T>(json.ToJsonString());
        }
        catch (Refusal)
        {
            return null;
        }
    }

    public static Core.Scene.Switches? ReadSwitches(JsonNode? json)
    {
        try
        {
            return json is JsonObject ? WireJson.Read<Core.Scene.Switches>(json.ToJsonString()) : null;
        }
        catch (Refusal)
        {
            return null;
        }
    }

    /// <summary>A value that passes its own check; else null.</summary>
    public static T? Checked<T>(JsonNode? json, Func<T, T> check)
        where T : class
    {
        try
        {
            return Read<T>(json) is { } value ? check(value) : null;
        }
        catch (Refusal)
        {
            return null;
        }
    }

    /// <summary>Whether a number of our own is what the file holds in 32 bits.</summary>
    public static bool Agrees(double own, double file) => Math.Abs(own - file) <= 1e-5 * Math.Max(1e-6, Math.Max(Math.Abs(own), Math.Abs(file)));

    public static bool Agrees(double? own, double? file) => own is null == file is null && (own is null || Agrees(own.Value, file!.Value));
}
