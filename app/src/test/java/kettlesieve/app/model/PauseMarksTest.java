package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import kettlesieve.core.comparison.TimeSpan;
import org.junit.jupiter.api.Test;

class PauseMarksTest {
  private static final List<TimeSpan> TWO = List.of(new TimeSpan(1, 2), new TimeSpan(4, 5));

  @Test
  void marksJoinWhatTheyTouch() {
    assertThat(PauseMarks.with(TWO, new TimeSpan(1.5, 4.5))).containsExactly(new TimeSpan(1, 5));
    assertThat(PauseMarks.with(TWO, new TimeSpan(2.5, 3)))
        .containsExactly(new TimeSpan(1, 2), new TimeSpan(2.5, 3), new TimeSpan(4, 5));
  }

  @Test
  void wantedSoundIsCutOut() {
    assertThat(PauseMarks.without(TWO, new TimeSpan(1.4, 1.6)))
        .containsExactly(new TimeSpan(1, 1.4), new TimeSpan(1.6, 2), new TimeSpan(4, 5));
    assertThat(PauseMarks.without(TWO, new TimeSpan(0, 3))).containsExactly(new TimeSpan(4, 5));
    assertThat(PauseMarks.without(TWO, new TimeSpan(1.96, 4.02)))
        .containsExactly(new TimeSpan(1, 1.96), new TimeSpan(4.02, 5));
  }
}
