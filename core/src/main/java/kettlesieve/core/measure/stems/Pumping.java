package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.pass.StemEnergies;
import kettlesieve.core.signal.Statistics;

/** Whether a stem's level follows the attacks of another role. */
@AutoService(Measure.class)
public final class Pumping implements SetMeasure {
  private static final int FEWEST_ONSETS = 6;
  private static final int FEWEST_CELLS = 3;
  private static final int LEFT_OUT = 2;
  private static final double OVER_USUAL = 4;
  private static final Declaration DECLARATION =
      new Declaration(
          "pumping",
          "Pumping",
          Axis.ADDED.in(Job.STEMS),
          "dB",
          false,
          "How much the stem's level jumps with the attacks of another role: strings that duck at"
              + " each drum stroke. Below zero it ducks, above it swells; from 2 dB on it is heard.",
          "Gain of the stem on its own cells (3 or more a frame), mean of the 100 ms after each"
              + " attack of another role minus that of the 100 ms before, two frames on either side"
              + " left out; median over attacks, of the role where that is largest; the magnitude is"
              + " scored.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /** Whether a role holds another, so that it cannot be pressed down by it. */
  private static boolean contains(String role, String other) {
    List<String> without = Roles.without(role);
    return other.equals(role)
        || Roles.parts(role).contains(other)
        || !without.isEmpty() && !without.contains(other);
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    StemEnergies pass = tiles.pass();
    List<Detail> details = new ArrayList<>();
    Estimate largest = null;
    PlaceGrid shown = null;
    for (String offender : set.stems().stems().keySet()) {
      if (contains(role, offender) || pass.owner(offender) < 0) {
        continue;
      }
      PlaceGrid places =
          PlaceGrid.ofTime(set.source().timeline(), 50, set.mix().sampleRate() / 2.0);
      Estimate jump = jump(set, tiles, pass.riseBefore(pass.role(offender)), places);
      if (jump == null) {
        continue;
      }
      details.add(new Detail(offender, jump.value(), "dB"));
      if (largest == null || Math.abs(jump.value()) > Math.abs(largest.value())) {
        largest = jump;
        shown = places;
      }
    }
    if (largest == null) {
      throw new NotMeasurableException("too few attacks of other roles while this one sounds");
    }
    return Reading.of(DECLARATION.id(), largest)
        .scoredAs(largest.map(Math::abs))
        .withDetails(details)
        .withTrace(shown.trace())
        .withSpots(shown.spots(largest.value() > 0, largest.value(), 1));
  }

  private static Estimate jump(StemSet set, RoleTiles tiles, float[] rises, PlaceGrid places) {
    double[] all = new double[rises.length];
    for (int t = 0; t < all.length; t++) {
      all[t] = rises[t];
    }
    double[] sounding = Arrays.stream(all).filter(x -> x > 0).toArray();
    if (sounding.length == 0) {
      return null;
    }
    double limit = OVER_USUAL * Statistics.median(sounding);
    int reach = set.source().source().framing().framesIn(0.1);
    List<double[]> jumps = new ArrayList<>();
    for (int t = reach + LEFT_OUT; t + reach + LEFT_OUT < all.length; t++) {
      if (all[t] < limit || !highest(all, t, reach)) {
        continue;
      }
      double then = gain(tiles, t - reach - LEFT_OUT, t - LEFT_OUT);
      double now = gain(tiles, t + LEFT_OUT, t + reach + LEFT_OUT);
      if (Double.isFinite(then) && Double.isFinite(now)) {
        jumps.add(new double[] {set.source().timeline().block(t), now - then});
        places.add(t, 0, now - then, 1);
      }
    }
    return jumps.size() < FEWEST_ONSETS
        ? null
        : set.source().bootstrap().estimate(w -> median(jumps, w));
  }

  private static double median(List<double[]> jumps, int[] w) {
    List<Double> drawn = new ArrayList<>();
    for (double[] jump : jumps) {
      for (int i = 0; i < w[(int) jump[0]]; i++) {
        drawn.add(jump[1]);
      }
    }
    return drawn.isEmpty()
        ? Double.NaN
        : Statistics.median(drawn.stream().mapToDouble(Double::doubleValue).toArray());
  }

  private static boolean highest(double[] rises, int at, int reach) {
    for (int t = at - reach; t <= at + reach; t++) {
      if (rises[t] > rises[at]) {
        return false;
      }
    }
    return true;
  }

  /** Mean gain over frames that hold enough of the role; NaN if there are too few. */
  private static double gain(RoleTiles tiles, int from, int to) {
    double sum = 0;
    int n = 0;
    for (int t = from; t < to; t++) {
      if (tiles.pass().count(tiles.role(), t) >= FEWEST_CELLS) {
        sum +=
            Pair.gainDb(tiles.pass().before(tiles.role(), t), tiles.pass().after(tiles.role(), t));
        n++;
      }
    }
    return n >= (to - from) / 2 ? sum / n : Double.NaN;
  }
}
