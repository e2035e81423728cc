package kettlesieve.core.media;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CancellationException;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.MappedAudio;
import kettlesieve.core.task.Progress;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads audio files: WAV in all its forms, AIFF, FLAC, WavPack, Ogg, MP3, AC-3, WMA and others that
 * FFmpeg decodes, and the sound of MXF and video files.
 *
 * <p>Long recordings are decoded once into a cache folder and mapped from there; the next start
 * finds them by the checksum of the file.
 */
public final class MediaReader {
  private static final int SUM_LENGTH = 64;
  private static final long CACHE_BYTES = 30L << 30;
  private static final long ROOM_LEFT = 64L << 20;
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final Logger LOG = LoggerFactory.getLogger(MediaReader.class);

  /** What is kept beside decoded samples, and the checksum of their file. */
  private record Entry(MediaFacts facts, long sum) {}

  private final Path cache;
  private final DecodedLimit limit;

  /**
   * @param cache folder for decoded samples, made when it is needed
   */
  public MediaReader(Path cache) {
    this(cache, DecodedLimit.in(UserFolders.state()));
  }

  MediaReader(Path cache, DecodedLimit limit) {
    this.cache = cache;
    this.limit = limit;
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
    return read(file, null, null, progress);
  }

  /**
   * The same for a file whose checksum is known already.
   *
   * @param known SHA-256 of the file as it is; null to have it taken
   * @throws MediaException as above
   */
  public Recording read(Path file, String known, Progress progress) throws MediaException {
    return read(file, known, null, progress);
  }

  /**
   * The same for a file whose checksum may be known already, and one of its streams.
   *
   * @param known SHA-256 of the file as it is; null to have it taken
   * @param stream of its audio streams, counted from 1; null for the one it marks
   * @throws MediaException as above
   */
  public Recording read(Path file, String known, Integer stream, Progress progress)
      throws MediaException {
    checkThere(file);
    try {
      progress.at("reading " + file.getFileName(), 0);
      if (known != null) {
        Recording cached = cached(file, known, stream);
        if (cached != null) {
          return cached;
        }
      }
      // Opened before its checksum is taken: gigabytes of something else are refused at once.
      try (FfmpegDecoder decoder = new FfmpegDecoder(file, stream)) {
        String sha256 = known != null ? known : Checksum.sha256(file);
        Recording cached = known != null ? null : cached(file, sha256, stream);
        return cached != null ? cached : decode(decoder, file, sha256, stream, progress);
      }
    } catch (IOException e) {
      throw asMediaException(file, e);
    } catch (LinkageError e) {
      throw new MediaException(
          file,
          "the libraries that decode it could not be started",
          "Check that there is room in "
              + UserFolders.cache()
              + " and that programs may be run from there, or set KETTLE_CACHE to another folder.",
          e);
    }
  }

  /**
   * Whether a file holds all that its header promises, as far as that can be told without decoding:
   * what is being written or was cut off does not.
   */
  public static boolean looksWhole(Path file) {
    try {
      return Files.size(file) > 0 && PromisedLength.missing(file).orElse(0) == 0;
    } catch (IOException e) {
      return false;
    }
  }

