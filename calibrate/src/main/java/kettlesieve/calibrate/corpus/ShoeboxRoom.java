package kettlesieve.calibrate.corpus;

import java.util.SplittableRandom;
import kettlesieve.core.signal.Fft;

/**
 * The impulse response of a room with six walls, by images of the source (Allen &amp; Berkley,
 * "Image method for efficiently simulating small-room acoustics", JASA 65(4), 1979), in three bands
 * of which the walls swallow different shares (Eyring 1930). Images are moved by some centimetres,
 * as no room is a perfect box.
 *
 * @param direct the direct sound alone
 * @param early images up to 50 ms after it
 * @param late the others
 */
record ShoeboxRoom(double[] direct, double[] early, double[] late) {
  private static final double SOUND = 343;
  private static final double EARLY_SECONDS = 0.050;
  private static final double[] BAND_EDGES_HZ = {500, 3000};

  /** How much longer or shorter than in the middle the lowest and the highest sound dies away. */
  private static final double[] OF_DECAY = {1.2, 1, 0.7};

  private static final double HIGH_PASS_HZ = 60;
  private static final int TAPS = 8;
  private static final double JITTER_METRES = 0.05;

  /**
   * A room.
   *
   * @param decay seconds in which the middle of the band falls by 60 dB
   * @param directDb energy of the direct sound over that of all reflections, dB
   * @param rate Hz
   * @param seed of its shape and of where one speaks and listens
   */
  static ShoeboxRoom of(double decay, double directDb, int rate, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    double volume = 40 * Math.pow(10, 1.1 * (decay - 0.3)) * (0.7 + 0.6 * random.nextDouble());
    double[] size = {1, 1.2 + 0.5 * random.nextDouble(), 1.7 + 0.8 * random.nextDouble()};
    double unit = Math.cbrt(volume / (size[1] * size[2]));
    double[] from = new double[3];
    double[] to = new double[3];
    for (int i = 0; i < 3; i++) {
      size[i] *= unit;
      from[i] = size[i] * (0.2 + 0.2 * random.nextDouble());
      to[i] = size[i] * (0.6 + 0.2 * random.nextDouble());
    }
    double[][] walls = new double[OF_DECAY.length][6];
    double surface = 2 * (size[0] * size[1] + size[0] * size[2] + size[1] * size[2]);
    double[] uneven = new double[6];
    for (int w = 0; w < 6; w++) {
      uneven[w] = 0.6 + 0.8 * random.nextDouble();
    }
    for (int b = 0; b < walls.length; b++) {
      double lossPerReflection = 0.161 * volume / (surface * decay * OF_DECAY[b]);
      for (int w = 0; w < 6; w++) {
        walls[b][w] = Math.exp(-0.5 * lossPerReflection * uneven[w]);
      }
    }
    double seconds = Math.min(1.2, decay);
    int length = (int) (seconds * rate);
    double[][][] trains = new double[3][OF_DECAY.length][length + TAPS];
    Images images = new Images(size, from, to, walls, seconds * SOUND, rate, random);
    images.into(trains);
    double[][] parts = new double[3][];
    for (int p = 0; p < 3; p++) {
      parts[p] = together(trains[p], rate);
    }
    double reflected = energy(parts[1]) + energy(parts[2]);
    double factor = Math.sqrt(energy(parts[0]) / reflected) * Math.pow(10, -directDb / 20);
    for (int i = 0; i < parts[1].length; i++) {
      parts[1][i] *= factor;
      parts[2][i] *= factor;
    }
    return new ShoeboxRoom(parts[0], parts[1], parts[2]);
  }

  private static double energy(double[] x) {
    double sum = 0;
    for (double v : x) {
      sum += v * v;
    }
    return sum;
  }

