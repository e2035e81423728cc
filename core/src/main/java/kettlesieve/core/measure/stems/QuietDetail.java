package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Statistics;

/** Whether soft notes and strokes came into the stem. */
@AutoService(Measure.class)
public final class QuietDetail implements SetMeasure {
  private static final double SOFTER_DB = 20;
  private static final double SOFTEST_DB = 40;
  private static final double KEPT_DB = -6;
  private static final int FEWEST = 15;
  private static final double NEAR_SECONDS = 0.05;
  private static final double AROUND_SECONDS = 0.3;

  /** An attack stands so far above the rises around it. */
  private static final double OVER_AROUND = 4;

  private static final double TWICE = 2;
  private static final int LAG = 2;
  private static final Declaration DECLARATION =
      new Declaration(
          "quiet-detail",
          "Quiet detail",
          Axis.LOST.in(Job.STEMS),
          "%",
          false,
          "Share of the role's soft notes and strokes that came into its stem: ghost notes of a"
              + " drum, a breath, a string that is barely touched. Gating takes them first.",
          "Attacks of the role in the mix, by the rise of amplitude over its cells, 20 to 40 dB"
              + " under the strongest, where its power doubles: those whose rise in the stem, freed of its usual gain, lies"
              + " within 6 dB. At least 15 of them.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    double[] before = tiles.risesOfMix();
    double[] after = tiles.risesOfStem();
    double strongest = Arrays.stream(before).max().orElse(0);
    double level = Math.sqrt(tiles.level());
    int near = set.source().source().framing().framesIn(NEAR_SECONDS);
    int around = set.source().source().framing().framesIn(AROUND_SECONDS);
    BlockRatio kept = new BlockRatio(set.source());
    PlaceGrid places = PlaceGrid.ofTime(set.source().timeline(), 50, set.mix().sampleRate() / 2.0);
    int attacks = 0;
    for (int t = 1; t + 1 < before.length; t++) {
      double under = 20 * Math.log10(strongest / Math.max(before[t], 1e-12));
      if (under < SOFTER_DB || under > SOFTEST_DB || !attack(tiles, before, t, near, around)) {
        continue;
      }
      double most = Math.max(after[t], Math.max(after[t - 1], after[t + 1])) / level;
      boolean there = most >= before[t] * Db.toAmplitude(KEPT_DB);
      kept.add(set.source().timeline().block(t), there ? 100 : 0, 1);
      places.add(t, 0, there ? 100 : 0, 1);
      attacks++;
    }
    if (attacks < FEWEST) {
      throw new NotMeasurableException(
          "fewer than 15 soft attacks of this role stand alone in the mix");
    }
    return Reading.of(DECLARATION.id(), kept.estimate(share -> share))
        .with("attacks", attacks, "")
        .withTrace(places.trace())
        .withSpots(places.spots(false, 50, 1));
  }

  private static boolean attack(RoleTiles tiles, double[] rises, int t, int near, int around) {
    // Others may hold a tenth of a cell: what they add is no note of this role.
    if (tiles.before(t) < TWICE * tiles.before(Math.max(0, t - LAG))) {
      return false;
    }
    int from = Math.max(0, t - around);
    int to = Math.min(rises.length, t + around + 1);
    for (int i = Math.max(0, t - near); i < Math.min(rises.length, t + near + 1); i++) {
      if (rises[i] > rises[t]) {
        return false;
      }
    }
    return rises[t] > OVER_AROUND * Statistics.median(Arrays.copyOfRange(rises, from, to));
  }
}
