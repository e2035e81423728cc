package kettlesieve.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A checksum that is remembered must never be that of other bytes. */
class FingerprintsTest {
  private static final String SUM = "0123456789abcdef".repeat(4);

  @TempDir Path folder;

  @Test
  void aFileThatWasSeenIsKnownAgainAlsoAtTheNextStart() throws Exception {
    Path file = Files.writeString(folder.resolve("with\tspace and ä.wav"), "abc");
    Path kept = folder.resolve("state/fingerprints");
    Fingerprints first = new Fingerprints(kept);
    assertThat(first.of(file)).isEmpty();
    first.note(file, SUM);
    assertThat(first.of(file)).contains(SUM);
    first.keep();
    assertThat(new Fingerprints(kept).of(file)).contains(SUM);
  }

  @Test
  void aChangedFileIsNotKnown() throws Exception {
    Path file = Files.writeString(folder.resolve("a.wav"), "abc");
    Fingerprints known = new Fingerprints(null);
    known.note(file, SUM);
    FileTime then = Files.getLastModifiedTime(file);
    Files.writeString(file, "abcd");
    Files.setLastModifiedTime(file, then);
    assertThat(known.of(file)).as("longer").isEmpty();
    Files.writeString(file, "abc");
    Files.setLastModifiedTime(file, FileTime.fromMillis(then.toMillis() + 1000));
    assertThat(known.of(file)).as("later").isEmpty();
  }

  @Test
  void aMissingFileHasNoneAndABrokenListIsNoHarm() throws Exception {
    Path kept = Files.writeString(folder.resolve("fingerprints"), "no sum here\n\tx\n");
    Fingerprints known = new Fingerprints(kept);
    Path gone = folder.resolve("gone.wav");
    known.note(gone, SUM);
    assertThat(known.of(gone)).isEmpty();
    known.keep();
    assertThat(kept).exists();
  }
}
