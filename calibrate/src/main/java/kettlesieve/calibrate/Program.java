package kettlesieve.calibrate;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Runs another program to its end. */
public final class Program {
  private Program() {}

  /**
   * Runs a program in a folder.
   *
   * @throws CalibrationException if it is not there or fails, with the last of what it said
   */
  public static void run(Path folder, List<String> words) throws CalibrationException {
    Path said = folder.resolve("." + words.get(0).replace('/', '-') + ".log");
    try {
      Process process =
          new ProcessBuilder(words)
              .directory(folder.toFile())
              .redirectErrorStream(true)
              .redirectOutput(said.toFile())
              .start();
      process.getOutputStream().close();
      if (process.waitFor() != 0) {
        List<String> lines = Files.readAllLines(said, StandardCharsets.ISO_8859_1);
        throw new CalibrationException(
            String.join(" ", words)
                + " failed: "
                + (lines.isEmpty() ? "it said nothing" : lines.get(lines.size() - 1)));
      }
    } catch (IOException e) {
      throw new CalibrationException(
          words.get(0) + " could not be run: " + e.getMessage() + ". Install it and start again.",
          e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new CalibrationException("interrupted", e);
    }
  }
}
