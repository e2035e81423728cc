package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.measure.reference.SiSdr;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/**
 * Whether the overall score, which knows no clean recording, puts versions in the order in which
 * SI-SDR puts them, where that differs by over 2 dB. Real speech from two sources; the scales were
 * set on the announcements (48 kHz), and the readings (16 kHz) were kept back.
 */
class OrderTest {
  private record Judged(String label, double siSdr, double overall, String axes) {}

  private record Outcome(int pairs, int agreed, List<String> table) {}

  private static Outcome judge(int rate, float[] speech) throws Exception {
    int pairs = 0;
    int agreed = 0;
    List<String> table = new ArrayList<>();
    for (String kind : new String[] {"white", "pink"}) {
      for (int snr : kind.equals("white") ? new int[] {5, 12, 20} : new int[] {12}) {
        float[] noise =
            kind.equals("white")
                ? Sounds.white(speech.length, 41 + snr)
                : Sounds.pink(speech.length, 43 + snr);
        double factor = Sounds.noiseFactor(speech, noise, snr);
        float[] noisy = Sounds.mix(speech, noise, factor);
        PreparedExcerpt preparedExcerpt =
            PreparedExcerpt.of(Audio.of(rate, noisy), null, null, null);
        List<Judged> judged = new ArrayList<>();
        for (var version : versions(rate, speech, noise, factor, noisy).entrySet()) {
          judged.add(judged(preparedExcerpt, version.getKey(), version.getValue(), speech));
        }
        for (int i = 0; i < judged.size(); i++) {
          for (int j = i + 1; j < judged.size(); j++) {
            Judged a = judged.get(i);
            Judged b = judged.get(j);
            double truth = a.siSdr() - b.siSdr();
            if (Math.abs(truth) > 2) {
              boolean same = truth * (a.overall() - b.overall()) > 0;
              pairs++;
              agreed += same ? 1 : 0;
              if (!same) {
                table.add(line(kind, snr, a, b));
              }
            }
          }
        }
      }
    }
    return new Outcome(pairs, agreed, table);
  }

  private static String line(String kind, int snr, Judged a, Judged b) {
    return String.format(
        Locale.ROOT,
        "%s %d dB: %s (SI-SDR %.1f, overall %.1f: %s) against %s (%.1f, %.1f: %s)",
        kind,
        snr,
        a.label(),
        a.siSdr(),
        a.overall(),
        a.axes(),
        b.label(),
        b.siSdr(),
        b.overall(),
        b.axes());
  }

  private static Judged judged(
      PreparedExcerpt preparedExcerpt, String label, float[] x, float[] speech) throws Exception {
    MatchedVersion matched =
        preparedExcerpt.match(
            Audio.of(preparedExcerpt.source().audio().sampleRate(), x), MatchOverride.NONE);
    Readings taken = preparedExcerpt.measure(matched, Scoring.shipped().scales().keySet());
    Scoring scoring = Scoring.shipped();
    Card card = Card.of(taken.readings(), scoring, scoring.profileOrDefault("even"), Job.DENOISE);
    float[] v = matched.audio().wholeChannel(0);
    double vr = 0;
    double rr = 0;
    double vv = 0;
    for (int i = 0; i < v.length; i++) {
      vr += (double) v[i] * speech[i];
      rr += (double) speech[i] * speech[i];
      vv += (double) v[i] * v[i];
    }
    StringBuilder axes = new StringBuilder();
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      axes.append(axes.isEmpty() ? "" : " / ")
          .append(
              card.axes().containsKey(axis)
                  ? String.format(Locale.ROOT, "%.0f", card.axes().get(axis).value())
                  : "–");
    }
    return new Judged(
        label, SiSdr.ratioDb(vr, rr, vv), card.overall().orElseThrow().value(), axes.toString());
  }

  private static Map<String, float[]> versions(
      int rate, float[] speech, float[] noise, double factor, float[] noisy) {
    Audio in = Audio.of(rate, noisy);
    Map<String, float[]> versions = new LinkedHashMap<>();
    versions.put("untouched", noisy);
    versions.put("noise at −10 dB", Sounds.mix(speech, noise, 0.316 * factor));
    versions.put("noise at −20 dB", Sounds.mix(speech, noise, 0.1 * factor));
    for (int amount : new int[] {30, 90}) {
      versions.put(
          "subtraction " + amount,
          new PlainSubtraction().process(in, amount, Progress.SILENT).wholeChannel(0));
      versions.put(
          "smoothed " + amount,
          new SmoothedWiener().process(in, amount, Progress.SILENT).wholeChannel(0));
    }
    float[] gated = noisy.clone();
    float level = 0;
    for (int i = 0; i < gated.length; i++) {
      level = Math.max(Math.abs(speech[i]), level * (float) Math.exp(-1 / (0.05 * rate)));
      gated[i] *= level > 0.02f ? 1 : 0.05f;
    }
    versions.put("gated", gated);
    versions.put("low-passed", Sounds.lowPass(noisy, rate, 3400));
    float[] chopped = Sounds.mix(speech, noise, 0.3 * factor);
    for (int start = 0; start + rate / 8 < chopped.length; start += rate / 2) {
      Arrays.fill(chopped, start, start + rate / 8, 0);
    }
    versions.put("chopped", chopped);
    return versions;
  }

  @Test
  void theOrderIsThatOfSiSdr() throws Exception {
    Outcome tuned = judge(48_000, Sounds.speech48());
    Outcome kept = judge(16_000, Sounds.speech16());
    System.out.printf(
        Locale.ROOT,
        "Order against SI-SDR: tuned half %d of %d pairs (%.0f %%), kept back %d of %d (%.0f %%)%n",
        tuned.agreed(),
        tuned.pairs(),
        100.0 * tuned.agreed() / tuned.pairs(),
        kept.agreed(),
        kept.pairs(),
        100.0 * kept.agreed() / kept.pairs());
    tuned.table().forEach(l -> System.out.println("  tuned: " + l));
    kept.table().forEach(l -> System.out.println("  kept back: " + l));
    assertThat(kept.pairs() + tuned.pairs()).isGreaterThan(20);
    assertThat((double) tuned.agreed() / tuned.pairs()).isGreaterThanOrEqualTo(0.85);
    assertThat((double) kept.agreed() / kept.pairs()).isGreaterThanOrEqualTo(0.85);
  }
}
