package kettlesieve.core.media;

import static org.bytedeco.ffmpeg.global.avutil.av_free;
import static org.bytedeco.ffmpeg.global.avutil.av_sha_alloc;
import static org.bytedeco.ffmpeg.global.avutil.av_sha_final;
import static org.bytedeco.ffmpeg.global.avutil.av_sha_init;
import static org.bytedeco.ffmpeg.global.avutil.av_sha_update;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.zip.CRC32C;
import kettlesieve.core.task.Stop;
import org.bytedeco.ffmpeg.avutil.AVSHA;

/** SHA-256 (FIPS 180-4) of files and texts. */
public final class Checksum {
  private static final int BYTES = 32;

  private Checksum() {}

  /**
   * The checksum of a file's bytes, lower-case hexadecimal. By FFmpeg, which is at hand for the
   * sound in it anyway: Java's own takes twice as long where only its first compiler works.
   */
  public static String sha256(Path file) throws IOException {
    AVSHA sum = av_sha_alloc();
    if (sum == null || sum.isNull()) {
      throw new IOException("no memory is left for the checksum of " + file);
    }
    try (SeekableByteChannel in = Files.newByteChannel(file)) {
      av_sha_init(sum, 8 * BYTES);
      ByteBuffer block = ByteBuffer.allocateDirect(1 << 20);
      while (in.read(block) >= 0) {
        Stop.checkHere();
        block.flip();
        av_sha_update(sum, block, block.remaining());
        block.clear();
      }
      byte[] digest = new byte[BYTES];
      av_sha_final(sum, digest);
      return HexFormat.of().formatHex(digest);
    } finally {
      av_free(sum);
    }
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
        Stop.checkHere();
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
