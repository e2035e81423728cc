package kettlesieve.core.media;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Arrays;
import java.util.zip.CRC32C;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.MappedAudio;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Takes decoded samples as they come. A few stay in memory; what is longer goes to a file in the
 * form of {@link MappedAudio}, so that many recordings need no heap.
 */
final class SampleSink implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(SampleSink.class);

  /** Samples (over all channels) that are kept in memory. */
  static final long IN_MEMORY = 1L << 16;

  /** Samples that may be kept in memory where no file can be written. */
  static final long AT_MOST_IN_MEMORY = 1L << 22;

  private final int sampleRate;
  private final int channels;
  private final Path cacheFile;
  private final long inMemoryAtMost;
  private final CRC32C sum = new CRC32C();
  private Unfinished.Part part;
  private float[][] memory;
  private int inMemory;
  private final ByteBuffer block;
  private int inBlock;
  private long frames;

  /**
   * @param cacheFile where a long recording's samples go
   * @param inMemoryAtMost samples after which they do
   */
  SampleSink(int sampleRate, int channels, Path cacheFile, long inMemoryAtMost) {
    this.sampleRate = sampleRate;
    this.channels = channels;
    this.cacheFile = cacheFile;
    this.inMemoryAtMost = inMemoryAtMost;
    this.memory = new float[channels][1 << 12];
    this.block =
        ByteBuffer.allocateDirect(4 * channels * MappedAudio.BLOCK).order(ByteOrder.LITTLE_ENDIAN);
  }

  /** CRC-32C of the file that was written. */
  long sum() {
    return sum.getValue();
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
    if (part == null && frames * channels > inMemoryAtMost) {
      spill();
    }
    if (part != null) {
      write(samples, count);
      return -1;
    }
    if (inMemory + count > memory[0].length) {
      for (int c = 0; c < channels; c++) {
        memory[c] = Arrays.copyOf(memory[c], Math.max(inMemory + count, memory[c].length * 2));
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
    if (part == null) {
      float[][] exact = new float[channels][];
      for (int c = 0; c < channels; c++) {
        exact[c] = Arrays.copyOf(memory[c], inMemory);
      }
      return Audio.of(sampleRate, exact);
    }
    if (inBlock > 0) {
      flush();
    }
    Path written = part.file();
    try {
      Files.move(written, cacheFile, StandardCopyOption.REPLACE_EXISTING);
      written = cacheFile;
    } catch (IOException e) {
      // Something that cannot be replaced has its name: the sound is used as it lies, and gone
      // when the program ends.
      LOG.warn("decoded samples could not be kept as {}", cacheFile, e);
    }
    return MappedAudio.open(written, sampleRate, channels, frames);
  }

  private void spill() throws IOException {
    Files.createDirectories(cacheFile.getParent());
    Unfinished.sweepOnce(cacheFile.getParent());
    part = Unfinished.file(cacheFile.getParent());
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
    sum.update(block);
    block.clear();
    while (block.hasRemaining()) {
      part.out().write(block);
    }
    inBlock = 0;
  }

  /** Lets go of the file; one that was not finished is deleted. */
  @Override
  public void close() {
    if (part != null) {
      Unfinished.done(part.file());
    }
  }
}
