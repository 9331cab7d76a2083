using System.Text.Json;

namespace CalmPivot.Core.Entities;

/// <summary>
/// The table of the fields of a kind of thing.
/// <code>
/// NodeFields.Table.Same(a, b)                     // equality
/// NodeFields.Table.Written(before, after)         // Parts.Name | Parts.Seat
/// NodeFields.Table.Taking(now, Parts.Name, then)  // now, with its former name
/// </code>
/// </summary>
public sealed class Fields<T> : IReadFields
    where T : Entity
{
    private readonly Field<T>[] _all;
    private readonly Dictionary<string, int> _byName = [];

    /// <summary>The answers to all that can be asked about what touches what: it is asked for each node that changes.</summary>
    private readonly Parts[] _touching = new Parts[(int)Touches.Materials << 1];

    public Fields(params Field<T>[] all)
    {
        ArgumentNullException.ThrowIfNull(all);
        _all = all;
        for (var i = 0; i < all.Length; i++)
        {
            foreach (var (name, _) in all[i].Written)
            {
                _byName.Add(name, i);
            }
        }

        for (var what = 0; what < _touching.Length; what++)
        {
            foreach (var field in all.Where(f => (f.Touches & (Touches)what) != 0))
            {
                _touching[what] |= field.Part;
            }
        }
    }

    public IReadOnlyList<Field<T>> All => _all;

    /// <summary>The parts with a field that something depends on.</summary>
    public Parts Touching(Touches what) => _touching[(int)what];

    public bool Same(T a, T b)
    {
        foreach (var field in _all)
        {
            if (!field.Same(a, b))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>The parts that differ; to make or remove something is a part by itself.</summary>
    public Parts Written(T? before, T? after)
    {
        if (before is null || after is null)
        {
            return ReferenceEquals(before, after) ? Parts.None : Parts.Existence;
        }

        var parts = Parts.None;
        foreach (var field in _all)
        {
            if ((parts & field.Part) == 0 && !field.Same(before, after))
            {
                parts |= field.Part;
            }
        }

        return parts;
    }

    /// <summary>The first with some parts of the second.</summary>
    public T Taking(T into, Parts parts, T from)
    {
        foreach (var field in _all)
        {
            into = (parts & field.Part) != 0 ? field.Take(into, from) : into;
        }

        return into;
    }

    /// <summary>A digest that has taken some parts in; existence stands for all.</summary>
    public ulong Digest(ulong digest, T entity, Parts parts, JsonSerializerOptions options)
    {
        foreach (var field in _all)
        {
            digest = (parts & (field.Part | Parts.Existence)) != 0 ? field.Digest(digest, entity, options) : digest;
        }

        return digest;
    }

    /// <summary>Writes the fields of some parts into an object that is open; existence stands for all.</summary>
    public void Write(Utf8JsonWriter writer, T entity, Parts parts, JsonSerializerOptions options)
    {
        foreach (var field in _all)
        {
            if ((parts & (field.Part | Parts.Existence)) != 0)
            {
                field.Write(writer, entity, options);
            }
        }
    }

    /// <summary>Reads a field by its name in JSON.</summary>
    /// <param name="read">Which fields were read before; this one is added.</param>
    /// <returns>False: there is no field of this name.</returns>
    /// <exception cref="JsonException">It is something else, or comes twice.</exception>
    public bool Read(string name, ref Utf8JsonReader reader, ref T into, ref ulong read, JsonSerializerOptions options)
    {
        if (!_byName.TryGetValue(name, out var at))
        {
            return false;
        }

        if ((read & 1ul << at) != 0)
        {
            throw new JsonException("This comes twice.");
        }

        read |= 1ul << at;
        try
        {
            into = _all[at].Read(name, ref reader, into, options);
            return true;
        }
        catch (JsonException e)
        {
            throw new JsonException(e.Message, $"$.{name}{e.Path?.TrimStart('$')}", e.LineNumber, e.BytePositionInLine, e);
        }
    }

    /// <exception cref="JsonException">A required field was not read.</exception>
    public void CheckRead(ulong read)
    {
        for (var i = 0; i < _all.Length; i++)
        {
            if (_all[i].Required && (read & 1ul << i) == 0)
            {
                throw new JsonException($"{_all[i].Name} is missing.");
            }
        }
    }

    Parts IFields.Written(Entity? before, Entity? after) =>
        before is null or T && after is null or T ? Written(before as T, after as T) : Parts.Existence;

    Entity IFields.Taking(Entity into, Parts parts, Entity from) => Taking((T)into, parts, (T)from);

    ulong IFields.Digest(ulong digest, Entity entity, Parts parts, JsonSerializerOptions options) => Digest(digest, (T)entity, parts, options);

    void IFields.Write(Utf8JsonWriter writer, Entity entity, Parts parts, JsonSerializerOptions options) => Write(writer, (T)entity, parts, options);

    bool IReadFields.Read(string name, ref Utf8JsonReader reader, ref Entity into, ref ulong read, JsonSerializerOptions options)
    {
        var entity = (T)into;
        var known = Read(name, ref reader, ref entity, ref read, options);
        into = entity;
        return known;
    }
}
