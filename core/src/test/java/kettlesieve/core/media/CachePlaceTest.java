package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class CachePlaceTest {
  @TempDir Path folder;

  @Test
  void aPlaceIsChosenAndGivenBackAndOtherSettingsStay() throws Exception {
    Path state = folder.resolve("state");
    assertThat(CachePlace.chosen(state)).isEmpty();
    Files.createDirectories(state);
    Files.writeString(state.resolve("settings.properties"), "decoded-gigabytes=3\n");
    Path place = folder.resolve("large disk").resolve("kettle");
    CachePlace.choose(state, place);
    assertThat(CachePlace.chosen(state)).contains(place);
    assertThat(place).isDirectory().isEmptyDirectory();
    assertThat(DecodedLimit.in(state).bytes()).isEqualTo(3_000_000_000L);
    CachePlace.choose(state, null);
    assertThat(CachePlace.chosen(state)).isEmpty();
    assertThat(DecodedLimit.in(state).bytes()).isEqualTo(3_000_000_000L);
  }

  @Test
  void aPlaceThatCannotBeWrittenToIsRefusedAtOnce() throws Exception {
    Path file = Files.createFile(folder.resolve("a file"));
    assertThatThrownBy(() -> CachePlace.choose(folder, file.resolve("in it")))
        .isInstanceOf(IOException.class);
    assertThat(CachePlace.chosen(folder)).isEmpty();
  }

  @Test
  void damagedSettingsLeaveTheUsualPlace() throws Exception {
    Files.writeString(folder.resolve("settings.properties"), "cache=\\u00zz\n");
    assertThat(CachePlace.chosen(folder)).isEmpty();
  }
}
