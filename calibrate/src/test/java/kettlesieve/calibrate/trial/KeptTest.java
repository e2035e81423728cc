package kettlesieve.calibrate.trial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import kettlesieve.calibrate.CalibrationException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Trials are judged once, kept one by one, and come in the order of their scenes. */
class KeptTest {
  private static final List<String> SCENES = List.of("rain-1", "rain-2", "wind-1", "wind-2");
  private static final Choice ALL = new Choice(1, "", false);

  @TempDir Path folder;
  private final List<String> judged = Collections.synchronizedList(new ArrayList<>());

  private Kept<String, String> kept() {
    return new Kept<>(
        folder,
        String.class,
        s -> s,
        s -> {
          judged.add(s);
          return "of " + s;
        });
  }

  @Test
  void eachIsJudgedOnceAndComesInOrder() throws Exception {
    List<String> said = new ArrayList<>();
    List<String> first = kept().run(SCENES, ALL, said::add);
    assertThat(first).containsExactly("of rain-1", "of rain-2", "of wind-1", "of wind-2");
    assertThat(judged).containsExactlyInAnyOrderElementsOf(SCENES);
    assertThat(said).endsWith("4 of 4 sources");
    assertThat(kept().run(SCENES, ALL, s -> {})).isEqualTo(first);
    assertThat(judged).hasSize(4);
  }

  @Test
  void onlySomeAreTakenWhereThatIsWanted() throws Exception {
    assertThat(kept().run(SCENES, new Choice(2, "", false), s -> {}))
        .containsExactly("of rain-1", "of wind-1");
    assertThat(kept().run(SCENES, new Choice(1, "wind", false), s -> {}))
        .containsExactly("of wind-1", "of wind-2");
    assertThat(judged).doesNotContain("rain-2");
  }

  @Test
  void whatFailsIsSaidAndTheOthersAreKept() throws Exception {
    Kept<String, String> failing =
        new Kept<>(
            folder,
            String.class,
            s -> s,
            s -> {
              if (s.equals("wind-2")) {
                throw new CalibrationException("wind-2: no recording");
              }
              return "of " + s;
            });
    assertThatThrownBy(() -> failing.run(SCENES, ALL, s -> {}))
        .isInstanceOf(CalibrationException.class)
        .hasMessage("wind-2: no recording");
    assertThat(kept().run(SCENES, ALL, s -> {})).hasSize(4);
    assertThat(judged).contains("wind-2").doesNotContain("rain-1");
  }

  @Test
  void aTrialThatWasCutOffIsNotTakenForOne() throws Exception {
    Files.writeString(folder.resolve("rain-1.json.part"), "\"of ra");
    assertThat(kept().run(List.of("rain-1"), ALL, s -> {})).containsExactly("of rain-1");
    Files.writeString(folder.resolve("rain-1.json"), "\"of ra");
    assertThatThrownBy(() -> kept().run(List.of("rain-1"), ALL, s -> {}))
        .isInstanceOf(CalibrationException.class)
        .hasMessageContaining("rain-1.json");
  }
}
