package kettlesieve.core.media;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Progress;

/**
 * Writes WAV files: RIFF/WAVE with 24-bit integer or 32-bit float samples, as RF64 (EBU Tech 3306)
 * where the file gets larger than 4 GiB. A file appears under its name only when it is complete.
 */
public final class WavWriter {
  /** How samples are stored. */
  public enum Format {
    /** 24-bit integer; values outside ±1 are clipped. */
    PCM_24(3, 1),
    /** 32-bit float. */
    FLOAT(4, 3);

    private final int bytes;
    private final int tag;

    Format(int bytes, int tag) {
      this.bytes = bytes;
      this.tag = tag;
    }
  }

  /**
   * A named place.
   *
   * @param frame of the recording
   * @param label for people
   */
  public record Cue(long frame, String label) {}

  private static final int BLOCK = 4096;

  private WavWriter() {}

  /**
   * Writes a whole recording.
   *
   * @throws IOException if the file cannot be written, for instance because the disk is full; what
   *     stood under that name before is then still there
   */
  public static void write(Audio audio, Path file, Format format, Progress progress)
      throws IOException {
    write(audio, List.of(), file, format, progress);
  }

  /**
   * The same with named places, as {@code cue } and {@code LIST/adtl/labl} chunks behind the
   * samples (Multimedia Programming Interface and Data Specifications 1.0, 1991); labels are UTF-8.
   */
  public static void write(Audio audio, List<Cue> cues, Path file, Format format, Progress progress)
      throws IOException {
    WholeFile.write(file, out -> write(audio, cues(cues), file, format, progress, out));
  }

  private static void write(
      Audio audio, byte[] cues, Path file, Format format, Progress progress, OutputStream out)
      throws IOException {
    long dataBytes = audio.frames() * audio.channels() * format.bytes;
    out.write(header(audio, format, dataBytes, cues.length));
    float[][] block = new float[audio.channels()][BLOCK];
    ByteBuffer bytes =
        ByteBuffer.allocate(BLOCK * audio.channels() * format.bytes).order(ByteOrder.LITTLE_ENDIAN);
    for (long from = 0; from < audio.frames(); from += BLOCK) {
      int count = (int) Math.min(BLOCK, audio.frames() - from);
      for (int c = 0; c < block.length; c++) {
        audio.read(c, from, block[c], 0, count);
      }
      bytes.clear();
      for (int i = 0; i < count; i++) {
        for (float[] channel : block) {
          put(bytes, channel[i], format);
        }
      }
      out.write(bytes.array(), 0, bytes.position());
      progress.at("writing " + file.getFileName(), (double) from / audio.frames());
    }
    if (dataBytes % 2 == 1) {
      out.write(0);
    }
    out.write(cues);
  }

  private static byte[] cues(List<Cue> cues) {
    if (cues.isEmpty()) {
      return new byte[0];
    }
    List<byte[]> labels = new ArrayList<>();
    int listBytes = 4;
    for (Cue cue : cues) {
      byte[] text = cue.label().getBytes(StandardCharsets.UTF_8);
      labels.add(text);
      listBytes += 8 + even(4 + text.length + 1);
    }
    int cueBytes = 4 + 24 * cues.size();
    ByteBuffer to = ByteBuffer.allocate(16 + cueBytes + listBytes).order(ByteOrder.LITTLE_ENDIAN);
    text(to, "cue ");
    to.putInt(cueBytes).putInt(cues.size());
    for (int i = 0; i < cues.size(); i++) {
      int frame = (int) cues.get(i).frame();
      to.putInt(i + 1).putInt(frame);
      text(to, "data");
      to.putInt(0).putInt(0).putInt(frame);
    }
    text(to, "LIST");
    to.putInt(listBytes);
    text(to, "adtl");
    for (int i = 0; i < cues.size(); i++) {
      int bytes = 4 + labels.get(i).length + 1;
      text(to, "labl");
      to.putInt(bytes).putInt(i + 1).put(labels.get(i)).put((byte) 0);
      if (bytes % 2 == 1) {
        to.put((byte) 0);
      }
    }
    return to.array();
  }

  private static int even(int bytes) {
    return bytes + bytes % 2;
  }

  private static void put(ByteBuffer bytes, float sample, Format format) {
    if (format == Format.FLOAT) {
      bytes.putFloat(sample);
      return;
    }
    int value = (int) Math.max(-8388608, Math.min(8388607, Math.rint(sample * 8388608.0)));
    bytes.put((byte) value).put((byte) (value >> 8)).put((byte) (value >> 16));
  }

  private static byte[] header(Audio audio, Format format, long dataBytes, int behind) {
    boolean large = dataBytes > 0xffff_0000L;
    ByteBuffer head = ByteBuffer.allocate(large ? 80 : 44).order(ByteOrder.LITTLE_ENDIAN);
    text(head, large ? "RF64" : "RIFF");
    long riffBytes = dataBytes + dataBytes % 2 + head.capacity() - 8 + behind;
    head.putInt(large ? -1 : (int) riffBytes);
    text(head, "WAVE");
    if (large) {
      text(head, "ds64");
      head.putInt(28).putLong(riffBytes).putLong(dataBytes).putLong(audio.frames()).putInt(0);
    }
    int frameBytes = audio.channels() * format.bytes;
    text(head, "fmt ");
    head.putInt(16)
        .putShort((short) format.tag)
        .putShort((short) audio.channels())
        .putInt(audio.sampleRate())
        .putInt(audio.sampleRate() * frameBytes)
        .putShort((short) frameBytes)
        .putShort((short) (format.bytes * 8));
    text(head, "data");
    head.putInt(large ? -1 : (int) dataBytes);
    return head.array();
  }

  private static void text(ByteBuffer to, String fourLetters) {
    to.put(fourLetters.getBytes(StandardCharsets.US_ASCII));
  }
}
