package kettlesieve.core.media;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;

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
    WholeFile.write(file, out -> write(audio, file, format, progress, out));
  }

  private static void write(
      Audio audio, Path file, Format format, Progress progress, OutputStream out)
      throws IOException {
    long dataBytes = audio.frames() * audio.channels() * format.bytes;
    out.write(header(audio, format, dataBytes));
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
  }

  private static void put(ByteBuffer bytes, float sample, Format format) {
    if (format == Format.FLOAT) {
      bytes.putFloat(sample);
      return;
    }
    int value = (int) Math.max(-8388608, Math.min(8388607, Math.rint(sample * 8388608.0)));
    bytes.put((byte) value).put((byte) (value >> 8)).put((byte) (value >> 16));
  }

  private static byte[] header(Audio audio, Format format, long dataBytes) {
    boolean large = dataBytes > 0xffff_0000L;
    ByteBuffer head = ByteBuffer.allocate(large ? 80 : 44).order(ByteOrder.LITTLE_ENDIAN);
    text(head, large ? "RF64" : "RIFF");
    long riffBytes = dataBytes + dataBytes % 2 + head.capacity() - 8;
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
