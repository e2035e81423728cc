package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.audio.Audio;

/**
 * What is plainly wrong with single stems before anything is measured: one upside down, silent,
 * ending early, with its channels swapped, or the same in both. Told from how a stem goes with the
 * mix, in up to 60 pieces of half a second: what is in a mix goes with it as it stands.
 */
final class StemFaults {
  private static final int MOST_PIECES = 60;
  private static final double PIECE_SECONDS = 0.5;
  private static final double EARLY_SECONDS = 0.5;
  private static final double EARLY_SHARE = 0.1;

  /** 80 dB under the mix. */
  private static final double SILENT = 1e-8;

  /** Of a stem's own power, how much of the mix goes against it, or with it crosswise. */
  private static final double AGAINST = 0.4;

  private static final double CROSSWISE = 0.1;

  /** And how much of what is only on one side of the mix, for one that has no sides. */
  private static final double ASIDE = 0.1;

  private static final double SAME = 1e-6;

  private final double mixPower;
  private final double power;
  private final double along;
  private final double straight;
  private final double crossed;
  private final double side;
  private final double aside;

  private StemFaults(Audio mix, Audio stem, long from, long to) {
    int length = (int) Math.min(to - from, (long) (PIECE_SECONDS * mix.sampleRate()));
    int pieces = (int) Math.max(1, Math.min(MOST_PIECES, (to - from) / Math.max(1, length)));
    int channels = mix.channels();
    double[] sums = new double[7];
    Audio wide = stem.asChannels(channels);
    for (int p = 0; p < pieces; p++) {
      long at = pieces == 1 ? from : from + (to - from - length) * p / (pieces - 1);
      float[][] m = new float[channels][];
      float[][] s = new float[channels][];
      for (int c = 0; c < channels; c++) {
        m[c] = mix.samples(c, at, length);
        s[c] = wide.samples(c, at, length);
        for (int i = 0; i < length; i++) {
          sums[0] += m[c][i] * m[c][i];
          sums[1] += s[c][i] * s[c][i];
          sums[2] += s[c][i] * m[c][i];
        }
      }
      for (int i = 0; channels == 2 && i < length; i++) {
        sums[3] += s[0][i] * m[0][i] + s[1][i] * m[1][i];
        sums[4] += s[0][i] * m[1][i] + s[1][i] * m[0][i];
        sums[5] += (s[0][i] - s[1][i]) * (s[0][i] - s[1][i]);
        sums[6] += (m[0][i] - m[1][i]) * (s[0][i] + s[1][i]);
      }
    }
    mixPower = sums[0];
    power = sums[1];
    along = sums[2];
    straight = sums[3];
    crossed = sums[4];
    side = sums[5];
    aside = sums[6];
  }

  /** Whether a stem goes against the mix as a whole. */
  static boolean upsideDown(Audio mix, Audio stem, long from, long to) {
    StemFaults faults = new StemFaults(mix, stem, from, to);
    return !faults.silent() && faults.against();
  }

  /** How much of a stem goes with the mix, whichever way up. */
  static double together(Audio mix, Audio stem, long from, long to) {
    return Math.abs(new StemFaults(mix, stem, from, to).along);
  }

  private boolean silent() {
    return power <= SILENT * mixPower;
  }

  private boolean against() {
    return along < -AGAINST * power;
  }

  /**
   * In plain words, with the name of the role first.
   *
   * @param stems put in the place of the mix
   * @param ends by role, where its file ends on the mix's time line, frames
   * @param from first frame of the excerpt
   * @param to frame after its last
   */
  static List<String> of(
      Audio mix, Map<String, Audio> stems, Map<String, Double> ends, long from, long to) {
    List<String> found = new ArrayList<>();
    stems.forEach(
        (role, stem) -> {
          StemFaults faults = new StemFaults(mix, stem, from, to);
          if (faults.silent()) {
            found.add(role + ": the stem is silent");
            return;
          }
          if (faults.against()) {
            found.add(
                role + ": its polarity is turned against the mix. Turn it over and export it");
          }
          double early = (to - ends.get(role)) / mix.sampleRate();
          double whole = (double) (to - from) / mix.sampleRate();
          if (early > Math.max(EARLY_SECONDS, EARLY_SHARE * whole)) {
            found.add(
                String.format(
                    Locale.ROOT,
                    "%s: it ends %.1f s before the mix does. Export it at full length",
                    role,
                    early));
          }
          if (!faults.against() && faults.crossed - faults.straight > CROSSWISE * faults.power) {
            found.add(role + ": left and right look swapped against the mix");
          }
          // What stands in the middle of the mix has two equal channels by right.
          if (stem.channels() == 2
              && faults.side <= SAME * faults.power
              && Math.abs(faults.aside) > ASIDE * faults.power) {
            found.add(role + ": left and right are the same, as from a mono export");
          }
        });
    return found;
  }
}
