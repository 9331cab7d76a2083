using CalmPivot.Core;
using CalmPivot.Core.Edits;
using CalmPivot.Core.Scene;

namespace CalmPivot.Exchange.ShotLists;

/// <summary>What lists from outside come to in a scene.</summary>
internal static class InScene
{
    /// <summary>A count of frames at one rate as one at the scene's; null where it is none.</summary>
    public static int? Frames(double value, double rate, double fps, ISet<string> notes)
    {
        if (!(rate is > 0 and < 1e6) || !double.IsFinite(value) || !(value > 0))
        {
            notes.Add("Lengths that could not be read were left out; those shots keep theirs.");
            return null;
        }

        var frames = value / rate * fps;
        if (rate != fps)
        {
            notes.Add($"Lengths at other rates were told in the scene's {fps:0.###} frames a second.");
        }

        var whole = Math.Round(frames);
        if (Math.Abs(whole - frames) > 0.01)
        {
            notes.Add("Some lengths are no whole frames here and were rounded.");
        }

        if (whole is < 1 or > Shot.MostFrames)
        {
            notes.Add($"Lengths of less than one frame or more than {Shot.MostFrames} were brought into these bounds.");
        }

        return (int)Math.Clamp(whole, 1, Shot.MostFrames);
    }

    /// <summary>The number of a first frame at one rate as one at the scene's; null where it is none.</summary>
    public static int? First(double value, double rate, double fps, ISet<string> notes)
    {
        var frame = Math.Round(value / rate * fps);
        if (rate is > 0 and < 1e6 && double.IsFinite(frame) && Math.Abs(frame) <= Timing.MostFirstFrame)
        {
            return (int)frame;
        }

        notes.Add("The number of its first frame could not be read and was left out.");
        return null;
    }

    /// <summary>The same with what a scene cannot hold left out or cut.</summary>
    public static ListedShot Fitting(ListedShot shot, ISet<string> notes)
    {
        bool Holds(Action check)
        {
            try
            {
                check();
                return true;
            }
            catch (Refusal)
            {
                notes.Add("Names, numbers, notes or colours that a scene cannot hold were shortened or left out.");
                return false;
            }
        }

        return shot with
        {
            Name = Holds(() => Rename.Fitting(shot.Name)) ? shot.Name : Rename.Nearest(shot.Name, "Shot"),
            Number = shot.Number is null || Holds(() => SetShot.Fitting(shot.Number)) ? shot.Number : null,
            Note = shot.Note is null or "" || Holds(() => new Label(null, shot.Note).Checked()) ? shot.Note : null,
            Colour = shot.Colour is null or "" || Holds(() => new Label(shot.Colour, null).Checked()) ? shot.Colour : null,
        };
    }
}
