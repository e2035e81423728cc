package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import org.junit.jupiter.api.Test;

/** What nobody expected is told with what can be done about it, as far as that is known. */
class SurroundingsTest {
  @Test
  void whatCanBeDoneIsSaid() {
    assertThat(
            Surroundings.words(
                new RuntimeException(new UnsupportedOperationException("Unable to open DISPLAY"))))
        .contains("no display", "DISPLAY", "score");
    assertThat(Surroundings.words(new IOException("No space left on device"))).contains("no room");
    assertThat(Surroundings.words(new OutOfMemoryError())).contains("shorter excerpt");
    assertThat(Surroundings.words(new IllegalStateException("what"))).contains("its log says more");
  }
}
