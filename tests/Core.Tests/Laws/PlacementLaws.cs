using CalmPivot.Core.Edits;
using CalmPivot.Core.Numbers;
using CalmPivot.Core.Scene;
using CalmPivot.Core.Spaces;
using CsCheck;

namespace CalmPivot.Core.Tests.Laws;

/// <summary>The five laws of a placement, over random placements and orders.</summary>
public sealed class PlacementLaws
{
    [Fact]
    public void Sines_and_angles_are_those_of_the_platform_to_the_last_digits() => Gen.Double[-720, 720].Sample(degrees =>
    {
        var (sin, cos) = Degrees.SinCos(degrees);
        Assert.Equal(Math.Sin(degrees / Degrees.PerRadian), sin, 2e-15);
        Assert.Equal(Math.Cos(degrees / Degrees.PerRadian), cos, 2e-15);
        Assert.Equal(1, sin * sin + cos * cos, 4e-16);
        var size = Math.Pow(2, degrees / 30);
        Assert.Equal(Math.Atan2(sin * size, cos / size), Degrees.Atan2(sin * size, cos / size) / Degrees.PerRadian, 1e-15);
    });

    [Fact]
    public void The_own_axes_seen_in_the_world_are_the_rotation_part_of_what_is_taken_times_R() => Some.TakingChains.Sample(scene =>
    {
        var draft = new SceneDraft(scene);
        foreach (var node in scene.Nodes)
        {
            var axes = OwnSpace.Of(draft, node);
            var (p, frame) = (node.Placement, draft.FrameOf(node));
            Assert.Equal(0, axes.Distance((frame.Basis * p.R).RotationPart()), 1e-9);

            // model.md: L·Q = R·K with K11 and K22 positive; R·diag(σx, σy, σx·σy).
            var (x, y, _) = draft.World(node).Linear * p.Q;
            var first = x.Unit();
            var second = (y - first * first.Dot(y)).Unit();
            var closed = new Mat3(first, second, first.Cross(second)) * Mat3.Diagonal(new(p.Signs.X, p.Signs.Y, p.Signs.X * p.Signs.Y));
            Assert.Equal(0, axes.Distance(closed), 1e-9);
        }
    });

    [Theory]
    [InlineData(0, 0, 1)]
    [InlineData(90, 1, 0)]
    [InlineData(-90, -1, 0)]
    [InlineData(180, 0, -1)]
    [InlineData(-180, 0, -1)]
    [InlineData(450, 1, 0)]
    [InlineData(-630, 1, 0)]
    public void Quarter_turns_are_exact(double degrees, double sin, double cos)
    {
        Assert.Equal((sin, cos), Degrees.SinCos(degrees));
        Assert.Equal(0, Math.IEEERemainder(Degrees.Atan2(sin, cos) - degrees, 360));
    }

    [Fact]
    public void Three_angles_are_three_turns_one_after_the_other() =>
        Gen.Select(Some.Angles, Some.Orders).Sample((angles, order) =>
        {
            var (inner, middle, outer) = order.Letters();
            var turns = Mat3.Rotation(outer, angles[outer]) * Mat3.Rotation(middle, angles[middle]) * Mat3.Rotation(inner, angles[inner]);
            Assert.InRange(turns.Distance(Euler.ToMatrix(angles, order)), 0, 1e-15);
        });

    [Fact]
    public void Any_invertible_matrix_is_a_rotation_or_mirror_times_an_upper_triangular_one() =>
        Gen.Select(Some.Point, Some.Point, Some.Point, (x, y, z) => new Mat3(x, y, z)).Where(m => Triangular.Condition(m) < 1e6).Sample(matrix =>
        {
            var (q, u) = Triangular.Split(matrix);
            Assert.InRange((q * u).Distance(matrix), 0, 1e-13 * matrix.Norm);
            Assert.InRange((q.Transposed() * q).Distance(Mat3.Identity), 0, 1e-14);
            Assert.Equal(Math.Sign(matrix.Determinant), Math.Sign(q.Determinant));
            Assert.Equal((0, 0, 0), (u.X.Y, u.X.Z, u.Y.Z));
            Assert.True(u.X.X > 0 && u.Y.Y > 0 && u.Z.Z > 0);
        });

