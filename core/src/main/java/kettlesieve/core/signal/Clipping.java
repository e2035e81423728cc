package kettlesieve.core.signal;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where a recording was clipped: the ceilings that its samples pile up under, and the runs of
 * samples that stand at them.
 *
 * <p><b>Hard</b> clipping leaves a spike in the histogram of magnitudes: many samples within a
 * ten-thousandth of one level, in flat runs of three and more, and few just below and above it.
 * Where the spike stands does not matter, so a file that was turned down after it was clipped is
 * found, too, and each polarity has a ceiling of its own. The tops of a low tone are flat for some
 * samples as well; but the magnitudes of a sine grow dense towards its peak only as the square root
 * of the distance, so that a band below the spike holds as many as the spike itself.
 *
 * <p><b>Soft</b> clipping rounds the tops without making them flat. It is told by the shape of the
 * half waves that reach the ceiling: they stay within 5 % of their peak for far longer than a sine
 * does (20 % of the half wave), and longer than the recording's own quieter half waves.
 *
 * <p>Kettle Sieve's own definition; the share of a clipped sine is checked against geometry.
 */
public final class Clipping {
  private static final int BLOCK = 1 << 16;
  private static final int FLAT_RUN = 3;
  private static final int FEWEST_FLAT_RUNS = 3;
  private static final int FEWEST_FLAT_SAMPLES = 4;
  private static final double LOWEST_CEILING = 0.1;
  private static final double RELATIVE_WIDTH = 2e-4;
  private static final double LEAST_WIDTH = 2.0 / 32_768;
  private static final double SPIKE_OVER_NEIGHBOURS = 2.5;
  private static final int LEVEL_BINS = 20_000;
  private static final double SOFT_NEAR = 0.95;
  private static final double SINE_SHARE = 0.35;
  private static final int FEWEST_HALF_WAVES = 20;
  private static final double PASSAGE_GAP_SECONDS = 0.25;

  /**
   * A level under which the samples of one polarity pile up.
   *
   * @param polarity 1 or −1
   * @param level magnitude, over 0
   * @param soft whether tops are rounded off towards it and not cut flat
   */
  public record Ceiling(int channel, int polarity, double level, boolean soft) {
    /** Half the width of the band around the level that counts as the level. */
    double width() {
      return Math.max(RELATIVE_WIDTH * level, LEAST_WIDTH);
    }

    private boolean holds(float sample) {
      double magnitude = polarity * sample;
      return magnitude >= level - width() && (soft || magnitude <= level + width());
    }
  }

  /**
   * Consecutive samples at a ceiling.
   *
   * @param from first sample
   * @param length number of samples
   */
  public record Run(int channel, long from, int length, int polarity, double level) {}

  /** How badly a passage is clipped. */
  public enum Severity {
    /** Single short tops: under 1 % of the samples, no run over 0.5 ms. */
    LIGHT,
    /** Between the two. */
    MEDIUM,
    /** 5 % of the samples or more, or a run of 2 ms. */
    HEAVY
  }

  /**
   * Runs that lie less than a quarter of a second apart.
   *
   * @param from first second
   * @param to last second
   * @param runs number of runs
   * @param longestSamples length of the longest
   * @param share of its samples that are clipped, 0 to 1
   */
  public record Passage(
      double from, double to, int runs, int longestSamples, double share, Severity severity) {}

  private final int sampleRate;
  private final int channels;
  private final long frames;
  private final List<Ceiling> ceilings;
  private final long[][] starts;
  private final int[][] lengths;
  private final byte[][] polarities;

  private Clipping(Audio audio, List<Ceiling> ceilings) {
    this.sampleRate = audio.sampleRate();
    this.channels = audio.channels();
    this.frames = audio.frames();
    this.ceilings = List.copyOf(ceilings);
    this.starts = new long[channels][];
    this.lengths = new int[channels][];
    this.polarities = new byte[channels][];
    for (int c = 0; c < channels; c++) {
      collect(audio, c);
    }
  }

  /** Looks for clipping in all channels. */
  public static Clipping of(Audio audio) {
    List<Ceiling> ceilings = new ArrayList<>();
    for (int c = 0; c < audio.channels(); c++) {
      for (int polarity : new int[] {1, -1}) {
        Ceiling found = hard(audio, c, polarity);
        found = found == null ? soft(audio, c, polarity) : found;
        if (found != null) {
          ceilings.add(found);
        }
      }
    }
    return new Clipping(audio, ceilings);
  }

