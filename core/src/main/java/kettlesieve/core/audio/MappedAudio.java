package kettlesieve.core.audio;

import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import kettlesieve.core.task.Stop;

/**
 * Decoded samples in a mapped file, so that an hour of sound needs no heap.
 *
 * <p>The file holds little-endian floats in blocks of {@link #BLOCK} frames; within a block all
 * samples of the first channel stand together, then those of the second, and so on. The last block
 * is padded with zeros.
 */
public final class MappedAudio implements Audio {
  /** Frames in a block of the file. */
  public static final int BLOCK = 4096;

  private static final int BLOCKS_PER_MAP = 8192;

  private final int sampleRate;
  private final int channels;
  private final long frames;
  private final FloatBuffer[] maps;

  private MappedAudio(int sampleRate, int channels, long frames, FloatBuffer[] maps) {
    this.sampleRate = sampleRate;
    this.channels = channels;
    this.frames = frames;
    this.maps = maps;
  }

  /**
   * Maps a file of samples.
   *
   * @param file written as described above
   * @throws IOException if the file cannot be read or is shorter than {@code frames} ask for
   */
  public static MappedAudio open(Path file, int sampleRate, int channels, long frames)
      throws IOException {
    long blocks = (frames + BLOCK - 1) / BLOCK;
    long blockBytes = 4L * BLOCK * channels;
    try (FileChannel in = FileChannel.open(file, StandardOpenOption.READ)) {
      if (in.size() < blocks * blockBytes) {
        throw new IOException("the file of decoded samples is shorter than it should be: " + file);
      }
      FloatBuffer[] maps = new FloatBuffer[(int) ((blocks + BLOCKS_PER_MAP - 1) / BLOCKS_PER_MAP)];
      for (int m = 0; m < maps.length; m++) {
        long first = (long) m * BLOCKS_PER_MAP;
        long count = Math.min(BLOCKS_PER_MAP, blocks - first);
        maps[m] =
            in.map(FileChannel.MapMode.READ_ONLY, first * blockBytes, count * blockBytes)
                .order(ByteOrder.LITTLE_ENDIAN)
                .asFloatBuffer();
      }
      return new MappedAudio(sampleRate, channels, frames, maps);
    }
  }

  @Override
  public int sampleRate() {
    return sampleRate;
  }

  @Override
  public int channels() {
    return channels;
  }

  @Override
  public long frames() {
    return frames;
  }

  @Override
  public void read(int channel, long from, float[] into, int offset, int length) {
    Stop.checkHere();
    Inside inside = Inside.of(from, length, frames);
    inside.clearAround(into, offset, length);
    long at = from + inside.skipped();
    int to = offset + inside.skipped();
    int left = inside.length();
    while (left > 0) {
      long block = at / BLOCK;
      int within = (int) (at % BLOCK);
      int count = Math.min(left, BLOCK - within);
      int position = (int) (block % BLOCKS_PER_MAP) * BLOCK * channels + channel * BLOCK + within;
      // An absolute bulk get leaves the buffer's own position alone: safe from several threads.
      maps[(int) (block / BLOCKS_PER_MAP)].get(position, into, to, count);
      at += count;
      to += count;
      left -= count;
    }
  }
}
