package kettlesieve.cli;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.media.Surroundings;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;
import picocli.CommandLine;

/**
 * Scores two comparisons of a few seconds and drops what comes of it. Run once after the build, so
 * that Java may note which classes a scoring loads: it then has them at hand in every later one.
 */
final class Rehearsal {
  private static final int RATE = 16_000;
  private static final int SECONDS = 6;

  private Rehearsal() {}

  /**
   * Rehearses.
   *
   * @param arguments a folder for the recordings
   */
  public static void main(String[] arguments) throws Exception {
    Surroundings.prepare();
    Path folder = Path.of(arguments[0]);
    score(denoise(folder));
    score(stems(folder));
  }

  private static void score(List<String> words) {
    List<String> all = new ArrayList<>(List.of("score", "--json", "-"));
    all.addAll(words);
    StringWriter said = new StringWriter();
    PrintWriter quiet = new PrintWriter(said);
    if (Kettle.run(all.toArray(String[]::new), quiet, quiet) != CommandLine.ExitCode.OK) {
      throw new IllegalStateException(said.toString());
    }
  }

  private static List<String> denoise(Path folder) throws Exception {
    return List.of(
        "--job",
        "denoise",
        "--source",
        Tapes.make(folder.resolve("source.wav"), SECONDS, 0.02),
        "--reference",
        Tapes.make(folder.resolve("clean.wav"), SECONDS, 0),
        "--version",
        "a=" + Tapes.make(folder.resolve("a.wav"), SECONDS, 0.004));
  }

  private static List<String> stems(Path folder) throws Exception {
    List<String> words = new ArrayList<>(List.of("--job", "stems", "--source"));
    words.add(chord(folder.resolve("mix.wav"), 1, 1));
    String low = chord(folder.resolve("low.wav"), 1, 0);
    String high = chord(folder.resolve("high.wav"), 0, 1);
    words.addAll(List.of("--reference", "bass=" + low, "--reference", "other=" + high));
    words.addAll(List.of("--stem", "a/bass=" + low, "--stem", "a/other=" + high));
    words.addAll(
        List.of(
            "--stem",
            "b/bass=" + chord(folder.resolve("low-leaky.wav"), 0.9, 0.1),
            "--stem",
            "b/other=" + chord(folder.resolve("high-leaky.wav"), 0.1, 0.9)));
    return words;
  }

  /** Two notes, each in its own channel for the most part. */
  private static String chord(Path file, double low, double high) throws Exception {
    float[] left = new float[SECONDS * RATE];
    float[] right = new float[SECONDS * RATE];
    for (int i = 0; i < left.length; i++) {
      double l = low * 0.2 * Math.sin(i * 0.04) * (i % 3000 < 2500 ? 1 : 0);
      double h = high * 0.2 * Math.sin(i * 0.5) * (i % 5000 < 3500 ? 1 : 0);
      left[i] = (float) (l + 0.3 * h);
      right[i] = (float) (0.3 * l + h);
    }
    WavWriter.write(Audio.of(RATE, left, right), file, WavWriter.Format.PCM_24, Progress.SILENT);
    return file.toString();
  }
}
