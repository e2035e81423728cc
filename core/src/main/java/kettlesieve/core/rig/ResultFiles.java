package kettlesieve.core.rig;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Names for what runs make. */
final class ResultFiles {
  private ResultFiles() {}

  /** A file name that nothing has yet; it is taken at once, so that two runs never share one. */
  static synchronized Path free(Order order, String role) throws IOException {
    String name = order.name() + "-" + order.tool().fileWord();
    if (order.tool().hasAmount()) {
      double a = order.setup().amount();
      name += "-" + (a == Math.rint(a) ? Long.toString(Math.round(a)) : Double.toString(a));
    }
    if (!role.isEmpty()) {
      name += "-" + role.replaceAll("[^\\p{L}\\p{N}]+", "-");
    }
    Path file = order.folder().resolve(name + ".wav");
    for (int n = 2; Files.exists(file); n++) {
      file = order.folder().resolve(name + "-" + n + ".wav");
    }
    return Files.createFile(file);
  }
}