    [Fact]
    public void A_matrix_whose_columns_all_but_coincide_is_not_taken_for_a_good_one()
    {
        Assert.True(Triangular.Condition(new(new(0, -4.25, 4.6e-49), new(0, 6.17, 1.7e-60), new(7.2e-66, 7.2e-66, 0))) > 1e12);
        Assert.True(Triangular.Condition(new(new(1, 2, 3), new(1, 2, 3), new(0, 0, 1e-30))) > 1e12);
        Assert.Equal(1, Triangular.Condition(Mat3.Rotation(new Vec3(1, 2, 3).Unit(), 40)), 1e-9);
    }

    [Fact]
    public void Moving_a_pivot_moves_nothing() =>
        Gen.Select(Some.Placements, Some.Placements, Some.AllTakes, Some.Point).Sample((parent, placement, takes, pivot) =>
        {
            var frame = ParentFrame.Of(parent.Local(), takes);
            var moved = frame.WithPivot(placement, pivot, "it");
            Some.Near(frame.Placed(placement), frame.Placed(moved));
            Assert.Equal(pivot, moved.Pivot);
            Assert.Equal(placement.Rotation, moved.Rotation);
            Assert.Equal(placement.Scale, moved.Scale);
        });

    [Fact]
    public void Turning_a_pivot_moves_nothing() =>
        Gen.Select(Some.Placements, Some.Angles).Sample((placement, turn) =>
        {
            var turned = placement.WithPivotTurn(turn);
            var linedUp = Euler.FromLiningUp(turned.Rotation, turned.Order) < 1e-6;
            Some.Near(placement.Local(), turned.Local(), linedUp ? 3e-8 : 1e-9);
            Assert.Equal(turn, turned.PivotTurn);
        });

    [Fact]
    public void Any_invertible_placement_can_be_stored_exactly() =>
        Gen.Select(Some.Placements, Some.Placements).Sample((placement, previous) =>
        {
            var local = placement.Local();
            var stored = previous.Storing(local);

            // Where two axes line up to within 1e-8, law 3 keeps the outer angle, at the cost of as much.
            var linedUp = Euler.FromLiningUp(stored.Rotation, stored.Order) < 1e-6;
            Some.Near(local, stored.Local(), (linedUp ? 3e-8 : 1e-12) * Triangular.Condition(local.Linear));
        });

    [Fact]
    public void Storing_a_placement_anew_keeps_its_signs_and_its_numbers() =>
        Some.Placements.Sample(placement =>
        {
            var stored = placement.Storing(placement.Local());
            Some.Near(placement.Scale, stored.Scale);
            Some.Near(placement.Shear, stored.Shear);
            Some.Near(Euler.ToMatrix(placement.Rotation, placement.Order).X, stored.R.X);
        });

    [Fact]
    public void A_mirror_without_a_previous_placement_goes_where_the_rotation_is_least()
    {
        foreach (var (mirror, expected) in new[]
        {
            (new Vec3(-1, 1, 1), new Vec3(-1, 1, 1)),
            (new Vec3(1, -1, 1), new Vec3(1, -1, 1)),
            (new Vec3(1, 1, -1), new Vec3(1, 1, -1)),
            (new Vec3(-1, -1, -1), new Vec3(-1, -1, -1)),
        })
        {
            var stored = Placement.Default.Storing(new(Mat3.Diagonal(mirror), Vec3.Zero));
            Assert.Equal(expected, stored.Scale);
            Assert.Equal(Vec3.Zero, stored.Rotation);
        }
    }

    [Fact]
    public void Angles_read_from_a_rotation_give_it_back() =>
        Gen.Select(Some.Angles, Some.Orders, Some.Angles).Sample((angles, order, previous) =>
        {
            var r = Euler.ToMatrix(angles, order);
            var read = Euler.FromMatrix(r, order, previous);
            Assert.True(r.Distance(Euler.ToMatrix(read, order)) < 2e-8);
        });

