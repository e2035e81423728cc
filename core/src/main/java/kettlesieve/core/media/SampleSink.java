package kettlesieve.core.media;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.MappedAudio;

/**
 * Takes decoded samples as they come. Up to {@link #IN_MEMORY} samples stay in memory; what is
 * longer goes to a file in the form of {@link MappedAudio}.
 */
final class SampleSink implements AutoCloseable {
  /** Samples (over all channels) that are kept in memory. */
  static final long IN_MEMORY = 1L << 22;

  private final int sampleRate;
  private final int channels;
  private final Path cacheFile;
  private final Path unfinished;
  private float[][] memory;
  private int inMemory;
  private FileChannel out;
  private final ByteBuffer block;
  private int inBlock;
  private long frames;

  /**
   * @param cacheFile where a long recording's samples go
   */
  SampleSink(int sampleRate, int channels, Path cacheFile) {
    this.sampleRate = sampleRate;
    this.channels = channels;
    this.cacheFile = cacheFile;
    this.unfinished =
        cacheFile.resolveSibling(
            cacheFile.getFileName()
                + "."
                + ProcessHandle.current().pid()
                + "."
                + Thread.currentThread().getId()
                + ".part");
    this.memory = new float[channels][1 << 14];
    this.block =
        ByteBuffer.allocateDirect(4 * channels * MappedAudio.BLOCK).order(ByteOrder.LITTLE_ENDIAN);
  }

  long frames() {
    return frames;
  }

  /**
   * Takes a block, one array a channel.
   *
   * @return the position of the first value that is not a finite number, or −1
   */
  long add(float[][] samples) throws IOException {
    int count = samples[0].length;
    for (float[] channel : samples) {
      for (int i = 0; i < count; i++) {
        if (!Float.isFinite(channel[i])) {
          return frames + i;
        }
      }
    }
    frames += count;
    if (out == null && frames * channels > IN_MEMORY) {
      spill();
    }
    if (out != null) {
      write(samples, count);
      return -1;
    }
    if (inMemory + count > memory[0].length) {
      for (int c = 0; c < channels; c++) {
        memory[c] =
            java.util.Arrays.copyOf(memory[c], Math.max(inMemory + count, memory[c].length * 2));
      }
    }
    for (int c = 0; c < channels; c++) {
      System.arraycopy(samples[c], 0, memory[c], inMemory, count);
    }
    inMemory += count;
    return -1;
  }

  /** What was taken, as a recording. */
  Audio finish() throws IOException {
    if (out == null) {
      float[][] exact = new float[channels][];
      for (int c = 0; c < channels; c++) {
        exact[c] = java.util.Arrays.copyOf(memory[c], inMemory);
      }
      return Audio.of(sampleRate, exact);
    }
    if (inBlock > 0) {
      flush();
    }
    out.close();
    Files.move(unfinished, cacheFile, StandardCopyOption.REPLACE_EXISTING);
    return MappedAudio.open(cacheFile, sampleRate, channels, frames);
  }

  private void spill() throws IOException {
    Files.createDirectories(cacheFile.getParent());
    out =
        FileChannel.open(
            unfinished,
            StandardOpenOption.CREATE,
            StandardOpenOption.TRUNCATE_EXISTING,
            StandardOpenOption.WRITE);
    write(memory, inMemory);
    memory = null;
  }

  private void write(float[][] samples, int count) throws IOException {
    for (int done = 0; done < count; ) {
      int part = Math.min(count - done, MappedAudio.BLOCK - inBlock);
      for (int c = 0; c < channels; c++) {
        int at = 4 * (c * MappedAudio.BLOCK + inBlock);
        for (int i = 0; i < part; i++) {
          block.putFloat(at + 4 * i, samples[c][done + i]);
        }
      }
      inBlock += part;
      done += part;
      if (inBlock == MappedAudio.BLOCK) {
        flush();
      }
    }
  }

  private void flush() throws IOException {
    for (int c = 0; c < channels; c++) {
      for (int i = inBlock; i < MappedAudio.BLOCK; i++) {
        block.putFloat(4 * (c * MappedAudio.BLOCK + i), 0);
      }
    }
    block.clear();
    while (block.hasRemaining()) {
      out.write(block);
    }
    inBlock = 0;
  }

  /** Lets go of the file; one that was not finished is deleted. */
  @Override
  public void close() throws IOException {
    if (out != null) {
      out.close();
      Files.deleteIfExists(unfinished);
    }
  }
}
