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
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import java.util.function.IntFunction;
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
import kettlesieve.core.score.ScoreSheet;
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
   * What is taken of each comparison.
   *
   * @param <T> what that is
   */
  public interface Taken<T> {
    /** Of a whole sheet. */
    T of(Named named, Comparison comparison, ScoreSheet sheet);

    /** Of one that cannot be used. */
    T failed(ScoredComparison.Failed failed);

    /** It was done; told in any order, one call at a time. */
    void done(int index, T taken);
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
    Object[] results = new Object[all.size()];
    walk(
        all.size(),
        i -> all.get(i).shown(),
        listener,
        stop,
        (i, room) -> {
          results[i] = scored(all.get(i), change, stop, room);
          return () -> {
            if (results[i] instanceof ScoredComparison c) {
              listener.scored(c);
            } else {
              listener.failed((ScoredComparison.Failed) results[i]);
            }
          };
        });
    List<ScoredComparison> scored = new ArrayList<>();
    List<ScoredComparison.Failed> failed = new ArrayList<>();
    for (Object r : results) {
      if (r instanceof ScoredComparison c) {
        scored.add(c);
      } else if (r != null) {
        failed.add((ScoredComparison.Failed) r);
      }
    }
    return new Outcome(scored, failed);
  }

  /**
   * Scores comparisons and takes of each sheet what is wanted, without holding any.
   *
   * @param change what is asked of each beyond what stands in its file, such as a profile
   * @param stop asked often
   */
  public <T> void sheets(
      List<Named> all,
      UnaryOperator<Comparison> change,
      Taken<T> taken,
      Listener listener,
      Stop stop) {
    walk(
        all.size(),
        i -> all.get(i).shown(),
        listener,
        stop,
        (i, room) -> {
          T one = sheet(all.get(i), change, taken, stop, room);
          return () -> taken.done(i, one);
        });
  }

  /** A piece of the work; what it gives is told while nobody else tells anything. */
  private interface Piece {
    Runnable at(int index, Semaphore room) throws InterruptedException;
  }

  private void walk(int n, IntFunction<String> shown, Listener listener, Stop stop, Piece piece) {
    AtomicInteger next = new AtomicInteger();
    AtomicInteger done = new AtomicInteger();
    AtomicReference<RuntimeException> broken = new AtomicReference<>();
    Semaphore room = new Semaphore(atOnce);
    Runnable worker =
        () -> {
          for (int i = next.getAndIncrement(); i < n; i = next.getAndIncrement()) {
            synchronized (listener) {
              listener.at(done.get(), n, shown.apply(i));
            }
            try {
              stop.check();
              Runnable tell = piece.at(i, room);
              store.trim();
              synchronized (listener) {
                done.incrementAndGet();
                tell.run();
                listener.at(done.get(), n, shown.apply(i));
              }
            } catch (CancellationException e) {
              return;
            } catch (InterruptedException e) {
              Thread.currentThread().interrupt();
              return;
            } catch (RuntimeException e) {
              // What is done with a result broke down: the work has no end to go on to.
              broken.compareAndSet(null, e);
              next.set(n);
              return;
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
    store.fingerprints().keep();
    if (broken.get() != null) {
      throw broken.get();
    }
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

  private Object scored(Named named, UnaryOperator<Comparison> change, Stop stop, Semaphore room)
      throws InterruptedException {
    return guarded(
        named,
        f -> f,
        () -> {
          ComparisonFile.Stored stored = ComparisonFile.read(named.file());
          Comparison comparison = change.apply(stored.comparison());
          sourceOf(comparison);
          if (comparison.versions().isEmpty()) {
            return ScoredSheet.withoutVersions(named.shown(), comparison);
          }
          Optional<ScoredComparison> known =
              key(stored, comparison).flatMap(store::scored).map(c -> c.at(named.shown()));
          return known.isPresent()
              ? known.get()
              : kept(stored, comparison, named, results(comparison, stop, room));
        });
  }

  private <T> T sheet(
      Named named, UnaryOperator<Comparison> change, Taken<T> taken, Stop stop, Semaphore room)
      throws InterruptedException {
    return guarded(
        named,
        taken::failed,
        () -> {
          Comparison comparison = change.apply(ComparisonFile.read(named.file()).comparison());
          sourceOf(comparison);
          if (comparison.versions().isEmpty()) {
            throw new Unusable("it has no versions yet. Open it and bring some in.");
          }
          return taken.of(named, comparison, results(comparison, stop, room).sheet());
        });
  }

  private static void sourceOf(Comparison comparison) throws Unusable {
    if (comparison.source() == null || !comparison.source().named()) {
      throw new Unusable("it has no source yet. Open it and bring one in.");
    }
  }

  /** A comparison has not what it needs. */
  private static final class Unusable extends Exception {
    private static final long serialVersionUID = 1;

    Unusable(String message) {
      super(message);
    }
  }

  private interface Work<T> {
    T get() throws ComparisonFileException, MediaException, Unusable, InterruptedException;
  }

  private static <T> T guarded(
      Named named, Function<ScoredComparison.Failed, T> failed, Work<T> work)
      throws InterruptedException {
    try {
      return work.get();
    } catch (ComparisonFileException | MediaException | Unusable e) {
      return failed.apply(failed(named, e.getMessage()));
    } catch (CancellationException e) {
      throw e;
    } catch (RuntimeException | OutOfMemoryError e) {
      LOG.error("{} broke down", named.file(), e);
      return failed.apply(failed(named, Surroundings.words(e)));
    }
  }

  /** What was measured before, else measured now: by one processor, or by all if it is long. */
  private Results results(Comparison comparison, Stop stop, Semaphore room)
      throws MediaException, InterruptedException {
    Optional<Results> known = new Recall(comparison, store).results();
    if (known.isPresent()) {
      return known.get();
    }
    boolean alone = bytes(comparison) > LONG_BYTES;
    int permits = alone ? atOnce : 1;
    room.acquire(permits);
    try {
      Width width =
          alone ? Width.ofMachine() : new Width(1, Runtime.getRuntime().maxMemory() / atOnce);
      try (Conductor conductor = new Conductor(readers.get(), store, width, Thread::new)) {
        return conductor.run(comparison, Conductor.Listener.SILENT, stop);
      }
    } finally {
      room.release(permits);
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