    [Fact]
    public void Angles_stay_as_they_are_when_nothing_turns() =>
        Gen.Select(Some.Angles, Some.Orders).Sample((angles, order) =>
        {
            if (Euler.FromLiningUp(angles, order) > 0.5)
            {
                Some.Near(angles, Euler.FromMatrix(Euler.ToMatrix(angles, order), order, angles), 1e-8);
            }
        });

    [Fact]
    public void Where_two_axes_line_up_the_outer_angle_keeps_its_value() =>
        Gen.Select(Some.Angles, Some.Orders, Gen.Bool).Sample((angles, order, up) =>
        {
            var (_, middle, outer) = order.Letters();
            var lined = angles.With(middle, up ? 90 : -90);
            var read = Euler.FromMatrix(Euler.ToMatrix(lined, order), order, lined);
            Assert.Equal(lined[outer], read[outer]);
            Assert.True(Euler.ToMatrix(lined, order).Distance(Euler.ToMatrix(read, order)) < 1e-9);
        });

    [Fact]
    public void Of_all_triples_the_nearest_is_read() =>
        Gen.Select(Some.Angles, Some.Orders, Some.Angles).Sample((angles, order, previous) =>
        {
            if (Euler.FromLiningUp(angles, order) < 0.01)
            {
                return;
            }

            var read = Euler.FromMatrix(Euler.ToMatrix(angles, order), order, previous);
            var (i, j, k) = order.Letters();
            var other = Vec3.Zero.With(i, angles[i] + 180).With(j, 180 - angles[j]).With(k, angles[k] + 180);
            foreach (var family in new[] { angles, other })
            {
                var near = new Vec3(Degrees.Near(family.X, previous.X), Degrees.Near(family.Y, previous.Y), Degrees.Near(family.Z, previous.Z));
                Assert.True((read - previous).LengthSquared <= (near - previous).LengthSquared + 1e-6);
            }
        });

    [Fact]
    public void A_turn_about_a_channels_own_axis_adds_to_that_channel() =>
        Gen.Select(Some.Placements, Gen.Int[0, 2], Gen.Double[-1000, 1000]).Sample((placement, channel, degrees) =>
        {
            var axis = Euler.Channels(placement.Rotation, placement.Order).Column(channel);
            var turned = placement.Turned(axis, degrees);
            var lined = Euler.FromLiningUp(placement.Rotation, placement.Order) < 0.001;
            if (!lined)
            {
                Assert.Equal(placement.Rotation.With(channel, placement.Rotation[channel] + degrees), turned.Rotation);
            }
        });

    [Fact]
    public void A_turn_in_one_go_stores_the_same_as_through_every_degree() =>
        Gen.Select(Some.Placements, Some.Direction, Gen.Double[-400, 400]).Sample(
            (placement, axis, degrees) =>
            {
                var turned = placement.Turned(axis, degrees);
                Assert.True((Mat3.Rotation(axis, degrees) * placement.R).Distance(turned.R) < 1e-7);
                Assert.Equal(turned, placement.Turned(axis, degrees));
            },
            iter: 300);

    [Fact]
    public void Compose_and_decompose_agree_up_to_a_million_to_one() =>
        Gen.Select(Some.Angles, Some.Angles, Gen.Double[0, 6]).Sample((a, b, exponent) =>
        {
            var linear = Euler.ToMatrix(a, EulerOrder.XYZ)
                * Mat3.Diagonal(new(1, 1, Math.Pow(10, -exponent)))
                * Euler.ToMatrix(b, EulerOrder.XYZ);
            var stored = Placement.Default.Storing(new(linear, Vec3.Zero));
            // Where two axes line up to within 1e-8, law 3 keeps the outer angle, at the cost of as much.
            var linedUp = Euler.FromLiningUp(stored.Rotation, stored.Order) < 1e-6;
            Assert.True(stored.Basis.Distance(linear) <= (linedUp ? 3e-8 : 1e-12) * linear.Norm);
        });

