package kettlesieve.core.measure.noise;

import java.util.Locale;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;

/**
 * How much of the wanted sound is in a version at all. What a silent file, or half of one, has in
 * the pauses tells nothing of how well noise was removed.
 */
final class Presence {
  /** Of a version. */
  static final Analysis<Presence> OF = Presence::new;

  private static final double LEAST_SHARE = 0.6;

  /** What lies 40 dB under the source is not there. */
  private static final double GONE = 1e-4;

  private final double share;

  private Presence(Pair pair) {
    SourceMaterial source = pair.source();
    Audio before = source.audio();
    Audio after = pair.version().audio();
    int hop = pair.framing().hop();
    int active = 0;
    int there = 0;
    for (int t = 0; t < pair.timeline().frames(); t++) {
      if (!source.pauses().activity().active(t)) {
        continue;
      }
      active++;
      long at = (long) t * hop + pair.framing().length() / 2 - hop / 2;
      boolean covered = t >= pair.firstFrame() && t < pair.endFrame();
      there += covered && power(after, at, hop) > GONE * power(before, at, hop) ? 1 : 0;
    }
    share = active == 0 ? 1 : (double) there / active;
  }

  private static double power(Audio audio, long from, int length) {
    double sum = 0;
    for (int c = 0; c < audio.channels(); c++) {
      for (float x : audio.samples(c, from, length)) {
        sum += (double) x * x;
      }
    }
    return sum;
  }

  /** Says so where too little of it is there. */
  void check() throws NotMeasurableException {
    if (share < LEAST_SHARE) {
      throw new NotMeasurableException(
          String.format(
              Locale.ROOT,
              "only %.0f %% of the wanted sound is in it: what it has in the pauses tells nothing of"
                  + " what was removed",
              100 * share));
    }
  }
}
