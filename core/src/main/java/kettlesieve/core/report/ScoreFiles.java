package kettlesieve.core.report;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.databind.ObjectReader;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Made;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.roundup.ScoredVersion;
import kettlesieve.core.roundup.Scores;
import kettlesieve.core.score.odds.Validity;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Takes the scores of comparisons from files that {@code score} wrote anywhere: one object, or one
 * a line. The same comparison told twice counts once; whatever the order and the grouping of the
 * files, the same comes of it. Only the readings that are asked for are kept, so that ten thousand
 * files have room. For one thread, which reads by as many as there are processors; when {@link
 * #read} returns, all is read.
 */
public final class ScoreFiles {
  private static final Logger LOG = LoggerFactory.getLogger(ScoreFiles.class);
  private static final Set<String> ENDINGS = Set.of(".json", ".jsonl");
  private static final ObjectReader READER =
      JsonMapper.builder(
              JsonFactory.builder().enable(StreamReadFeature.USE_FAST_DOUBLE_PARSER).build())
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build()
          .readerFor(Sheet.class);

  private final Predicate<String> wanted;
  private final Map<String, String> words = new ConcurrentHashMap<>();
  private final Map<String, ScoredComparison> scored = new TreeMap<>();
  private final Map<String, List<ScoredComparison.Failed>> failed = new TreeMap<>();
  private final Map<String, String> broken = new TreeMap<>();
  private final Set<String> disputed = new TreeSet<>();

  /**
   * @param wanted which readings are kept, by measure
   */
  public ScoreFiles(Predicate<String> wanted) {
    this.wanted = wanted;
  }

  /** Whether a file is one of scores, by its ending. */
  public static boolean named(Path file) {
    String name = file.getFileName().toString();
    return ENDINGS.stream().anyMatch(name::endsWith);
  }

  /**
   * The files of scores in a folder and the folders below it, by name.
   *
   * @throws IOException if it cannot be looked through
   */
  public static List<Path> in(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(ScoreFiles::named)
          .filter(Files::isRegularFile)
          .filter(ScoreFiles::holdsScores)
          .sorted()
          .toList();
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  /** Other JSON lies about, too: what is no file of scores is left out where nobody named it. */
  private static boolean holdsScores(Path file) {
    try (InputStream in = Files.newInputStream(file)) {
      return new String(in.readNBytes(200), StandardCharsets.UTF_8).contains(ScoresJson.SCHEMA);
    } catch (IOException e) {
      return false;
    }
  }

  @JsonIgnoreProperties(ignoreUnknown = true)
  private record Sheet(
      String schema,
      String comparison,
      String name,
      List<String> tags,
      Made made,
      Validity validity,
      boolean doubt,
      String job,
      String profile,
      Source source,
      List<Version> versions,
      List<Failure> failed) {}

  @JsonIgnoreProperties(ignoreUnknown = true)
  private record Source(String file, String sha256, double seconds) {}

  @JsonIgnoreProperties(ignoreUnknown = true)
  private record Failure(String label, String reason) {}

  @JsonIgnoreProperties(ignoreUnknown = true)
  private record Figure(String measure, Double value) {}

  @JsonIgnoreProperties(ignoreUnknown = true)
  private record Judged(
      Double overall,
      Map<String, Double> axes,
      List<Figure> readings,
      int rank,
      int rankTo,
      List<String> tiedWith,
      Map<String, Double> deviations) {}

  @JsonIgnoreProperties(ignoreUnknown = true)
  private record Version(
      String label,
      String tool,
      String setting,
      Double amount,
      Boolean choice,
      Cost cost,
      Map<String, Judged> roles,
      Double overall,
      Map<String, Double> axes,
      List<Figure> readings,
      int rank,
      int rankTo,
      List<String> tiedWith,
      Map<String, Double> deviations) {
    Judged all() {
      return new Judged(overall, axes, readings, rank, rankTo, tiedWith, deviations);
    }
  }

  /** An object is none of scores; says what to do. */
  private static final class Unusable extends Exception {
    private static final long serialVersionUID = 1;

    Unusable(String message) {
      super(message);
    }
  }

  /**
   * Reads files, by all processors. What is none of scores is told by {@link #failed}, what stands
   * before it in its file counts, and the rest go on.
   */
  public void read(List<Path> files) {
    files.parallelStream().forEach(this::read);
  }

  private void read(Path file) {
    int objects = 0;
    String problem = null;
    try (InputStream in =
            new WithoutSpots(new BufferedInputStream(Files.newInputStream(file), 1 << 16));
        MappingIterator<Sheet> all = READER.readValues(in)) {
      while (all.hasNextValue()) {
        Sheet next = all.nextValue();
        take(file, next);
        objects++;
      }
      problem = objects == 0 ? "it is empty." : null;
    } catch (JsonProcessingException e) {
      problem = "object " + (objects + 1) + " is not as score writes it.";
    } catch (IOException e) {
      problem = "it cannot be read: " + e.getMessage() + ".";
    } catch (Unusable e) {
      problem = "object " + (objects + 1) + " " + e.getMessage();
    } catch (RuntimeException e) {
      LOG.warn("{}, object {}", file, objects + 1, e);
      problem = "object " + (objects + 1) + " holds what scores cannot be.";
    }
    if (problem != null) {
      String reason = problem + " Write it anew with score --json or --jsonl.";
      synchronized (this) {
        broken.put(file.toString(), reason);
      }
    }
  }

  private void take(Path file, Sheet sheet) throws Unusable {
    if (sheet == null || !ScoresJson.SCHEMA.equals(sheet.schema)) {
      throw new Unusable("has no schema " + ScoresJson.SCHEMA + ".");
    }
    String place =
        sheet.comparison != null
            ? sheet.comparison
            : sheet.source != null && sheet.source.file != null
                ? sheet.source.file
                : file.getFileName().toString();
    place = Path.of(place).normalize().toString().replace('\\', '/');
    if (sheet.job == null) {
      synchronized (this) {
        take(place, or(sheet.failed));
      }
      return;
    }
    ScoredComparison read = comparison(place, sheet);
    synchronized (this) {
      ScoredComparison before = scored.putIfAbsent(place, read);
      if (before != null && !before.equals(read)) {
        disputed.add(place);
      }
    }
  }

  private void take(String place, List<Failure> all) {
    for (Failure f : all) {
      ScoredComparison.Failed one =
          new ScoredComparison.Failed(place, blank(f.label), blank(f.reason));
      List<ScoredComparison.Failed> own = failed.computeIfAbsent(place, p -> new ArrayList<>());
      if (!own.contains(one)) {
        own.add(one);
      }
    }
  }

  private ScoredComparison comparison(String place, Sheet sheet) throws Unusable {
    Job job;
    try {
      job = Job.of(sheet.job);
    } catch (IllegalArgumentException e) {
      throw new Unusable("is of a job that there is not, '" + sheet.job + "'.");
    }
    if (sheet.validity == null || sheet.source == null) {
      throw new Unusable("was written by an older release, without what a round-up needs.");
    }
    List<ScoredVersion> versions = new ArrayList<>();
    for (Version v : or(sheet.versions)) {
      Map<String, Scores> roles = new LinkedHashMap<>();
      if (v.roles != null) {
        v.roles.forEach((role, own) -> roles.put(word(role), scores(own)));
      }
      versions.add(
          new ScoredVersion(
              word(blank(v.label)),
              word(blank(v.tool)),
              word(blank(v.setting)),
              v.amount,
              v.choice == null || v.choice,
              scores(v.all()),
              roles,
              v.cost == null ? Cost.NONE : v.cost));
    }
    return new ScoredComparison(
        place,
        blank(sheet.name),
        or(sheet.tags).stream().map(this::word).toList(),
        job,
        word(blank(sheet.profile)),
        blank(sheet.source.sha256),
        sheet.source.seconds,
        sheet.made,
        sheet.validity,
        sheet.doubt,
        versions,
        or(sheet.failed).stream()
            .map(f -> new ScoredComparison.Failed(place, blank(f.label), blank(f.reason)))
            .toList());
  }

  private Scores scores(Judged own) {
    Map<String, Double> axes = new LinkedHashMap<>();
    for (Axis axis : Axis.values()) {
      Double score = own.axes == null ? null : own.axes.get(axis.id());
      if (number(score)) {
        axes.put(axis.id(), score);
      }
    }
    Map<String, Double> readings = new LinkedHashMap<>();
    for (Figure f : or(own.readings)) {
      if (f.measure != null && number(f.value) && wanted.test(f.measure)) {
        readings.put(word(f.measure), f.value);
      }
    }
    Map<String, Double> deviations = new LinkedHashMap<>();
    if (own.deviations != null) {
      own.deviations.forEach(
          (label, d) -> {
            if (number(d)) {
              deviations.put(word(label), d);
            }
          });
    }
    return new Scores(
        number(own.overall) ? own.overall : null,
        axes,
        readings,
        own.rank,
        own.rankTo,
        or(own.tiedWith).stream().map(this::word).toList(),
        deviations);
  }

  private static boolean number(Double value) {
    return value != null && Double.isFinite(value);
  }

  private static <T> List<T> or(List<T> list) {
    return list == null ? List.of() : list.stream().filter(Objects::nonNull).toList();
  }

  private static String blank(String word) {
    return word == null ? "" : word;
  }

  /** Labels and measures come again and again: one of each is kept. */
  private String word(String word) {
    String known = words.putIfAbsent(word, word);
    return known == null ? word : known;
  }

  /**
   * What was scored, by the comparison's name; without those that files contradict each other in.
   */
  public List<ScoredComparison> scored() {
    return scored.values().stream().filter(c -> !disputed.contains(c.file())).toList();
  }

  /** What could not be used and was scored nowhere else, what is contradicted, and broken files. */
  public List<ScoredComparison.Failed> failed() {
    List<ScoredComparison.Failed> all = new ArrayList<>();
    failed.forEach(
        (place, own) -> {
          if (!scored.containsKey(place)) {
            all.addAll(own);
          }
        });
    broken.forEach((file, reason) -> all.add(new ScoredComparison.Failed(file, "", reason)));
    for (String place : disputed) {
      all.add(
          new ScoredComparison.Failed(
              place,
              "",
              "two files hold different scores of it. Score it again and leave the older file"
                  + " out."));
    }
    return all;
  }
}
