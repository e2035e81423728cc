package kettlesieve.core.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.MappedAudio;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** An hour of stereo lives in a mapped file, not on the heap. */
class LongRecordingTest {
  private static final int RATE = 48_000;
  private static final long HOUR = 3600L * RATE;

  @TempDir Path folder;

  /** A file with holes: it looks an hour long and takes no room but for what is written. */
  private Path sparse(long frames, int channels) throws IOException {
    Path file = folder.resolve("hour.f32");
    long blocks = (frames + MappedAudio.BLOCK - 1) / MappedAudio.BLOCK;
    try (RandomAccessFile out = new RandomAccessFile(file.toFile(), "rw")) {
      out.setLength(blocks * MappedAudio.BLOCK * channels * 4);
    }
    return file;
  }

  private static void put(Path file, int channels, int channel, long frame, float value)
      throws IOException {
    long block = frame / MappedAudio.BLOCK;
    long position =
        4
            * (block * MappedAudio.BLOCK * channels
                + (long) channel * MappedAudio.BLOCK
                + frame % MappedAudio.BLOCK);
    try (RandomAccessFile out = new RandomAccessFile(file.toFile(), "rw")) {
      out.seek(position);
      out.write(ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN).putFloat(value).array());
    }
  }

  @Test
  void everySampleOfAnHourIsReached() throws IOException {
    Path file = sparse(HOUR, 2);
    long[] places = {0, 4095, 4096, 33_554_431, 33_554_432, HOUR - 1};
    for (long place : places) {
      put(file, 2, 1, place, place + 0.5f);
    }
    MappedAudio hour = MappedAudio.open(file, RATE, 2, HOUR);
    assertThat(hour.seconds()).isEqualTo(3600);
    for (long place : places) {
      assertThat(hour.samples(1, place, 1)[0]).isEqualTo(place + 0.5f);
      assertThat(hour.samples(0, place, 1)[0]).isZero();
    }
    float[] across = hour.samples(1, 4090, 12);
    assertThat(across[5]).isEqualTo(4095.5f);
    assertThat(across[6]).isEqualTo(4096.5f);
    assertThat(hour.samples(1, HOUR - 1, 3)).containsExactly(HOUR - 1 + 0.5f, 0, 0);
  }

  /** What is allocated on the way bounds what is held, and no collection is waited for. */
  @Test
  void readingAnHourNeedsAFewMebibytesOfHeap() throws IOException {
    MappedAudio hour = MappedAudio.open(sparse(HOUR, 2), RATE, 2, HOUR);
    Audio view = LinearTimeAudio.map(hour, RATE, HOUR, 1234, 1).times(-0.5);
    float[] block = new float[1 << 16];
    view.read(0, 0, block, 0, block.length);
    long before = allocated();
    int blocks = 0;
    for (long at = 0; at < HOUR; at += 40L * block.length) {
      view.read(0, at, block, 0, block.length);
      view.read(1, at, block, 0, block.length);
      blocks++;
    }
    assertThat(blocks).isGreaterThan(60);
    assertThat(allocated() - before).isLessThan(8L << 20);
  }

  private static long allocated() {
    var threads =
        (com.sun.management.ThreadMXBean) java.lang.management.ManagementFactory.getThreadMXBean();
    return threads.getThreadAllocatedBytes(Thread.currentThread().getId());
  }

  @Test
  void spectraOfAnHourAreWorkedOutWhereTheyAreAskedFor() throws IOException {
    Path file = sparse(HOUR, 1);
    long at = HOUR / 2;
    for (int i = 0; i < 2048; i++) {
      put1(file, at + i, (float) Math.sin(2 * Math.PI * 1000 * i / RATE));
    }
    Spectrogram spectrogram = new Spectrogram(MappedAudio.open(file, RATE, 1, HOUR), 0);
    int frame = (int) (at / spectrogram.framing().hop());
    float[] row = spectrogram.powers(frame);
    double sum = 0;
    for (float p : row) {
      sum += p;
    }
    // A full-scale sine: −3.01 dB.
    assertThat(Db.ofPower(sum)).isCloseTo(-3.01, within(0.05));
    assertThat(spectrogram.powers(0)[43]).isZero();
    assertThat(spectrogram.powers(frame)).isEqualTo(row);
  }

  private static void put1(Path file, long frame, float value) throws IOException {
    put(file, 1, 0, frame, value);
  }

  @Test
  void aFileThatIsTooShortIsRefused() throws IOException {
    Path file = Files.write(folder.resolve("short.f32"), new byte[1000]);
    assertThatThrownBy(() -> MappedAudio.open(file, RATE, 1, 5000))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("shorter");
  }

  @Test
  void tooLongForAnArrayIsSaid() throws IOException {
    MappedAudio hour = MappedAudio.open(sparse(HOUR, 1), RATE, 1, HOUR);
    Audio endless = LinearTimeAudio.map(hour, RATE, 1L << 33, 0, 1);
    assertThatThrownBy(() -> endless.wholeChannel(0)).isInstanceOf(IllegalStateException.class);
  }
}
