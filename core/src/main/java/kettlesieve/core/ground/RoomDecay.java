package kettlesieve.core.ground;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import kettlesieve.core.signal.BoxMean;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Histogram;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.task.Stop;

/**
 * How sound dies away in a recording: its noise floor, the decay time of each octave from the
 * places where sound falls freely, and the late reverberation that follows from both.
 *
 * <p>Noise floor: 2.2 times the 5th percentile over frames of means over 5 frames by 3 bins; needs
 * no pauses, which in a room hold the tail. Free decays: an octave's level over the floor falls
 * from frame to frame for 0.12 s or more; a line through all but its first 0.04 s gives its time.
 * The decay time is the weighted 70th percentile, deliberately on the long side: too short a time
 * lets tail pass for voice. Late reverberation after Polack's statistical model as used by Lebart,
 * Boucher &amp; Denbigh, "A new method based on spectral subtraction for speech dereverberation",
 * Acta Acustica 87, 2001.
 */
public final class RoomDecay {
  /** Lower octaves' middle, Hz; the others follow at octaves. */
  private static final double FIRST_OCTAVE = 125;

  private static final int OCTAVES = 8;
  private static final double FLOOR_SHARE = 0.05;
  private static final double FLOOR_FACTOR = 2.2;
  private static final double OVER_FLOOR_DB = 6;
  private static final double SHORTEST_SECONDS = 0.12;
  private static final double LEFT_OUT_SECONDS = 0.04;
  private static final double TIME_SHARE = 0.7;
  private static final int ENOUGH_OF_AN_OCTAVE = 4;
  private static final double LATE_SECONDS = 0.05;
  private static final double CARRIED = 0.3;

  private final List<Spectrogram> spectra;
  private final Framing framing;
  private final float[][] floors;
  private final double[] seconds = new double[OCTAVES];
  private final int[] decaysOf = new int[OCTAVES];
  private final int decays;

  /** One place at which an octave falls freely. */
  private record Decay(int octave, double time, double weight) {}

  /**
   * @param spectra of the source, one a channel
   */
  RoomDecay(List<Spectrogram> spectra) {
    this.spectra = spectra;
    this.framing = spectra.get(0).framing();
    this.floors = new float[spectra.size()][];
    List<Decay> all = new ArrayList<>();
    for (int c = 0; c < floors.length; c++) {
      floors[c] = floor(spectra.get(c));
      all.addAll(decays(spectra.get(c), floors[c]));
    }
    this.decays = all.size();
    double ofAll = time(all);
    for (int o = 0; o < OCTAVES; o++) {
      int octave = o;
      List<Decay> own = all.stream().filter(d -> d.octave() == octave).toList();
      decaysOf[o] = own.size();
      double time = own.size() >= ENOUGH_OF_AN_OCTAVE ? time(own) : ofAll;
      seconds[o] = Math.max(0.1, Math.min(4, time));
    }
  }

  private float[] floor(Spectrogram spectrum) {
    int bins = framing.bins();
    Histogram[] levels = new Histogram[bins];
    for (int k = 0; k < bins; k++) {
      levels[k] = new Histogram(-200, 0.25, 840);
    }
    BoxMean means = new BoxMean(2, 1, bins, framing.count(), spectrum::powers);
    for (int t = 0; t < framing.count(); t++) {
      float[] own = spectrum.powers(t);
      double sum = 0;
      for (float p : own) {
        sum += p;
      }
      if (sum < 1e-18) {
        continue;
      }
      float[] row = means.row(t);
      for (int k = 0; k < bins; k++) {
        levels[k].add(Db.ofPower(Math.max(row[k], 1e-20)), 1);
      }
    }
    float[] floor = new float[bins];
    for (int k = 0; k < bins; k++) {
      double db = levels[k].quantile(FLOOR_SHARE);
      floor[k] = (float) (Double.isNaN(db) ? 1e-20 : FLOOR_FACTOR * Db.toPower(db));
    }
    return floor;
  }

  private int octave(int bin) {
    double hz = bin * framing.binHz();
    int o = (int) Math.round(Math.log(Math.max(hz, 1) / FIRST_OCTAVE) / Math.log(2));
    return Math.max(0, Math.min(OCTAVES - 1, o));
  }

  private List<Decay> decays(Spectrogram spectrum, float[] floor) {
    int frames = framing.count();
    double[][] powers = new double[OCTAVES][frames];
    double[] floors = new double[OCTAVES];
    boolean[] there = new boolean[OCTAVES];
    int[] octaves = new int[framing.bins()];
    for (int k = 0; k < octaves.length; k++) {
      double hz = k * framing.binHz();
      boolean inside = hz >= FIRST_OCTAVE / Math.sqrt(2) && hz <= 0.48 * framing.sampleRate();
      octaves[k] = inside ? octave(k) : -1;
      if (inside) {
        floors[octaves[k]] += floor[k];
        there[octaves[k]] = true;
      }
    }
    for (int t = 0; t < frames; t++) {
      float[] row = spectrum.powers(t);
      for (int k = 0; k < octaves.length; k++) {
        if (octaves[k] >= 0) {
          powers[octaves[k]][t] += row[k];
        }
      }
    }
    List<Decay> found = new ArrayList<>();
    for (int o = 0; o < OCTAVES; o++) {
      if (there[o]) {
        runs(o, envelope(powers[o], floors[o]), floors[o], found);
      }
    }
    return found;
  }

