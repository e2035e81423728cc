package kettlesieve.core.media;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 (FIPS 180-4) of files and texts. */
public final class Checksum {
  private Checksum() {}

  /** The checksum of a file's bytes, lower-case hexadecimal. */
  public static String sha256(Path file) throws IOException {
    MessageDigest digest = digest();
    try (InputStream in = Files.newInputStream(file)) {
      byte[] block = new byte[1 << 20];
      for (int n = in.read(block); n >= 0; n = in.read(block)) {
        digest.update(block, 0, n);
      }
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  /** The checksum of a text in UTF-8, lower-case hexadecimal. */
  public static String ofText(String text) {
    return HexFormat.of().formatHex(digest().digest(text.getBytes(StandardCharsets.UTF_8)));
  }

  private static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
