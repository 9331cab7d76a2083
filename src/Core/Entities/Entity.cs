using System.Text.Json;

namespace CalmPivot.Core.Entities;

/// <summary>
/// Anything that a scene holds under an id: a node, or what stands beside nodes. Each kind is a record of its own with a table of
/// its fields; ids are unique over all kinds.
/// </summary>
/// <param name="Rank">What those in one list are ordered by, so that inserting one writes that one alone.</param>
public abstract record Entity(string Id, string Name, double Rank)
{
    /// <summary>Where it stands among its siblings; without a minus zero, as numbers are stored.</summary>
    public double Rank { get; init => field = value + 0.0; } = Rank + 0.0;

    /// <summary>The table of the fields of its kind.</summary>
    public abstract IFields Fields { get; }

    /// <summary>The key of the list that it stands in.</summary>
    public abstract string? List { get; }

    /// <summary>The ids of all that it names, by the references of its kind.</summary>
    public abstract IEnumerable<string> Names();

    /// <summary>The same, naming nothing any more that is gone; null: it goes with it. Its place in its list, and what may outlive, stay.</summary>
    public abstract Entity? Without(Predicate<string> gone);
}

/// <summary>An entity before and after an edit; null where it did not exist.</summary>
public readonly record struct EntityChange(string Id, Entity? Before, Entity? After)
{
    /// <summary>Which parts differ between the two states.</summary>
    public Parts Written() => (After ?? Before) is { } some ? some.Fields.Written(Before, After) : Parts.None;
}

/// <summary>The table of the fields of some kind, for those who go through things of all kinds.</summary>
public interface IFields
{
    /// <summary>The parts that differ; to make or remove something is a part by itself.</summary>
    Parts Written(Entity? before, Entity? after);

    /// <summary>The first with some parts of the second.</summary>
    Entity Taking(Entity into, Parts parts, Entity from);

    /// <summary>A digest that has taken some parts in; existence stands for all.</summary>
    ulong Digest(ulong digest, Entity entity, Parts parts, JsonSerializerOptions options);

    /// <summary>Writes the fields of some parts into an object that is open; existence stands for all.</summary>
    void Write(Utf8JsonWriter writer, Entity entity, Parts parts, JsonSerializerOptions options);

    /// <summary>The parts with a field that something depends on.</summary>
    Parts Touching(Touches what);
}

/// <summary>The same for reading.</summary>
public interface IReadFields : IFields
{
    /// <summary>Reads a field by its name in JSON.</summary>
    /// <param name="read">Which fields were read before; this one is added.</param>
    /// <returns>False: there is no field of this name.</returns>
    /// <exception cref="JsonException">It is something else, or comes twice.</exception>
    bool Read(string name, ref Utf8JsonReader reader, ref Entity into, ref ulong read, JsonSerializerOptions options);

    /// <exception cref="JsonException">A required field was not read.</exception>
    void CheckRead(ulong read);
}
