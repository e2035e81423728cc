package kettlesieve.core.testpiece;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/**
 * Writes test pieces: the source beside its comparison as 32-bit float WAV, the clean recording or
 * the true stems as what it is judged by, and how it was made in the comparison.
 */
public final class PieceFiles {
  private PieceFiles() {}

  /**
   * Writes a piece and the comparison around it, which has no versions yet.
   *
   * @param file the comparison, ending in {@code .sieve}
   * @param tags of the person's own
   * @return the comparison as it was written
   * @throws IOException if the sound cannot be written
   * @throws ComparisonFileException if the comparison cannot
   */
  public static Comparison write(
      TestPiece piece, PieceRecipe recipe, Path file, List<String> tags, Progress progress)
      throws IOException, ComparisonFileException {
    Path source = beside(file, "source");
    WavWriter.write(piece.source(), source, WavWriter.Format.FLOAT, progress);
    Comparison c =
        Comparison.empty(name(piece, file), recipe.job())
            .withSource(MediaRef.of(source))
            .withTags(tags)
            .withMade(piece.made());
    if (piece.clean() != null) {
      Path clean = recipe.clean();
      if (!piece.cleanIsFile()) {
        clean = beside(file, "clean");
        WavWriter.write(piece.clean(), clean, WavWriter.Format.FLOAT, progress);
      }
      c = c.withReference(MediaRef.of(clean));
    }
    for (var stem : piece.stems().entrySet()) {
      Path own = beside(file, "true-" + word(stem.getKey()));
      Audio audio = stem.getValue();
      WavWriter.write(audio, own, WavWriter.Format.FLOAT, progress);
      c = c.withTrueStem(stem.getKey(), MediaRef.of(own));
    }
    ComparisonFile.save(c, file);
    return c;
  }

  private static String name(TestPiece piece, Path file) {
    String own = stem(file);
    String difficulty = piece.difficulty();
    return difficulty.isEmpty() ? own : own + ", " + difficulty;
  }

  private static String stem(Path file) {
    String name = file.getFileName().toString();
    return name.substring(0, name.length() - ComparisonFile.ENDING.length());
  }

  private static String word(String role) {
    return role.toLowerCase(java.util.Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", "-");
  }

  /** The name of a file that belongs to a comparison; it tells nothing of what was done. */
  public static Path beside(Path file, String what) {
    return file.resolveSibling(stem(file) + "-" + what + ".wav");
  }

  /** The comparison of a step of a sweep: {@code OUT-1.sieve}, {@code OUT-2.sieve} … */
  public static Path step(Path file, int step) {
    return file.resolveSibling(stem(file) + "-" + step + ComparisonFile.ENDING);
  }
}
