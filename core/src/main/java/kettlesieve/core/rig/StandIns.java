package kettlesieve.core.rig;

import java.util.List;
import kettlesieve.core.comparison.Job;

/**
 * The stand-ins that ship with the program. They are listed apart from {@link StandIn}: an
 * interface that makes its own implementations while it is initialised locks up as soon as two
 * threads begin at the two ends.
 */
public final class StandIns {
  /** All that ship with the program. */
  public static final List<StandIn> ALL =
      List.of(
          new PlainSubtraction(),
          new SmoothedWiener(),
          new PowerSubtraction(),
          new BandGate(),
          new LateSubtraction(),
          new DelayedPrediction(),
          new CubicTops(),
          new PredictedTops(),
          new MedianSplit(),
          new CentreSplit(),
          new SpeedChange(),
          new WaveformOverlap(),
          new PhaseStretch(false),
          new PhaseStretch(true),
          new PitchShift(false),
          new PitchShift(true));

  private StandIns() {}

  /** The stand-ins of a job. */
  public static List<StandIn> of(Job job) {
    return ALL.stream().filter(s -> s.jobs().contains(job)).toList();
  }
}
