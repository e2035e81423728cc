package kettlesieve.calibrate.corpus;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.core.audio.Audio;

/** Makes mixes whose stems are known: a voice, a loop of drums, notes of a bass and of another. */
public final class BandMaker {
  private static final int RATE = 44_100;
  private static final double[] LOW = {0, 3, 5, 7, -2};
  private static final double[] CHORD = {0, 4, 7, 2, -5};

  /** Triads, held one after the other; semitones. */
  private static final double[][] TRIADS = {{0, 4, 7}, {-3, 0, 4}, {-4, 0, 5}, {-5, -1, 2}};

  private static final double HELD_SECONDS = 1.6;

  private final Catalogue catalogue;
  private final Packages packages;
  private final Recordings recordings;
  private final Speech speech;

  /**
   * @param packages where recordings come from
   * @param cache where decoded files are kept
   */
  public BandMaker(Catalogue catalogue, Packages packages, Path cache) {
    this.catalogue = catalogue;
    this.packages = packages;
    this.recordings = new Recordings(cache);
    this.speech = new Speech(packages, recordings);
  }

  /**
   * Makes a scene; the same scene gives the same sound.
   *
   * @throws CalibrationException if a recording is missing
   */
  public StemMaterial make(BandScene scene) throws CalibrationException {
    Catalogue.Band band = band(scene);
    int length = (int) (BandScene.SECONDS * RATE);
    long seed = 17L * scene.seed();
    float[] voice = speech.of(catalogue.voice(scene.voice()), RATE, BandScene.SECONDS, seed + 1);
    float[] loop = read(band, band.drums());
    float[] drums = new float[length];
    for (int i = 0; i < length; i++) {
      drums[i] = loop[i % loop.length];
    }
    Map<String, Audio> stems = new LinkedHashMap<>();
    stems.put("vocals", panned(voice, -22, 1, 1, 0));
    stems.put("drums", panned(drums, -20, 0.8, 1.1, 7));
    stems.put(
        "bass", panned(notes(read(band, band.bass()), length, 0.5, LOW, seed + 2), -22, 1, 1, 0));
    stems.put(
        "other",
        panned(notes(read(band, band.other()), length, 1, CHORD, seed + 3), -23, 1.3, 0.5, 11));
    return new StemMaterial(stems);
  }

  private Catalogue.Band band(BandScene scene) {
    return catalogue.bands().stream()
        .filter(b -> b.id().equals(scene.band()))
        .findFirst()
        .orElseThrow();
  }

  /**
   * Held chords of the other instrument of a scene, each as long as its notes sound.
   *
   * @throws CalibrationException if a recording is missing
   */
  public Audio chords(BandScene scene) throws CalibrationException {
    Catalogue.Band band = band(scene);
    float[] note = read(band, band.other());
    double highest = Math.pow(2, 7 / 12.0);
    int held = (int) Math.min(HELD_SECONDS * RATE, note.length / highest - 2);
    int fade = RATE / 20;
    float[] out = new float[(int) (BandScene.SECONDS * RATE)];
    for (int at = 0, c = 0; at < out.length; at += held, c++) {
      for (double semitones : TRIADS[c % TRIADS.length]) {
        float[] moved = moved(note, semitones);
        for (int i = 0; i < Math.min(held, out.length - at); i++) {
          out[at + i] += moved[i] * Math.min(1f, Math.min(i, held - i) / (float) fade);
        }
      }
    }
    return panned(out, -23, 1, 1, 0);
  }

  private float[] read(Catalogue.Band band, String file) throws CalibrationException {
    return recordings
        .samples(packages.file(band.from(), file), RATE)
        .orElseThrow(() -> new CalibrationException(file + " cannot be read"));
  }

  /** A note over and over, at changing pitches, as long as its place allows. */
  private static float[] notes(
      float[] note, int length, double every, double[] semitones, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    float[] out = new float[length];
    int fade = RATE / 50;
    for (int at = 0; at < length; ) {
      float[] moved = moved(note, semitones[random.nextInt(semitones.length)]);
      int n = Math.min(Math.min(moved.length, length - at), (int) (1.6 * every * RATE));
      for (int i = 0; i < n; i++) {
        out[at + i] += moved[i] * Math.min(1f, (n - i) / (float) fade);
      }
      at += (int) (every * RATE) * (random.nextInt(4) == 0 ? 2 : 1);
    }
    return out;
  }

  private static float[] moved(float[] x, double semitones) {
    double step = Math.pow(2, semitones / 12);
    float[] y = new float[(int) (x.length / step) - 1];
    for (int i = 0; i < y.length; i++) {
      int k = (int) (i * step);
      float f = (float) (i * step - k);
      y[i] = (1 - f) * x[k] + f * x[k + 1];
    }
    return y;
  }

  private static Audio panned(float[] x, double db, double left, double right, int delay) {
    double sum = 1e-12;
    for (float v : x) {
      sum += (double) v * v;
    }
    double gain = Math.pow(10, db / 20) / Math.sqrt(sum / x.length);
    float[] a = new float[x.length];
    float[] b = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      a[i] = (float) (gain * left * x[i]);
      b[i] = (float) (gain * right * (i >= delay ? x[i - delay] : 0));
    }
    return Audio.of(RATE, a, b);
  }
}
