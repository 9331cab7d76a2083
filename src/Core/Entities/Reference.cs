namespace CalmPivot.Core.Entities;

/// <summary>
/// A place in which a kind of thing names others, declared once. Whoever copies, pastes, imports, removes or looks for what
/// depends on something goes by the list of these and knows no field by name.
/// <code>
/// var copy = NodeReferences.Led(node, (reference, id) => copies.GetValueOrDefault(id, id)); // copies name copies
/// </code>
/// </summary>
/// <param name="name">What it is, in the words of the API.</param>
/// <param name="of">The ids that it names.</param>
/// <param name="led">The same thing with each id led to another; null: it is left out.</param>
public sealed class Reference<T>(string name, Func<T, IEnumerable<string>> of, Func<T, Func<string, string?>, T> led)
    where T : class
{
    public string Name => name;

    /// <summary>Whether it stays when what it names is gone: whoever reads it then says so.</summary>
    public bool Outlives { get; init; }

    public IEnumerable<string> Of(T entity) => of(entity);

    public T Led(T entity, Func<string, string?> to) => led(entity, to);
}
