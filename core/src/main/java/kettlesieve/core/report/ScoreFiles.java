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
import java.util.Queue;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Cost;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Made;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.roundup.ScoredVersion;
import kettlesieve.core.roundup.Scores;
import kettlesieve.core.score.odds.Validity;

/**
 * Takes the scores of comparisons from files that {@code score} wrote anywhere: one object, or one
 * a line. The same comparison told twice counts once; whatever the order and the grouping of the
 * files, the same comes of it. Only the readings that are asked for are kept, so that ten thousand
 * files have room. For one thread, which reads by as many as there are processors.
 */
public final class ScoreFiles {
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
  private final Set<String> disputed = new java.util.TreeSet<>();

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

  /**
   * Reads files.
   *
   * @throws ScoreFileException if one is none of scores, named with what to do: the first of those
   */
  public void read(List<Path> files) throws ScoreFileException {
    Queue<Integer> next =
        new ConcurrentLinkedQueue<>(IntStream.range(0, files.size()).boxed().toList());
    Map<Integer, ScoreFileException> broken = new ConcurrentSkipListMap<>();
    List<Thread> threads = new ArrayList<>();
    int atOnce = Math.min(files.size(), Runtime.getRuntime().availableProcessors());
    for (int t = 0; t < atOnce; t++) {
      Thread thread =
          new Thread(
              () -> {
                for (Integer i = next.poll(); i != null; i = next.poll()) {
                  try {
                    read(files.get(i));
                  } catch (ScoreFileException e) {
                    broken.put(i, e);
                  }
                }
              },
              "score files " + (t + 1));
      thread.setDaemon(true);
      thread.start();
      threads.add(thread);
    }
    for (Thread thread : threads) {
      try {
        thread.join();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new CancellationException();
      }
    }
    if (!broken.isEmpty()) {
      throw broken.values().iterator().next();
    }
  }

  private void read(Path file) throws ScoreFileException {
    int line = 0;
    try (InputStream in =
            new WithoutSpots(new BufferedInputStream(Files.newInputStream(file), 1 << 16));
        MappingIterator<Sheet> all = READER.readValues(in)) {
      while (all.hasNextValue()) {
        Sheet next = all.nextValue();
        line++;
        take(file, line, next);
      }
    } catch (JsonProcessingException e) {
      throw new ScoreFileException(
          file
              + ": object "
              + (line + 1)
              + " is not as score writes it (line "
              + (e.getLocation() == null ? 0 : e.getLocation().getLineNr())
              + "). Write the file anew with score --jsonl.",
          e);
    } catch (IOException e) {
      throw new ScoreFileException(file + " cannot be read: " + e.getMessage(), e);
    }
    if (line == 0) {
      throw new ScoreFileException(file + " is empty. Write it anew with score --jsonl.", null);
    }
  }

  private void take(Path file, int line, Sheet sheet) throws ScoreFileException {
    if (sheet == null || !ScoresJson.SCHEMA.equals(sheet.schema)) {
      throw new ScoreFileException(
          file
              + ": object "
              + line
              + " has no schema "
              + ScoresJson.SCHEMA
              + ". Give files that score wrote, or comparisons.",
          null);
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
    ScoredComparison read = comparison(file, line, place, sheet);
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

  private ScoredComparison comparison(Path file, int line, String place, Sheet sheet)
      throws ScoreFileException {
    Job job;
    try {
      job = Job.of(sheet.job);
    } catch (IllegalArgumentException e) {
      throw new ScoreFileException(
          file + ": object " + line + ": there is no job '" + sheet.job + "'", e);
    }
    if (sheet.validity == null || sheet.source == null) {
      throw new ScoreFileException(
          file
              + ": object "
              + line
              + " was written by an older release, without what a round-up needs."
              + " Score the comparison again.",
          null);
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
      if (score != null) {
        axes.put(axis.id(), score);
      }
    }
    Map<String, Double> readings = new LinkedHashMap<>();
    for (Figure f : or(own.readings)) {
      if (f.measure != null && f.value != null && wanted.test(f.measure)) {
        readings.put(word(f.measure), f.value);
      }
    }
    Map<String, Double> deviations = new LinkedHashMap<>();
    if (own.deviations != null) {
      own.deviations.forEach((label, d) -> deviations.put(word(label), d));
    }
    return new Scores(
        own.overall,
        axes,
        readings,
        own.rank,
        own.rankTo,
        or(own.tiedWith).stream().map(this::word).toList(),
        deviations);
  }

  private static <T> List<T> or(List<T> list) {
    return list == null ? List.of() : list;
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

  /** What could not be used and was scored nowhere else, and what is contradicted. */
  public List<ScoredComparison.Failed> failed() {
    List<ScoredComparison.Failed> all = new ArrayList<>();
    failed.forEach(
        (place, own) -> {
          if (!scored.containsKey(place)) {
            all.addAll(own);
          }
        });
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
