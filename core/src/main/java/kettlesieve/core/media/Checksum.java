package kettlesieve.core.media;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.zip.CRC32C;

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
    return ofBytes(text.getBytes(StandardCharsets.UTF_8));
  }

  /** The checksum of bytes, lower-case hexadecimal. */
  public static String ofBytes(byte[] bytes) {
    return HexFormat.of().formatHex(digest().digest(bytes));
  }

  /** CRC-32C (RFC 3720) of a file's bytes: fast enough for hours of decoded sound. */
  static long crc32c(Path file) throws IOException {
    CRC32C crc = new CRC32C();
    ByteBuffer block = ByteBuffer.allocateDirect(1 << 20);
    try (FileChannel in = FileChannel.open(file, StandardOpenOption.READ)) {
      while (in.read(block) >= 0) {
        crc.update(block.flip());
        block.clear();
      }
    }
    return crc.getValue();
  }

  private static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
