package kettlesieve.core.media;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.OptionalLong;

/**
 * The bytes of sound that the header of a WAV or AIFF file promises, read from the header itself:
 * decoders trim a promise to what is there. RIFF (IBM &amp; Microsoft 1991), RF64 (EBU Tech 3306),
 * AIFF 1.3 (Apple 1989).
 */
final class PromisedLength {
  /** Programs that write to a pipe leave the largest size, or one close to it, or none. */
  private static final long UNKNOWN = 0xffff0000L;

  private static final int MOST_CHUNKS = 10_000;

  private PromisedLength() {}

  /**
   * How many bytes of sound are missing at the end of a file.
   *
   * @return empty if the file is of another kind or its header promises nothing
   * @throws IOException if it cannot be read
   */
  static OptionalLong missing(Path file) throws IOException {
    try (RandomAccessFile in = new RandomAccessFile(file.toFile(), "r")) {
      if (in.length() < 12) {
        return OptionalLong.empty();
      }
      String kind = letters(in);
      in.skipBytes(4);
      String form = letters(in);
      boolean wave = (kind.equals("RIFF") || kind.equals("RF64")) && form.equals("WAVE");
      boolean aiff = kind.equals("FORM") && form.startsWith("AIF");
      return wave || aiff ? missing(in, wave) : OptionalLong.empty();
    }
  }

  private static OptionalLong missing(RandomAccessFile in, boolean wave) throws IOException {
    long large = -1;
    for (int i = 0; i < MOST_CHUNKS && in.getFilePointer() + 8 <= in.length(); i++) {
      String name = letters(in);
      long bytes = size(in, wave);
      long start = in.getFilePointer();
      if (name.equals("ds64") && bytes >= 16 && start + 16 <= in.length()) {
        in.skipBytes(8);
        large = Long.reverseBytes(in.readLong());
      }
      if (name.equals(wave ? "data" : "SSND")) {
        long promised = bytes == 0xffffffffL && large >= 0 ? large : bytes;
        boolean known = promised > 0 && (promised < UNKNOWN || promised == large);
        long there = in.length() - start;
        return known ? OptionalLong.of(Math.max(0, promised - there)) : OptionalLong.empty();
      }
      long next = start + bytes + bytes % 2;
      if (next > in.length()) {
        return OptionalLong.empty();
      }
      in.seek(next);
    }
    return OptionalLong.empty();
  }

  private static String letters(RandomAccessFile in) throws IOException {
    byte[] four = new byte[4];
    in.readFully(four);
    return new String(four, StandardCharsets.US_ASCII);
  }

  private static long size(RandomAccessFile in, boolean littleEndian) throws IOException {
    int read = in.readInt();
    return (littleEndian ? Integer.reverseBytes(read) : read) & 0xffffffffL;
  }
}
