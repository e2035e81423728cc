package kettlesieve.core.media;

import java.io.IOException;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Properties;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * How much sound one file may decode to: some coders make a thousandth of silence, and a file of a
 * few hundred kilobytes may fill a disk. Kept in a text file of settings, so that who needs more
 * can have it.
 *
 * @param bytes of decoded samples, four each
 * @param settings the file that says so, or would
 */
record DecodedLimit(long bytes, Path settings) {
  private static final Logger LOG = LoggerFactory.getLogger(DecodedLimit.class);
  private static final String KEY = "decoded-gigabytes";
  private static final double USUAL_GIGABYTES = 16;

  /** Once so much was decoded, how far the file got tells what all of it would take. */
  private static final long TELLING_BYTES = 256L << 20;

  /** Files are not coded evenly: what is foretold must be this much over. */
  private static final double FORETOLD = 2;

  /** As {@code settings.properties} in a folder says, or the usual 16 GB. */
  static DecodedLimit in(Path folder) {
    Path file = folder.resolve("settings.properties");
    double gigabytes = USUAL_GIGABYTES;
    if (Files.isRegularFile(file)) {
      Properties values = new Properties();
      try (Reader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
        values.load(in);
        double asked = Double.parseDouble(values.getProperty(KEY, "" + USUAL_GIGABYTES).strip());
        if (asked > 0) {
          gigabytes = asked;
        }
      } catch (IOException | IllegalArgumentException e) {
        LOG.warn("{} cannot be used; {} GB may be decoded of a file", file, USUAL_GIGABYTES, e);
      }
    }
    return new DecodedLimit((long) (gigabytes * 1e9), file);
  }

  /**
   * Refuses what is too large before anything is decoded.
   *
   * @param samples over all channels that the file's header promises
   * @throws MediaException if that is more than may be
   */
  void checkPromised(Path file, long samples) throws MediaException {
    if (4 * samples > bytes) {
      throw tooLarge(file, "it decodes to " + gigabytes(4 * samples));
    }
  }

  /**
   * Refuses what turns out to be too large, as soon as that can be told.
   *
   * @param samples over all channels so far
   * @param share of the file that they came from, 0 to 1; not over 0 where that is not known
   * @throws MediaException if they are, or will be, more than may be
   */
  void checkDecoded(Path file, long samples, double share) throws MediaException {
    long so = 4 * samples;
    if (so > bytes) {
      throw tooLarge(file, "it decodes to more than " + gigabytes(bytes));
    }
    if (so > Math.min(TELLING_BYTES, bytes / 4) && share > 0 && so / share > FORETOLD * bytes) {
      throw tooLarge(file, "it decodes to about " + gigabytes((long) (so / share)));
    }
  }

  private MediaException tooLarge(Path file, String problem) {
    return new MediaException(
        file,
        problem + ", more than the " + gigabytes(bytes) + " that one file may take",
        "Cut it into parts, or raise " + KEY + " in " + settings + ".");
  }

  private static String gigabytes(long bytes) {
    double gigabytes = bytes / 1e9;
    return String.format(Locale.ROOT, gigabytes < 10 ? "%.3f GB" : "%.0f GB", gigabytes);
  }
}
