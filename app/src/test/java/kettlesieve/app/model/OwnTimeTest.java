package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import javafx.beans.property.SimpleObjectProperty;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.measure.stretch.VoiceTraces;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;

/** What is drawn of versions in their own time: found, being looked for, or given up. */
class OwnTimeTest {
  private final Workspace workspace = mock(Workspace.class);

  /** What waits for the interface thread: nothing is known before the test lets it through. */
  private final BlockingQueue<Runnable> waiting = new LinkedBlockingQueue<>();

  private OwnTime following(VoiceTraces found) {
    Prepared prepared = mock(Prepared.class);
    when(prepared.from()).thenReturn(mock(StretchedVersion.class));
    VersionState state = mock(VersionState.class);
    when(state.prepared()).thenReturn(prepared);
    when(workspace.state("v1")).thenReturn(state);
    when(workspace.preparedExcerptProperty())
        .thenReturn(new SimpleObjectProperty<>(mock(PreparedExcerpt.class)));
    when(workspace.comparison())
        .thenReturn(Comparison.empty("slow", Job.STRETCH).plus(Version.of("v1", "one", null)));
    return new OwnTime(
        workspace,
        waiting::add,
        (a, v) -> null,
        (a, v) -> {
          if (found == null) {
            throw new IllegalStateException("only for this test");
          }
          return found;
        });
  }

  private void letThrough() throws InterruptedException {
    Runnable found = waiting.poll(30, TimeUnit.SECONDS);
    assertThat(found).as("something was found out").isNotNull();
    found.run();
  }

  @Test
  void aVoiceThatIsFollowedIsKnownThen() throws InterruptedException {
    try (OwnTime own = following(new VoiceTraces(List.of(), 1.5))) {
      assertThat(own.voices("v1")).isEmpty();
      letThrough();
      assertThat(own.voices("v1").orElseThrow().pitch()).isEqualTo(1.5);
      assertThat(own.voicesKnown()).isTrue();
      assertThat(own.voicesFailed()).isFalse();
    }
  }

  @Test
  void aVoiceThatCannotBeFollowedIsGivenUpAndNotTriedAgain() throws InterruptedException {
    try (OwnTime own = following(null)) {
      assertThat(own.voices("v1")).isEmpty();
      assertThat(own.voicesFailed()).isFalse();
      letThrough();
      assertThat(own.voicesFailed()).isTrue();
      assertThat(own.voices("v1")).isEmpty();
      assertThat(waiting.poll(200, TimeUnit.MILLISECONDS)).as("tried again").isNull();
      assertThat(own.changesProperty().get()).isEqualTo(1);
    }
  }
}
