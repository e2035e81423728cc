package kettlesieve.core.measure.noise;

import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PauseLevels;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Trace;

/** Traces of what is measured in pauses. */
final class PauseTraces {
  private PauseTraces() {}

  /** Level of the pauses over time, dB relative to the wanted sound. */
  static Trace levels(Pair pair, PauseLevels levels) {
    PlaceGrid single = new PlaceGrid(pair.timeline(), 1);
    for (int i = 0; i < levels.count(); i++) {
      single.add(levels.frame(i), 0, levels.levelDb(i), 1);
    }
    return single.trace();
  }
}
