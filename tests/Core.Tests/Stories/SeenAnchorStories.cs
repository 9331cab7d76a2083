using CalmPivot.Core.Numbers;
using CalmPivot.Core.Words;

namespace CalmPivot.Core.Tests.Stories;

/// <summary>A point of the bounds is said as it is seen, whichever way the thing and the view are turned.</summary>
public sealed class SeenAnchorStories
{
    [Theory]
    [InlineData(0, 0, 0, 0, "middle")]
    [InlineData(0, -1, 0, 0, "middle of the bottom")]
    [InlineData(-1, -1, 0, 0, "left bottom edge")]
    [InlineData(-1, -1, 1, 0, "left front corner of the bottom")]
    [InlineData(-1, -1, 1, 180, "right back corner of the bottom")]
    [InlineData(1, 1, 1, 90, "right back corner of the top")]
    [InlineData(1, 0, 0, 30, "middle of the right")]
    [InlineData(1, 0, 0, 80, "middle of the back")]
    public void As_it_is_turned_before_a_view_from_the_front(double x, double y, double z, double turned, string words) =>
        Assert.Equal(words, SeenAnchor.InWords(new(x, y, z), Mat3.Rotation(Vec3.UnitY, turned), Mat3.Identity));

    [Fact]
    public void What_is_turned_along_with_the_view_is_said_alike()
    {
        var random = new Random(2);
        for (var i = 0; i < 300; i++)
        {
            var anchor = new Vec3(random.Next(3) - 1, random.Next(3) - 1, random.Next(3) - 1);
            var axes = Turn(random);
            var both = Turn(random);
            Assert.Equal(SeenAnchor.InWords(anchor, axes, Mat3.Identity), SeenAnchor.InWords(anchor, both * axes, both));

            // The opposite point is said by the opposite of each word.
            var (here, there) = (SeenAnchor.InWords(anchor, axes, both), SeenAnchor.InWords(anchor * -1, axes, both));
            foreach (var (low, high) in new[] { ("left", "right"), ("bottom", "top"), ("back", "front") })
            {
                Assert.Equal(here.Contains(low, StringComparison.Ordinal), there.Contains(high, StringComparison.Ordinal));
            }
        }
    }

    private static Mat3 Turn(Random random) =>
        Mat3.Rotation(Vec3.UnitY, random.Next(360)) * Mat3.Rotation(Vec3.UnitX, random.Next(360)) * Mat3.Rotation(Vec3.UnitZ, random.Next(360));
}
