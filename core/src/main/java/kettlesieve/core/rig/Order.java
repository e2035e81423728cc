package kettlesieve.core.rig;

import java.nio.file.Path;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.media.Recording;

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
    return onSource(tool, source, Setup.of(comparison, amount), folder);
  }

  /** The same with a setup of its own. */
  public static Order onSource(RigTool tool, Recording source, Setup setup, Path folder) {
    return new Order(
        tool,
        source.audio(),
        source.whole() ? source.file() : null,
        kettlesieve.core.comparison.FileNames.stem(source.file()),
        setup,
        folder,
        null);
  }

  /** What this run is called. */
  public String label() {
    String amount = tool.hasAmount() ? " " + words(setup.amount()) : "";
    String target =
        !setup.own()
            ? ""
            : setup.semitones() != 0
                ? " " + StretchTarget.signed(setup.semitones()) + " st"
                : " × " + StretchTarget.figure(setup.ratio());
    return tool.title() + amount + target + (setup.back() ? ", there and back" : "");
  }

  private static String words(double a) {
    return a == Math.rint(a) ? Long.toString(Math.round(a)) : Double.toString(a);
  }

  /** The same on another recording, another way, into another folder. */
  Order then(Audio audio, Path file, Setup next, Path into) {
    return new Order(tool, audio, file, name, next, into, origin);
  }
}
