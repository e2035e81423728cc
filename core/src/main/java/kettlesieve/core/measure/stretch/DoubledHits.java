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

/** Attacks that are heard twice. */
@AutoService(Measure.class)
public final class DoubledHits implements StretchMeasure {
  private static final double ABOVE_HZ = 1000;
  private static final double STEP = 0.002;
  private static final int WIDE = 3;
  private static final double FROM_SECONDS = 0.016;
  private static final double TO_SECONDS = 0.080;
  private static final double ALONE_SECONDS = 0.012;
  private static final double SLACK_SECONDS = 0.008;
  private static final double RISE_DB = 5;
  private static final double SOURCE_LESS_DB = 4;
  private static final double UNDER_HIT_DB = 14;
  private static final double KEPT = 0.5;
  private static final double LEAST_POWER = 1e-12;
  private static final int FEWEST = 3;
  private static final int TRAIN = 4;
  private static final Declaration DECLARATION =
      new Declaration(
          "doubled-hits",
          "Doubled hits",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "per minute",
          false,
          "Attacks that sound twice, shortly after one another: drums that stutter, consonants that"
              + " repeat. Cutting and joining in time does that.",
          "Power above 1 kHz in steps of 2 ms, its rise R the next 6 ms over the 6 ms before: a rise"
              + " of the version 16 to 80 ms from a strong attack, 5 dB or more, the highest within"
              + " 12 ms and within 14 dB of the attack, where the source has none within 4 dB of it"
              + " at that distance, stretched or not (±8 ms); attacks kept by less than half, and trains of four"
              + " or more (the pulse of a low voice), are left out. The share"
              + " of attacks is scored.",
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
      boolean twice =
          again(
              Steps.around(source, hit.source(), 1 / Math.min(1, warp.fit().slope())),
              Steps.around(version, hit.version(), 1),
              warp.fit().slope());
      found += twice ? 1 : 0;
      int frame = warp.frame(hit.source());
      doubled.add(warp.source().timeline().block(frame), twice ? 100 : 0, 1);
      places.add(frame, 0, twice ? 100 : 0, 1);
    }
    if (attacks < FEWEST) {
      throw new NotMeasurableException("fewer than three attacks were kept");
    }
    Estimate share = doubled.estimate(x -> x);
    double minutes = warp.source().source().audio().seconds() / 60;
    double perHundredth = attacks / 100.0 / minutes;
    return Reading.of(DECLARATION.id(), share.map(x -> x * perHundredth))
        .scoredAs(share)
        .with("share", share.value(), "%")
        .with("hits", found, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  /** Rises of power above 1 kHz around an attack, which stands in the middle. */
  private record Steps(double[] rise, double[] power, int middle) {
    static Steps around(Audio audio, double seconds, double wider) {
      int rate = audio.sampleRate();
      int step = Math.max(1, (int) Math.round(STEP * rate));
      int reach =
          (int) Math.ceil((wider * TO_SECONDS + SLACK_SECONDS + ALONE_SECONDS) / STEP) + 2 * WIDE;
      int lead = rate / 20;
      float[] raw =
          audio.samples(
              0, Math.round(seconds * rate) - (long) reach * step - lead, 2 * reach * step + lead);
      double[] x = new double[raw.length];
      for (int i = 0; i < x.length; i++) {
        x[i] = raw[i];
      }
      Biquad.highPass(ABOVE_HZ, Math.sqrt(0.5), rate).filter(x);
      double[] power = new double[2 * reach];
      for (int s = 0; s < power.length; s++) {
        double sum = 0;
        for (int i = 0; i < step; i++) {
          double v = x[lead + s * step + i];
          sum += v * v;
        }
        power[s] = Math.max(LEAST_POWER, sum / step);
      }
      double[] rise = new double[power.length];
      for (int s = WIDE; s + WIDE <= power.length; s++) {
        rise[s] = 10 * Math.log10(sum(power, s, s + WIDE) / sum(power, s - WIDE, s));
      }
      return new Steps(rise, power, reach);
    }

    private static double sum(double[] x, int from, int to) {
      double sum = 0;
      for (int i = from; i < to; i++) {
        sum += x[i];
      }
      return sum;
    }

    /** Loudest 6 ms within some steps of one, dB. */
    double level(int at, int within) {
      double best = 0;
      for (int s = Math.max(0, at - within); s <= at + within && s + WIDE <= power.length; s++) {
        best = Math.max(best, sum(power, s, s + WIDE));
      }
      return 10 * Math.log10(Math.max(LEAST_POWER, best));
    }

    boolean highest(int at, int within) {
      for (int s = Math.max(0, at - within); s <= Math.min(rise.length - 1, at + within); s++) {
        if (rise[s] > rise[at]) {
          return false;
        }
      }
      return true;
    }

    double highestRise(int from, int to) {
      double best = Double.NEGATIVE_INFINITY;
      for (int s = Math.max(0, from); s <= Math.min(rise.length - 1, to); s++) {
        best = Math.max(best, rise[s]);
      }
      return best;
    }
  }

  private static boolean again(Steps source, Steps version, double slope) {
    int near = (int) Math.round(FROM_SECONDS / STEP);
    int far = (int) Math.round(TO_SECONDS / STEP);
    int alone = (int) Math.round(ALONE_SECONDS / STEP);
    int slack = (int) Math.round(SLACK_SECONDS / STEP);
    double hit = version.level(version.middle(), near / 2);
    int rises = 0;
    boolean again = false;
    for (int away = -far; away <= far; away++) {
      int at = version.middle() + away;
      if (Math.abs(away) < near
          || version.rise()[at] < RISE_DB
          || !version.highest(at, alone)
          || version.level(at, 1) < hit - UNDER_HIT_DB) {
        continue;
      }
      rises++;
      // What follows an attack keeps its distance in a good stretch, or it is stretched as well.
      int stretched = (int) Math.round(away / slope);
      int from = source.middle() + Math.min(away, stretched) - slack;
      int to = source.middle() + Math.max(away, stretched) + slack;
      again |= source.highestRise(from, to) < version.rise()[at] - SOURCE_LESS_DB;
    }
    // A train of them is the pulse of a low voice.
    return again && rises < TRAIN;
  }
}
