package kettlesieve.core.rig;

import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.LinearPrediction;
import kettlesieve.core.task.Progress;

/**
 * Rebuilds clipped samples as unknowns of an autoregressive signal: model and samples are estimated
 * in turn, each so that the prediction error is least (Janssen, Veldhuis &amp; Vries, "Adaptive
 * interpolation of discrete-time signals that can be modeled as autoregressive processes", IEEE
 * Trans. ASSP 34, 1986).
 */
public final class PredictedTops implements StandIn {
  private static final int FRAME = 2048;
  private static final int ORDER = 32;
  private static final int ROUNDS = 3;
  private static final int MOST_UNKNOWNS = 700;

  @Override
  public String id() {
    return "predicted-tops";
  }

  @Override
  public String title() {
    return "Predicted tops";
  }

  @Override
  public String description() {
    return "Stand-in: rebuilds clipped samples so that they are best predicted from their"
        + " neighbours (Janssen 1986). Slow, close to the truth.";
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
      float[] x = in.wholeChannel(c);
      out[c] = channel(in.sampleRate(), x, setup.amount(), progress);
    }
    return Map.of(WHOLE, Audio.of(in.sampleRate(), out));
  }

  private static float[] channel(int rate, float[] x, double amount, Progress progress) {
    List<ClippedRuns.Run> runs = ClippedRuns.find(rate, x);
    float[] out = x.clone();
    int next = 0;
    int hop = FRAME / 2;
    for (int start = 0; start < x.length; start += hop) {
      if (start % (hop * 64) == 0) {
        progress.at("rebuilding tops", (double) start / x.length);
      }
      // A run belongs to the half frame it begins in; its frame reaches a quarter to either side.
      int first = next;
      while (next < runs.size() && runs.get(next).from() < start + hop) {
        next++;
      }
      if (next > first) {
        int from = Math.max(0, start - hop / 2);
        int end = Math.max(start + hop + hop / 2, runs.get(next - 1).to() + hop / 2);
        rebuild(x, out, from, Math.min(x.length, end), runs, first, next, amount);
      }
    }
    return out;
  }

  private static void rebuild(
      float[] x,
      float[] out,
      int from,
      int to,
      List<ClippedRuns.Run> runs,
      int firstOwn,
      int endOwn,
      double amount) {
    int[] unknown = new int[to - from];
    int missing = 0;
    int first = firstOwn;
    while (first > 0 && runs.get(first - 1).to() > from) {
      first--;
    }
    for (int r = first; r < runs.size() && runs.get(r).from() < to; r++) {
      for (int i = Math.max(from, runs.get(r).from()); i < Math.min(to, runs.get(r).to()); i++) {
        unknown[missing++] = i - from;
      }
    }
    if (missing > MOST_UNKNOWNS || missing > (to - from) * 3 / 4) {
      // Too little is known here for a model: a straight blend would be a guess. It stays clipped.
      return;
    }
    double[] y = new double[to - from];
    for (int i = 0; i < y.length; i++) {
      y[i] = x[from + i];
    }
    int order = Math.min(ORDER, (y.length - missing) / 4);
    for (int round = 0; round < ROUNDS; round++) {
      double[] model = LinearPrediction.of(y, order);
      if (model == null) {
        return;
      }
      LinearPrediction.fill(y, unknown, missing, model);
    }
    for (int r = firstOwn; r < endOwn; r++) {
      ClippedRuns.Run run = runs.get(r);
      for (int i = run.from(); i < Math.min(to, run.to()); i++) {
        out[i] = ClippedRuns.rebuilt(run, y[i - from], amount);
      }
    }
  }
}
