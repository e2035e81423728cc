package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.SplittableRandom;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class CacheFolderTest {
  @TempDir Path folder;

  private void file(String name, int bytes, long used) throws Exception {
    Path file = Files.write(folder.resolve(name), new byte[bytes]);
    assertThat(file.toFile().setLastModified(used)).isTrue();
  }

  @Test
  void whatWasNotUsedForLongestGoesFirst() throws Exception {
    file("a.result", 100, 3000);
    file("b.result", 100, 1000);
    file("c.result", 100, 2000);
    file("other.txt", 1000, 500);
    CacheFolder.prune(folder, ".result", 250);
    assertThat(folder.resolve("b.result")).doesNotExist();
    assertThat(folder.resolve("a.result")).exists();
    assertThat(folder.resolve("c.result")).exists();
    assertThat(folder.resolve("other.txt")).exists();
  }

  /** Two windows, or a window and the command line, share the folder. */
  @Test
  void othersMayTouchAndRemoveFilesMeanwhile() throws Exception {
    for (int i = 0; i < 400; i++) {
      file(i + ".result", 10, 1000L * i);
    }
    AtomicBoolean over = new AtomicBoolean();
    ExecutorService other = Executors.newSingleThreadExecutor();
    Future<?> touching =
        other.submit(
            () -> {
              SplittableRandom random = new SplittableRandom(3);
              while (!over.get()) {
                folder
                    .resolve(random.nextInt(400) + ".result")
                    .toFile()
                    .setLastModified(1000L * random.nextInt(1_000_000));
              }
            });
    try {
      for (int i = 0; i < 100; i++) {
        int most = 4000 - 10 * i;
        assertThatCode(() -> CacheFolder.prune(folder, ".result", most)).doesNotThrowAnyException();
      }
    } finally {
      over.set(true);
      touching.get();
      other.shutdown();
    }
    try (var left = Files.list(folder)) {
      assertThat(left.count()).isEqualTo(301);
    }
  }
}
