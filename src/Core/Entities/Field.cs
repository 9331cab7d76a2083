using System.Text.Json;
using CalmPivot.Core.Json;
using CalmPivot.Core.Numbers;

namespace CalmPivot.Core.Entities;

/// <summary>
/// A field of a kind of thing, declared once: all that goes through the fields (equality, what was written, undo, digest,
/// JSON, bulk form, what goes stale) goes by this.
/// </summary>
/// <param name="name">As the API writes it.</param>
/// <param name="part">What it is written and undone together with.</param>
/// <param name="touches">What is out of date when it changes.</param>
public abstract class Field<T>(string name, Parts part, Touches touches)
    where T : class
{
    public string Name => name;

    public Parts Part => part;

    public Touches Touches => touches;

    /// <summary>Has to be there when a thing is read.</summary>
    public bool Required { get; init; }

    /// <summary>Its names in JSON, and what stands there.</summary>
    public abstract IReadOnlyList<(string Name, Type Type)> Written { get; }

    public abstract bool Same(T a, T b);

    /// <summary>The first with this field of the second.</summary>
    public abstract T Take(T into, T from);

    /// <summary>A digest that has taken the value in.</summary>
    public abstract ulong Digest(ulong digest, T entity, JsonSerializerOptions options);

    /// <summary>Writes its name and value, or nothing where it is as usual.</summary>
    public abstract void Write(Utf8JsonWriter writer, T entity, JsonSerializerOptions options);

    /// <exception cref="JsonException">It is something else.</exception>
    public abstract T Read(string written, ref Utf8JsonReader reader, T into, JsonSerializerOptions options);
}

/// <summary>A field with a value of one type, compared and copied without boxing.</summary>
public class Field<T, TValue>(string name, Parts part, Touches touches, Func<T, TValue> get, Func<T, TValue, T> with) : Field<T>(name, part, touches)
    where T : class
{
    private static readonly bool IsList = NoGaps.IsList(typeof(TValue));

    /// <summary>How values are compared; null: by themselves.</summary>
    public Func<TValue, TValue, bool>? Alike { get; init; }

    /// <summary>Values that are not written, since who reads fills them in; null: all are written.</summary>
    public Predicate<TValue>? Usual { get; init; }

    /// <summary>How a value goes into a digest; null: as its JSON.</summary>
    public Func<ulong, TValue, ulong>? Sum { get; init; }

    public override IReadOnlyList<(string Name, Type Type)> Written => [(Name, typeof(TValue))];

    public override bool Same(T a, T b) =>
        Alike is null ? EqualityComparer<TValue>.Default.Equals(get(a), get(b)) : Alike(get(a), get(b));

    public override T Take(T into, T from) => with(into, get(from));

    public override ulong Digest(ulong digest, T entity, JsonSerializerOptions options)
    {
        var value = get(entity);
        return Sum is not null ? Sum(digest, value)
            : Usual?.Invoke(value) == true ? Digests.Add(digest, 0)
            : Digests.Add(digest, JsonSerializer.Serialize(value, options.Of<TValue>()));
    }

    public override void Write(Utf8JsonWriter writer, T entity, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        var value = get(entity);
        if (Usual?.Invoke(value) != true)
        {
            writer.WritePropertyName(Name);
            JsonSerializer.Serialize(writer, value, options.Of<TValue>());
        }
    }

    public override T Read(string written, ref Utf8JsonReader reader, T into, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.Null)
        {
            return default(TValue) is null && !Required || Usual is not null ? into : throw new JsonException("Something belongs here.");
        }

        var value = JsonSerializer.Deserialize(ref reader, options.Of<TValue>())!;
        return !IsList || !NoGaps.HasGap(value)
            ? with(into, value)
            : throw new JsonException($"The list {Name} has nothing where something belongs.");
    }
}
