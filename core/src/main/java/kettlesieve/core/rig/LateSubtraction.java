package kettlesieve.core.rig;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.task.Progress;

/**
 * Subtraction of late reverberation (Lebart, Boucher &amp; Denbigh, "A new method based on spectral
 * subtraction for speech dereverberation", Acta Acustica 87, 2001): what sounded 50 ms ago, damped
 * by the room's own decay, is taken for the reverberation of now. The decay is read from the
 * recording's falling levels.
 */
public final class LateSubtraction implements StandIn {
  private static final double LATE_SECONDS = 0.050;

  @Override
  public String id() {
    return "late-subtraction";
  }

  @Override
  public String title() {
    return "Late subtraction";
  }

  @Override
  public String description() {
    return "Stand-in: takes off what the room still holds of 50 ms ago (Lebart 2001). Dries, and"
        + " thins the ends of words.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DEREVERB);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    double decay = decaySeconds(in);
    double strength = 1.5 * setup.amount() / 100;
    double floor = Math.pow(10, -0.25 * setup.amount() / 20);
    return Map.of(
        WHOLE,
        SpectralGain.process(
            in,
            setup.amount(),
            progress,
            () -> new Rule(decay, SpectralGain.hopSeconds(in), strength, floor)));
  }

  /** Time in which the room's sound falls by 60 dB, 0.2 to 2.5 s, from the falls of the level. */
  static double decaySeconds(Audio in) {
    Audio mono = in.downmix();
    int hop = Math.max(1, mono.sampleRate() / 100);
    int count = (int) Math.min(60_000, mono.frames() / hop);
    double[] levels = new double[count];
    float[] block = new float[2 * hop];
    for (int i = 0; i < count; i++) {
      mono.read(0, (long) i * hop, block, 0, block.length);
      double power = 0;
      for (float x : block) {
        power += x * x;
      }
      levels[i] = 10 * Math.log10(power / block.length + 1e-10);
    }
    int span = 15;
    List<Double> slopes = new ArrayList<>();
    for (int i = 0; i + span < count; i++) {
      boolean falls = true;
      for (int j = i + 1; j <= i + span && falls; j++) {
        falls = levels[j] < levels[j - 1] + 0.5;
      }
      double fall = levels[i] - levels[i + span];
      if (falls && fall > 4) {
        slopes.add(fall / (span * 0.010));
      }
    }
    if (slopes.isEmpty()) {
      return 0.5;
    }
    // The slowest falls are the room's; faster ones are those of the voice itself.
    double[] sorted = slopes.stream().mapToDouble(Double::doubleValue).toArray();
    return Math.max(0.2, Math.min(2.5, 60 / Statistics.quantile(sorted, 0.25)));
  }

  private static final class Rule implements SpectralGain.Rule {
    private final double damping;
    private final double strength;
    private final double floor;
    private final double[][] past;
    private int at;

    Rule(double decay, double hopSeconds, double strength, double floor) {
      int lag = Math.max(1, (int) Math.round(LATE_SECONDS / hopSeconds));
      this.past = new double[lag][];
      this.damping = Math.pow(10, -6 * lag * hopSeconds / decay);
      this.strength = strength;
      this.floor = floor;
    }

    @Override
    public void gains(float[] power, double[] noise, float[] gain) {
      double[] before = past[at];
      double[] last = past[(at + past.length - 1) % past.length];
      double[] smooth = new double[power.length];
      for (int k = 0; k < gain.length; k++) {
        smooth[k] = last == null ? power[k] : 0.7 * last[k] + 0.3 * power[k];
        double late = before == null ? 0 : strength * damping * before[k];
        double rest = 1 - Math.sqrt(late / Math.max(power[k], 1e-20));
        gain[k] = (float) Math.max(floor, rest);
      }
      past[at] = smooth;
      at = (at + 1) % past.length;
    }
  }
}
