package kettlesieve.core.work;

import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.UUID;
import java.util.stream.Stream;
import kettlesieve.core.media.Checksum;

/**
 * The program's own code, as a checksum: results that another build has made are made again.
 * Nothing has to be counted up by hand, so nothing can be forgotten.
 */
public final class CodeVersion {
  /** That of the core that runs. */
  public static final String OWN = own();

  private CodeVersion() {}

  private static String own() {
    try {
      Path code =
          Path.of(CodeVersion.class.getProtectionDomain().getCodeSource().getLocation().toURI());
      if (Files.isRegularFile(code)) {
        return Checksum.sha256(code);
      }
      try (Stream<Path> all = Files.walk(code)) {
        StringBuilder sums = new StringBuilder();
        for (Path file : all.filter(Files::isRegularFile).sorted().toList()) {
          sums.append(code.relativize(file)).append(Checksum.sha256(file));
        }
        return Checksum.ofText(sums.toString());
      }
    } catch (IOException | URISyntaxException e) {
      // Unknown code: what it makes is used by this run alone.
      return UUID.randomUUID().toString();
    }
  }
}
