package kettlesieve.app.model;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.BiFunction;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.measure.stretch.Envelope;
import kettlesieve.core.measure.stretch.StretchedTraces;
import kettlesieve.core.measure.stretch.StretchedVoices;
import kettlesieve.core.measure.stretch.VoiceTraces;
import kettlesieve.core.work.PreparedExcerpt;
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
  private final Kind<StretchedTraces> times;
  private final Kind<VoiceTraces> voices;
  private final ReadOnlyIntegerWrapper changes = new ReadOnlyIntegerWrapper();
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread own = new Thread(task, "own time");
            own.setDaemon(true);
            return own;
          });

  /** What is known of a version as it was matched; nothing as long as it is worked out. */
  private record Known<T>(Prepared prepared, T traces, boolean failed) {}

  /** One kind of what is drawn, for all versions: made only of those that are asked for. */
  private final class Kind<T> {
    private final BiFunction<PreparedExcerpt, StretchedVersion, T> way;
    private final Map<String, Known<T>> known = new HashMap<>();

    Kind(BiFunction<PreparedExcerpt, StretchedVersion, T> way) {
      this.way = way;
    }

    Optional<T> of(String id) {
      Prepared now = workspace.state(id).prepared();
      PreparedExcerpt preparedExcerpt = workspace.preparedExcerptProperty().get();
      if (now == null
          || preparedExcerpt == null
          || !(now.from() instanceof StretchedVersion version)) {
        return Optional.empty();
      }
      Known<T> before = known.get(id);
      if (before == null || before.prepared() != now) {
        known.put(id, new Known<>(now, null, false));
        thread.submit(() -> work(id, now, version, preparedExcerpt));
        return Optional.empty();
      }
      return Optional.ofNullable(before.traces());
    }

    boolean allKnown() {
      return workspace.comparison().versions().stream()
          .filter(v -> workspace.state(v.id()).prepared() != null)
          .filter(v -> workspace.state(v.id()).prepared().from() instanceof StretchedVersion)
          .allMatch(v -> of(v.id()).isPresent());
    }

    boolean failed() {
      return known.values().stream().anyMatch(Known::failed);
    }

    private void work(
        String id, Prepared now, StretchedVersion version, PreparedExcerpt preparedExcerpt) {
      try {
        post(id, new Known<>(now, way.apply(preparedExcerpt, version), false));
      } catch (RuntimeException | Error e) {
        LOG.error("what is drawn of {} could not be worked out", id, e);
        post(id, new Known<>(now, null, true));
      }
    }

    private void post(String id, Known<T> found) {
      ui.execute(
          () -> {
            Known<T> wanted = known.get(id);
            if (wanted != null && wanted.prepared() == found.prepared()) {
              known.put(id, found);
              changes.set(changes.get() + 1);
            }
          });
    }
  }

  /**
   * The envelopes of a version and of the source around a moment, dB, by points of {@link
   * Envelope}'s grid.
   *
   * @param source of the source there
   * @param version of the version there
   * @param sourceHz fundamental of the source, Hz
   * @param versionHz of the version
   */
  public record Envelopes(double[] source, double[] version, double sourceHz, double versionHz) {}

  OwnTime(Workspace workspace, Executor ui) {
    this(workspace, ui, PreparedExcerpt::traces, PreparedExcerpt::voices);
  }

  OwnTime(
      Workspace workspace,
      Executor ui,
      BiFunction<PreparedExcerpt, StretchedVersion, StretchedTraces> times,
      BiFunction<PreparedExcerpt, StretchedVersion, VoiceTraces> voices) {
    this.workspace = workspace;
    this.ui = ui;
    this.times = new Kind<>(times);
    this.voices = new Kind<>(voices);
  }

  /** Counts how often something new is known. */
  public ReadOnlyIntegerProperty changesProperty() {
    return changes.getReadOnlyProperty();
  }

  /**
   * Where the attacks of a version went, and how its time strays; empty as long as it is not known.
   * Asked on the interface thread.
   */
  public Optional<StretchedTraces> times(String versionId) {
    return times.of(versionId);
  }

  /** How its pitch runs; empty as long as it is not known. Asked on the interface thread. */
  public Optional<VoiceTraces> voices(String versionId) {
    return voices.of(versionId);
  }

  /** Whether times are known of all versions that are matched. */
  public boolean timesKnown() {
    return times.allKnown();
  }

  /** Whether the voice of some could not be followed: the log says more. */
  public boolean voicesFailed() {
    return voices.failed();
  }

  /** Whether the attacks of some could not be looked for. */
  public boolean timesFailed() {
    return times.failed();
  }

  /** Whether it is known of all of them how their pitch runs. */
  public boolean voicesKnown() {
    return voices.allKnown();
  }

  /**
   * Envelopes around a moment of the source; empty where the voice is not heard in both. Takes a
   * moment: not for the interface thread.
   */
  public static Optional<Envelopes> envelopes(
      VoiceTraces traces, Audio source, Audio version, double seconds) {
    List<StretchedVoices.Frame> near =
        traces.frames().stream()
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
                source.downmix(),
                near.stream().map(StretchedVoices.Frame::source).toList(),
                lifter),
            Envelope.mean(
                version.downmix(),
                near.stream().map(StretchedVoices.Frame::version).toList(),
                lifter),
            near.stream().mapToDouble(StretchedVoices.Frame::before).average().orElseThrow(),
            near.stream().mapToDouble(StretchedVoices.Frame::after).average().orElseThrow()));
  }

  @Override
  public void close() {
    thread.shutdownNow();
  }
}
