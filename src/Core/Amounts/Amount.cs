using System.Text.Json.Serialization;
using CalmPivot.Core.Json;

namespace CalmPivot.Core.Amounts;

/// <summary>What kind of number is typed; it decides which units fit.</summary>
public enum Quantity
{
    Length,
    Angle,
    Factor,
}

/// <summary>How a typed amount acts on the present value.</summary>
[JsonConverter(typeof(CamelCase<AmountMode>))]
public enum AmountMode
{
    Set,
    Add,
    Multiply,
}

/// <summary>A typed amount, understood: metres, degrees or a factor, and what it does.</summary>
public readonly record struct Amount(AmountMode Mode, double Value)
{
    /// <summary>The value after the amount has acted on <paramref name="present"/>.</summary>
    public double ApplyTo(double present) => Mode switch
    {
        AmountMode.Add => present + Value,
        AmountMode.Multiply => present * Value,
        _ => Value,
    };
}
