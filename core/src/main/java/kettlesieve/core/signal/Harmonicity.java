package kettlesieve.core.signal;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.ReadAhead;

/**
 * How periodic a voice is at a moment: the highest normalised autocorrelation of a windowed frame
 * at lags of 70 to 400 Hz, the window's own autocorrelation divided out (Boersma, "Accurate
 * short-term analysis of the fundamental frequency and the harmonics-to-noise ratio of a sampled
 * sound", Proc. Inst. Phonetic Sciences 17, Amsterdam 1993). Frames of 40 ms, 60 to 4,000 Hz, on
 * the recording brought to 16 kHz or somewhat more. For one thread.
 */
public final class Harmonicity {
  private static final int LEAST_RATE = 16_000;
  private static final double FRAME_SECONDS = 0.040;
  private static final double LOW_HZ = 60;
  private static final double HIGH_HZ = 4000;
  private static final double LOWEST_VOICE_HZ = 70;
  private static final double HIGHEST_VOICE_HZ = 400;
  private static final double LEAST = 0.02;
  private static final double MOST = 0.995;
  private static final double SILENT_POWER = 1e-14;

  private final Audio audio;
  private final float[] window;
  private final float[] frame;
  private final double[] windowCorrelation;
  private final int shortest;
  private final int longest;

  /**
   * A frame.
   *
   * @param periodic share of the power that is periodic, 0.02 to 0.995; 0.02 where it is silent
   * @param power its power in the band, in no particular unit
   */
  public record Frame(double periodic, double power) {
    /** Harmonics to noise, dB. */
    public double hnr() {
      return Db.ofPower(periodic / (1 - periodic));
    }
  }

  /**
   * @param mono one channel
   */
  public Harmonicity(Audio mono) {
    this.audio = new ReadAhead(DecimatedAudio.toAtLeast(mono, LEAST_RATE));
    int rate = audio.sampleRate();
    int length = (int) Math.round(FRAME_SECONDS * rate);
    this.window = Windows.hann(length);
    this.frame = new float[Fft.powerOfTwo(2L * length)];
    this.shortest = (int) Math.floor(rate / HIGHEST_VOICE_HZ);
    this.longest = (int) Math.ceil(rate / LOWEST_VOICE_HZ);
    System.arraycopy(window, 0, frame, 0, length);
    correlate(0, Double.POSITIVE_INFINITY);
    this.windowCorrelation = new double[longest + 2];
    for (int lag = 0; lag < windowCorrelation.length; lag++) {
      windowCorrelation[lag] = frame[lag] / frame[0];
    }
  }

  /** The frame around a moment, seconds. */
  public Frame at(double seconds) {
    int length = window.length;
    java.util.Arrays.fill(frame, 0);
    audio.read(0, Math.round(seconds * audio.sampleRate()) - length / 2, frame, 0, length);
    for (int i = 0; i < length; i++) {
      frame[i] *= window[i];
    }
    correlate(LOW_HZ, HIGH_HZ);
    double power = frame[0];
    if (!(power > SILENT_POWER)) {
      return new Frame(LEAST, 0);
    }
    int best = shortest;
    for (int lag = shortest; lag <= longest; lag++) {
      best = normal(lag) > normal(best) ? lag : best;
    }
    double before = normal(best - 1);
    double there = normal(best);
    double after = normal(best + 1);
    double bend = before - 2 * there + after;
    double off = bend < 0 ? 0.5 * (before - after) / bend : 0;
    double top = Math.abs(off) < 1 ? there - 0.25 * (before - after) * off : there;
    return new Frame(Math.max(LEAST, Math.min(MOST, top)), power);
  }

  private double normal(int lag) {
    return frame[lag] / frame[0] / windowCorrelation[lag];
  }

  /** Turns the frame into its autocorrelation, from what lies in a band alone. */
  private void correlate(double lowHz, double highHz) {
    Fft.forward(frame);
    double hz = (double) audio.sampleRate() / frame.length;
    frame[0] = lowHz > 0 ? 0 : frame[0] * frame[0];
    frame[1] = highHz < audio.sampleRate() / 2.0 ? 0 : frame[1] * frame[1];
    for (int k = 1; k < frame.length / 2; k++) {
      boolean inside = k * hz >= lowHz && k * hz < highHz;
      float re = frame[2 * k];
      float im = frame[2 * k + 1];
      frame[2 * k] = inside ? re * re + im * im : 0;
      frame[2 * k + 1] = 0;
    }
    Fft.inverse(frame);
  }
}
