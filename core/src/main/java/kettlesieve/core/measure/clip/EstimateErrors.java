package kettlesieve.core.measure.clip;

import java.util.function.ToDoubleFunction;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.signal.Db;

/**
 * Squared distances of a version from the estimated original over {@link ClippedPassages}. For a
 * squared error that is the best there is without the original: E‖V−X‖² = ‖V−E‖² + a constant. On
 * samples that were never clipped the source itself is the truth.
 */
final class EstimateErrors {
  /** Those of a pair. */
  static final Analysis<EstimateErrors> OF = EstimateErrors::new;

  /** Sums of squares of one stretch of time. */
  static final class Sums {
    private double under;
    private double over;
    private double good;
    private double need;

    private void add(Sums other, double times) {
      under += times * other.under;
      over += times * other.over;
      good += times * other.good;
      need += times * other.need;
    }

    /** Of what is missing at clipped samples. */
    double under() {
      return under;
    }

    /** Of what is too much at clipped samples. */
    double over() {
      return over;
    }

    /** Of both. */
    double clipped() {
      return under + over;
    }

    /** Of both, and of the changes to samples that were never clipped. */
    double all() {
      return under + over + good;
    }

    /** Of the clipped samples of the source itself. */
    double need() {
      return need;
    }
  }

  private static final double FLOOR_DB = -60;

  private final Pair pair;
  private final ClippedPassages passages;
  private final Sums[] slots;

  private EstimateErrors(Pair pair) throws NotMeasurableException {
    this.pair = pair;
    this.passages = pair.ofSource(ClippedPassages.OF);
    Timeline timeline = pair.timeline();
    this.slots = new Sums[timeline.slots()];
    for (int s = 0; s < slots.length; s++) {
      slots[s] = new Sums();
    }
    Audio version = pair.version().audio();
    for (ClippedPassages.Passage p : passages.all()) {
      float[] v = version.samples(p.channel(), p.from(), p.source().length);
      for (int i = 0; i < v.length; i++) {
        long at = p.from() + i;
        if (at < pair.firstSample() || at >= pair.endSample()) {
          continue;
        }
        Sums sums = slots[timeline.slot(pair.frameOf(at))];
        if (p.polarity()[i] == 0) {
          double error = (double) v[i] - p.source()[i];
          sums.good += error * error;
        } else {
          double error = p.polarity()[i] * ((double) v[i] - p.estimate()[i]);
          double own = (double) p.estimate()[i] - p.source()[i];
          sums.need += own * own;
          if (error > 0) {
            sums.over += error * error;
          } else {
            sums.under += error * error;
          }
        }
      }
    }
    if (!(whole().need > 0)) {
      throw new NotMeasurableException("the version covers none of the clipped passages");
    }
  }

  ClippedPassages passages() {
    return passages;
  }

  /** A ratio of sums in dB, not below −60. */
  static double db(double part, double need) {
    return Math.max(FLOOR_DB, Db.ofPower(Math.max(part, 1e-30) / need));
  }

  Sums whole() {
    Sums all = new Sums();
    for (Sums s : slots) {
      all.add(s, 1);
    }
    return all;
  }

  /** A figure of the sums and its distribution. */
  Estimate estimate(ToDoubleFunction<Sums> figure) {
    Timeline timeline = pair.timeline();
    Sums[] blocks = new Sums[timeline.blocks()];
    for (int b = 0; b < blocks.length; b++) {
      blocks[b] = new Sums();
    }
    for (int s = 0; s < slots.length; s++) {
      blocks[timeline.blockOfSlot(s)].add(slots[s], 1);
    }
    return pair.bootstrap()
        .estimate(
            w -> {
              Sums sum = new Sums();
              for (int b = 0; b < blocks.length; b++) {
                if (w[b] > 0) {
                  sum.add(blocks[b], w[b]);
                }
              }
              return sum.need > 0 ? figure.applyAsDouble(sum) : Double.NaN;
            });
  }

  /** A figure of each slot, against the mean need of a slot: what is small is no spot. */
  PlaceGrid places(ToDoubleFunction<Sums> part) {
    PlaceGrid places = RunReadings.grid(pair);
    double mean = 0;
    int count = 0;
    for (Sums s : slots) {
      if (s.need > 0) {
        mean += s.need;
        count++;
      }
    }
    mean /= count;
    int frames = pair.framing().framesIn(0.1);
    for (int s = 0; s < slots.length; s++) {
      if (slots[s].need > 0) {
        places.add(
            s * frames, 0, db(part.applyAsDouble(slots[s]), Math.max(mean, slots[s].need)), 1);
      }
    }
    return places;
  }
}
