package kettlesieve.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProfileFileTest {
  @TempDir Path folder;

  @Test
  void aHouseSpecificationGoesFromDeskToDesk() throws Exception {
    Profile house =
        new Profile(
            "harbour-house",
            "Harbour museum, guides",
            "Words first.",
            Map.of("missed", 1.0, "added", 0.5, "lost", 2.0),
            Map.of("missed", 5.0),
            List.of(new Requirement("pause-noise", "dBFS", "<=", -60.5)));
    Path file = folder.resolve("house.json");
    ProfileFile.write(house, file);
    assertThat(ProfileFile.read(file)).isEqualTo(house);
    assertThat(Files.readString(file)).contains("\"schema\" : \"kettle-sieve/profile/1\"");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"name\":\"x\"}|is no delivery profile",
        "[1,2]|is no delivery profile",
        "{\"schema\":\"kettle-sieve/profile/1\",\"name\":\"X Y\"}|letters, digits and hyphens",
        "{\"schema\":\"kettle-sieve/profile/1\",\"name\":\"x\",\"weights\":{\"lost\":-1}}|0 to 100",
        "{\"schema\":\"kettle-sieve/profile/1\",\"name\":5.5,\"weights\":7}|does not belong there",
        "{broken|is damaged in line 1"
      })
  void whatIsNoneIsRefusedInWords(String text, String words) throws Exception {
    Path file = folder.resolve("odd.json");
    Files.writeString(file, text);
    assertThatThrownBy(() -> ProfileFile.read(file))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("odd.json")
        .hasMessageContaining(words);
  }

  @Test
  void whatIsNotThereIsSaid() {
    assertThatThrownBy(() -> ProfileFile.read(folder.resolve("gone.json")))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("gone.json");
  }
}
