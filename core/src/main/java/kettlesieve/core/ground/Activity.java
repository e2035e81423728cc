package kettlesieve.core.ground;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.Statistics;

/**
 * Which frames hold wanted sound and which are pauses.
 *
 * <p>Found from the level in 200–4,000 Hz, smoothed over 50 ms: a threshold between the two modes
 * by Otsu (IEEE Trans. SMC 9, 1979), then three times the smaller of Otsu's and the lower mode's
 * median plus max(6 dB, 3 robust deviations). 150 ms on both sides of activity belong to neither; a
 * pause lasts at least 200 ms. Where that leaves less than a second in two places, 80 ms and 120 ms
 * do, as long as they leave half a second in two places. Pauses marked by a person are taken as
 * they stand.
 */
public final class Activity {
  /** How wide pauses must be, and how much of them is enough: with room to spare, and without. */
  private enum Strictness {
    USUAL(0.150, 0.200, 1),
    SHORT(0.080, 0.120, 0.5);

    private final double guardSeconds;
    private final double shortestSeconds;
    private final double leastSeconds;

    Strictness(double guardSeconds, double shortestSeconds, double leastSeconds) {
      this.guardSeconds = guardSeconds;
      this.shortestSeconds = shortestSeconds;
      this.leastSeconds = leastSeconds;
    }

    boolean enough(boolean[] pause, Framing framing) {
      return seconds(pause, framing) >= leastSeconds && runs(pause) >= 2;
    }
  }

  private static final double LEAST_ACTIVE_SHARE = 0.1;
  private static final double MODES_APART_DB = 4.5;
  private static final double DEPTH_DB = 80;
  private static final byte ACTIVE = 1;
  private static final byte PAUSE = 2;

  private final boolean[] active;
  private final boolean[] pause;
  private final Framing framing;
  private final String problem;
  private final double spreadDb;
  private boolean certain;

  private Activity(
      boolean[] active, boolean[] pause, Framing framing, String problem, double spreadDb) {
    this.active = active;
    this.pause = pause;
    this.framing = framing;
    this.problem = problem;
    this.spreadDb = spreadDb;
  }

  /**
   * Finds activity and pauses.
   *
   * @param channels spectra of the recording that tells them, one a channel
   */
  public static Activity find(List<Spectrogram> channels) {
    Framing framing = channels.get(0).framing();
    double[] levels = levels(channels);
    if (levels.length < 8) {
      return nothing(framing, "the excerpt is too short to tell voice from pause");
    }
    double otsu = otsu(levels);
    double threshold = otsu;
    for (int round = 0; round < 3; round++) {
      threshold = Math.min(otsu, aboveLowerMode(levels, threshold));
    }
    double limit = threshold;
    double lower = Statistics.median(Arrays.stream(levels).filter(l -> l < limit).toArray());
    double upper = Statistics.median(Arrays.stream(levels).filter(l -> l >= limit).toArray());
    boolean[] active = new boolean[levels.length];
    for (int t = 0; t < active.length; t++) {
      active[t] = levels[t] >= threshold;
    }
    boolean[] pause = pauses(active, framing, Strictness.USUAL);
    boolean enough = Strictness.USUAL.enough(pause, framing);
    if (!enough) {
      pause = pauses(active, framing, Strictness.SHORT);
      enough = Strictness.SHORT.enough(pause, framing);
    }
    String problem = null;
    if (!(upper - lower >= MODES_APART_DB)) {
      problem = "the level in pauses and in the wanted sound cannot be told apart; mark the pauses";
    } else if (!enough) {
      problem =
          String.format(
              java.util.Locale.ROOT,
              "only %.2f s of pause were found in %d %s, and half a second in two places is needed;"
                  + " mark pauses or choose a longer excerpt",
              // Rounded down: "0.50 s, and half a second is needed" helps no one.
              Math.floor(100 * seconds(pause, framing)) / 100,
              runs(pause),
              runs(pause) == 1 ? "place" : "places");
    }
    return new Activity(active, pause, framing, problem, spread(levels, pause));
  }