  // --- hard ceilings ---

  private static Ceiling hard(Audio audio, int channel, int polarity) {
    double peak = peak(audio, channel, polarity);
    if (!(peak > 4 * LEAST_WIDTH)) {
      return null;
    }
    double[] flat = new double[LEVEL_BINS + 1];
    double[] all = new double[LEVEL_BINS + 1];
    int[] flatRuns = new int[LEVEL_BINS + 1];
    FlatTops tops = new FlatTops(peak, flat, flatRuns);
    float[] block = new float[BLOCK];
    for (long at = 0; at < audio.frames(); at += BLOCK) {
      int n = (int) Math.min(BLOCK, audio.frames() - at);
      audio.read(channel, at, block, 0, n);
      for (int i = 0; i < n; i++) {
        double magnitude = polarity * block[i];
        if (magnitude >= LOWEST_CEILING * peak) {
          all[bin(magnitude, peak)]++;
        }
        tops.add(magnitude);
      }
    }
    tops.add(-1);
    return spike(channel, polarity, peak, flat, flatRuns, all);
  }

  private static int bin(double magnitude, double peak) {
    return (int) Math.min(LEVEL_BINS, Math.max(0, Math.round(magnitude / peak * LEVEL_BINS)));
  }

  /** The level with the most samples in flat tops, if it is a spike. */
  private static Ceiling spike(
      int channel, int polarity, double peak, double[] flat, int[] flatRuns, double[] all) {
    int best = -1;
    double most = 0;
    for (int b = (int) (LOWEST_CEILING * LEVEL_BINS); b <= LEVEL_BINS; b++) {
      int half = halfWidth(b, peak);
      double sum = sum(flat, b - half, b + half);
      if (sum > most) {
        most = sum;
        best = b;
      }
    }
    if (best < 0) {
      return null;
    }
    int half = halfWidth(best, peak);
    int runs = 0;
    double weight = 0;
    double level = 0;
    for (int b = Math.max(0, best - half); b <= Math.min(LEVEL_BINS, best + half); b++) {
      runs += flatRuns[b];
      weight += flat[b];
      level += flat[b] * b;
    }
    int centre = (int) Math.round(level / weight);
    // A recording that touched the ceiling once or twice has it at its very peak.
    boolean touched = weight >= FEWEST_FLAT_SAMPLES && centre + half >= LEVEL_BINS;
    if (runs < FEWEST_FLAT_RUNS && !touched) {
      return null;
    }
    double within = sum(all, centre - half, centre + half);
    double below = sum(all, centre - 4 * half, centre - half - 1);
    double above = sum(all, centre + half + 1, centre + 4 * half);
    boolean stands = within > SPIKE_OVER_NEIGHBOURS * Math.max(below, above);
    return stands
        ? new Ceiling(channel, polarity, level / weight / LEVEL_BINS * peak, false)
        : null;
  }

  private static int halfWidth(int bin, double peak) {
    double level = (double) bin / LEVEL_BINS * peak;
    double width = Math.max(RELATIVE_WIDTH * level, LEAST_WIDTH);
    return (int) Math.max(1, Math.round(width / peak * LEVEL_BINS));
  }

  private static double sum(double[] counts, int from, int to) {
    double sum = 0;
    for (int b = Math.max(0, from); b <= Math.min(counts.length - 1, to); b++) {
      sum += counts[b];
    }
    return sum;
  }

  private static double peak(Audio audio, int channel, int polarity) {
    double peak = 0;
    float[] block = new float[BLOCK];
    for (long at = 0; at < audio.frames(); at += BLOCK) {
      int n = (int) Math.min(BLOCK, audio.frames() - at);
      audio.read(channel, at, block, 0, n);
      for (int i = 0; i < n; i++) {
        peak = Math.max(peak, polarity * block[i]);
      }
    }
    return peak;
  }

  /** Counts runs of three and more that are flat and higher than what stands beside them. */
  private static final class FlatTops {
    private final double peak;
    private final double[] samples;
    private final int[] runs;
    private double before = Double.POSITIVE_INFINITY;
    private double low;
    private double high;
    private double total;
    private int length;

