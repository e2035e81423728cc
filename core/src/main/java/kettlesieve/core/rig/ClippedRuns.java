package kettlesieve.core.rig;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Clipping;

/** The runs of clipped samples that a stand-in rebuilds: those of two and more. */
final class ClippedRuns {
  private ClippedRuns() {}

  /**
   * One run.
   *
   * @param from first sample
   * @param to sample after the last
   * @param level the level it stands at, with its sign
   */
  record Run(int from, int to, float level) {}

  static List<Run> find(int sampleRate, float[] x) {
    Clipping clipping = Clipping.of(Audio.of(sampleRate, x));
    List<Run> runs = new ArrayList<>();
    for (int i = 0; i < clipping.runs(0); i++) {
      Clipping.Run run = clipping.run(0, i);
      int from = (int) run.from();
      int to = from + run.length();
      if (run.length() >= 2 && from > 1 && to < x.length - 2) {
        runs.add(new Run(from, to, (float) (run.polarity() * run.level())));
      }
    }
    return runs;
  }

  /** A rebuilt sample: never inside the clip level, and moved there only as far as the amount. */
  static float rebuilt(Run run, double value, double amount) {
    double rise = run.level() > 0 ? value - run.level() : run.level() - value;
    double kept = Math.max(0, rise) * amount / 100;
    return (float) (run.level() > 0 ? run.level() + kept : run.level() - kept);
  }
}
