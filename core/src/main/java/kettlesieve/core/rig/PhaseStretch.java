package kettlesieve.core.rig;

import java.util.Map;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.task.Progress;

/**
 * A phase vocoder: frames are set further apart or closer, and each bin's phase goes on at its own
 * frequency. Plain, all bins for themselves; or with the phases around each spectral peak locked to
 * the peak's ("identity phase locking", Laroche &amp; Dolson, "Improved phase vocoder time-scale
 * modification of audio", IEEE Trans. Speech and Audio Processing 7, 1999).
 */
public final class PhaseStretch implements StandIn {
  private final boolean locked;

  PhaseStretch(boolean locked) {
    this.locked = locked;
  }

  @Override
  public String id() {
    return locked ? "locked-phase-stretch" : "plain-phase-stretch";
  }

  @Override
  public String title() {
    return locked ? "Locked phase stretch" : "Plain phase stretch";
  }

  @Override
  public String description() {
    return locked
        ? "Stand-in: phase vocoder with phases locked to the peaks (Laroche & Dolson 1999). Less"
            + " roomy; attacks are still smeared."
        : "Stand-in: plain phase vocoder. Smooth, but roomy and smeared.";
  }

  @Override
  public Set<Job> jobs() {
    return Set.of(Job.STRETCH);
  }

  @Override
  public boolean hasAmount() {
    return false;
  }

  @Override
  public Map<String, Audio> make(Audio in, Setup setup, Progress progress) {
    StandIn.checkLength(in);
    return Map.of(WHOLE, stretch(in, setup.ratio(), locked, progress));
  }

  /** The recording stretched by a ratio. */
  static Audio stretch(Audio in, double ratio, boolean locked, Progress progress) {
    int frames = Math.toIntExact(Math.round(in.frames() * ratio));
    float[][] out = new float[in.channels()][];
    for (int c = 0; c < out.length; c++) {
      out[c] = new Channel(in, c, ratio, locked).stretch(frames, progress);
    }
    return Audio.of(in.sampleRate(), out);
  }

  /** One channel on its way. */
  private static final class Channel {
    private final Audio in;
    private final int channel;
    private final double ratio;
    private final boolean locked;
    private final int length;
    private final int hop;
    private final float[] window;
    private final double[] phase;
    private final float[] now;
    private final float[] before;
    private final double[] magnitude;
    private final double[] turned;

    Channel(Audio in, int channel, double ratio, boolean locked) {
      this.in = in;
      this.channel = channel;
      this.ratio = ratio;
      this.locked = locked;
      this.length = ShortTime.usualLength(in.sampleRate());
      this.hop = length / 4;
      this.window = Windows.hann(length);
      int bins = length / 2 + 1;
      this.phase = new double[bins];
      this.now = new float[length];
      this.before = new float[length];
      this.magnitude = new double[bins];
      this.turned = new double[bins];
    }

    float[] stretch(int frames, Progress progress) {
      float[] out = new float[frames];
      boolean first = true;
      for (int to = -length / 2; to < frames; to += hop) {
        double middle = (to + length / 2.0) / ratio;
        long start = Math.round(middle) - length / 2;
        read(start, now);
        if (first) {
          for (int k = 0; k < phase.length; k++) {
            phase[k] = angle(now, k);
          }
          first = false;
        } else {
          // One synthesis hop earlier in the source: the phase advances by what lies between.
          read(start - hop, before);
          advance();
        }
        for (int k = 1; k < length / 2; k++) {
          now[2 * k] = (float) (magnitude[k] * Math.cos(phase[k]));
          now[2 * k + 1] = (float) (magnitude[k] * Math.sin(phase[k]));
        }
        Fft.inverse(now);
        for (int i = 0; i < length; i++) {
          int at = to + i;
          if (at >= 0 && at < frames) {
            // Four squared Hann windows at a quarter overlap to 1.5.
            out[at] += now[i] * window[i] / 1.5f;
          }
        }
        if (to % (hop * 256) < hop) {
          progress.at("stretching", Math.max(0, (double) to / frames));
        }
      }
      return out;
    }

    private void read(long start, float[] into) {
      in.read(channel, start, into, 0, length);
      for (int i = 0; i < length; i++) {
        into[i] *= window[i];
      }
      Fft.forward(into);
      if (into == now) {
        for (int k = 0; k < magnitude.length; k++) {
          magnitude[k] = magnitude(now, k);
        }
      }
    }

    private void advance() {
      int bins = phase.length;
      for (int k = 1; k < bins - 1; k++) {
        turned[k] = phase[k] + angle(now, k) - angle(before, k);
      }
      if (!locked) {
        System.arraycopy(turned, 1, phase, 1, bins - 2);
        return;
      }
      int peak = -1;
      int from = 1;
      for (int k = 3; k < bins - 3; k++) {
        boolean higher =
            magnitude[k] > magnitude[k - 1]
                && magnitude[k] > magnitude[k - 2]
                && magnitude[k] > magnitude[k + 1]
                && magnitude[k] > magnitude[k + 2];
        if (higher) {
          if (peak >= 0) {
            int border = lowest(peak, k);
            lock(peak, from, border);
            from = border;
          }
          peak = k;
        }
      }
      if (peak >= 0) {
        lock(peak, from, bins - 1);
      } else {
        System.arraycopy(turned, 1, phase, 1, bins - 2);
      }
    }

    private int lowest(int from, int to) {
      int lowest = from;
      for (int k = from; k <= to; k++) {
        lowest = magnitude[k] < magnitude[lowest] ? k : lowest;
      }
      return lowest;
    }

    /** All bins of a peak's region turn as the peak does. */
    private void lock(int peak, int from, int to) {
      double turn = turned[peak] - angle(now, peak);
      for (int k = from; k < to; k++) {
        phase[k] = angle(now, k) + turn;
      }
    }

    private static double angle(float[] packed, int k) {
      if (k == 0 || k == packed.length / 2) {
        return 0;
      }
      return Math.atan2(packed[2 * k + 1], packed[2 * k]);
    }

    private static double magnitude(float[] packed, int k) {
      return Math.sqrt(ShortTime.power(packed, k));
    }
  }
}