    FlatTops(double peak, double[] samples, int[] runs) {
      this.peak = peak;
      this.samples = samples;
      this.runs = runs;
    }

    void add(double magnitude) {
      double width = Math.max(RELATIVE_WIDTH * magnitude, LEAST_WIDTH);
      boolean goesOn =
          length > 0
              && Math.max(high, magnitude) - Math.min(low, magnitude) <= width
              && magnitude > LOWEST_CEILING * peak;
      if (goesOn) {
        low = Math.min(low, magnitude);
        high = Math.max(high, magnitude);
        total += magnitude;
        length++;
        return;
      }
      if (length >= FLAT_RUN && before < low && magnitude < low) {
        int bin = bin(total / length, peak);
        samples[bin] += length;
        runs[bin]++;
      }
      before = length > 0 ? total / length : before;
      low = magnitude;
      high = magnitude;
      total = magnitude;
      length = 1;
    }
  }

  // --- soft ceilings ---

  private static Ceiling soft(Audio audio, int channel, int polarity) {
    double peak = peak(audio, channel, polarity);
    if (!(peak > 4 * LEAST_WIDTH)) {
      return null;
    }
    HalfWaves waves = new HalfWaves(peak);
    float[] block = new float[BLOCK];
    float[] wave = new float[1024];
    int length = 0;
    for (long at = 0; at < audio.frames(); at += BLOCK) {
      int n = (int) Math.min(BLOCK, audio.frames() - at);
      audio.read(channel, at, block, 0, n);
      for (int i = 0; i < n; i++) {
        float magnitude = polarity * block[i];
        if (magnitude > 0) {
          wave = length == wave.length ? Arrays.copyOf(wave, 2 * length) : wave;
          wave[length++] = magnitude;
        } else {
          waves.add(wave, length);
          length = 0;
        }
      }
    }
    return waves.pressed() ? new Ceiling(channel, polarity, SOFT_NEAR * peak, true) : null;
  }

  /** How long half waves stay near their own peak, for those at the ceiling and for the others. */
  private static final class HalfWaves {
    private final double peak;
    private int high;
    private double highShare;
    private int middle;
    private double middleShare;
    private int upperHalf;

    HalfWaves(double peak) {
      this.peak = peak;
    }

    void add(float[] wave, int length) {
      if (length < 8) {
        return;
      }
      float top = 0;
      for (int i = 0; i < length; i++) {
        top = Math.max(top, wave[i]);
      }
      int near = 0;
      for (int i = 0; i < length; i++) {
        near += wave[i] >= SOFT_NEAR * top ? 1 : 0;
      }
      double share = (double) near / length;
      if (top >= 0.5 * peak) {
        upperHalf++;
      }
      if (top >= 0.9 * peak) {
        high++;
        highShare += share;
      } else if (top >= 0.1 * peak && top <= 0.5 * peak) {
        middle++;
        middleShare += share;
      }
    }

    boolean pressed() {
      if (high < FEWEST_HALF_WAVES || high < 0.3 * upperHalf) {
        return false;
      }
      double own = middle < FEWEST_HALF_WAVES ? 0 : middleShare / middle;
      return highShare / high > Math.max(SINE_SHARE, 1.5 * own);
    }
  }

  // --- runs ---

  private void collect(Audio audio, int channel) {
    Ceiling up = ceiling(channel, 1);
    Ceiling down = ceiling(channel, -1);
    long[] from = new long[256];
    int[] length = new int[256];
    byte[] polarity = new byte[256];
    int count = 0;
    int current = 0;
    if (up != null || down != null) {
      float[] block = new float[BLOCK];
      for (long at = 0; at < frames; at += BLOCK) {
        int n = (int) Math.min(BLOCK, frames - at);
        audio.read(channel, at, block, 0, n);
        for (int i = 0; i < n; i++) {
          int side =
              up != null && up.holds(block[i]) ? 1 : down != null && down.holds(block[i]) ? -1 : 0;
          if (side != 0 && side == current) {
            length[count - 1]++;
          } else if (side != 0) {
            if (count == from.length) {
              from = Arrays.copyOf(from, 2 * count);
              length = Arrays.copyOf(length, 2 * count);
              polarity = Arrays.copyOf(polarity, 2 * count);
            }
            from[count] = at + i;
            length[count] = 1;
            polarity[count++] = (byte) side;
          }
          current = side;
        }
      }
    }
    starts[channel] = Arrays.copyOf(from, count);
    lengths[channel] = Arrays.copyOf(length, count);
    polarities[channel] = Arrays.copyOf(polarity, count);
  }

