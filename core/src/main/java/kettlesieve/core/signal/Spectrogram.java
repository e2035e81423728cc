package kettlesieve.core.signal;

import java.lang.ref.Reference;
import java.lang.ref.SoftReference;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Stop;

/**
 * Short-time power spectra of one channel, worked out by tiles when they are asked for.
 *
 * <p>Powers are one-sided and scaled so that the sum over the bins of a frame is the mean square of
 * the (windowed) frame: summing a band gives that band's power in units of full scale squared.
 *
 * <p>All tiles of a recording of some minutes are kept while there is memory; of a longer one only
 * those last used, so that passes from the first frame to the last need little. Safe to use from
 * several threads.
 */
public final class Spectrogram {
  private static final int TILE = 64;
  private static final long KEEP_CELLS = 40_000_000;
  private static final int KEEP_TILES_OF_LONG = 24;

  private final Audio audio;
  private final int channel;
  private final Framing framing;
  private final float[] window;
  private final float scale;
  private final Map<Integer, Reference<float[][]>> tiles;

  /** Spectra of one channel of a recording, in its standard framing. */
  public Spectrogram(Audio audio, int channel) {
    this(audio, channel, true);
  }

  /**
   * The same for who goes over it once in a while: only the tiles last used are kept, and others
   * have the room.
   */
  public static Spectrogram passing(Audio audio, int channel) {
    return new Spectrogram(audio, channel, false);
  }

  private Spectrogram(Audio audio, int channel, boolean kept) {
    this.audio = audio;
    this.channel = channel;
    this.framing = Framing.of(audio);
    this.window = Windows.hann(framing.length());
    double squares = 0;
    for (float w : window) {
      squares += (double) w * w;
    }
    this.scale = (float) (1 / (framing.length() * squares));
    boolean whole = kept && (long) framing.count() * framing.bins() <= KEEP_CELLS;
    int keep = whole ? Integer.MAX_VALUE : KEEP_TILES_OF_LONG;
    this.tiles =
        new LinkedHashMap<>(64, 0.75f, true) {
          @Override
          protected boolean removeEldestEntry(Map.Entry<Integer, Reference<float[][]>> eldest) {
            return size() > keep;
          }
        };
  }

  /** The frames of the spectra. */
  public Framing framing() {
    return framing;
  }

  /**
   * Powers of one frame by bin; shared, not to be changed.
   *
   * @param frame from 0 to {@code framing().count() - 1}
   */
  public float[] powers(int frame) {
    Stop.checkHere();
    int tile = frame / TILE;
    float[][] rows;
    synchronized (tiles) {
      Reference<float[][]> kept = tiles.get(tile);
      rows = kept == null ? null : kept.get();
    }
    if (rows == null) {
      rows = transform(tile);
      synchronized (tiles) {
        tiles.put(tile, new SoftReference<>(rows));
      }
    }
    return rows[frame % TILE];
  }

  /**
   * Fourier coefficients of some frames, transformed anew at each call: real and imaginary part of
   * bin k at 2k and 2k + 1, those at 0 Hz and half the rate left out. Their squares add up to
   * {@link #powers}.
   *
   * @param first frame
   * @param count number of frames, all of them within {@link #framing}
   */
  public float[][] coefficients(int first, int count) {
    return coefficients(samples(first, count), count);
  }

  private float[][] coefficients(float[] samples, int count) {
    float[][] rows = new float[count][framing.length()];
    float amplitude = (float) Math.sqrt(2 * scale);
    float[] scaled = new float[window.length];
    for (int i = 0; i < scaled.length; i++) {
      scaled[i] = window[i] * amplitude;
    }
    for (int f = 0; f < count; f++) {
      float[] row = rows[f];
      transform(samples, f, scaled, row);
      row[0] = 0;
      row[1] = 0;
    }
    return rows;
  }

  /**
   * The same of all channels of a recording; those that hold the same share their rows.
   *
   * @return by channel and frame
   */
  public static float[][][] coefficients(List<Spectrogram> channels, int first, int count) {
    float[][][] all = new float[channels.size()][][];
    float[][] samples = new float[all.length][];
    for (int c = 0; c < all.length; c++) {
      samples[c] = channels.get(c).samples(first, count);
      all[c] =
          c > 0 && Arrays.equals(samples[c], samples[0])
              ? all[0]
              : channels.get(c).coefficients(samples[c], count);
    }
    return all;
  }

  private float[] samples(int first, int count) {
    int hop = framing.hop();
    return audio.samples(channel, (long) first * hop, (count - 1) * hop + framing.length());
  }

  private void transform(float[] samples, int f, float[] by, float[] into) {
    System.arraycopy(samples, f * framing.hop(), into, 0, into.length);
    for (int i = 0; i < into.length; i++) {
      into[i] *= by[i];
    }
    Fft.forward(into);
  }

  private float[][] transform(int tile) {
    int first = tile * TILE;
    int count = Math.min(TILE, framing.count() - first);
    int length = framing.length();
    float[] samples = samples(first, count);
    float[][] rows = new float[count][framing.bins()];
    float[] frame = new float[length];
    for (int f = 0; f < count; f++) {
      transform(samples, f, window, frame);
      float[] row = rows[f];
      row[0] = frame[0] * frame[0] * scale;
      row[length / 2] = frame[1] * frame[1] * scale;
      for (int k = 1; k < length / 2; k++) {
        float re = frame[2 * k];
        float im = frame[2 * k + 1];
        row[k] = 2 * (re * re + im * im) * scale;
      }
    }
    return rows;
  }
}
