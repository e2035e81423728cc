package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * Power subtraction with over-subtraction and a spectral floor (Berouti, Schwartz &amp; Makhoul,
 * "Enhancement of speech corrupted by acoustic noise", ICASSP 1979): where little stands over the
 * noise more than the noise is taken off, and what is left never falls under a floor that hides the
 * lone tones.
 */
public final class PowerSubtraction implements StandIn {
  /** Over-subtraction at 0 dB, and by how much a dB over that lessens it: as the paper has it. */
  private static final double AT_ZERO = 4;

  private static final double A_DB = 0.15;

  @Override
  public String id() {
    return "power-subtraction";
  }

  @Override
  public String title() {
    return "Power subtraction";
  }

  @Override
  public String description() {
    return "Stand-in: takes more than the noise off weak moments and leaves a floor (Berouti 1979)."
        + " Less musical noise, thinner voice.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DENOISE);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    double amount = setup.amount();
    // A floor of 0 dB at no amount, of −40 dB at all of it.
    double floor = Math.pow(10, -4 * amount / 100);
    double strength = amount / 100;
    return Map.of(WHOLE, SpectralGain.process(in, amount, progress, () -> rule(strength, floor)));
  }

  private static SpectralGain.Rule rule(double strength, double floor) {
    return (power, noise, gain) -> {
      double signal = 0;
      double hiss = 0;
      for (int k = 0; k < gain.length; k++) {
        signal += power[k];
        hiss += noise[k];
      }
      double snr = 10 * Math.log10(Math.max(1e-12, signal) / hiss);
      double over = strength * Math.max(1, Math.min(AT_ZERO + 0.75, AT_ZERO - A_DB * snr));
      for (int k = 0; k < gain.length; k++) {
        double rest = power[k] - over * noise[k];
        double least = floor * Math.min(noise[k], power[k]);
        gain[k] = (float) (power[k] > 0 ? Math.sqrt(Math.max(rest, least) / power[k]) : 1);
      }
    };
  }
}