    /// <summary>The hardest place: close to where two axes line up, at every distance from it.</summary>
    [Fact]
    public void Angles_give_the_rotation_back_also_close_to_where_two_axes_line_up() =>
        Gen.Select(Some.Angles, Some.Orders, Gen.Double[0, 14], Gen.Bool, Gen.Bool).Sample(
            (angles, order, exponent, below, beyond) =>
            {
                var middle = (below ? -90 : 90) + (beyond ? 1 : -1) * Math.Pow(10, -exponent);
                var r = Euler.ToMatrix(angles.With(order.Letters().Middle, middle), order);
                var read = Euler.FromMatrix(r, order, Vec3.Zero);
                Assert.True(Euler.ToMatrix(read, order).Distance(r) <= 3e-8 * (Math.Pow(10, -exponent) < 1e-6 ? 1 : 0) + 1e-14);
            },
            iter: 3000);

    [Fact]
    public void What_would_be_thinner_than_a_million_to_one_is_refused()
    {
        var scene = Some.Scene(Some.Box("a", null));
        var refusal = Assert.Throws<Refusal>(() => scene.Run(new Place("a", new() { Scale = new(1, 1, 1e-7) })));
        Assert.Equal(Refusals.TooThin, refusal.Word);
        Assert.Contains("“a”", refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void The_condition_number_is_that_of_the_factors() =>
        Gen.Select(Some.Angles, Some.Angles, Gen.Double[0, 8]).Sample((a, b, exponent) =>
        {
            var least = Math.Pow(10, -exponent);
            var m = Euler.ToMatrix(a, EulerOrder.ZYX) * Mat3.Diagonal(new(1, least, 1)) * Euler.ToMatrix(b, EulerOrder.YXZ);
            Assert.Equal(1, Triangular.Condition(m) * least, 1e-4);
        });

    [Fact]
    public void The_six_orders_mean_what_their_letters_say()
    {
        var angles = new Vec3(10, 20, 30);
        var (x, y, z) = (Mat3.Rotation(0, 10), Mat3.Rotation(1, 20), Mat3.Rotation(2, 30));
        Assert.Equal(z * y * x, Euler.ToMatrix(angles, EulerOrder.XYZ));
        Assert.Equal(y * z * x, Euler.ToMatrix(angles, EulerOrder.XZY));
        Assert.Equal(z * x * y, Euler.ToMatrix(angles, EulerOrder.YXZ));
        Assert.Equal(x * z * y, Euler.ToMatrix(angles, EulerOrder.YZX));
        Assert.Equal(y * x * z, Euler.ToMatrix(angles, EulerOrder.ZXY));
        Assert.Equal(x * y * z, Euler.ToMatrix(angles, EulerOrder.ZYX));
    }

    [Fact]
    public void Quaternions_and_matrices_agree() =>
        Some.Angles.Sample(angles =>
        {
            var r = Euler.ToMatrix(angles, EulerOrder.XYZ);
            Assert.True(r.Distance(Quat.From(r).ToMatrix()) < 1e-12);
        });

    [Fact]
    public void What_a_node_takes_of_its_parent_splits_it_without_loss() =>
        Some.Placements.Sample(placement =>
        {
            var p = placement.Local();
            var (r, k) = ParentFrame.Split(p.Linear);
            Assert.Equal(1, r.Determinant, 1e-9);
            Assert.True((r * k).Distance(p.Linear) < 1e-9 * (1 + p.Linear.Norm));
            var frame = ParentFrame.Of(p, new(true, true, false));
            Assert.True(frame.Basis.Distance(r) < 1e-12);
        });

    [Fact]
    public void Whatever_is_taken_of_the_parent_a_world_placement_can_be_stored() =>
        Gen.Select(Some.Placements, Some.Placements, Some.Placements, Gen.Bool.Array[3]).Sample((parent, child, wanted, takes) =>
        {
            var frame = ParentFrame.Of(parent.Local(), new(takes[0], takes[1], takes[2]));
            var stored = frame.Storing(wanted.Local(), child, "child");
            Some.Near(wanted.Local(), frame.Placed(stored), 1e-8);
        });
}
