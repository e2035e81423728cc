package kettlesieve.core.fairness;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.signal.Db;

/**
 * Versions that null against each other: what is left of one minus the other, the level between
 * them fitted, lies 60 dB under them. They come from practically the same engine, whatever their
 * names. (The null test by subtraction is common practice.)
 */
public final class AlikeVersions {
  private static final double ALIKE_DB = -60;
  private static final int BLOCKS = 48;
  private static final int BLOCK = 4096;

  private AlikeVersions() {}

  /**
   * What is alike, as findings on fairness.
   *
   * @param matched versions by label, in order; others than those on the source's time are left out
   * @param checksums of their files by label: the same file twice is said elsewhere
   */
  public static List<Fairness.Item> among(
      Map<String, Matched> matched, Map<String, List<String>> checksums) {
    Map<String, float[]> samples = new LinkedHashMap<>();
    matched.forEach(
        (label, m) -> {
          if (m instanceof MatchedVersion version) {
            samples.put(label, samples(version));
          }
        });
    List<Fairness.Item> items = new ArrayList<>();
    List<String> labels = List.copyOf(samples.keySet());
    for (int b = 1; b < labels.size(); b++) {
      for (int a = 0; a < b; a++) {
        String first = labels.get(a);
        String second = labels.get(b);
        if (checksums.getOrDefault(first, List.of()).equals(checksums.get(second))) {
          continue;
        }
        double db = nullDb(samples.get(first), samples.get(second));
        if (db < ALIKE_DB) {
          items.add(
              new Fairness.Item(
                  second,
                  "alike",
                  String.format(Locale.ROOT, "nulls against %s to %.0f dB", first, db),
                  "compared all the same: practically the same engine"));
        }
      }
    }
    return items;
  }

  private static float[] samples(MatchedVersion version) {
    Audio audio = version.aligned().downmix();
    int count = (int) Math.max(1, Math.min(BLOCKS, audio.frames() / BLOCK));
    float[] all = new float[count * BLOCK];
    for (int i = 0; i < count; i++) {
      long at = count == 1 ? 0 : (audio.frames() - BLOCK) * i / (count - 1);
      audio.read(0, at, all, i * BLOCK, BLOCK);
    }
    return all;
  }

  /** Level of a − g·b against a, with the g that leaves least; dB. */
  static double nullDb(float[] a, float[] b) {
    double aa = 0;
    double ab = 0;
    double bb = 0;
    for (int i = 0; i < Math.min(a.length, b.length); i++) {
      aa += (double) a[i] * a[i];
      ab += (double) a[i] * b[i];
      bb += (double) b[i] * b[i];
    }
    if (!(aa > 0) || !(bb > 0)) {
      return 0;
    }
    return Db.ofPower(Math.max(1e-12, 1 - ab * ab / (aa * bb)));
  }
}
