package kettlesieve.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;

/** A folder in which a demo comparison is made, once. */
final class DemoFolder {
  /** Sample rate of all demo recordings. */
  static final int RATE = 48_000;

  /** About as long are the demo recordings. */
  private static final double USUAL_SECONDS = 30;

  /** Makes the recordings of a comparison. */
  interface Maker {
    Comparison make(DemoFolder folder) throws IOException, MediaException;
  }

  private final Path path;

  DemoFolder(Path path) {
    this.path = path;
  }

  /**
   * Makes a comparison, or finds it there.
   *
   * @param mark changes whenever the content does
   * @return the comparison's file
   */
  static Path make(Path folder, String file, String mark, Maker maker) throws IOException {
    Path comparisonFile = folder.resolve(file);
    Path made = folder.resolve("." + mark + "-costs");
    if (Files.exists(made) && Files.exists(comparisonFile)) {
      return comparisonFile;
    }
    Files.createDirectories(folder);
    try {
      ComparisonFile.save(
          MadeUpCosts.in(maker.make(new DemoFolder(folder)), USUAL_SECONDS), comparisonFile);
    } catch (MediaException | ComparisonFileException e) {
      throw new IOException(e.getMessage(), e);
    }
    Files.writeString(made, "");
    return comparisonFile;
  }

  /** Copies a recording that ships with the demo. */
  Path copy(String resource, String name) throws IOException {
    Path file = path.resolve(name);
    try (InputStream in = DemoFolder.class.getResourceAsStream(resource)) {
      Files.copy(in, file, StandardCopyOption.REPLACE_EXISTING);
    }
    return file;
  }

  /** The first channel of a file. */
  float[] samples(Path file) throws MediaException {
    return new MediaReader(path).read(file, Progress.SILENT).audio().wholeChannel(0);
  }

  /** The samples of a voice that ships with the demo. */
  float[] voice(String resource) throws IOException, MediaException {
    Path file = copy(resource, resource);
    float[] samples = samples(file);
    Files.delete(file);
    return samples;
  }

  /** Writes a recording in 24 bits. */
  Path write(Audio audio, String name) throws IOException {
    return write(audio, name, WavWriter.Format.PCM_24);
  }

  /** Writes a recording. */
  Path write(Audio audio, String name, WavWriter.Format format) throws IOException {
    Path file = path.resolve(name);
    WavWriter.write(audio, file, format, Progress.SILENT);
    return file;
  }

  static MediaRef ref(Path file) throws IOException {
    return MediaRef.of(file).withSha256(Checksum.sha256(file));
  }
}
