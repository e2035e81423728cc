package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.task.Progress;

/**
 * Moves the pitch by stretching with a locked phase vocoder and playing that faster or slower. The
 * formants move along, and the voice becomes another person's; or each frame's spectral envelope,
 * from its low cepstrum (Noll 1967), is set back to where it was.
 */
public final class PitchShift implements StandIn {
  private static final double LIFTER_SECONDS = 0.0015;
  private static final double MOST_GAIN = 8;

  private final boolean keepFormants;

  PitchShift(boolean keepFormants) {
    this.keepFormants = keepFormants;
  }

  @Override
  public String id() {
    return keepFormants ? "formant-keeping-shift" : "resampling-shift";
  }

  @Override
  public String title() {
    return keepFormants ? "Formant-keeping shift" : "Resampling shift";
  }

  @Override
  public String description() {
    return keepFormants
        ? "Stand-in: as the resampling shift, with the spectral envelope set back (low cepstrum)."
            + " The voice stays who it is."
        : "Stand-in: stretches and plays at another speed. The formants move along: another"
            + " person sings.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.PITCH);
  }

  @Override
  public boolean hasAmount() {
    return false;
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    double shift = Math.pow(2, setup.semitones() / 12);
    Audio longer = PhaseStretch.stretch(in, shift, true, progress);
    Audio moved = SpeedChange.stretched(longer, (double) in.frames() / longer.frames());
    return Map.of(WHOLE, keepFormants ? setBack(moved, shift) : moved);
  }

  private static Audio setBack(Audio moved, double shift) {
    ShortTime transform = new ShortTime(ShortTime.usualLength(moved.sampleRate()));
    int bins = transform.bins();
    int lifter = (int) Math.round(LIFTER_SECONDS * moved.sampleRate());
    float[][] out = new float[moved.channels()][(int) moved.frames()];
    float[] frame = new float[2 * (bins - 1)];
    float[] gain = new float[bins];
    for (int c = 0; c < out.length; c++) {
      for (int t = 0; t < transform.frames(moved); t++) {
        transform.analyse(moved, c, t, frame);
        double[] envelope = envelope(frame, bins, lifter);
        for (int k = 0; k < bins; k++) {
          double from = Math.min(bins - 1.001, k * shift);
          int i = (int) from;
          double there = envelope[i] + (from - i) * (envelope[i + 1] - envelope[i]);
          double factor = Math.exp(there - envelope[k]);
          gain[k] = (float) Math.max(1 / MOST_GAIN, Math.min(MOST_GAIN, factor));
        }
        float[] changed = new float[frame.length];
        ShortTime.times(frame, gain, changed);
        transform.add(changed, t, out[c]);
      }
    }
    return Audio.of(moved.sampleRate(), out);
  }

  /** Natural logarithm of the magnitude's smooth course over frequency, by bin. */
  private static double[] envelope(float[] packed, int bins, int lifter) {
    int size = 2 * (bins - 1);
    double[] cepstrum = new double[size];
    for (int k = 0; k < bins; k++) {
      cepstrum[k] = 0.5 * Math.log(ShortTime.power(packed, k) + 1e-12);
      if (k > 0 && k < bins - 1) {
        cepstrum[size - k] = cepstrum[k];
      }
    }
    Fft.forward(cepstrum);
    // Packed: the imaginary parts are zero for an even sequence.
    double[] smooth = new double[size];
    smooth[0] = cepstrum[0];
    for (int q = 1; q <= lifter && q < bins - 1; q++) {
      double weight = q < 0.85 * lifter ? 1 : Math.max(0, (1.0 * lifter - q) / (0.15 * lifter));
      smooth[2 * q] = cepstrum[2 * q] * weight;
    }
    Fft.inverse(smooth);
    return java.util.Arrays.copyOf(smooth, bins);
  }
}
