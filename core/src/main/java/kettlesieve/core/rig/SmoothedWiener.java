package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * A Wiener filter whose signal-to-noise ratio is estimated "decision-directed", that is smoothed
 * over time through the last output (Ephraim &amp; Malah, "Speech enhancement using a minimum
 * mean-square error short-time spectral amplitude estimator", IEEE Trans. ASSP 32, 1984).
 */
public final class SmoothedWiener implements StandIn {
  private static final double SMOOTHING = 0.98;

  @Override
  public String id() {
    return "smoothed-wiener";
  }

  @Override
  public String title() {
    return "Smoothed Wiener";
  }

  @Override
  public String description() {
    return "Stand-in: a Wiener filter with a smoothed noise estimate (Ephraim & Malah 1984). Little"
        + " musical noise, softer attacks.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DENOISE);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    double amount = setup.amount();
    double floor = Math.pow(10, -0.4 * amount / 20);
    return Map.of(WHOLE, SpectralGain.process(in, amount, progress, () -> new Rule(floor)));
  }

  private static final class Rule implements SpectralGain.Rule {
    private final double floor;
    private double[] last;

    Rule(double floor) {
      this.floor = floor;
    }

    @Override
    public void gains(float[] power, double[] noise, float[] gain) {
      if (last == null) {
        last = new double[power.length];
      }
      for (int k = 0; k < gain.length; k++) {
        double posterior = power[k] / noise[k];
        double prior =
            SMOOTHING * last[k] / noise[k] + (1 - SMOOTHING) * Math.max(0, posterior - 1);
        double wiener = prior / (1 + prior);
        last[k] = wiener * wiener * power[k];
        gain[k] = (float) Math.max(floor, wiener);
      }
    }
  }
}
