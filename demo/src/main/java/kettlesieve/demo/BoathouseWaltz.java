package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.rig.CentreSplit;
import kettlesieve.core.rig.MedianSplit;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.task.Progress;

/**
 * "Boathouse waltz": a made-up waltz of twelve bars with voice, concertina, tuba and drum, played
 * by simple synthesis, so that the true stems are known. Split by medians, by the centre, and by
 * one after the other as a chain.
 */
public final class BoathouseWaltz {
  private static final int RATE = DemoFolder.RATE;
  private static final double BEAT = 60.0 / 156;
  private static final int BARS = 12;
  private static final int[] ROOTS = {0, 0, 5, 5, 7, 7, 0, 0, 5, 7, 0, 0};
  private static final int[][] TUNE = {
    {0, 2, 67, 0}, {2, 1, 69, 1}, {3, 3, 72, 0}, {6, 2, 69, 3}, {8, 1, 67, 1}, {9, 3, 65, 0},
    {12, 2, 67, 2}, {14, 1, 71, 1}, {15, 3, 74, 0}, {18, 2, 72, 3}, {20, 1, 69, 1}, {21, 3, 67, 4},
    {24, 2, 69, 0}, {26, 1, 65, 1}, {27, 3, 71, 2}, {30, 5, 72, 0}
  };

  private BoathouseWaltz() {}

  /**
   * Makes it.
   *
   * @throws IOException if it cannot be written
   */
  public static Path make(Path folder, Progress progress) throws IOException {
    return DemoFolder.make(folder, "boathouse-waltz.sieve", "made-1", f -> build(f, progress));
  }

  private static Comparison build(DemoFolder folder, Progress progress) throws IOException {
    progress.at("playing the waltz", 0);
    Map<String, Audio> parts = parts();
    Audio mix = rendered(SumAudio.of(List.copyOf(parts.values())));
    Map<String, MediaRef> truth = new LinkedHashMap<>();
    for (var part : parts.entrySet()) {
      truth.put(
          part.getKey(),
          DemoFolder.ref(folder.write(part.getValue(), "waltz-true-" + part.getKey() + ".wav")));
    }
    Comparison comparison =
        Comparison.empty("Boathouse waltz", Job.STEMS)
            .withSource(DemoFolder.ref(folder.write(mix, "waltz-mix.wav")))
            .withTrueStems(truth)
            .withRoleSums(
                List.of(
                    new RoleSum("mix without drums", List.of("drums"), true),
                    new RoleSum("mix without vocals", List.of("vocals"), true)))
            .withExcerpts(
                List.of(
                    new Excerpt("First line", new TimeSpan(0, 6 * 3 * BEAT)),
                    new Excerpt("Last line", new TimeSpan(6 * 3 * BEAT, BARS * 3 * BEAT))));
    progress.at("splitting the waltz", 0.3);
    Map<String, Audio> split = new MedianSplit().make(mix, new Setup(50, 1, 0), Progress.SILENT);
    Map<String, Audio> renamed = new LinkedHashMap<>();
    renamed.put("drums", split.get("transient"));
    renamed.put("everything but drums", split.get("tonal"));
    comparison = plus(comparison, folder, "Median split", 50, renamed, null);
    Map<String, Audio> hard = new MedianSplit().make(mix, new Setup(80, 1, 0), Progress.SILENT);
    comparison = plus(comparison, folder, "Median split", 80, hard, null);
    progress.at("splitting the waltz", 0.6);
    Map<String, Audio> centre = new CentreSplit().make(mix, new Setup(60, 1, 0), Progress.SILENT);
    comparison = plus(comparison, folder, "Centre split", 60, centre, null);
    progress.at("splitting the waltz", 0.8);
    // The chain: the drum is taken out first, the voice out of what is left.
    Stem.Origin origin = new Stem.Origin("Median split 50", "everything but drums", null);
    Map<String, Audio> second =
        new CentreSplit().make(rendered(split.get("tonal")), new Setup(60, 1, 0), Progress.SILENT);
    Map<String, Stem> chain = new LinkedHashMap<>();
    chain.put("drums", comparison.versions().get(0).stems().get("drums"));
    chain.put("vocals", stem(folder, "waltz-chain-vocals.wav", second.get("vocals"), origin));
    chain.put(
        "other",
        stem(folder, "waltz-chain-other.wav", second.get("everything but vocals"), origin));
    return comparison.plus(
        Version.ofStems(comparison.freshId(), "Drum first, then centre", chain)
            .withTool("Two steps"));
  }

  private static Map<String, Audio> parts() {
    int size = (int) ((BARS * 3 * BEAT + 1.2) * RATE);
    Map<String, Audio> parts = new LinkedHashMap<>();
    parts.put("vocals", placed(voice(size), 0.5));
    parts.put("drums", placed(drum(size), 0.56));
    parts.put("bass", placed(tuba(size), 0.46));
    parts.put("concertina", placed(concertina(size), 0.8));
    return parts;
  }

  /** Its first two lines, all parts together. */
  static Audio beginning() {
    long frames = Math.round(8 * 3 * BEAT * RATE);
    return rendered(SumAudio.of(List.copyOf(parts().values())).slice(0, frames));
  }

