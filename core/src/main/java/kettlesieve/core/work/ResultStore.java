package kettlesieve.core.work;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.smile.SmileFactory;
import com.fasterxml.jackson.dataformat.smile.SmileGenerator;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.match.Alignment;
import kettlesieve.core.match.Found;
import kettlesieve.core.match.LevelMatch;
import kettlesieve.core.match.MapFit;
import kettlesieve.core.measure.Bootstrap;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.media.CacheFolder;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.PlainFile;
import kettlesieve.core.media.Unfinished;
import kettlesieve.core.media.UserFolders;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.VersionFacts;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Results by {@link WorkKey}: in memory as long as the program runs, and in a folder for the next
 * start. An entry that cannot be read is thrown away and made again; one that cannot be written is
 * only not kept. Thread-safe.
 */
public final class ResultStore {
  private static final Logger LOG = LoggerFactory.getLogger(ResultStore.class);
  private static final ObjectMapper SMILE =
      new ObjectMapper(
              SmileFactory.builder().disable(SmileGenerator.Feature.ENCODE_BINARY_AS_7BIT).build())
          .registerModule(new RawDoubles());
  private static final int MOST_IN_MEMORY = 256;
  private static final String ENDING = ".result";
  private static final long MOST_BYTES = 2L << 30;
  private static final long LARGEST_BYTES = 64L << 20;
  private static final int SUM_BYTES = 64;

  /**
   * What is kept of the source.
   *
   * @param facts of its file
   * @param notices what the person should know of it
   * @param places what was found of it, one entry a place
   */
  record SourceEntry(MediaFacts facts, List<Notice> notices, List<PreparedExcerpt.Known> places) {}

  private record PartEntry(Part part, Readings taken) {}

  private record VersionEntry(VersionFacts version, List<PartEntry> parts) {
    static VersionEntry of(Measured m) {
      List<PartEntry> parts = new ArrayList<>();
      m.taken().forEach((part, taken) -> parts.add(new PartEntry(part, taken)));
      return new VersionEntry(m.version(), parts);
    }

    Measured measured() {
      Map<Part, Readings> taken = new LinkedHashMap<>();
      parts.forEach(p -> taken.put(p.part(), p.taken()));
      return new Measured(version, taken);
    }
  }

  private record Line(double[] from, double[] to, double slope, double offset, double coverage) {
    static Line of(MapFit fit) {
      return new Line(
          fit.map().knots().stream().mapToDouble(TimeMap.Knot::from).toArray(),
          fit.map().knots().stream().mapToDouble(TimeMap.Knot::to).toArray(),
          fit.slope(),
          fit.offset(),
          fit.coverage());
    }

    MapFit fit() {
      return MapFit.of(TimeMap.through(from, to), slope, offset, coverage);
    }
  }

  /** One of the two is null: a version lies on the source's time, or has its own. */
  private record FoundEntry(Alignment place, Line line, Alignment levelAt, LevelMatch level) {
    static FoundEntry of(Found found) {
      return new FoundEntry(
          found.place() instanceof Alignment a ? a : null,
          found.place() instanceof MapFit fit ? Line.of(fit) : null,
          found.levelAt(),
          found.level());
    }

    Found found() {
      return new Found(place != null ? place : line.fit(), levelAt, level);
    }
  }

  private record PlacesEntry(List<FoundEntry> places) {}

