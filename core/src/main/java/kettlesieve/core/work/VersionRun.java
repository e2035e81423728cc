package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.TimeUnit;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.fairness.AlikeVersions;
import kettlesieve.core.fairness.Fairness;
import kettlesieve.core.match.Found;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;
import kettlesieve.core.measure.stems.StemCells;
import kettlesieve.core.score.Failure;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.VersionFacts;
import kettlesieve.core.task.Stop;

/**
 * Matches, measures and ranks the versions of one run, side by side. What its threads read is final
 * and this run's own; what is gathered of their answers is gathered on the thread of {@link #go},
 * which ends when all of its threads have.
 */
final class VersionRun {
  private final ReadComparison.Whole read;
  private final Comparison comparison;
  private final Work work;
  private final PreparedSource prepared;
  private final WorkKey source;
  private final ResultStore store;
  private final Conductor.Listener listener;

  // Of the thread of go alone.
  private final Map<WorkKey, List<Matched>> matches;
  private final Map<String, Failure> failed;
  private List<Fairness.Item> alike = List.of();

  /**
   * @param source key of {@code prepared}
   * @param matches of earlier runs against the same source; those of this one are added
   */
  VersionRun(
      ReadComparison.Whole read,
      PreparedSource prepared,
      WorkKey source,
      ResultStore store,
      Conductor.Listener listener,
      Map<WorkKey, List<Matched>> matches) {
    this.read = read;
    this.comparison = read.comparison();
    this.work = Work.of(comparison);
    this.prepared = prepared;
    this.source = source;
    this.store = store;
    this.listener = listener;
    this.matches = matches;
    this.failed = new LinkedHashMap<>(read.failed());
  }

  /** The run as its threads see it: over when the person gave it up, or when it broke down. */
  private static final class Ending implements Stop {
    private final Stop asked;
    private volatile boolean over;

    Ending(Stop asked) {
      this.asked = asked;
    }

    @Override
    public void check() {
      if (over) {
        throw new CancellationException();
      }
      asked.check();
    }
  }

  /**
   * Works on all versions.
   *
   * @param width how many side by side
   * @param threads makes the threads that do it
   * @param asked ends the work
   */
  Results go(Width width, ThreadFactory threads, Stop asked) {
    Ending stop = new Ending(asked);
    List<Thread> made = new CopyOnWriteArrayList<>();
    ExecutorService pool =
        Executors.newFixedThreadPool(
            width.versions(
                (long) prepared.first().source().framing().count()
                    * read.source().audio().channels()),
            task -> {
              Thread thread = threads.newThread(() -> under(stop, task));
              made.add(thread);
              return thread;
            });
    try {
      return measure(pool, match(pool, stop), stop);
    } finally {
      stop.over = true;
      // Not interrupted: that would close files under whoever reads them.
      pool.shutdown();
      awaitEnd(pool, made);
    }
  }

  private static void under(Stop stop, Runnable task) {
    Stop.over(
        stop,
        () -> {
          task.run();
          return task;
        });
  }

