package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.task.Progress;

/**
 * Spectral subtraction: the mean noise magnitude is taken off every cell (Boll, "Suppression of
 * acoustic noise in speech using spectral subtraction", IEEE Trans. ASSP 27, 1979, without its
 * residual-noise step). What sticks out of the mean stays as musical noise.
 */
public final class PlainSubtraction implements StandIn {
  @Override
  public String id() {
    return "plain-subtraction";
  }

  @Override
  public String title() {
    return "Plain subtraction";
  }

  @Override
  public String description() {
    return "Stand-in: takes the mean noise spectrum off every moment (Boll 1979). Leaves musical"
        + " noise.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.DENOISE);
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    double amount = setup.amount();
    double factor = 2 * amount / 100;
    return Map.of(WHOLE, SpectralGain.process(in, amount, progress, () -> rule(factor)));
  }

  private static SpectralGain.Rule rule(double factor) {
    // For Gaussian noise the mean magnitude is √(π/4) of the root of the mean power.
    double magnitude = factor * Math.sqrt(Math.PI / 4);
    return (power, noise, gain) -> {
      for (int k = 0; k < gain.length; k++) {
        double x = Math.sqrt(power[k]);
        double rest = x - magnitude * Math.sqrt(noise[k]);
        gain[k] = (float) (x > 0 ? Math.max(0.01, rest / x) : 1);
      }
    };
  }
}
