package kettlesieve.core.work;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.Semaphore;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Surroundings;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.roundup.ScoredSheet;
import kettlesieve.core.task.Stop;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Scores many comparisons, as many at once as there are processors, each on one of them; what is
 * long has the machine for itself. What was measured before is taken from the store without reading
 * a sound. One that cannot be used is told of, and the others go on.
 *
 * <p>One run at a time. When {@link #run} returns or throws, none of its threads is alive. The
 * listener is told from those threads, one call at a time.
 */
public final class ManyComparisons {
  private static final Logger LOG = LoggerFactory.getLogger(ManyComparisons.class);

  /** Comparisons with more bytes of sound than this are worked on alone. */
  private static final long LONG_BYTES = 300L << 20;

  /**
   * A comparison to be scored.
   *
   * @param shown how its file is named to people
   * @param file where it is
   */
  public record Named(String shown, Path file) {}

  /** Told how the work goes on. */
  public interface Listener {
    /** Tells nobody. */
    Listener SILENT = new Listener() {};

    /** So many are done; this one is being worked on. */
    default void at(int done, int of, String shown) {}

    /** A comparison was scored. */
    default void scored(ScoredComparison scored) {}

    /** A comparison cannot be used. */
    default void failed(ScoredComparison.Failed failed) {}
  }

  /**
   * What came of it, in the order in which the comparisons were given.
   *
   * @param scored those that could be
   * @param failed those that could not
   */
  public record Outcome(List<ScoredComparison> scored, List<ScoredComparison.Failed> failed) {}

  private final Supplier<MediaReader> readers;
  private final ResultStore store;
  private final int atOnce;

  /**
   * @param readers makes a reader of recordings for each comparison
   * @param store keeps results
   * @param atOnce how many comparisons side by side, 1 or more
   */
  public ManyComparisons(Supplier<MediaReader> readers, ResultStore store, int atOnce) {
    this.readers = readers;
    this.store = store;
    this.atOnce = Math.max(1, atOnce);
  }

  /**
   * Scores comparisons.
   *
   * @param change what is asked of each beyond what stands in its file, such as a profile
   * @param stop asked often
   */
  public Outcome run(
      List<Named> all, UnaryOperator<Comparison> change, Listener listener, Stop stop) {
    int n = all.size();
    Object[] results = new Object[n];
    AtomicInteger next = new AtomicInteger();
    AtomicInteger done = new AtomicInteger();
    Semaphore room = new Semaphore(atOnce);
    Runnable worker =
        () -> {
          for (int i = next.getAndIncrement(); i < n; i = next.getAndIncrement()) {
            Named named = all.get(i);
            synchronized (listener) {
              listener.at(done.get(), n, named.shown());
            }
            try {
              stop.check();
              results[i] = one(named, change, stop, room);
            } catch (CancellationException e) {
              return;
            } catch (InterruptedException e) {
              Thread.currentThread().interrupt();
              return;
            }
            store.trim();
            synchronized (listener) {
              done.incrementAndGet();
              if (results[i] instanceof ScoredComparison c) {
                listener.scored(c);
              } else {
                listener.failed((ScoredComparison.Failed) results[i]);
              }
              listener.at(done.get(), n, named.shown());
            }
          }
        };
    List<Thread> threads = new ArrayList<>();
    for (int t = 0; t < Math.min(atOnce, n); t++) {
      Thread thread = new Thread(worker, "comparison " + (t + 1));
      thread.setDaemon(true);
      thread.start();
      threads.add(thread);
    }
    for (Thread t : threads) {
      joined(t);
    }
    stop.check();
    List<ScoredComparison> scored = new ArrayList<>();
    List<ScoredComparison.Failed> failed = new ArrayList<>();
    for (Object r : results) {
      if (r instanceof ScoredComparison c) {
        scored.add(c);
      } else if (r != null) {
        failed.add((ScoredComparison.Failed) r);
      }
    }
    store.fingerprints().keep();
    return new Outcome(scored, failed);
  }

  /** Names files below the folder that holds them all, which are the same on every machine. */
  public static List<Named> named(List<Path> files) {
    List<Path> absolute = files.stream().map(f -> f.toAbsolutePath().normalize()).toList();
    Path base = absolute.isEmpty() ? null : absolute.get(0).getParent();
    for (Path file : absolute) {
      while (!file.startsWith(base)) {
        base = base.getParent();
      }
    }
    List<Named> all = new ArrayList<>();
    for (Path file : absolute) {
      all.add(new Named(base.relativize(file).toString().replace('\\', '/'), file));
    }
    return all;
  }

  /**
   * The comparisons in a folder and the folders below it, by name.
   *
   * @throws IOException if it cannot be looked through
   */
  public static List<Path> in(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(f -> f.toString().endsWith(ComparisonFile.ENDING))
          .filter(Files::isRegularFile)
          .map(f -> f.toAbsolutePath().normalize())
          .sorted()
          .toList();
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  private static void joined(Thread thread) {
    boolean interrupted = false;
    while (true) {
      try {
        thread.join();
        break;
      } catch (InterruptedException e) {
        interrupted = true;
      }
    }
    if (interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  private Object one(Named named, UnaryOperator<Comparison> change, Stop stop, Semaphore room)
      throws InterruptedException {
    try {
      ComparisonFile.Stored stored = ComparisonFile.read(named.file());
      Comparison comparison = change.apply(stored.comparison());
      if (comparison.source() == null || !comparison.source().named()) {
        return failed(named, "it has no source yet. Open it and bring one in.");
      }
      if (comparison.versions().isEmpty()) {
        return ScoredSheet.withoutVersions(named.shown(), comparison);
      }
      Optional<ScoredComparison> scored =
          key(stored, comparison).flatMap(store::scored).map(c -> c.at(named.shown()));
      if (scored.isPresent()) {
        return scored.get();
      }
      Optional<Results> known = new Recall(comparison, store).results();
      if (known.isPresent()) {
        return kept(stored, comparison, named, known.get());
      }
      boolean alone = bytes(comparison) > LONG_BYTES;
      int permits = alone ? atOnce : 1;
      room.acquire(permits);
      try {
        Width width =
            alone ? Width.ofMachine() : new Width(1, Runtime.getRuntime().maxMemory() / atOnce);
        try (Conductor conductor = new Conductor(readers.get(), store, width, Thread::new)) {
          Results results = conductor.run(comparison, Conductor.Listener.SILENT, stop);
          return kept(stored, comparison, named, results);
        }
      } finally {
        room.release(permits);
      }
    } catch (ComparisonFileException | MediaException e) {
      return failed(named, e.getMessage());
    } catch (CancellationException e) {
      throw e;
    } catch (RuntimeException | OutOfMemoryError e) {
      LOG.error("{} broke down", named.file(), e);
      return failed(named, Surroundings.words(e));
    }
  }

  /** Scores without their sounds are small, and what a second round-up asks for. */
  private ScoredComparison kept(
      ComparisonFile.Stored stored, Comparison comparison, Named named, Results results) {
    ScoredComparison scored = ScoredSheet.of(named.shown(), comparison, results.sheet());
    if (scored.failed().isEmpty()) {
      key(stored, comparison).ifPresent(k -> store.put(k, scored));
    }
    return scored;
  }

  /** Empty where a file was never read as it is now. */
  private Optional<WorkKey> key(ComparisonFile.Stored stored, Comparison comparison) {
    try {
      return Optional.of(
          WorkKey.ofScores(
              stored.sha256(),
              comparison,
              ref -> store.fingerprints().of(ref.file()).orElseThrow()));
    } catch (NoSuchElementException e) {
      return Optional.empty();
    }
  }

  private static ScoredComparison.Failed failed(Named named, String reason) {
    return new ScoredComparison.Failed(named.shown(), "", reason);
  }

  private static long bytes(Comparison comparison) {
    long sum = 0;
    for (MediaRef ref : comparison.files()) {
      try {
        sum += Files.size(ref.file());
      } catch (IOException e) {
        // It is missing, which is said when it is read.
        continue;
      }
    }
    return sum;
  }
}
