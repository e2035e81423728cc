package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * Rebuilds clipped tops with a cubic through the values and slopes on both sides (Hermite
 * interpolation). Quick, and too low on long runs.
 */
public final class CubicTops implements StandIn {
  @Override
  public String id() {
    return "cubic-tops";
  }

  @Override
  public String title() {
    return "Cubic tops";
  }

  @Override
  public String description() {
    return "Stand-in: draws a cubic over each clipped top (Hermite interpolation). Good on short"
        + " runs, wild on long ones.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DECLIP);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    float[][] out = new float[in.channels()][];
    for (int c = 0; c < out.length; c++) {
      progress.at("rebuilding tops", (double) c / out.length);
      float[] x = in.wholeChannel(c);
      out[c] = x.clone();
      for (ClippedRuns.Run run : ClippedRuns.find(in.sampleRate(), x)) {
        rebuild(x, run, setup.amount(), out[c]);
      }
    }
    return Map.of(WHOLE, Audio.of(in.sampleRate(), out));
  }

  private static void rebuild(float[] x, ClippedRuns.Run run, double amount, float[] out) {
    double length = run.to() - run.from() + 1;
    double left = x[run.from() - 1];
    double right = x[run.to()];
    double leftSlope = (left - x[run.from() - 2]) * length;
    double rightSlope = (x[run.to() + 1] - right) * length;
    for (int i = run.from(); i < run.to(); i++) {
      double t = (i - run.from() + 1) / length;
      double t2 = t * t;
      double t3 = t2 * t;
      double value =
          (2 * t3 - 3 * t2 + 1) * left
              + (t3 - 2 * t2 + t) * leftSlope
              + (3 * t2 - 2 * t3) * right
              + (t3 - t2) * rightSlope;
      out[i] = ClippedRuns.rebuilt(run, value, amount);
    }
  }
}