  /**
   * Takes the pauses that a person marked.
   *
   * @param channels spectra of the source
   * @param marks seconds from the start of the excerpt
   */
  public static Activity marked(List<Spectrogram> channels, List<TimeSpan> marks) {
    Framing framing = channels.get(0).framing();
    double[] levels = levels(channels);
    boolean[] pause = new boolean[levels.length];
    boolean[] touched = new boolean[levels.length];
    for (int t = 0; t < levels.length; t++) {
      double from = framing.startSeconds(t);
      double to = framing.endSeconds(t);
      for (TimeSpan mark : marks) {
        pause[t] |= from >= mark.from() - 1e-9 && to <= mark.to() + 1e-9;
        touched[t] |= to > mark.from() && from < mark.to();
      }
    }
    double[] quiet = select(levels, pause);
    if (quiet.length < 4) {
      return nothing(framing, "the marked pauses are too short; mark at least a tenth of a second");
    }
    double threshold =
        Statistics.median(quiet) + Math.max(6, 3 * Statistics.robustDeviation(quiet));
    boolean[] active = new boolean[levels.length];
    int count = 0;
    int unmarked = 0;
    for (int t = 0; t < active.length; t++) {
      active[t] = !touched[t] && levels[t] >= threshold;
      count += active[t] ? 1 : 0;
      unmarked += touched[t] ? 0 : 1;
    }
    // Clicks and bursts within the marks put the threshold over the voice: what is not marked is
    // wanted then.
    if (count < LEAST_ACTIVE_SHARE * unmarked) {
      for (int t = 0; t < active.length; t++) {
        active[t] = !touched[t];
      }
    }
    return new Activity(active, pause, framing, null, spread(levels, pause)).known();
  }

  /** As told by a person or by a clean recording: no weak sound hides in the pauses. */
  Activity known() {
    certain = true;
    return this;
  }

  /** Whether pauses come from a person or from a clean recording, and not from the noisy source. */
  public boolean certain() {
    return certain;
  }

  /** As it was found before. */
  static Activity of(Framing framing, PauseFacts known) {
    boolean[] active = new boolean[framing.count()];
    boolean[] pause = new boolean[active.length];
    for (int t = 0; t < active.length; t++) {
      active[t] = known.frames()[t] == ACTIVE;
      pause[t] = known.frames()[t] == PAUSE;
    }
    Activity activity = new Activity(active, pause, framing, known.problem(), known.spreadDb());
    activity.certain = known.certain();
    return activity;
  }

  /** What is kept of it, with what the ground tells besides. */
  PauseFacts facts(boolean notSteady, double floorDb) {
    byte[] frames = new byte[active.length];
    for (int t = 0; t < frames.length; t++) {
      frames[t] = active[t] ? ACTIVE : pause[t] ? PAUSE : 0;
    }
    return new PauseFacts(frames, problem, spreadDb, certain, notSteady, floorDb);
  }

  private static Activity nothing(Framing framing, String why) {
    boolean[] none = new boolean[framing.count()];
    return new Activity(none, none, framing, why, 0);
  }

  private static double[] levels(List<Spectrogram> channels) {
    Framing framing = channels.get(0).framing();
    int low = framing.binAtOrAbove(200);
    int high = framing.binAtOrBelow(Math.min(4000, 0.45 * framing.sampleRate()));
    double[] powers = new double[framing.count()];
    for (int t = 0; t < powers.length; t++) {
      for (Spectrogram channel : channels) {
        float[] row = channel.powers(t);
        for (int k = low; k <= high; k++) {
          powers[t] += row[k];
        }
      }
    }
    double[] levels = smoothed(powers, framing.framesIn(0.050));
    double floor = Arrays.stream(levels).max().orElse(0) * Db.toPower(-DEPTH_DB);
    for (int t = 0; t < levels.length; t++) {
      levels[t] = Db.ofPower(Math.max(Math.max(levels[t], floor), 1e-30));
    }
    return levels;
  }

  private static double[] smoothed(double[] powers, int width) {
    int half = width / 2;
    double[] smooth = new double[powers.length];
    for (int t = 0; t < powers.length; t++) {
      int first = Math.max(0, t - half);
      int last = Math.min(powers.length - 1, t + half);
      double sum = 0;
      for (int i = first; i <= last; i++) {
        sum += powers[i];
      }
      smooth[t] = sum / (last - first + 1);
    }
    return smooth;
  }

  /** The threshold with the largest variance between the two classes. */
  private static double otsu(double[] levels) {
    double[] sorted = levels.clone();
    Arrays.sort(sorted);
    double total = Arrays.stream(sorted).sum();
    double below = 0;
    double best = -1;
    double threshold = sorted[0];
    for (int i = 0; i + 1 < sorted.length; i++) {
      below += sorted[i];
      if (sorted[i + 1] == sorted[i]) {
        continue;
      }
      double n0 = i + 1;
      double n1 = sorted.length - n0;
      double gap = below / n0 - (total - below) / n1;
      double between = n0 * n1 * gap * gap;
      if (between > best) {
        best = between;
        threshold = (sorted[i] + sorted[i + 1]) / 2;
      }
    }
    return threshold;
  }

