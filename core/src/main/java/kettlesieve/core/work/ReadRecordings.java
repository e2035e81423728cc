package kettlesieve.core.work;

import java.nio.file.Path;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.task.Progress;

/** Recordings that were read, as long as their files stay as they were. */
final class ReadRecordings {
  private final MediaReader reader;
  private final Fingerprints fingerprints;
  private final Map<MediaRef, Read> recordings = new HashMap<>();

  private record Read(long modified, long bytes, Recording recording) {}

  ReadRecordings(MediaReader reader, Fingerprints fingerprints) {
    this.reader = reader;
    this.fingerprints = fingerprints;
  }

  /**
   * A recording that was read before, or is read now.
   *
   * @throws MediaException if no file is named, or it cannot be used
   */
  Recording read(MediaRef ref, Progress progress) throws MediaException {
    if (!ref.named()) {
      throw new MediaException(
          Path.of(ref.path().isEmpty() ? "no file" : "an impossible name"),
          "the comparison names no file for it",
          "Choose the file again, or take it out.");
    }
    Path file = ref.file();
    long modified = file.toFile().lastModified();
    long bytes = file.toFile().length();
    MediaRef key = ref.withSha256(null);
    Read known = recordings.get(key);
    if (known != null && known.modified() == modified && known.bytes() == bytes && bytes > 0) {
      return known.recording();
    }
    String sum = fingerprints.of(file).orElse(null);
    Recording read = reader.read(file, sum, ref.stream(), progress).only(ref.channel());
    if (file.toFile().lastModified() != modified || file.toFile().length() != bytes) {
      throw new MediaException(
          file,
          "it was being written while it was read",
          "It is read again when it stands still; else open the comparison again.");
    }
    recordings.put(key, new Read(modified, bytes, read));
    fingerprints.note(file, read.facts().sha256());
    return read;
  }

  /** Lets go of all others. */
  void keepOnly(Collection<Path> files) {
    recordings.keySet().removeIf(ref -> !files.contains(ref.file()));
  }

  void forget() {
    recordings.clear();
  }
}
