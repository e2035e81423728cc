package kettlesieve.calibrate.makers;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.function.UnaryOperator;
import kettlesieve.calibrate.corpus.Half;
import kettlesieve.calibrate.corpus.StemMaterial;
import kettlesieve.core.audio.Audio;

/**
 * Tools that take a mix apart, of every kind there is: what they know of the true stems and how
 * they use it is spoilt in known ways. Those of one half are not those of the other.
 *
 * @param id its name
 * @param kind what sort of tool it is: rows of the tables
 * @param way how it makes stems of what the mix was made of
 */
public record StemTools(String id, Kind kind, UnaryOperator<StemMaterial> way) {
  /** Sorts of tools. */
  public enum Kind {
    MASK,
    BLIND,
    LEAK,
    NEAR,
    HALF_WAY,
    SCRAMBLED,
    HOLES,
    MUSICAL,
    BAND_LIMIT,
    CODED,
    TRUE_STEMS
  }

  /** The tools of a half. */
  public static List<StemTools> of(Half half) {
    List<StemTools> all = new ArrayList<>();
    boolean setting = half == Half.SETTING;
    int s = setting ? 100 : 200;
    if (setting) {
      add(all, "mask-fine", Kind.MASK, m -> Masks.of(m, 4096, 1, 2, 8, s + 1));
      add(all, "mask-soft", Kind.MASK, m -> Masks.of(m, 4096, 0.6, 4, 8, s + 2));
      add(all, "mask-short", Kind.MASK, m -> Masks.of(m, 1024, 1, 5, 4, s + 3));
      add(all, "mask-sharp", Kind.MASK, m -> Masks.of(m, 4096, 2.5, 6, 16, s + 4));
      add(all, "mask-binary", Kind.MASK, m -> Masks.of(m, 2048, 30, 4, 8, s + 5));
      add(all, "mask-rough", Kind.MASK, m -> Masks.of(m, 4096, 1, 9, 16, s + 6));
      add(all, "harmonic-percussive", Kind.BLIND, m -> BlindTools.harmonic(m, 2048, 17, 2));
      add(all, "factors", Kind.BLIND, m -> BlindTools.factors(m, 2048, 20, 40, s + 7));
      add(all, "centre", Kind.BLIND, m -> BlindTools.centre(m, 4096));
      add(all, "leak-12", Kind.LEAK, m -> Flaws.leaking(m, -12, s + 8));
      add(all, "leak-20", Kind.LEAK, m -> Flaws.leaking(m, -20, s + 9));
      add(all, "near", Kind.NEAR, m -> Flaws.blend(m, Masks.of(m, 4096, 1, 3, 8, s + 10), 0.9));
      add(
          all,
          "half-way",
          Kind.HALF_WAY,
          m -> Flaws.blend(m, Masks.of(m, 2048, 1, 5, 8, s + 11), 0.5));
      add(all, "scrambled", Kind.SCRAMBLED, m -> Flaws.scrambled(m, 2048, Math.PI, s + 12));
      add(all, "holes", Kind.HOLES, m -> Flaws.holes(m, 0.06, 0.15, s + 13));
      add(
          all,
          "musical",
          Kind.MUSICAL,
          m -> Flaws.musical(Masks.of(m, 2048, 1, 3, 8, s + 14), 2048, 0.3, s + 15));
      add(all, "dull", Kind.BAND_LIMIT, m -> Flaws.dull(Masks.of(m, 4096, 1, 3, 8, s + 16), 4000));
      add(all, "coded", Kind.CODED, m -> Flaws.coded(Masks.of(m, 4096, 1, 3, 8, s + 17), 2048, 10));
    } else {
      add(all, "mask-a", Kind.MASK, m -> Masks.of(m, 2048, 1, 1.5, 4, s + 1));
      add(all, "mask-b", Kind.MASK, m -> Masks.of(m, 8192, 1, 4, 8, s + 2));
      add(all, "mask-c", Kind.MASK, m -> Masks.of(m, 4096, 0.8, 7, 12, s + 3));
      add(all, "mask-d", Kind.MASK, m -> Masks.of(m, 4096, 1.6, 5, 6, s + 4));
      add(all, "mask-yes-no", Kind.MASK, m -> Masks.of(m, 4096, 30, 7, 12, s + 5));
      add(all, "mask-poor", Kind.MASK, m -> Masks.of(m, 2048, 1, 12, 24, s + 6));
      add(all, "percussive", Kind.BLIND, m -> BlindTools.harmonic(m, 4096, 31, 1));
      add(all, "parts", Kind.BLIND, m -> BlindTools.factors(m, 4096, 12, 25, s + 7));
      add(all, "middle", Kind.BLIND, m -> BlindTools.centre(m, 2048));
      add(all, "leak-9", Kind.LEAK, m -> Flaws.leaking(m, -9, s + 8));
      add(all, "leak-16", Kind.LEAK, m -> Flaws.leaking(m, -16, s + 9));
      add(all, "nearly", Kind.NEAR, m -> Flaws.blend(m, Masks.of(m, 2048, 1, 4, 8, s + 10), 0.85));
      add(
          all,
          "between",
          Kind.HALF_WAY,
          m -> Flaws.blend(m, Masks.of(m, 4096, 1, 6, 8, s + 11), 0.65));
      add(
          all,
          "phases",
          Kind.SCRAMBLED,
          m -> Flaws.scrambled(Masks.of(m, 4096, 1, 3, 8, s + 18), 4096, 1.6, s + 12));
      add(
          all,
          "gaps",
          Kind.HOLES,
          m -> Flaws.holes(Masks.of(m, 4096, 1, 1.5, 8, s + 19), 0.2, 0.2, s + 13));
      add(all, "tinkling", Kind.MUSICAL, m -> Flaws.musical(m, 1024, 0.25, s + 15));
      add(all, "telephone", Kind.BAND_LIMIT, m -> Flaws.dull(m, 3000));
      add(all, "few-bits", Kind.CODED, m -> Flaws.coded(m, 1024, 8));
    }
    return List.copyOf(all);
  }

  private static void add(
      List<StemTools> all, String id, Kind kind, UnaryOperator<StemMaterial> way) {
    all.add(new StemTools(id, kind, way));
  }

  /** Stems of other samples, role by role and channel by channel. */
  static StemMaterial changed(StemMaterial m, Change change) {
    Map<String, Audio> made = new LinkedHashMap<>();
    int n = 0;
    for (var stem : m.stems().entrySet()) {
      float[][] out = new float[2][];
      for (int c = 0; c < 2; c++) {
        SplittableRandom random = new SplittableRandom(n * 1000L + 1);
        out[c] = change.of(stem.getValue().wholeChannel(c), n, random);
      }
      made.put(stem.getKey(), Audio.of(stem.getValue().sampleRate(), out));
      n++;
    }
    return new StemMaterial(made);
  }

  /** What becomes of one channel of a stem; both channels get the same random numbers. */
  interface Change {
    float[] of(float[] x, int role, SplittableRandom random);
  }
}