  private final Path folder;
  private final Fingerprints fingerprints;
  private final Map<WorkKey, Object> memory =
      new LinkedHashMap<>(64, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<WorkKey, Object> eldest) {
          return size() > MOST_IN_MEMORY;
        }
      };

  /**
   * @param folder where results are kept, made when it is needed; null to keep them in memory only
   */
  public ResultStore(Path folder) {
    this.folder = folder;
    this.fingerprints =
        new Fingerprints(folder == null ? null : folder.resolve("fingerprints.txt"));
  }

  /** A store in the user's own cache folder. */
  public static ResultStore standard() {
    return new ResultStore(UserFolders.cache().resolve("results"));
  }

  /** A store that forgets everything when the program ends. */
  public static ResultStore inMemory() {
    return new ResultStore(null);
  }

  /**
   * Makes ready what the first question to the store would have to wait for: worth calling on a
   * thread that has nothing else to do yet.
   */
  public void prepare() {
    try {
      double[] draws = new double[Bootstrap.DRAWS];
      Estimate estimate = new Estimate(0, draws);
      Readings taken = new Readings(List.of(Reading.of("", estimate).with("", 0, "")), List.of());
      PartEntry part = new PartEntry(Part.ALL, taken);
      for (int i = 0; i < 20; i++) {
        SMILE.readValue(SMILE.writeValueAsBytes(part), PartEntry.class);
        ScoreSheet.compare(estimate, estimate);
      }
      LOG.debug("ready for results of the code {}", CodeVersion.OWN);
    } catch (IOException e) {
      LOG.warn("results cannot be kept", e);
    }
  }

  Fingerprints fingerprints() {
    return fingerprints;
  }

  Optional<SourceEntry> source(WorkKey key) {
    return get(key, SourceEntry.class);
  }

  void put(WorkKey key, SourceEntry entry) {
    keep(key, entry);
  }

  Optional<Measured> version(WorkKey key) {
    return get(key, VersionEntry.class).map(VersionEntry::measured);
  }

  void put(WorkKey key, Measured measured) {
    keep(key, VersionEntry.of(measured));
  }

  List<Found> found(WorkKey key) {
    return get(key, PlacesEntry.class)
        .map(e -> e.places().stream().map(FoundEntry::found).toList())
        .orElse(List.of());
  }

  void put(WorkKey key, List<Found> found) {
    keep(key, new PlacesEntry(found.stream().map(FoundEntry::of).toList()));
  }

  Optional<ScoredComparison> scored(WorkKey key) {
    return get(key, ScoredComparison.class);
  }

  void put(WorkKey key, ScoredComparison scored) {
    keep(key, scored);
  }

  /** Forgets what is in memory. */
  public void forget() {
    synchronized (memory) {
      memory.clear();
    }
  }

  /** Forgets what is in memory and can be read again. */
  void trim() {
    if (folder != null) {
      forget();
    }
  }

  private <T> Optional<T> get(WorkKey key, Class<T> type) {
    synchronized (memory) {
      Object known = memory.get(key);
      if (type.isInstance(known)) {
        return Optional.of(type.cast(known));
      }
    }
    if (folder == null || !Files.isRegularFile(file(key))) {
      return Optional.empty();
    }
    try {
      T read = SMILE.readValue(checked(PlainFile.bytes(file(key), LARGEST_BYTES)), type);
      Files.setLastModifiedTime(file(key), FileTime.from(Instant.now()));
      synchronized (memory) {
        memory.put(key, read);
      }
      return Optional.of(read);
    } catch (IOException | RuntimeException e) {
      LOG.info("a kept result cannot be used and is made again: {}", e.toString());
      file(key).toFile().delete();
      return Optional.empty();
    }
  }

  private void keep(WorkKey key, Object entry) {
    synchronized (memory) {
      memory.put(key, entry);
    }
    if (folder == null) {
      return;
    }
    try {
      Files.createDirectories(folder);
      byte[] bytes = SMILE.writeValueAsBytes(entry);
      if (bytes.length < LARGEST_BYTES - SUM_BYTES) {
        Unfinished.sweepOnce(folder);
        WholeFile.write(
            file(key),
            out -> {
              out.write(bytes);
              out.write(Checksum.ofBytes(bytes).getBytes(StandardCharsets.US_ASCII));
            });
        CacheFolder.prune(folder, ENDING, MOST_BYTES);
      }
    } catch (IOException e) {
      LOG.warn("a result could not be kept", e);
    }
  }

  /** What stands before the checksum at the end of a file. */
  private static byte[] checked(byte[] file) throws IOException {
    byte[] bytes = Arrays.copyOf(file, Math.max(0, file.length - SUM_BYTES));
    byte[] sum = Arrays.copyOfRange(file, bytes.length, file.length);
    if (!Checksum.ofBytes(bytes).equals(new String(sum, StandardCharsets.US_ASCII))) {
      throw new IOException("it was altered");
    }
    return bytes;
  }

  private Path file(WorkKey key) {
    return folder.resolve(key.sha256() + ENDING);
  }
}
