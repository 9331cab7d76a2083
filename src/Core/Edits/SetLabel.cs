using CalmPivot.Core.Scene;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Edits;

/// <summary>Gives groups and collections a colour and a note, and closes groups, so that a press on a member picks the group.</summary>
/// <param name="Color">#RRGGBB; empty: none; null: as it is.</param>
/// <param name="Note">Empty: none; null: as it is.</param>
public sealed record SetLabel(IReadOnlyList<string> Nodes, string? Color = null, string? Note = null, bool? Closed = null) : Edit
{
    public override IReadOnlyList<string> Picked => Nodes;

    public override void ApplyTo(SceneDraft draft)
    {
        new Label(Color is { Length: > 0 } ? Color : null, Note).Checked();
        foreach (var node in Nodes.Distinct().Select(draft.GetArranged))
        {
            Targets.CheckUnlocked(draft, node);
            var isGroup = node is Node { Kind: NodeKind.Group };
            if (!(isGroup || node is Collection) || (Closed is not null && !isGroup))
            {
                throw new Refusal(
                    Refusals.NotUnderstood,
                    Closed is not null ? $"“{node.Name}” is not a group; only groups can be closed." : $"“{node.Name}” is neither a group nor a collection; only these carry a colour and a note.");
            }

            draft.Put(node with
            {
                Label = new(
                    Color is null ? node.Label.Color : Color.Length == 0 ? null : Color,
                    Note is null ? node.Label.Note : string.IsNullOrWhiteSpace(Note) ? null : Note,
                    Closed ?? node.Label.Closed),
            });
        }
    }

    public override string Say(Speaker say)
    {
        List<string> parts = [];
        if (Closed is { } closed)
        {
            parts.Add($"{(closed ? "Closed" : "Opened")} {say.Names(Nodes)}");
        }

        if (Color is not null)
        {
            parts.Add(Color.Length == 0 ? $"Took the colour from {say.Names(Nodes)}" : $"Coloured {say.Names(Nodes)}");
        }

        if (Note is not null)
        {
            parts.Add(Note.Length == 0 ? $"Took the note from {say.Names(Nodes)}" : $"Wrote a note on {say.Names(Nodes)}");
        }

        return parts.Count == 0 ? $"Left {say.Names(Nodes)} as it is" : string.Join("; ", parts);
    }
}
