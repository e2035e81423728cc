package kettlesieve.core.measure.noise;

import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Trace;
import kettlesieve.core.signal.ThirdOctaveBands;

/** What the measures of pauses share when they show where their figure comes from. */
public final class PauseTraces {
  private PauseTraces() {}

  /** Whether a band lies in the range in which pauses are judged. */
  public static boolean judged(Pair pair, int band) {
    double hz = ThirdOctaveBands.middleHz(band);
    return hz >= 200 && hz <= Math.min(8000, 0.45 * pair.framing().sampleRate());
  }

  /** Level of the pauses over time, dB relative to the wanted sound. */
  public static Trace levels(Pair pair, PauseLevels levels) {
    PlaceGrid single = new PlaceGrid(pair.timeline(), 1);
    for (int i = 0; i < levels.count(); i++) {
      single.add(levels.frame(i), 0, levels.levelDb(i), 1);
    }
    return single.trace();
  }
}