  private static double aboveLowerMode(double[] levels, double threshold) {
    double[] lower = Arrays.stream(levels).filter(l -> l < threshold).toArray();
    if (lower.length == 0) {
      return threshold;
    }
    return Statistics.median(lower) + Math.max(6, 3 * Statistics.robustDeviation(lower));
  }

  private static boolean[] pauses(boolean[] active, Framing framing, Strictness strictness) {
    int guard = (int) Math.ceil(strictness.guardSeconds / framing.hopSeconds());
    int shortest = (int) Math.ceil(strictness.shortestSeconds / framing.hopSeconds());
    boolean[] pause = new boolean[active.length];
    Arrays.fill(pause, true);
    for (int t = 0; t < active.length; t++) {
      if (active[t]) {
        Arrays.fill(pause, Math.max(0, t - guard), Math.min(pause.length, t + guard + 1), false);
      }
    }
    for (int t = 0; t < pause.length; ) {
      int end = t;
      while (end < pause.length && pause[end]) {
        end++;
      }
      if (end > t && end - t < shortest) {
        Arrays.fill(pause, t, end, false);
      }
      t = Math.max(end, t + 1);
    }
    return pause;
  }

  /** Of sound that lies in the frames: each run reaches from its first sample to its last. */
  private static double seconds(boolean[] set, Framing framing) {
    double seconds = 0;
    double reached = 0;
    for (int t = 0; t < set.length; t++) {
      if (set[t]) {
        seconds += framing.endSeconds(t) - Math.max(reached, framing.startSeconds(t));
        reached = framing.endSeconds(t);
      }
    }
    return seconds;
  }

  private static int runs(boolean[] set) {
    int runs = 0;
    for (int t = 0; t < set.length; t++) {
      runs += set[t] && (t == 0 || !set[t - 1]) ? 1 : 0;
    }
    return runs;
  }

  private static double spread(double[] levels, boolean[] pause) {
    return Statistics.robustDeviation(select(levels, pause));
  }

  private static double[] select(double[] levels, boolean[] set) {
    double[] chosen = new double[levels.length];
    int n = 0;
    for (int t = 0; t < levels.length; t++) {
      if (set[t]) {
        chosen[n++] = levels[t];
      }
    }
    return Arrays.copyOf(chosen, n);
  }

  /** Whether a frame holds wanted sound. */
  public boolean active(int frame) {
    return active[frame];
  }

  /** Whether a frame lies in a pause. */
  public boolean pause(int frame) {
    return pause[frame];
  }

  /** Why pauses cannot be used for measuring; empty if they can. */
  public Optional<String> problem() {
    return Optional.ofNullable(problem);
  }

  /** Robust deviation of the level in the pauses, dB: under 1 for steady noise. */
  double spreadDb() {
    return spreadDb;
  }

  /** Whether the level in pauses changes too much for it to be called steady (over 3 dB). */
  public boolean unsteady() {
    return problem == null && spreadDb > 3;
  }

  /**
   * Frames at which wanted sound ends and stays away for a time.
   *
   * @param seconds at least so long
   */
  public int[] offsets(double seconds) {
    int quiet = framing.framesIn(seconds);
    int[] found = new int[active.length];
    int n = 0;
    for (int t = 1; t < active.length; t++) {
      if (active[t - 1] && !active[t] && nextOnset(t) - t >= quiet) {
        found[n++] = t;
      }
    }
    return Arrays.copyOf(found, n);
  }

  /** The next frame with wanted sound from a frame on, or the frame after the last. */
  public int nextOnset(int frame) {
    int t = frame;
    while (t < active.length && !active[t]) {
      t++;
    }
    return t;
  }

  /** The pauses, in seconds from the start of the excerpt. */
  public List<TimeSpan> pauses() {
    List<TimeSpan> spans = new ArrayList<>();
    for (int t = 0; t < pause.length; ) {
      int end = t;
      while (end < pause.length && pause[end]) {
        end++;
      }
      if (end > t) {
        spans.add(new TimeSpan(framing.startSeconds(t), framing.endSeconds(end - 1)));
      }
      t = Math.max(end, t + 1);
    }
    return spans;
  }
}
