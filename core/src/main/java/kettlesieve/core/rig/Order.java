package kettlesieve.core.rig;

import java.nio.file.Path;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.media.Recording;
import kettlesieve.core.signal.Audio;

/**
 * One run to be made: a tool on a recording at one amount.
 *
 * @param tool an outside tool or a stand-in
 * @param subject what is processed
 * @param inputFile the file that holds {@code subject}; null where it has none of its own
 * @param name beginning of the names of the files that are written
 * @param setup how
 * @param folder where results go
 * @param origin what {@code subject} was itself taken from; null for the source
 */
public record Order(
    RigTool tool,
    Audio subject,
    Path inputFile,
    String name,
    Setup setup,
    Path folder,
    Stem.Origin origin) {

  /** A run on a comparison's source. */
  public static Order onSource(
      RigTool tool, Comparison comparison, Recording source, double amount, Path folder) {
    return new Order(
        tool,
        source.audio(),
        source.file(),
        kettlesieve.core.comparison.FileNames.stem(source.file()),
        Setup.of(comparison, amount),
        folder,
        null);
  }

  /** What this run is called. */
  public String label() {
    if (!tool.hasAmount()) {
      return tool.title();
    }
    double a = setup.amount();
    return tool.title()
        + " "
        + (a == Math.rint(a) ? Long.toString(Math.round(a)) : Double.toString(a));
  }
}
