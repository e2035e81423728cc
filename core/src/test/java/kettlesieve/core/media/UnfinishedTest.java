package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files that are not finished yet: whole or not there, and swept where a kill left them. */
class UnfinishedTest {
  @TempDir Path folder;

  @Test
  void aFileAppearsWholeOrNotAtAll() throws Exception {
    Path file = Files.writeString(folder.resolve("table.csv"), "old");
    assertThatThrownBy(
            () ->
                WholeFile.write(
                    file,
                    out -> {
                      out.write(new byte[100_000]);
                      throw new IOException("No space left on device");
                    }))
        .hasMessageContaining("No space");
    assertThat(file).hasContent("old");
    WholeFile.write(file, "new");
    assertThat(file).hasContent("new");
    assertThat(Files.list(folder)).containsExactly(file);
  }

  @Test
  void whatIsNoFileIsWrittenToAsItIs() throws Exception {
    WholeFile.write(Path.of("/dev/null"), "gone");
    assertThat(Files.isRegularFile(Path.of("/dev/null"))).isFalse();
  }

  @Test
  void aSecretFileStaysSecret() throws Exception {
    Path file = Files.writeString(folder.resolve("own.csv"), "old");
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    WholeFile.write(file, "new");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
  }

  @Test
  void aNameThatIsTakenIsNotWrittenOver() throws Exception {
    Path made = Files.writeString(folder.resolve("made"), "new");
    Path taken = Files.writeString(folder.resolve("taken"), "old");
    assertThatThrownBy(() -> WholeFile.place(made, taken))
        .isInstanceOf(FileAlreadyExistsException.class);
    assertThat(taken).hasContent("old");
    WholeFile.place(made, folder.resolve("free"));
    assertThat(made).doesNotExist();
    assertThat(folder.resolve("free")).hasContent("new");
  }

  /** What a program that is gone left. */
  private Path left(String name) throws IOException {
    return Files.writeString(folder.resolve(name), "half");
  }

  @Test
  void onlyWhatIsOursOldAndHeldByNobodyIsSwept() throws Exception {
    Path old = left(".kettle-1x.part");
    Path run = Files.createDirectories(folder.resolve(".kettle-2y.run/results")).getParent();
    Files.writeString(run.resolve("lock"), "");
    Files.writeString(run.resolve("results/output.wav"), "half");
    Path theirs = left("x.part");
    Path other = left(".kettle-notes.txt");
    Path precious = Files.writeString(folder.resolve("precious"), "kept");
    Path link = Files.createSymbolicLink(folder.resolve(".kettle-3z.part"), precious);
    Path held = left(".kettle-4w.part");
    Unfinished.sweep(folder, Instant.now().minusSeconds(60));
    assertThat(old).exists();
    try (FileChannel channel = FileChannel.open(held, StandardOpenOption.WRITE)) {
      channel.lock();
      Unfinished.sweep(folder, Instant.now().plusSeconds(1));
    }
    assertThat(old).doesNotExist();
    assertThat(run).doesNotExist();
    for (Path kept : new Path[] {theirs, other, precious, link, held}) {
      assertThat(kept).exists();
    }
  }

  @Test
  void whatIsBeingMadeIsNotSwept() throws Exception {
    Path work = Unfinished.folder(folder);
    Unfinished.Part part = Unfinished.file(folder);
    Unfinished.sweep(folder, Instant.now().plusSeconds(1));
    assertThat(work).exists();
    assertThat(part.file()).exists();
    Unfinished.done(work);
    Unfinished.done(part.file());
    assertThat(Files.list(folder)).isEmpty();
  }

  @Test
  void oneGuardAtATimeAndNoneIsLeft() throws Exception {
    Path file = folder.resolve("a.sieve");
    int[] inside = new int[2];
    Thread[] threads = new Thread[6];
    for (int t = 0; t < threads.length; t++) {
      threads[t] =
          new Thread(
              () -> {
                for (int i = 0; i < 30; i++) {
                  try {
                    FileGuard guard = FileGuard.of(file);
                    inside[1] = Math.max(inside[1], ++inside[0]);
                    inside[0]--;
                    guard.close();
                  } catch (IOException e) {
                    inside[1] = 99;
                  }
                }
              });
      threads[t].start();
    }
    for (Thread thread : threads) {
      thread.join();
    }
    assertThat(inside[1]).isEqualTo(1);
    assertThat(Files.list(folder)).isEmpty();
  }
}
