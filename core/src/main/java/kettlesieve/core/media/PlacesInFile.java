package kettlesieve.core.media;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What a file says of times: when its first sample was, and named places. Read from the chunks
 * {@code bext} (EBU Tech 3285, time reference in samples since midnight), {@code cue } and {@code
 * labl} (Multimedia Programming Interface and Data Specifications 1.0, 1991) of a WAV file, RF64
 * and BW64 included.
 *
 * @param startSamples samples since midnight at the file's rate; null where the file says nothing
 * @param markers named places, the first first
 */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public record PlacesInFile(Long startSamples, List<Marker> markers) {
  /** A file that says nothing of times. */
  public static final PlacesInFile NONE = new PlacesInFile(null, List.of());

  /**
   * A named place.
   *
   * @param frame sample frames from the start
   * @param name for people; may be empty
   */
  public record Marker(long frame, String name) {}

  private static final int MOST_CHUNKS = 10_000;
  private static final int MOST_MARKERS = 1000;
  private static final long MOST_BYTES = 4L << 20;
  private static final int TIME_REFERENCE_AT = 256 + 32 + 32 + 10 + 8;

  public PlacesInFile {
    markers = markers == null ? List.of() : List.copyOf(markers);
  }

  /**
   * Reads them. A chunk that is cut off or makes no sense is passed over: the sound is what counts.
   *
   * @throws IOException if the file cannot be read
   */
  static PlacesInFile of(Path file) throws IOException {
    try (RandomAccessFile in = new RandomAccessFile(file.toFile(), "r")) {
      if (in.length() < 12) {
        return NONE;
      }
      String kind = letters(in);
      in.skipBytes(4);
      String form = letters(in);
      boolean wave = List.of("RIFF", "RF64", "BW64").contains(kind) && form.equals("WAVE");
      return wave ? read(in) : NONE;
    }
  }

  private static PlacesInFile read(RandomAccessFile in) throws IOException {
    Long start = null;
    Map<Integer, Long> cues = new TreeMap<>();
    Map<Integer, String> names = new TreeMap<>();
    long large = -1;
    for (int i = 0; i < MOST_CHUNKS && in.getFilePointer() + 8 <= in.length(); i++) {
      String name = letters(in);
      long bytes = Integer.reverseBytes(in.readInt()) & 0xffffffffL;
      long at = in.getFilePointer();
      boolean whole = at + bytes <= in.length() && bytes <= MOST_BYTES;
      switch (name) {
        case "ds64" -> large = whole && bytes >= 16 ? chunk(in, 16).getLong(8) : -1;
        case "data" -> bytes = bytes == 0xffffffffL && large >= 0 ? large : bytes;
        case "bext" -> {
          if (whole && bytes >= TIME_REFERENCE_AT + 8) {
            long samples = chunk(in, (int) bytes).getLong(TIME_REFERENCE_AT);
            start = samples >= 0 ? samples : start;
          }
        }
        case "cue " -> {
          if (whole && bytes >= 4) {
            cues(chunk(in, (int) bytes), cues);
          }
        }
        case "LIST" -> {
          if (whole && bytes >= 4) {
            names(chunk(in, (int) bytes), names);
          }
        }
        default -> {
          // Nothing of times.
        }
      }
      long next = at + bytes + bytes % 2;
      if (next > in.length()) {
        break;
      }
      in.seek(next);
    }
    List<Marker> markers =
        cues.entrySet().stream()
            .map(e -> new Marker(e.getValue(), names.getOrDefault(e.getKey(), "")))
            .sorted(Comparator.comparingLong(Marker::frame))
            .toList();
    return start == null && markers.isEmpty() ? NONE : new PlacesInFile(start, markers);
  }

  private static void cues(ByteBuffer chunk, Map<Integer, Long> cues) {
    int count = chunk.getInt(0);
    for (int i = 0; i < count && i < MOST_MARKERS && 4 + 24 * (i + 1) <= chunk.capacity(); i++) {
      int at = 4 + 24 * i;
      // The last field counts within the data chunk; the second is the place in a play list.
      cues.put(chunk.getInt(at), chunk.getInt(at + 20) & 0xffffffffL);
    }
  }

  private static void names(ByteBuffer chunk, Map<Integer, String> names) {
    byte[] all = chunk.array();
    if (!new String(all, 0, 4, StandardCharsets.US_ASCII).equals("adtl")) {
      return;
    }
    int at = 4;
    while (at + 12 <= all.length) {
      String kind = new String(all, at, 4, StandardCharsets.US_ASCII);
      int bytes = chunk.getInt(at + 4);
      if (bytes < 4 || at + 8L + bytes > all.length) {
        return;
      }
      if (kind.equals("labl")) {
        names.put(chunk.getInt(at + 8), words(all, at + 12, bytes - 4));
      }
      at += 8 + bytes + bytes % 2;
    }
  }

  /** Up to the closing zero; as UTF-8, and where it is none, byte by byte. */
  private static String words(byte[] all, int from, int bytes) {
    int length = 0;
    while (length < bytes && all[from + length] != 0) {
      length++;
    }
    String utf = new String(all, from, length, StandardCharsets.UTF_8);
    return (utf.contains("\ufffd")
            ? new String(all, from, length, StandardCharsets.ISO_8859_1)
            : utf)
        .strip();
  }

  private static ByteBuffer chunk(RandomAccessFile in, int bytes) throws IOException {
    byte[] all = new byte[bytes];
    in.readFully(all);
    return ByteBuffer.wrap(all).order(ByteOrder.LITTLE_ENDIAN);
  }

  private static String letters(RandomAccessFile in) throws IOException {
    byte[] four = new byte[4];
    in.readFully(four);
    return new String(four, StandardCharsets.US_ASCII);
  }
}