  private static double[] envelope(double[] powers, double floor) {
    double[] db = new double[powers.length];
    for (int t = 0; t < db.length; t++) {
      int from = Math.max(0, t - 2);
      int to = Math.min(powers.length - 1, t + 2);
      double sum = 0;
      for (int i = from; i <= to; i++) {
        sum += powers[i];
      }
      db[t] = Db.ofPower(Math.max(sum / (to - from + 1) - floor, 1e-20));
    }
    return db;
  }

  private void runs(int octave, double[] db, double floor, List<Decay> into) {
    double hop = framing.hopSeconds();
    double least = Db.ofPower(Math.max(floor, 1e-20)) + OVER_FLOOR_DB;
    int left = (int) Math.round(LEFT_OUT_SECONDS / hop);
    for (int t = 1; t < db.length; ) {
      int end = t;
      while (end < db.length && db[end] < db[end - 1] && db[end] >= least) {
        end++;
      }
      if ((end - t) * hop >= SHORTEST_SECONDS) {
        double slope = slope(db, t - 1 + left, end);
        if (slope < 0) {
          double weight = (end - t) * hop - LEFT_OUT_SECONDS;
          into.add(new Decay(octave, -60 / (slope / hop), weight));
        }
      }
      t = Math.max(end, t) + 1;
    }
  }

  /** Least squares, dB a frame. */
  private static double slope(double[] db, int from, int to) {
    int n = to - from;
    if (n < 3) {
      return 0;
    }
    double meanX = (n - 1) / 2.0;
    double meanY = 0;
    for (int i = from; i < to; i++) {
      meanY += db[i] / n;
    }
    double xy = 0;
    double xx = 0;
    for (int i = 0; i < n; i++) {
      xy += (i - meanX) * (db[from + i] - meanY);
      xx += (i - meanX) * (i - meanX);
    }
    return xy / xx;
  }

  private static double time(List<Decay> decays) {
    List<Decay> order = new ArrayList<>(decays);
    order.sort(Comparator.comparingDouble(Decay::time));
    double total = order.stream().mapToDouble(Decay::weight).sum();
    double seen = 0;
    for (Decay d : order) {
      seen += d.weight();
      if (seen >= TIME_SHARE * total) {
        return d.time();
      }
    }
    return 0.5;
  }

  /** Number of free decays over all octaves. */
  public int decays() {
    return decays;
  }

  /**
   * Decay times in s by octave from 125 Hz on; NaN where an octave has too few decays of its own.
   */
  public double[] seconds() {
    double[] own = seconds.clone();
    for (int o = 0; o < OCTAVES; o++) {
      own[o] = decaysOf[o] >= ENOUGH_OF_AN_OCTAVE ? own[o] : Double.NaN;
    }
    return own;
  }

  /** Middle of an octave in Hz. */
  public static int octaveHz(int octave) {
    return (int) (FIRST_OCTAVE * Math.pow(2, octave));
  }

  /** Noise floor of a bin. */
  float floor(int channel, int bin) {
    return floors[channel][bin];
  }

  /** The late reverberation of a channel, for one pass. */
  Late late(int channel) {
    return new Late(channel);
  }

  /** Late reverberation, carried on from frame to frame. */
  final class Late {
    private final float[] floor;
    private final float[] decay;
    private final float[] decayLate;
    private final float[][] carried;
    private final BoxMean means;
    private final float[] row;
    private final float[] raw;
    private int frame = -1;

    private Late(int channel) {
      int bins = framing.bins();
      int late = Math.max(1, (int) Math.round(LATE_SECONDS / framing.hopSeconds()));
      floor = floors[channel];
      decay = new float[bins];
      decayLate = new float[bins];
      for (int k = 0; k < bins; k++) {
        double perFrame = Math.pow(10, -6 * framing.hopSeconds() / seconds[octave(k)]);
        decay[k] = (float) perFrame;
        decayLate[k] = (float) Math.pow(perFrame, late);
      }
      carried = new float[late + 1][bins];
      row = new float[bins];
      raw = new float[bins];
      means = new BoxMean(1, bins, framing.count(), spectra.get(channel)::powers);
    }

    /** The powers of a frame; the array is used again. Frames are asked for in rising order. */
    float[] row(int t) {
      Stop.checkHere();
      while (frame < t) {
        step();
      }
      return row;
    }

    private void step() {
      frame++;
      float[] now = carried[frame % carried.length];
      if (frame == 0) {
        Arrays.fill(now, 0);
      } else {
        float[] before = carried[(frame - 1) % carried.length];
        float[] mean = means.row(frame - 1);
        for (int k = 0; k < now.length; k++) {
          double over = Math.max(0, mean[k] - floor[k]);
          now[k] = (float) (decay[k] * ((1 - CARRIED) * before[k] + CARRIED * over));
        }
      }
      int late = carried.length - 1;
      float[] then = carried[Math.floorMod(frame - late, carried.length)];
      for (int k = 0; k < raw.length; k++) {
        raw[k] = frame < late ? 0 : decayLate[k] * then[k];
      }
      for (int k = 0; k < raw.length; k++) {
        int from = Math.max(0, k - 2);
        int to = Math.min(raw.length - 1, k + 2);
        float sum = 0;
        for (int i = from; i <= to; i++) {
          sum += raw[i];
        }
        row[k] = Math.max(raw[k], sum / (to - from + 1));
      }
    }
  }
}
