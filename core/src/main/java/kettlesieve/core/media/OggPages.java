package kettlesieve.core.media;

import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Whether all pages of an Ogg file are there and whole (RFC 3533): each has a checksum and a
 * number. A decoder leaves out what is damaged and goes on.
 */
final class OggPages {
  private static final int POLYNOMIAL = 0x04c11db7;
  private static final int[] TABLE = table();
  private static final int LAST = 4;
  private static final int HEADER = 27;

  private OggPages() {}

  private static int[] table() {
    int[] table = new int[256];
    for (int i = 0; i < 256; i++) {
      int r = i << 24;
      for (int bit = 0; bit < 8; bit++) {
        r = r < 0 ? r << 1 ^ POLYNOMIAL : r << 1;
      }
      table[i] = r;
    }
    return table;
  }

  /** The checksum of bytes, going on from what came before them. */
  static int checksum(int before, byte[] bytes, int length) {
    int crc = before;
    for (int i = 0; i < length; i++) {
      crc = crc << 8 ^ TABLE[crc >>> 24 ^ bytes[i] & 0xff];
    }
    return crc;
  }

  /**
   * What is wrong first.
   *
   * @param position the byte of the file where a page is broken or missing
   * @param granule position in samples that the page before it ends at; −1 if there is none
   */
  record Fault(long position, long granule) {}

  /**
   * The first fault of a file.
   *
   * @return empty if there is none, or the file is no Ogg file
   * @throws IOException if it cannot be read
   */
  static Optional<Fault> first(Path file) throws IOException {
    try (InputStream raw = Files.newInputStream(file);
        DataInputStream in = new DataInputStream(new BufferedInputStream(raw, 1 << 16))) {
      return first(in);
    }
  }

  private static Optional<Fault> first(DataInputStream in) throws IOException {
    byte[] head = new byte[HEADER];
    byte[] body = new byte[255 * 255];
    byte[] segments = new byte[255];
    Map<Integer, Integer> numbers = new HashMap<>();
    long position = 0;
    long granule = -1;
    boolean ended = false;
    while (true) {
      int there = in.readNBytes(head, 0, HEADER);
      if (there == 0) {
        return ended ? Optional.empty() : Optional.of(new Fault(position, granule));
      }
      if (there < HEADER
          || !(head[0] == 'O' && head[1] == 'g' && head[2] == 'g' && head[3] == 'S')) {
        boolean ogg = position > 0;
        // What stands behind the last page, such as a tag, is none of ours.
        return ogg && !ended ? Optional.of(new Fault(position, granule)) : Optional.empty();
      }
      int own = little(head, 22, 4);
      for (int i = 22; i < 26; i++) {
        head[i] = 0;
      }
      int count = head[26] & 0xff;
      int length = 0;
      try {
        in.readFully(segments, 0, count);
        for (int i = 0; i < count; i++) {
          length += segments[i] & 0xff;
        }
        in.readFully(body, 0, length);
      } catch (EOFException e) {
        return Optional.of(new Fault(position, granule));
      }
      int crc = checksum(checksum(checksum(0, head, HEADER), segments, count), body, length);
      int stream = little(head, 14, 4);
      int number = little(head, 18, 4);
      Integer before = numbers.put(stream, number);
      if (crc != own || before != null && number != before + 1) {
        return Optional.of(new Fault(position, granule));
      }
      long at = little(head, 6, 4) & 0xffffffffL | (long) little(head, 10, 4) << 32;
      granule = at >= 0 ? at : granule;
      ended = (head[5] & LAST) != 0;
      position += HEADER + count + length;
    }
  }

  private static int little(byte[] bytes, int from, int count) {
    int value = 0;
    for (int i = count - 1; i >= 0; i--) {
      value = value << 8 | bytes[from + i] & 0xff;
    }
    return value;
  }
}
