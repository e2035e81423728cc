package kettlesieve.core.rig;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.media.WholeFile;

/** Names for what runs make. */
final class ResultFiles {
  private ResultFiles() {}

  /**
   * Gives a finished file a name that nothing has yet, in the order's folder; two runs never get
   * the same one.
   *
   * @param finished on the same disk; gone afterwards
   * @return where it lies now
   */
  static Path place(Path finished, Order order, String role) throws IOException {
    String name = order.name() + "-" + order.tool().fileWord();
    if (order.tool().hasAmount()) {
      double a = order.setup().amount();
      name += "-" + (a == Math.rint(a) ? Long.toString(Math.round(a)) : Double.toString(a));
    }
    if (order.setup().own()) {
      name +=
          order.setup().semitones() != 0
              ? StretchTarget.signed(order.setup().semitones()) + "st"
              : "-x" + StretchTarget.figure(order.setup().ratio());
    }
    if (!role.isEmpty()) {
      name += "-" + role.replaceAll("[^\\p{L}\\p{N}]+", "-");
    }
    Path file = order.folder().resolve(name + ".wav");
    for (int n = 2; ; n++) {
      try {
        if (!Files.exists(file)) {
          WholeFile.place(finished, file);
          return file;
        }
      } catch (FileAlreadyExistsException e) {
        // Another run was faster; the next name is tried.
      }
      file = order.folder().resolve(name + "-" + n + ".wav");
    }
  }
}
