package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Biquad;
import kettlesieve.core.signal.LinearPrediction;

/** Attacks that are heard twice. */
@AutoService(Measure.class)
public final class DoubledHits implements StretchMeasure {
  private static final double ABOVE_HZ = 1000;
  private static final int ORDER = 20;
  private static final double STROKE_SECONDS = 0.010;
  private static final double SLACK_SECONDS = 0.016;
  private static final double FROM_SECONDS = 0.016;
  private static final double TO_SECONDS = 0.080;
  private static final double REACH_SECONDS = 0.130;

  /** A copy 9 dB softer is heard as one. */
  private static final double LEAST_GAIN = 0.35;

  private static final double OVER_SOURCE = 0.25;
  private static final double ALIKE = 0.4;
  private static final double SAME_SECONDS = 0.001;
  private static final double SAME_SHARE = 0.05;
  private static final double APART_SECONDS = 0.002;
  private static final int TRAIN = 4;
  private static final double KEPT = 0.5;
  private static final double LEAST_POWER = 1e-12;
  private static final int FEWEST = 3;

  /** With fewer attacks, one that is doubled does not count for more. */
  private static final int USUAL = 12;

  private static final Declaration DECLARATION =
      new Declaration(
          "doubled-hits",
          "Doubled hits",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "per minute",
          false,
          "Attacks that sound twice, shortly after one another: drums that stutter, consonants that"
              + " repeat. Cutting and joining in time does that.",
          "Residual of linear prediction (order 20) above 1 kHz around a strong attack; the loudest"
              + " 10 ms within 16 ms of it are the stroke. It is doubled where, 16 to 80 ms away, it"
              + " comes again with a gain of 0.35 or more (product over its power, normalised"
              + " correlation 0.4 or more) that is 0.25 over the source's at that distance, stretched"
              + " or not (±1 ms and 5 %); attacks kept by less than half, and what comes again four times or"
              + " more (the pulse of a voice), are left out. The share of"
              + " attacks is scored, of 12 where there are fewer.",
          "Kettle Sieve's own definition.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    BlockRatio doubled = new BlockRatio(warp.source());
    PlaceGrid places =
        PlaceGrid.ofTime(warp.source().timeline(), ABOVE_HZ, source.sampleRate() / 2.0);
    int attacks = 0;
    int found = 0;
    for (StretchedHits.Hit hit : warp.shared(StretchedHits.OF).hits()) {
      if (hit.kept() < KEPT * hit.rise()) {
        continue;
      }
      attacks++;
      boolean twice = twice(source, version, hit, warp.fit().slope());
      found += twice ? 1 : 0;
      int frame = warp.frame(hit.source());
      doubled.add(warp.source().timeline().block(frame), twice ? 100 : 0, 1);
      places.add(frame, 0, twice ? 100 : 0, 1);
    }
    if (attacks < FEWEST) {
      throw new NotMeasurableException("fewer than three attacks were kept");
    }
    Estimate share = doubled.estimate(x -> x);
    int attacked = attacks;
    double minutes = warp.source().source().audio().seconds() / 60;
    double perHundredth = attacks / 100.0 / minutes;
    return Reading.of(DECLARATION.id(), share.map(x -> x * perHundredth))
        .scoredAs(share.map(x -> x * attacked / Math.max(USUAL, attacked)))
        .with("share", share.value(), "%")
        .with("hits", found, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  /**
   * Whether the sound of an attack comes again. Both recordings are freed of what linear prediction
   * foresees, so that only what strikes is left; what returns in it is the same stroke.
   */
  private static boolean twice(Audio source, Audio version, StretchedHits.Hit hit, double slope) {
    Stroke before = Stroke.around(source, hit.source());
    Stroke after = Stroke.around(version, hit.version());
    if (before == null || after == null) {
      return false;
    }
    int near = (int) (FROM_SECONDS * source.sampleRate());
    int far = (int) (TO_SECONDS * source.sampleRate());
    int apart = (int) (APART_SECONDS * source.sampleRate());
    boolean again = false;
    int times = 0;
    for (int side = -1; side <= 1; side += 2) {
      int last = -far;
      for (int away = near; away <= far; away++) {
        double gain = after.again(side * away, true);
        if (gain < LEAST_GAIN) {
          continue;
        }
        times += away - last > apart ? 1 : 0;
        last = away;
        // What the source has at that distance, stretched or not, was there.
        again |=
            !again
                && gain - before.most(side * away) >= OVER_SOURCE
                && gain - before.most((int) Math.round(side * away / slope)) >= OVER_SOURCE;
      }
    }
    // A train of them is the pulse of a voice or the period of a deep note.
    return again && times < TRAIN;
  }

  /** What strikes around an attack, and the stroke in it. */
  private record Stroke(double[] residual, int at, int length, double energy) {
    static Stroke around(Audio audio, double seconds) {
      int rate = audio.sampleRate();
      int reach = (int) (REACH_SECONDS * rate);
      float[] raw = audio.samples(0, Math.round(seconds * rate) - reach, 2 * reach);
      double[] x = new double[raw.length];
      for (int i = 0; i < x.length; i++) {
        x[i] = raw[i];
      }
      Biquad.highPass(ABOVE_HZ, Math.sqrt(0.5), rate).filter(x);
      double[] model = LinearPrediction.of(x, ORDER);
      if (model == null) {
        return null;
      }
      double[] residual = LinearPrediction.residual(x, model);
      int length = (int) (STROKE_SECONDS * rate);
      int slack = (int) (SLACK_SECONDS * rate);
      int middle = residual.length / 2;
      double energy = 0;
      for (int i = 0; i < length; i++) {
        energy += Math.pow(residual[middle - slack + i], 2);
      }
      double best = energy;
      int at = middle - slack;
      for (int start = middle - slack; start < middle + slack; start++) {
        energy += Math.pow(residual[start + length], 2) - Math.pow(residual[start], 2);
        if (energy > best) {
          best = energy;
          at = start + 1;
        }
      }
      return best > LEAST_POWER ? new Stroke(residual, at, length, best) : null;
    }

    /** How much of the stroke comes again some samples away; 0 where it is not alike. */
    double again(int away, boolean alike) {
      int from = at + away;
      if (from < 0 || from + length > residual.length) {
        return 0;
      }
      double product = 0;
      double there = LEAST_POWER;
      for (int i = 0; i < length; i++) {
        product += residual[at + i] * residual[from + i];
        there += residual[from + i] * residual[from + i];
      }
      boolean same = Math.abs(product) >= ALIKE * Math.sqrt(energy * there);
      return !alike || same ? Math.abs(product) / energy : 0;
    }

    /** The most of it that comes again about there: pitch may have glided on the way. */
    double most(int away) {
      int around = (int) (SAME_SECONDS / STROKE_SECONDS * length + SAME_SHARE * Math.abs(away));
      double most = 0;
      for (int a = away - around; a <= away + around; a++) {
        most = Math.max(most, again(a, false));
      }
      return most;
    }
  }
}
