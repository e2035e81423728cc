package kettlesieve.app.model;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.measure.cells.Envelope;
import kettlesieve.core.measure.cells.WarpTraces;
import kettlesieve.core.measure.cells.WarpVoices;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.work.Assessment;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What is drawn of versions in their own time: attacks and where they went, the course of the
 * pitch, envelopes of the voice. Worked out when it is first asked for, on a thread of its own.
 */
public final class OwnTime implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(OwnTime.class);

  /** An envelope is the mean over the voiced moments so near. */
  private static final double AROUND_SECONDS = 0.06;

  /** Around an attack, seconds of the source. */
  public static final double BEFORE = 0.02;

  public static final double AFTER = 0.06;

  private final Workspace workspace;
  private final Executor ui;
  private final Map<String, Known> known = new HashMap<>();
  private final ReadOnlyIntegerWrapper changes = new ReadOnlyIntegerWrapper();
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread own = new Thread(task, "own time");
            own.setDaemon(true);
            return own;
          });

  /** What is known of a version as it was matched; no traces as long as they are worked out. */
  private record Known(Prepared prepared, WarpTraces traces) {}

  /**
   * The envelopes of a version and of the source around a moment, dB, by points of {@link
   * Envelope}'s grid.
   *
   * @param source of the source there
   * @param version of the version there
   */
  public record Envelopes(double[] source, double[] version) {}

  OwnTime(Workspace workspace, Executor ui) {
    this.workspace = workspace;
    this.ui = ui;
  }

  /** Counts how often something new is known. */
  public ReadOnlyIntegerProperty changesProperty() {
    return changes.getReadOnlyProperty();
  }

  /**
   * The traces of a version; empty as long as they are not known. Asked on the interface thread.
   */
  public Optional<WarpTraces> of(String versionId) {
    Prepared now = workspace.state(versionId).prepared();
    Assessment assessment = workspace.assessmentProperty().get();
    if (now == null || assessment == null || !(now.from() instanceof StretchedVersion version)) {
      return Optional.empty();
    }
    Known before = known.get(versionId);
    if (before == null || before.prepared() != now) {
      known.put(versionId, new Known(now, null));
      thread.submit(() -> work(versionId, now, version, assessment));
      return Optional.empty();
    }
    return Optional.ofNullable(before.traces());
  }

  private void work(String id, Prepared now, StretchedVersion version, Assessment assessment) {
    try {
      WarpTraces traces = assessment.traces(version);
      ui.execute(
          () -> {
            Known wanted = known.get(id);
            if (wanted != null && wanted.prepared() == now) {
              known.put(id, new Known(now, traces));
              changes.set(changes.get() + 1);
            }
          });
    } catch (RuntimeException | Error e) {
      LOG.error("what is drawn of {} could not be worked out", id, e);
    }
  }

  /**
   * Envelopes around a moment of the source; empty where the voice is not heard in both. Takes a
   * moment: not for the interface thread.
   */
  public static Optional<Envelopes> envelopes(
      WarpTraces traces, Audio source, Audio version, double seconds) {
    List<WarpVoices.Frame> near =
        traces.voices().stream()
            .filter(f -> f.both() && Math.abs(f.source() - seconds) <= AROUND_SECONDS)
            .toList();
    if (near.isEmpty()) {
      return Optional.empty();
    }
    double highest =
        near.stream().mapToDouble(f -> Math.max(f.before(), f.after())).max().orElseThrow();
    double lifter = Envelope.lifter(highest);
    return Optional.of(
        new Envelopes(
            Envelope.mean(
                source.downmix(), near.stream().map(WarpVoices.Frame::source).toList(), lifter),
            Envelope.mean(
                version.downmix(), near.stream().map(WarpVoices.Frame::version).toList(), lifter)));
  }

  @Override
  public void close() {
    thread.shutdownNow();
  }
}
