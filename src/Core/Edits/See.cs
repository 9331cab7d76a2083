using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Switches nodes on or off in the working view and in the final picture.</summary>
public sealed record See(IReadOnlyList<string> Nodes, bool? Working = null, bool? Final = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    /// <summary>The switch of the final picture is the scene's, whatever the current shot has of its own.</summary>
    public override bool IsOfShots => true;

    public override IReadOnlyList<Edit> InShot(string shot) => Final is not { } on ? [this]
        : Working is null ? [new SeeIn([shot], Nodes, on)]
        : [new SeeIn([shot], Nodes, on), this with { Final = null }];

    public override void ApplyTo(SceneDraft draft) =>
        Targets.Switch(draft, Nodes, s => s with { Working = Working ?? s.Working, Final = Final ?? s.Final });

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        Add(Working, "the working view");
        Add(Final, "the final picture");
        return $"Switched {say.Names(Nodes)} {string.Join(" and ", parts)}";

        void Add(bool? on, string where)
        {
            if (on is { } value)
            {
                parts.Add($"{(value ? "on" : "off")} in {where}");
            }
        }
    }
}
