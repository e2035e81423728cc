package kettlesieve.core.comparison;

import java.io.Serial;
import java.nio.file.Path;

/** A comparison file that another program changed since it was read. Nothing was written. */
public final class ChangedElsewhereException extends ComparisonFileException {
  @Serial private static final long serialVersionUID = 1;

  ChangedElsewhereException(Path file) {
    super(
        file,
        "another program has changed it since it was opened. Save under another name, or open it"
            + " again to see what it holds now; it was not touched.");
  }
}
