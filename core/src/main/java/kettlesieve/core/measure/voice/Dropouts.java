package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
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
import kettlesieve.core.measure.stems.RoleTiles;

/** Moments at which the wanted sound is simply gone. */
@AutoService(Measure.class)
public final class Dropouts implements PairMeasure, SetMeasure {
  private static final int ENOUGH_CELLS = 3;
  private static final int ENOUGH_FRAMES = 20;
  private static final double LEAST_SNR = 10;
  private static final double GONE_DB = -12;

  /** Softer moments of a stem's own material, 50 dB under its loudest, do not count. */
  private static final double SOFTEST = 1e-5;

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
              + " clicks of the source left out. In dereverb the same wherever such cells are; in stems over the role's own cells, 50 dB of its range.",
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