  /** Whether any clipping was found. */
  public boolean any() {
    return !ceilings.isEmpty();
  }

  /** Whether tops are rounded and nowhere cut flat. */
  public boolean onlySoft() {
    return any() && ceilings.stream().allMatch(Ceiling::soft);
  }

  public List<Ceiling> ceilings() {
    return ceilings;
  }

  /** The ceiling of one channel and polarity; null if that side is not clipped. */
  public Ceiling ceiling(int channel, int polarity) {
    for (Ceiling ceiling : ceilings) {
      if (ceiling.channel() == channel && ceiling.polarity() == polarity) {
        return ceiling;
      }
    }
    return null;
  }

  /** Number of runs in a channel. */
  public int runs(int channel) {
    return starts[channel].length;
  }

  /** Number of runs in all channels. */
  public int runs() {
    return Arrays.stream(starts).mapToInt(s -> s.length).sum();
  }

  /** The i-th run of a channel, in order of time. */
  public Run run(int channel, int i) {
    int polarity = polarities[channel][i];
    return new Run(
        channel,
        starts[channel][i],
        lengths[channel][i],
        polarity,
        ceiling(channel, polarity).level());
  }

  /**
   * The first run of a channel that does not end before a sample; {@link #runs} if there is none.
   */
  public int firstRunFrom(int channel, long sample) {
    int at = Arrays.binarySearch(starts[channel], sample);
    int next = at >= 0 ? at : -at - 1;
    return next > 0 && starts[channel][next - 1] + lengths[channel][next - 1] > sample
        ? next - 1
        : next;
  }

  /** Number of clipped samples over all channels. */
  public long samples() {
    long sum = 0;
    for (int[] channel : lengths) {
      for (int length : channel) {
        sum += length;
      }
    }
    return sum;
  }

  /** Clipped samples in per cent of all samples. */
  public double percent() {
    return frames == 0 ? 0 : 100.0 * samples() / ((double) frames * channels);
  }

  /** Length of the longest run, samples. */
  public int longest() {
    return Arrays.stream(lengths).flatMapToInt(Arrays::stream).max().orElse(0);
  }

  /** The clipped passages, in order of time. */
  public List<Passage> passages() {
    List<Run> all = new ArrayList<>();
    for (int c = 0; c < channels; c++) {
      for (int i = 0; i < runs(c); i++) {
        all.add(run(c, i));
      }
    }
    all.sort(java.util.Comparator.comparingLong(Run::from));
    List<Passage> passages = new ArrayList<>();
    long gap = Math.round(PASSAGE_GAP_SECONDS * sampleRate);
    for (int i = 0; i < all.size(); ) {
      int first = i;
      long end = all.get(i).from() + all.get(i).length();
      long clipped = 0;
      int longest = 0;
      while (i < all.size() && all.get(i).from() <= end + gap) {
        end = Math.max(end, all.get(i).from() + all.get(i).length());
        clipped += all.get(i).length();
        longest = Math.max(longest, all.get(i).length());
        i++;
      }
      passages.add(passage(all.get(first).from(), end, i - first, clipped, longest));
    }
    return passages;
  }

  private Passage passage(long from, long end, int runs, long clipped, int longest) {
    double share = (double) clipped / ((end - from) * channels);
    double longestSeconds = (double) longest / sampleRate;
    // A single top fills its own passage: its share says nothing, its length does.
    boolean several = runs > 1;
    Severity severity =
        longestSeconds >= 0.002 || several && share >= 0.05
            ? Severity.HEAVY
            : longestSeconds > 0.0005 || several && share >= 0.01
                ? Severity.MEDIUM
                : Severity.LIGHT;
    return new Passage(
        (double) from / sampleRate, (double) end / sampleRate, runs, longest, share, severity);
  }
}
