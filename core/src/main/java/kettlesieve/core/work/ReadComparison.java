package kettlesieve.core.work;

import java.nio.file.Path;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Notice;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads the files of a comparison for one run, the source first, and notes what is odd about them.
 * A version that cannot be read fails by itself. Used by the run's thread; what the threads of
 * versions get is {@link Whole}, which does not change any more.
 */
final class ReadComparison {
  private static final Logger LOG = LoggerFactory.getLogger(ReadComparison.class);

  /** Reads one file. */
  interface Reader {
    /**
     * @throws MediaException if it cannot be used
     */
    Recording read(MediaRef ref, Progress progress) throws MediaException;
  }

  /**
   * All that was read.
   *
   * @param comparison what it was read for
   * @param source the unprocessed recording
   * @param files of the versions that could be read, by id and role
   * @param truth true stems at the source's rate, by role
   * @param sums checksums of what this run read, whatever the next one forgets
   * @param failed versions that could not be read
   * @param notices what is odd about the files
   */
  record Whole(
      Comparison comparison,
      Recording source,
      Map<String, Map<String, Recording>> files,
      Map<String, Audio> truth,
      Map<Path, String> sums,
      Map<String, Failure> failed,
      List<Notice> notices) {
    Whole {
      files = Collections.unmodifiableMap(new LinkedHashMap<>(files));
      truth = Collections.unmodifiableMap(new LinkedHashMap<>(truth));
      sums = Map.copyOf(sums);
      failed = Collections.unmodifiableMap(new LinkedHashMap<>(failed));
    }

    String checksum(MediaRef ref) {
      return sums.get(ref.file());
    }
  }

  private final Reader reader;
  private final Comparison comparison;
  private final Conductor.Listener listener;
  private final Progress progress;
  private final Map<String, Map<String, Recording>> files = new LinkedHashMap<>();
  private final Map<String, Audio> truth = new LinkedHashMap<>();
  private final Map<Path, String> sums = new HashMap<>();
  private final Map<String, Failure> failed = new LinkedHashMap<>();
  private final Notes notes = new Notes();
  private Recording source;
  private Recording reference;

  ReadComparison(Reader reader, Comparison comparison, Conductor.Listener listener, Stop stop) {
    this.reader = reader;
    this.comparison = comparison;
    this.listener = listener;
    this.progress =
        (what, share) -> {
          stop.check();
          listener.progress(what, share);
        };
  }

  Progress progress() {
    return progress;
  }

  /** The source, once it was read. */
  Recording sourceRecording() {
    return source;
  }

  /** The clean recording; null if there is none. */
  Recording reference() {
    return reference;
  }

  String checksum(MediaRef ref) {
    return sums.get(ref.file());
  }

  /**
   * The source and the clean recording.
   *
   * @throws MediaException if one of them cannot be used
   */
  void source() throws MediaException {
    source = read(comparison.source());
    notes.change(comparison.source(), source.facts().sha256(), "the source");
    notes.doubt(source, "the source");
    // An hour takes a while to analyse; it can be seen and heard at once.
    listener.sourceRead(source);
    reference = comparison.reference() == null ? null : read(comparison.reference());
  }

  /** The files of all versions. */
  void versions() {
    for (Version v : comparison.versions()) {
      try {
        Map<String, Recording> own = new LinkedHashMap<>();
        for (var file : PreparedSource.files(v).entrySet()) {
          own.put(file.getKey(), read(file.getValue()));
        }
        files.put(v.id(), own);
        listener.versionRead(v.id(), own);
        own.values().forEach(r -> notes.doubt(r, v.label()));
        PreparedSource.files(v)
            .forEach((role, ref) -> notes.change(ref, own.get(role).facts().sha256(), v.label()));
      } catch (MediaException e) {
        fail(v, e.file(), e.problem());
      } catch (CancellationException e) {
        throw e;
      } catch (RuntimeException | OutOfMemoryError e) {
        fail(v, v.files().get(0).file().toString(), broken(v, e));
      }
    }
  }

  /** True stems on the mix's rate; one that cannot be read is told of, and the others serve. */
  void truth() {
    for (var stem : comparison.trueStems().entrySet()) {
      try {
        Audio read = read(stem.getValue()).audio();
        truth.put(stem.getKey(), LinearTimeAudio.resample(read, source.audio().sampleRate()));
      } catch (MediaException e) {
        notes.add(new Notice("true stem " + stem.getKey(), e.problem()));
      }
    }
  }

  Whole whole() {
    return new Whole(comparison, source, files, truth, sums, failed, notes.all());
  }

  private Recording read(MediaRef ref) throws MediaException {
    Recording read = reader.read(ref, progress);
    sums.put(ref.file(), read.facts().sha256());
    return read;
  }

  private void fail(Version v, String file, String problem) {
    failed.put(v.id(), new Failure(v.id(), v.label(), file, problem));
    listener.versionFailed(v.id(), problem);
  }

  /** One version that breaks something does not stop the others. */
  static String broken(Version v, Throwable e) {
    LOG.error("{} broke down", v.label(), e);
    return e instanceof OutOfMemoryError
        ? "there is not enough memory for it; choose a shorter excerpt"
        : "the program made an error of its own on it; its log says more";
  }
}
