package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceClicks;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.measure.stems.RoleTiles;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Stop;

/** Moments at which the wanted sound is simply gone. */
@AutoService(Measure.class)
public final class Dropouts implements PairMeasure, SetMeasure, StretchMeasure {
  private static final int ENOUGH_CELLS = 3;
  private static final int ENOUGH_FRAMES = 20;
  private static final double LEAST_SNR = 10;
  private static final double GONE_DB = -12;

  /** Softer moments of a stem's own material, 50 dB under its loudest, do not count. */
  private static final double SOFTEST = 1e-5;

  private static final double LOOK_SECONDS = 0.040;
  private static final double BESIDE_SECONDS = 0.030;

  /** Of a source as a whole, 40 dB under its loudest; what is left of it 20 dB under the usual. */
  private static final double SOFTEST_OF_ALL = 1e-4;

  /** 6 dB less than some frames ago. */
  private static final double TAIL = 4;

  private static final int TAIL_FRAMES = 8;
  private static final double NOTHING_DB = -50;
  private static final double GONE_ALL_DB = -20;

  private static final Declaration DECLARATION =
      new Declaration(
          "dropouts",
          "Dropouts",
          Axis.LOST.in(Job.DENOISE, Job.DEREVERB, Job.STEMS, Job.STRETCH, Job.PITCH),
          "%",
          false,
          "Share of the time with wanted sound in which it is gone: swallowed syllables, gated"
              + " endings. A listener notices single ones.",
          "Active frames with at least 3 wanted cells, together 10 dB over the noise, whose energy"
              + " gain, each band first freed of its long-term gain, is under −12 dB; frames with"
              + " clicks of the source left out. In dereverb the same wherever such cells are; in stems over the role's own cells, 50 dB of its range."
              + " Stretched or shifted: moments of the source (40 ms, down to 40 dB under its"
              + " loudest, no tail 6 dB under what was before) at which the version, ±30 ms, lies 20 dB under its usual gain or has"
              + " ended.",
          "Kettle Sieve's own definition; clicks by Godsill & Rayner 1998.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    WantedBands energies = pair.shared(WantedBands.OF);
    int bands = pair.bands().count();
    int blocks = pair.timeline().blocks();
    double[] gone = new double[blocks];
    double[] frames = new double[blocks];
    int count = 0;
    PlaceGrid trace = new PlaceGrid(pair.timeline(), 1);
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    SourceClicks clicks = pair.source().clicks();
    // In a room the pauses hold the tail: its cells alone tell where the voice is.
    boolean room = pair.job().inARoom();
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      if (clicks.in(t) || !room && !pair.source().pauses().activity().active(t)) {
        continue;
      }
      double before = 0;
      double after = 0;
      double noise = 0;
      int cells = 0;
      int loudest = -1;
      for (int b = 0; b < bands; b++) {
        if (energies.count(t, b) > 0 && energies.longTermGain(b) > 0) {
          before += energies.source(t, b);
          after += energies.version(t, b) / energies.longTermGain(b);
          noise += energies.noise(t, b);
          cells += energies.count(t, b);
          if (loudest < 0 || energies.source(t, b) > energies.source(t, loudest)) {
            loudest = b;
          }
        }
      }
      // Beside a strong cell a little noise passes for wanted; alone it must not count.
      if (cells < ENOUGH_CELLS || before < LEAST_SNR * noise) {
        continue;
      }
      int block = pair.timeline().block(t);
      double gain = Pair.gainDb(before, after);
      frames[block]++;
      count++;
      gone[block] += gain < GONE_DB ? 1 : 0;
      trace.add(t, 0, gain < GONE_DB ? 100 : 0, 1);
      places.add(t, loudest, gain < GONE_DB ? 100 : 0, 1);
    }
    if (count < ENOUGH_FRAMES) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    Estimate estimate = pair.bootstrap().estimate(w -> share(gone, frames, w));
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(trace.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  /** Moments at which a stem's own material is gone. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    int frames = set.source().timeline().frames();
    double most = 0;
    for (int t = 0; t < frames; t++) {
      most = Math.max(most, tiles.before(t));
    }
    BlockRatio gone = new BlockRatio(set.source());
    PlaceGrid places = PlaceGrid.ofTime(set.source().timeline(), 50, set.mix().sampleRate() / 2.0);
    int count = 0;
    for (int t = 0; t < frames; t++) {
      if (tiles.cells(t) < ENOUGH_CELLS || tiles.before(t) < SOFTEST * most) {
        continue;
      }
      boolean lost = Pair.gainDb(tiles.before(t) * tiles.level(), tiles.after(t)) < GONE_DB;
      int block = set.source().timeline().block(t);
      gone.add(block, lost ? 100 : 0, 1);
      places.add(t, 0, lost ? 100 : 0, 1);
      count++;
    }
    if (count < ENOUGH_FRAMES) {
      throw new NotMeasurableException("too little of the mix is " + role + " alone");
    }
    return Reading.of(DECLARATION.id(), gone.estimate(share -> share))
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  /** Moments of a source that have no sound in a version of another length, or lie beyond it. */
  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    Timeline timeline = warp.source().timeline();
    double[] before = new double[timeline.frames()];
    double[] gains = new double[before.length];
    double loudest = 0;
    double hop = warp.source().source().framing().hopSeconds();
    for (int t = 0; t < before.length; t++) {
      Stop.checkHere();
      double at = warp.source().source().startSeconds() + t * hop;
      before[t] = power(source, at);
      double there = warp.fit().map().at(at);
      // Attacks may lie a little beside: the loudest near by counts.
      double after =
          Math.max(
              power(version, there),
              Math.max(
                  power(version, there - BESIDE_SECONDS), power(version, there + BESIDE_SECONDS)));
      gains[t] = Pair.gainDb(before[t], after);
      loudest = Math.max(loudest, before[t]);
    }
    double least = loudest * SOFTEST_OF_ALL;
    double usual =
        Statistics.median(
            IntStream.range(0, gains.length)
                .filter(t -> before[t] > least && gains[t] > NOTHING_DB)
                .mapToDouble(t -> gains[t])
                .toArray());
    BlockRatio gone = new BlockRatio(warp.source());
    PlaceGrid places = PlaceGrid.ofTime(timeline, 50, source.sampleRate() / 2.0);
    int count = 0;
    for (int t = 0; t < gains.length; t++) {
      if (before[t] > least && sounds(before, t)) {
        double lost = gains[t] < usual + GONE_ALL_DB ? 100 : 0;
        gone.add(timeline.block(t), lost, 1);
        places.add(t, 0, lost, 1);
        count++;
      }
    }
    if (count < ENOUGH_FRAMES) {
      throw new NotMeasurableException("fewer than 20 frames of the source sound");
    }
    return Reading.of(DECLARATION.id(), gone.estimate(share -> share))
        .withTrace(places.trace())
        .withSpots(places.spots(true, 0, 1));
  }

  /** Whether a moment is no tail of what was before it: that may die away faster. */
  private static boolean sounds(double[] powers, int t) {
    for (int b = Math.max(0, t - TAIL_FRAMES); b < t; b++) {
      if (powers[b] > TAIL * powers[t]) {
        return false;
      }
    }
    return true;
  }

  private static double power(Audio audio, double seconds) {
    float[] x =
        audio.samples(
            0,
            Math.round((seconds - LOOK_SECONDS / 2) * audio.sampleRate()),
            (int) (LOOK_SECONDS * audio.sampleRate()));
    double sum = 1e-14;
    for (float v : x) {
      sum += (double) v * v;
    }
    return sum / x.length;
  }

  private static double share(double[] gone, double[] frames, int[] weights) {
    double bad = 0;
    double all = 0;
    for (int i = 0; i < weights.length; i++) {
      bad += weights[i] * gone[i];
      all += weights[i] * frames[i];
    }
    return all > 0 ? 100 * bad / all : Double.NaN;
  }
}