  /** The bands together, each in its own part of the spectrum. */
  private static double[] together(double[][] bands, int rate) {
    int size = Fft.powerOfTwo(2L * bands[0].length);
    double[] sum = new double[size];
    for (int b = 0; b < bands.length; b++) {
      double[] x = java.util.Arrays.copyOf(bands[b], size);
      Fft.forward(x);
      for (int k = 1; k < size / 2; k++) {
        double hz = (double) k * rate / size;
        double share = b > 0 ? above(hz, BAND_EDGES_HZ[b - 1]) : above(hz, HIGH_PASS_HZ);
        share -= b < BAND_EDGES_HZ.length ? above(hz, BAND_EDGES_HZ[b]) : 0;
        sum[2 * k] += share * x[2 * k];
        sum[2 * k + 1] += share * x[2 * k + 1];
      }
    }
    Fft.inverse(sum);
    return java.util.Arrays.copyOf(sum, bands[0].length);
  }

  /** From 0 half an octave under an edge to 1 half an octave over it. */
  private static double above(double hz, double edge) {
    double octaves = Math.log(hz / edge) / Math.log(2);
    return octaves <= -0.5 ? 0 : octaves >= 0.5 ? 1 : 0.5 + 0.5 * Math.sin(Math.PI * octaves);
  }

  /** All images of the source within a distance. */
  private record Images(
      double[] size,
      double[] from,
      double[] to,
      double[][] walls,
      double reach,
      int rate,
      SplittableRandom random) {

    void into(double[][][] trains) {
      double direct = 0;
      for (int i = 0; i < 3; i++) {
        direct += (from[i] - to[i]) * (from[i] - to[i]);
      }
      direct = Math.sqrt(direct);
      int[] most = new int[3];
      for (int i = 0; i < 3; i++) {
        most[i] = (int) Math.ceil(reach / (2 * size[i])) + 1;
      }
      for (int x = -most[0]; x <= most[0]; x++) {
        for (int y = -most[1]; y <= most[1]; y++) {
          for (int z = -most[2]; z <= most[2]; z++) {
            for (int mirrored = 0; mirrored < 8; mirrored++) {
              add(trains, direct, new int[] {x, y, z}, mirrored);
            }
          }
        }
      }
    }

    private void add(double[][][] trains, double direct, int[] n, int mirrored) {
      double squares = 0;
      boolean itself = mirrored == 0;
      for (int i = 0; i < 3; i++) {
        double sign = (mirrored >> i & 1) == 1 ? -1 : 1;
        double off = sign * from[i] + 2 * n[i] * size[i] - to[i];
        squares += off * off;
        itself &= n[i] == 0;
      }
      double distance = Math.sqrt(squares);
      if (distance > reach + direct) {
        return;
      }
      if (!itself) {
        distance = Math.max(direct, distance + JITTER_METRES * (2 * random.nextDouble() - 1));
      }
      double at = (distance - direct) / SOUND * rate + TAPS / 2.0;
      int part = itself ? 0 : (distance - direct) / SOUND <= EARLY_SECONDS ? 1 : 2;
      for (int b = 0; b < walls.length; b++) {
        double gain = direct / distance;
        for (int i = 0; i < 3; i++) {
          int u = mirrored >> i & 1;
          gain *= Math.pow(walls[b][2 * i], Math.abs(n[i] - u));
          gain *= Math.pow(walls[b][2 * i + 1], Math.abs(n[i]));
        }
        put(trains[part][b], at, gain);
      }
    }

    private static void put(double[] train, double at, double gain) {
      int first = (int) Math.floor(at) - TAPS / 2 + 1;
      for (int i = Math.max(0, first); i < Math.min(train.length, first + TAPS); i++) {
        double d = i - at;
        double sinc = Math.abs(d) < 1e-9 ? 1 : Math.sin(Math.PI * d) / (Math.PI * d);
        train[i] += gain * sinc * (0.5 + 0.5 * Math.cos(2 * Math.PI * d / (TAPS + 1)));
      }
    }
  }
}
