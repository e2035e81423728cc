package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files that are written anew while somebody looks; time is told by the test. */
class FileWatchTest {
  private static final long LOOK = 400;

  @TempDir Path folder;
  private final FileWatch watch = new FileWatch();
  private Path file;
  private long now;

  /** A render that tells by its samples which one it is. */
  private byte[] render(int number, int frames) throws Exception {
    float[] x = new float[frames];
    Arrays.fill(x, number / 1000f);
    Path made = folder.resolve("made.wav");
    WavWriter.write(Audio.of(16_000, x), made, WavWriter.Format.PCM_24, Progress.SILENT);
    return Files.readAllBytes(made);
  }

  @BeforeEach
  void first() throws Exception {
    file = folder.resolve("render.wav");
    Files.write(file, render(0, 800));
    watch.remember(List.of(file));
  }

  private List<FileWatch.Found> look() {
    now += LOOK;
    return watch.settled(now);
  }

  private int heard() throws Exception {
    Audio audio = new MediaReader(folder.resolve("cache")).read(file, Progress.SILENT).audio();
    float[] x = audio.wholeChannel(0);
    for (float v : x) {
      // A mixture of two renders would show here.
      assertThat(v).isEqualTo(x[0]);
    }
    return Math.round(x[0] * 1000);
  }

  /**
   * Fifty renders written in pieces at random moments, in place or renamed over, with pauses longer
   * than a file has to stand still: each is told once, and none while it is half.
   */
  @Test
  void everyRenderIsTakenOnceAndNoneHalf() throws Exception {
    SplittableRandom random = new SplittableRandom(5);
    List<Integer> taken = new ArrayList<>();
    for (int n = 1; n <= 50; n++) {
      byte[] all = render(n, 800 + random.nextInt(3) * 400);
      boolean over = random.nextBoolean();
      Path into = over ? folder.resolve("next.part") : file;
      Files.write(into, new byte[0]);
      int at = 0;
      while (at < all.length) {
        int piece = Math.min(all.length - at, 1 + random.nextInt(all.length));
        Files.write(into, Arrays.copyOfRange(all, at, at + piece), StandardOpenOption.APPEND);
        at += piece;
        int looks = random.nextInt(5);
        for (int i = 0; i < looks && at < all.length; i++) {
          assertThat(look()).as("half of render %d", n).isEmpty();
        }
      }
      if (over) {
        Files.move(into, file, StandardCopyOption.REPLACE_EXISTING);
      }
      long written = now;
      List<FileWatch.Found> found = List.of();
      while (found.isEmpty()) {
        found = look();
      }
      assertThat(now - written).as("told in time").isLessThanOrEqualTo(2000);
      assertThat(found).containsExactly(new FileWatch.Found(file, FileWatch.Change.REPLACED));
      taken.add(heard());
      for (int i = 0; i < 4; i++) {
        assertThat(look()).as("told again").isEmpty();
      }
    }
    assertThat(taken).hasSize(50).isSorted().doesNotHaveDuplicates().endsWith(50);
  }

  /** Between two files there is none for a moment: that is no loss. */
  @Test
  void aFileThatIsAwayForAMomentIsNotGone() throws Exception {
    Files.delete(file);
    assertThat(look()).isEmpty();
    assertThat(look()).isEmpty();
    Files.write(file, render(3, 800));
    List<FileWatch.Found> found = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      found.addAll(look());
    }
    assertThat(found).containsExactly(new FileWatch.Found(file, FileWatch.Change.REPLACED));
    Files.delete(file);
    found.clear();
    for (int i = 0; i < 6; i++) {
      found.addAll(look());
    }
    assertThat(found).containsExactly(new FileWatch.Found(file, FileWatch.Change.GONE));
  }

  /** What was cut off for good is told after a while: reading it says what is wrong. */
  @Test
  void aFileThatStaysHalfIsToldInTheEnd() throws Exception {
    byte[] all = render(9, 2000);
    Files.write(file, Arrays.copyOf(all, all.length / 2));
    long begun = now;
    List<FileWatch.Found> found = List.of();
    while (found.isEmpty()) {
      found = look();
    }
    assertThat(now - begun).isBetween(FileWatch.CUT_OFF, FileWatch.CUT_OFF + 3 * LOOK);
  }

  /** The same size at the same time, but another file: renamed over by a careful program. */
  @Test
  void anotherFileOfTheSameSizeAndTimeIsAnother() throws Exception {
    Path next = folder.resolve("next.wav");
    Files.write(next, render(4, 800));
    Files.setLastModifiedTime(next, Files.getLastModifiedTime(file));
    Files.move(next, file, StandardCopyOption.REPLACE_EXISTING);
    List<FileWatch.Found> found = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      found.addAll(look());
    }
    assertThat(found).hasSize(1);
  }
}
