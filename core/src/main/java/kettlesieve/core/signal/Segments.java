package kettlesieve.core.signal;

import java.lang.ref.SoftReference;
import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.audio.Audio;

/**
 * Transformed segments of a source, kept while there is memory: every version is correlated with
 * the same ones. Safe to use from several threads.
 */
public final class Segments {
  private static final int MOST = 64;

  private record Key(long start, int length, int size) {}

  private final Audio audio;
  private final Map<Key, SoftReference<float[]>> kept =
      new LinkedHashMap<>(MOST, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Key, SoftReference<float[]>> eldest) {
          return size() > MOST;
        }
      };

  /**
   * @param audio one channel
   */
  public Segments(Audio audio) {
    this.audio = audio;
  }

  /** What the segments are of. */
  public Audio audio() {
    return audio;
  }

  /**
   * The transform of a segment as {@link Fft#forward(float[])} leaves it; not to be changed.
   *
   * @param length samples of the segment
   * @param size length of the transform; what the segment does not fill is silence
   */
  public float[] spectrum(long start, int length, int size) {
    Key key = new Key(start, length, size);
    synchronized (kept) {
      SoftReference<float[]> known = kept.get(key);
      float[] spectrum = known == null ? null : known.get();
      if (spectrum != null) {
        return spectrum;
      }
    }
    float[] x = new float[size];
    audio.read(0, start, x, 0, length);
    Fft.forward(x);
    synchronized (kept) {
      kept.put(key, new SoftReference<>(x));
    }
    return x;
  }
}