  private static Comparison plus(
      Comparison comparison,
      DemoFolder folder,
      String tool,
      int amount,
      Map<String, Audio> parts,
      Stem.Origin origin)
      throws IOException {
    Map<String, Stem> stems = new LinkedHashMap<>();
    for (var part : parts.entrySet()) {
      String word = (tool + " " + amount + " " + part.getKey()).toLowerCase(java.util.Locale.ROOT);
      stems.put(
          part.getKey(),
          stem(folder, "waltz-" + word.replace(' ', '-') + ".wav", part.getValue(), origin));
    }
    return comparison.plus(
        Version.ofStems(comparison.freshId(), tool + " " + amount, stems)
            .withTool(tool)
            .withAmount((double) amount));
  }

  private static Stem stem(DemoFolder folder, String name, Audio audio, Stem.Origin origin)
      throws IOException {
    return new Stem(DemoFolder.ref(folder.write(audio, name)), origin);
  }

  private static Audio rendered(Audio view) {
    float[][] samples = new float[view.channels()][];
    for (int c = 0; c < samples.length; c++) {
      samples[c] = view.wholeChannel(c);
    }
    return Audio.of(RATE, samples);
  }

  /** Stereo by level and a little time; 0.5 is the middle. */
  private static Audio placed(float[] mono, double right) {
    float[][] out = new float[2][mono.length];
    int later = (int) Math.round(Math.abs(right - 0.5) * 0.0006 * RATE);
    for (int i = 0; i < mono.length; i++) {
      float late = i >= later ? mono[i - later] : 0;
      out[0][i] = (float) (Math.cos(right * Math.PI / 2) * (right > 0.5 ? late : mono[i]));
      out[1][i] = (float) (Math.sin(right * Math.PI / 2) * (right > 0.5 ? mono[i] : late));
    }
    return Audio.of(RATE, out);
  }

  private static float[] voice(int size) {
    float[] out = new float[size];
    Singer singer = new Singer(RATE);
    for (int[] note : TUNE) {
      singer.sing(
          out, note[0] * BEAT, note[1] * BEAT * 0.94, Singer.hz(note[2] - 12), note[3], 0.5);
    }
    return out;
  }

  /** Reeds: a beating pair of bright tones a note, chords on beats two and three. */
  private static float[] concertina(int size) {
    float[] out = new float[size];
    for (int bar = 0; bar < BARS; bar++) {
      for (int beat = 1; beat <= 2; beat++) {
        for (int step : new int[] {0, 4, 7}) {
          double hz = Singer.hz(60 + ROOTS[bar] + step);
          double at = (bar * 3 + beat) * BEAT;
          for (int h = 1; h <= 9; h++) {
            tone(out, at, BEAT * 0.8, hz * h, 0.035 / Math.pow(h, 0.8), 0.02);
            tone(out, at, BEAT * 0.8, hz * h * 1.0035, 0.025 / Math.pow(h, 0.8), 0.02);
          }
        }
      }
    }
    return out;
  }

  private static float[] tuba(int size) {
    float[] out = new float[size];
    for (int bar = 0; bar < BARS; bar++) {
      double hz = Singer.hz(36 + ROOTS[bar]);
      for (int h = 1; h <= 7; h++) {
        tone(out, bar * 3 * BEAT, BEAT * 1.2, hz * h, 0.3 / Math.pow(h, 1.3), 0.035);
      }
    }
    return out;
  }

  private static void tone(
      float[] out, double at, double seconds, double hz, double level, double attack) {
    int start = (int) (at * RATE);
    int count = (int) (seconds * RATE);
    for (int i = 0; i < count && start + i < out.length; i++) {
      double t = (double) i / RATE;
      double shape = Math.min(1, t / attack) * Math.min(1, (seconds - t) / 0.06);
      out[start + i] += (float) (level * shape * Math.sin(2 * Math.PI * hz * t + hz));
    }
  }

  /** A low thump on one, brushes on two and three. */
  private static float[] drum(int size) {
    float[] out = new float[size];
    SplittableRandom random = new SplittableRandom(1902);
    for (int bar = 0; bar < BARS; bar++) {
      int thump = (int) (bar * 3 * BEAT * RATE);
      for (int i = 0; i < 0.25 * RATE; i++) {
        double t = (double) i / RATE;
        out[thump + i] +=
            (float)
                (0.45
                    * Math.exp(-t / 0.06)
                    * Math.sin(2 * Math.PI * (62 * t + 1.6 * (1 - Math.exp(-t / 0.02)))));
      }
      for (int beat = 1; beat <= 2; beat++) {
        int brush = (int) ((bar * 3 + beat) * BEAT * RATE);
        double last = 0;
        for (int i = 0; i < 0.12 * RATE; i++) {
          double white = random.nextGaussian();
          double t = (double) i / RATE;
          out[brush + i] += (float) (0.11 * Math.exp(-t / 0.028) * (white - 0.6 * last));
          last = white;
        }
      }
    }
    return out;
  }
}
