package kettlesieve.core.signal;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;

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
  static final double RELATIVE_WIDTH = 2e-4;
  static final double LEAST_WIDTH = 2.0 / 32_768;
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
        Ceiling found = HardCeiling.find(audio, c, polarity);
        found = found == null ? SoftCeiling.find(audio, c, polarity) : found;
        if (found != null) {
          ceilings.add(found);
        }
      }
    }
    return new Clipping(audio, ceilings);
  }

  /** The largest magnitude of one polarity. */
  static double peak(Audio audio, int channel, int polarity) {
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

  /** The ceilings, by channel and polarity. */
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
