package kettlesieve.calibrate.corpus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import kettlesieve.calibrate.CalibrationException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Packages that lie unpacked already, and what is said of those that cannot be had. */
class PackagesTest {
  @TempDir Path folder;

  @Test
  void filesComeInTheOrderOfTheirNamesAndOnlyThoseWanted() throws Exception {
    Path sounds = Files.createDirectories(folder.resolve("bells/usr/sounds"));
    for (String name : new String[] {"c.wav", "a.wav", "b.txt", "b.wav"}) {
      Files.writeString(sounds.resolve(name), name);
    }
    assertThat(new Packages(folder).files("bells", "usr/sounds/.*\\.wav"))
        .extracting(f -> f.getFileName().toString())
        .containsExactly("a.wav", "b.wav", "c.wav");
  }

  @Test
  void whatAPackageLacksIsSaidWithItsName() throws Exception {
    Files.createDirectories(folder.resolve("bells"));
    Packages packages = new Packages(folder);
    assertThatThrownBy(() -> packages.files("bells", ".*\\.ogg"))
        .isInstanceOf(CalibrationException.class)
        .hasMessageContaining("bells")
        .hasMessageContaining("ogg");
    assertThatThrownBy(() -> packages.file("bells", "usr/tower.wav"))
        .hasMessageContaining("bells does not hold usr/tower.wav");
  }

  @Test
  void aFileWithinAnArchiveIsTakenOutOnce() throws Exception {
    Files.createDirectories(folder.resolve("bells"));
    Path zip = folder.resolve("bells/all.zip");
    try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
      out.putNextEntry(new ZipEntry("deep/ring.wav"));
      out.write(new byte[] {1, 2, 3});
    }
    Packages packages = new Packages(folder);
    Path taken = packages.file("bells", "all.zip!deep/ring.wav");
    assertThat(taken).hasBinaryContent(new byte[] {1, 2, 3});
    assertThatThrownBy(() -> packages.file("bells", "all.zip!deep/other.wav"))
        .hasMessageContaining("does not hold deep/other.wav");
    Files.delete(zip);
    Files.createFile(zip);
    assertThat(packages.file("bells", "all.zip!deep/ring.wav")).isEqualTo(taken);
  }

  @Test
  void aPackageThatIsNoneLeavesNothingHalfUnpacked() throws Exception {
    Files.writeString(folder.resolve("bells_1.0_all.deb"), "no archive");
    assertThatThrownBy(() -> new Packages(folder).of("bells"))
        .isInstanceOf(CalibrationException.class)
        .hasMessageContaining("dpkg-deb");
    assertThat(folder.resolve("bells")).doesNotExist();
  }
}
