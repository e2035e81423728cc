package kettlesieve.app.decide;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What another program gets when something that was written is dropped there. */
class WrittenBoxTest {
  @TempDir Path folder;

  @Test
  void aFileGoesItselfAndAFolderAsWhatIsInIt() throws Exception {
    Path report = Files.createFile(folder.resolve("report.html"));
    assertThat(WrittenBox.content(report).getFiles()).containsExactly(report.toFile());
    Path copies = Files.createDirectory(folder.resolve("copies"));
    File first = Files.createFile(copies.resolve("0 source.wav")).toFile();
    File second = Files.createFile(copies.resolve("1 plain.wav")).toFile();
    Files.createFile(copies.resolve(".kettle-x.part"));
    assertThat(WrittenBox.content(copies).getFiles()).containsExactlyInAnyOrder(first, second);
  }
}
