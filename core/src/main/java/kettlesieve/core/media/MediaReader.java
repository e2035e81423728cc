package kettlesieve.core.media;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.MappedAudio;
import kettlesieve.core.signal.Progress;

/**
 * Reads audio files: WAV in all its forms, AIFF, FLAC, Ogg, MP3 and others that FFmpeg decodes.
 *
 * <p>Long recordings are decoded once into a cache folder and mapped from there; the next start
 * finds them by the checksum of the file.
 */
public final class MediaReader {
  private static final long CACHE_BYTES = 30L << 30;
  private static final ObjectMapper JSON = new ObjectMapper();

  private final Path cache;

  /**
   * @param cache folder for decoded samples, made when it is needed
   */
  public MediaReader(Path cache) {
    this.cache = cache;
  }

  /** A reader on the user's own cache folder. */
  public static MediaReader standard() {
    return new MediaReader(UserFolders.cache().resolve("decoded"));
  }

  /**
   * Decodes a file whole and checks every sample.
   *
   * @throws MediaException if the file is missing, empty, not audio, damaged, holds values that are
   *     not numbers, or cannot be kept because the cache folder is full
   */
  public Recording read(Path file, Progress progress) throws MediaException {
    return read(file, null, progress);
  }

  /**
   * The same for a file whose checksum is known already.
   *
   * @param known SHA-256 of the file as it is; null to have it taken
   * @throws MediaException as above
   */
  public Recording read(Path file, String known, Progress progress) throws MediaException {
    checkThere(file);
    try {
      progress.at("reading " + file.getFileName(), 0);
      String sha256 = known != null ? known : Checksum.sha256(file);
      Recording cached = cached(file, sha256);
      return cached != null ? cached : decode(file, sha256, progress);
    } catch (IOException e) {
      throw asMediaException(file, e);
    }
  }

  private static void checkThere(Path file) throws MediaException {
    if (!Files.exists(file)) {
      throw new MediaException(
          file, "there is no such file", "Check the name, or point to where it is now.");
    }
    if (!Files.isRegularFile(file)) {
      throw new MediaException(file, "this is a folder, not a file", "Choose an audio file in it.");
    }
    if (!Files.isReadable(file)) {
      throw new MediaException(
          file, "reading it is not allowed", "Change its permissions or copy it elsewhere.");
    }
    try {
      if (Files.size(file) == 0) {
        throw new MediaException(
            file, "the file is empty (0 bytes)", "Export or copy it again; nothing was written.");
      }
    } catch (IOException e) {
      throw asMediaException(file, e);
    }
  }

  private Recording decode(Path file, String sha256, Progress progress)
      throws MediaException, IOException {
    try (FfmpegDecoder decoder = new FfmpegDecoder(file);
        SampleSink sink =
            new SampleSink(decoder.sampleRate(), decoder.channels(), samplesFile(sha256))) {
      decoder.decode(sink, progress);
      MediaFacts facts =
          new MediaFacts(
              sha256,
              Files.size(file),
              decoder.container(),
              decoder.codecName(),
              decoder.bits(),
              decoder.lossy(),
              decoder.sampleRate(),
              decoder.channels(),
              sink.frames());
      Audio audio = sink.finish();
      if (audio instanceof MappedAudio) {
        JSON.writeValue(factsFile(sha256).toFile(), facts);
        CacheFolder.prune(cache, "", CACHE_BYTES);
      }
      return new Recording(file, facts, audio);
    }
  }

  private Recording cached(Path file, String sha256) {
    if (!Files.exists(factsFile(sha256)) || !Files.exists(samplesFile(sha256))) {
      return null;
    }
    try {
      MediaFacts facts = JSON.readValue(factsFile(sha256).toFile(), MediaFacts.class);
      Audio audio =
          MappedAudio.open(
              samplesFile(sha256), facts.sampleRate(), facts.channels(), facts.frames());
      return new Recording(file, facts, audio);
    } catch (IOException e) {
      // A damaged cache entry is worth nothing; the file itself is decoded again.
      return null;
    }
  }

  private Path samplesFile(String sha256) {
    return cache.resolve(sha256 + ".f32");
  }

  private Path factsFile(String sha256) {
    return cache.resolve(sha256 + ".json");
  }

  private static MediaException asMediaException(Path file, IOException e) {
    boolean full =
        e.getMessage() != null && e.getMessage().contains("No space left")
            || e instanceof FileSystemException f
                && f.getReason() != null
                && f.getReason().contains("No space left");
    return full
        ? new MediaException(
            file,
            "there is no room left for its decoded samples in " + UserFolders.cache(),
            "Free some space there, or set KETTLE_CACHE to a folder on a larger disk.",
            e)
        : new MediaException(
            file, "it could not be read", "Check the disk it is on, and try again.", e);
  }
}
