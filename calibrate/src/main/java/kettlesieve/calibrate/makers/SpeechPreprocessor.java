package kettlesieve.calibrate.makers;

import com.sun.jna.Library;
import com.sun.jna.Native;
import com.sun.jna.Pointer;
import com.sun.jna.ptr.IntByReference;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;

/** The preprocessor of the Speex library, Debian's {@code libspeexdsp1}. */
final class SpeechPreprocessor {
  private static final int SET_DENOISE = 0;
  private static final int SET_NOISE_SUPPRESS = 18;

  /** The functions of the library that are used. */
  interface Speex extends Library {
    Pointer speex_preprocess_state_init(int frameSize, int sampleRate);

    int speex_preprocess_ctl(Pointer state, int request, IntByReference value);

    int speex_preprocess_run(Pointer state, short[] samples);

    void speex_preprocess_state_destroy(Pointer state);
  }

  private SpeechPreprocessor() {}

  /**
   * Suppresses noise.
   *
   * @param suppressDb how far at most, below 0
   */
  static Audio process(Audio in, int suppressDb) throws CalibrationException {
    Speex speex;
    try {
      speex = Native.load("libspeexdsp.so.1", Speex.class);
    } catch (UnsatisfiedLinkError e) {
      throw new CalibrationException("the library libspeexdsp1 is missing; install it", e);
    }
    int size = in.sampleRate() / 50;
    float[] x = in.wholeChannel(0);
    float[] y = new float[x.length];
    Pointer state = speex.speex_preprocess_state_init(size, in.sampleRate());
    try {
      speex.speex_preprocess_ctl(state, SET_DENOISE, new IntByReference(1));
      speex.speex_preprocess_ctl(state, SET_NOISE_SUPPRESS, new IntByReference(suppressDb));
      short[] frame = new short[size];
      for (int at = 0; at < x.length; at += size) {
        for (int i = 0; i < size; i++) {
          float sample = at + i < x.length ? x[at + i] : 0;
          frame[i] = (short) Math.max(-32768, Math.min(32767, Math.round(32768 * sample)));
        }
        speex.speex_preprocess_run(state, frame);
        for (int i = 0; i < size && at + i < y.length; i++) {
          y[at + i] = frame[i] / 32768f;
        }
      }
    } finally {
      speex.speex_preprocess_state_destroy(state);
    }
    return Audio.of(in.sampleRate(), y);
  }
}
