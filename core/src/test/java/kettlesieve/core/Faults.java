package kettlesieve.core;

import java.util.SplittableRandom;

/** How many faults are tried, and how files are broken. */
public final class Faults {
  private static final boolean LONG = "long".equals(System.getProperty("kettle.faults"));

  private Faults() {}

  /** A number of tries: the first as part of all tests, the second on demand. */
  public static int count(int few, int many) {
    return LONG ? many : few;
  }

  /** What was done to a file. */
  public enum Kind {
    /** One bit in it is another. */
    FLIP,
    /** Its end is missing. */
    CUT,
    /** A piece in its middle is missing. */
    HOLE,
    /** A piece of it is zeros. */
    ZEROS,
    /** A piece of it is anything. */
    NOISE,
    /** A piece of it stands there twice. */
    TWICE
  }

  /** A file broken in one way, at a place that the seed tells. */
  public static byte[] broken(byte[] whole, Kind kind, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    int at = random.nextInt(whole.length);
    int length = Math.min(whole.length - at, 1 + random.nextInt(Math.max(2, whole.length / 8)));
    byte[] broken = whole.clone();
    switch (kind) {
      case FLIP -> broken[at] ^= (byte) (1 << random.nextInt(8));
      case ZEROS -> java.util.Arrays.fill(broken, at, at + length, (byte) 0);
      case NOISE -> {
        for (int i = at; i < at + length; i++) {
          broken[i] = (byte) random.nextInt();
        }
      }
      case CUT -> broken = java.util.Arrays.copyOf(whole, at);
      case HOLE, TWICE -> {
        boolean hole = kind == Kind.HOLE;
        broken = new byte[hole ? whole.length - length : whole.length + length];
        System.arraycopy(whole, 0, broken, 0, at + (hole ? 0 : length));
        int from = hole ? at + length : at;
        int to = hole ? at : at + length;
        System.arraycopy(whole, from, broken, to, broken.length - to);
      }
    }
    return broken;
  }
}
