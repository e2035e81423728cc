package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * A gate in bands of a few bins (common practice): what does not stand over the noise is turned
 * down, what does is left alone; it opens at once and closes slowly.
 */
public final class BandGate implements StandIn {
  private static final int BINS = 8;
  private static final double OPENS_AT = 4;
  private static final double CLOSING_SECONDS = 0.08;

  @Override
  public String id() {
    return "band-gate";
  }

  @Override
  public String title() {
    return "Band gate";
  }

  @Override
  public String description() {
    return "Stand-in: turns bands down that do not stand over the noise (common practice). Clean"
        + " pauses, noise that comes and goes with the voice.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DENOISE);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    double amount = setup.amount();
    double floor = Math.pow(10, -0.4 * amount / 20);
    double closing = Math.exp(-SpectralGain.hopSeconds(in) / CLOSING_SECONDS);
    return Map.of(
        WHOLE, SpectralGain.process(in, amount, progress, () -> new Rule(floor, closing)));
  }

  private static final class Rule implements SpectralGain.Rule {
    private final double floor;
    private final double closing;
    private double[] open;

    Rule(double floor, double closing) {
      this.floor = floor;
      this.closing = closing;
    }

    @Override
    public void gains(float[] power, double[] noise, float[] gain) {
      if (open == null) {
        open = new double[power.length / BINS + 1];
      }
      for (int b = 0; b < open.length; b++) {
        double signal = 0;
        double hiss = 0;
        int end = Math.min(power.length, (b + 1) * BINS);
        for (int k = b * BINS; k < end; k++) {
          signal += power[k];
          hiss += noise[k];
        }
        open[b] = signal > OPENS_AT * hiss ? 1 : closing * open[b];
        for (int k = b * BINS; k < end; k++) {
          gain[k] = (float) Math.max(floor, open[b]);
        }
      }
    }
  }
}