  private static void checkThere(Path file) throws MediaException {
    if (!Files.exists(file)) {
      throw new MediaException(
          file, "there is no such file", "Check the name, or point to where it is now.");
    }
    if (Files.isDirectory(file)) {
      throw new MediaException(file, "this is a folder, not a file", "Choose an audio file in it.");
    }
    if (!Files.isRegularFile(file)) {
      throw new MediaException(
          file, "this is no plain file but a device, a pipe or a socket", "Choose an audio file.");
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

  private Recording decode(
      FfmpegDecoder decoder, Path file, String sha256, Integer stream, Progress progress)
      throws MediaException, IOException {
    long samples = decoder.promisedSamples();
    if (!decoder.lengthIsGuessed()) {
      limit.checkPromised(file, samples);
    }
    checkRoom(file, samples);
    try {
      return decode(decoder, file, entry(sha256, stream), SampleSink.IN_MEMORY, progress);
    } catch (IOException e) {
      if (samples == 0 || samples > SampleSink.AT_MOST_IN_MEMORY) {
        throw e;
      }
      LOG.warn("{} cannot be kept in {}; it stays in memory", file, cache, e);
      try (FfmpegDecoder again = new FfmpegDecoder(file, stream)) {
        return decode(
            again, file, entry(sha256, stream), 2 * SampleSink.AT_MOST_IN_MEMORY, progress);
      }
    }
  }

  private Recording decode(
      FfmpegDecoder decoder, Path file, String entry, long inMemory, Progress progress)
      throws MediaException, IOException {
    try (SampleSink sink =
        new SampleSink(decoder.sampleRate(), decoder.channels(), samplesFile(entry), inMemory)) {
      decoder.decode(sink, limit, progress);
      MediaFacts facts =
          new MediaFacts(
              entry.substring(0, SUM_LENGTH),
              Files.size(file),
              decoder.container(),
              decoder.codecName(),
              decoder.bits(),
              decoder.lossy(),
              decoder.sampleRate(),
              decoder.channels(),
              sink.frames(),
              decoder.doubt(),
              decoder.streams(),
              decoder.places());
      Audio audio = sink.finish();
      if (audio instanceof MappedAudio) {
        keep(entry, facts, sink.sum());
        CacheFolder.prune(cache, "", CACHE_BYTES);
      }
      return new Recording(file, facts, audio);
    }
  }

  /** Before hours are decoded: whether there is room for them. */
  private void checkRoom(Path file, long samples) throws MediaException, IOException {
    long bytes = 4 * samples;
    if (bytes <= 4 * SampleSink.AT_MOST_IN_MEMORY) {
      return;
    }
    Files.createDirectories(cache);
    if (bytes + ROOM_LEFT > Files.getFileStore(cache).getUsableSpace()) {
      throw noRoom(file, bytes, null);
    }
  }

  private void keep(String entry, MediaFacts facts, long sum) {
    try {
      String text = JSON.writeValueAsString(new Entry(facts, sum));
      WholeFile.write(factsFile(entry), text + "\n" + Checksum.ofText(text) + "\n");
    } catch (IOException e) {
      LOG.warn("what was decoded cannot be kept for the next time", e);
    }
  }

  private Recording cached(Path file, String sha256, Integer stream) {
    String entry = entry(sha256, stream);
    if (!Files.isRegularFile(factsFile(entry)) || !Files.isRegularFile(samplesFile(entry))) {
      return null;
    }
    try {
      List<String> lines = Files.readAllLines(factsFile(entry));
      if (lines.size() != 2 || !Checksum.ofText(lines.get(0)).equals(lines.get(1))) {
        throw new IOException("the facts were altered");
      }
      Entry kept = JSON.readValue(lines.get(0), Entry.class);
      MediaFacts facts = kept.facts();
      if (!facts.sha256().equals(sha256) || Checksum.crc32c(samplesFile(entry)) != kept.sum()) {
        throw new IOException("the samples were altered");
      }
      Audio audio =
          MappedAudio.open(
              samplesFile(entry), facts.sampleRate(), facts.channels(), facts.frames());
      return new Recording(file, facts, audio);
    } catch (CancellationException e) {
      // Nobody waits for it any more; what is kept is as good as before.
      throw e;
    } catch (IOException | RuntimeException e) {
      // A damaged cache entry is worth nothing; the file itself is decoded again.
      LOG.warn("what was kept of {} cannot be used and is made again: {}", file, e.toString());
      factsFile(entry).toFile().delete();
      samplesFile(entry).toFile().delete();
      return null;
    }
  }

  /** The name under which a stream of a file is kept. */
  private static String entry(String sha256, Integer stream) {
    return stream == null ? sha256 : sha256 + "-" + stream;
  }

  private Path samplesFile(String entry) {
    return cache.resolve(entry + ".f32");
  }

  private Path factsFile(String entry) {
    return cache.resolve(entry + ".json");
  }

  private static MediaException asMediaException(Path file, IOException e) {
    boolean full =
        e.getMessage() != null && e.getMessage().contains("No space left")
            || e instanceof FileSystemException f
                && f.getReason() != null
                && f.getReason().contains("No space left");
    return full
        ? noRoom(file, 0, e)
        : new MediaException(
            file, "it could not be read", "Check the disk it is on, and try again.", e);
  }

  private static MediaException noRoom(Path file, long bytes, IOException cause) {
    return new MediaException(
        file,
        "there is no room left for its decoded samples"
            + (bytes > 0 ? ", " + (bytes >> 20) + " MB," : "")
            + " in "
            + UserFolders.cache(),
        "Free some space there, or set KETTLE_CACHE to a folder on a larger disk.",
        cause);
  }
}