  /** Whoever is interrupted meanwhile hears of it, and still nobody is left behind. */
  private static void awaitEnd(ExecutorService pool, List<Thread> made) {
    boolean interrupted = false;
    boolean ended = false;
    while (!ended) {
      try {
        ended = pool.awaitTermination(1, TimeUnit.MINUTES);
        for (Thread thread : made) {
          thread.join();
        }
      } catch (InterruptedException e) {
        interrupted = true;
        ended = false;
      }
    }
    if (interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  private void tell(Stop stop, String what, double share) {
    stop.check();
    listener.progress(what, share);
  }

  private Map<Version, List<Matched>> match(ExecutorService pool, Stop stop) {
    Map<Version, Future<List<Matched>>> going = new LinkedHashMap<>();
    for (Version v : comparison.versions()) {
      if (read.files().containsKey(v.id())) {
        List<Matched> known = matches.get(key(v));
        Callable<List<Matched>> task =
            () -> {
              tell(stop, "matching " + v.label(), -1);
              List<Matched> matched = known != null ? known : matched(v, stop);
              listener.versionMatched(v.id(), matched.get(0));
              return matched;
            };
        going.put(v, pool.submit(task));
      }
    }
    Map<Version, List<Matched>> matched = new LinkedHashMap<>();
    going.forEach(
        (v, future) -> {
          try {
            matched.put(v, get(future));
            matches.put(key(v), matched.get(v));
          } catch (MatchException e) {
            fail(v, e.getMessage());
          } catch (CancellationException e) {
            throw e;
          } catch (RuntimeException | OutOfMemoryError e) {
            fail(v, ReadComparison.broken(v, e));
          }
        });
    alike = alike(matched);
    return matched;
  }

  /** Looks for a version where it was found before, however it was set by hand since. */
  private List<Matched> matched(Version v, Stop stop) throws MatchException {
    WorkKey key = WorkKey.ofPlacement(source, v, read::checksum);
    List<Found> before = store.found(key);
    List<Matched> matched = prepared.match(v, read.files().get(v.id()), before, stop);
    if (before.isEmpty()) {
      store.put(key, matched.stream().map(Matched::found).toList());
    }
    return matched;
  }

  private List<Fairness.Item> alike(Map<Version, List<Matched>> matched) {
    Map<String, Matched> byLabel = new LinkedHashMap<>();
    Map<String, List<String>> sums = new HashMap<>();
    matched.forEach(
        (v, places) -> {
          byLabel.put(v.label(), places.get(0));
          sums.put(v.label(), sums(v.id()));
        });
    return AlikeVersions.among(byLabel, sums);
  }

  private List<String> sums(String id) {
    return read.files().get(id).values().stream().map(r -> r.facts().sha256()).toList();
  }

  private WorkKey key(Version v) {
    return WorkKey.ofVersion(source, comparison, v, read::checksum);
  }

  private Results measure(ExecutorService pool, Map<Version, List<Matched>> matched, Stop stop) {
    Map<Version, Future<Measured>> going = new LinkedHashMap<>();
    Map<String, List<Matched>> byId = new LinkedHashMap<>();
    matched.forEach((v, m) -> byId.put(v.id(), m));
    Map<String, List<Matched>> chained = comparison.job().inStems() ? prepared.chained(byId) : byId;
    Map<String, List<StemCells>> cells = cells(matched.keySet(), chained, stop);
    for (Version v : matched.keySet()) {
      // What was gathered of a version goes when it is measured.
      List<StemCells> own = cells.remove(v.id());
      going.put(v, pool.submit(() -> measured(v, chained.get(v.id()), own, stop)));
    }
    List<Measured> done = new ArrayList<>();
    going.forEach(
        (v, future) -> {
          try {
            done.add(get(future));
          } catch (CancellationException e) {
            throw e;
          } catch (MatchException | RuntimeException | OutOfMemoryError e) {
            fail(v, ReadComparison.broken(v, e));
          }
          if (done.size() < going.size()) {
            listener.measured(results(done));
          }
        });
    tell(stop, "scoring", 1);
    Results results = results(done);
    if (comparison.job().inStems()) {
      results = new Results(work, prepared.withNulls(results.sheet(), chained, stop));
    }
    listener.measured(results);
    return results;
  }

  /** In stems, whose the cells of the mix are; nothing where all is known already. */
  private Map<String, List<StemCells>> cells(
      Set<Version> versions, Map<String, List<Matched>> matched, Stop stop) {
    boolean known = versions.stream().allMatch(v -> store.version(key(v)).isPresent());
    if (!comparison.job().inStems() || known) {
      return new LinkedHashMap<>();
    }
    tell(stop, "finding out what belongs to whom", -1);
    return prepared.cells(matched, read.truth(), stop);
  }

  private Measured measured(Version v, List<Matched> matched, List<StemCells> cells, Stop stop) {
    WorkKey key = key(v);
    var known = store.version(key);
    if (known.isPresent()) {
      return known.get().as(v, comparison.costOf(v));
    }
    tell(stop, "measuring " + v.label(), -1);
    VersionFacts facts = prepared.facts(v, read.files().get(v.id()), matched.get(0));
    Measured measured =
        new Measured(
            facts,
            cells == null
                ? prepared.measure(matched, stop)
                : prepared.measureStems(matched, cells, stop));
    store.put(key, measured);
    return measured;
  }

  private void fail(Version v, String problem) {
    String file = v.files().get(0).file().toString();
    failed.put(v.id(), new Failure(v.id(), v.label(), file, problem));
    listener.versionFailed(v.id(), problem);
  }

  private Results results(List<Measured> done) {
    Map<String, List<String>> sums = new LinkedHashMap<>();
    read.files().keySet().forEach(id -> sums.put(id, sums(id)));
    SheetMaker maker = new SheetMaker(comparison, read.source().facts(), prepared.warnings());
    return new Results(
        work, maker.sheet(done, List.copyOf(failed.values()), read.notices(), sums, alike));
  }

  private static <T> T get(Future<T> future) throws MatchException {
    try {
      return future.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new CancellationException();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof MatchException match) {
        throw match;
      }
      if (e.getCause() instanceof RuntimeException own) {
        throw own;
      }
      if (e.getCause() instanceof Error error) {
        throw error;
      }
      throw new IllegalStateException(e.getCause());
    }
  }
}
