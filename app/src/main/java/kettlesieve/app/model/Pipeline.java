package kettlesieve.app.model;

import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.PreparedExcerpt;
import kettlesieve.core.work.PreparedSource;
import kettlesieve.core.work.ResultStore;
import kettlesieve.core.work.Results;
import kettlesieve.core.work.RunId;
import kettlesieve.core.work.Width;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The {@link Conductor} in the background: works on the comparison whenever it changes. A newer
 * request stops an older one; what was there stays until something better is ready.
 *
 * <p>Every run has a {@link RunId}, and whatever it has to tell is posted under it: on the
 * interface thread it is asked once more whether that run is still the one that is wanted. So
 * nothing of an earlier run, or of another comparison, ever reaches the one that is open.
 */
final class Pipeline implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Pipeline.class);

  /** Told of the run that is wanted, on the interface thread. */
  interface Listener {
    void progress(String what, double share);

    void sourceRead(Recording source);

    void sourceReady(Recording source, Recording reference, PreparedExcerpt first);

    /** The clean recording at the source's place and level; null if there is none to hear. */
    void referenceReady(Prepared reference);

    void trueStemsReady(Map<String, Recording> stems);

    void sourceFailed(String message);

    void versionRead(String versionId, Map<String, Recording> files);

    void versionReady(String versionId, Prepared prepared);

    void versionFailed(String versionId, String problem);

    void results(Results results);

    void news(String text);

    /**
     * Nothing is being worked on any more.
     *
     * @param whole whether all that was wanted was done
     */
    void finished(boolean whole);
  }

  private final Executor ui;
  private final Listener listener;
  private final Conductor conductor;
  private final ExecutorService thread;
  private final AtomicLong runs = new AtomicLong();
  private volatile RunId wanted = new RunId(0, 0);
  private Prepared preparedReference;
  private Matched preparedOf;

  /** Of the last run that ended: what is matched as before stays the same object, lanes and all. */
  private Map<Matched, Prepared> prepared = new IdentityHashMap<>();

  /**
   * @param ui runs tasks on the interface thread
   */
  Pipeline(Executor ui, MediaReader reader, ResultStore store, Listener listener) {
    this.ui = ui;
    this.listener = listener;
    this.thread = Executors.newSingleThreadExecutor(task -> daemon(task, "pipeline"));
    this.conductor =
        new Conductor(reader, store, Width.ofMachine(), task -> daemon(task, "measuring"));
    thread.execute(store::prepare);
  }

  private static Thread daemon(Runnable task, String name) {
    Thread thread = new Thread(task, name);
    thread.setDaemon(true);
    // The window and the player come first.
    thread.setPriority(Thread.NORM_PRIORITY - 1);
    return thread;
  }

  /**
   * Works on a comparison, and gives up what it was doing.
   *
   * @param comparisonId which comparison it is, counted as they are opened
   */
  void request(long comparisonId, Comparison comparison) {
    RunId mine = new RunId(comparisonId, runs.incrementAndGet());
    wanted = mine;
    thread.execute(() -> run(mine, comparison));
  }

  /** Stops what is being done; results that are there stay. */
  void cancel() {
    wanted = new RunId(wanted.comparison(), runs.incrementAndGet());
    listener.finished(false);
  }

  private void post(RunId run, Runnable news) {
    if (!run.equals(wanted)) {
      // Nor is there anybody to tell once the window is closed.
      return;
    }
    ui.execute(
        () -> {
          if (run.equals(wanted)) {
            news.run();
          }
        });
  }

  private void run(RunId mine, Comparison comparison) {
    Stop stop =
        () -> {
          if (!mine.equals(wanted)) {
            throw new CancellationException();
          }
        };
    Events events = new Events(mine, comparison);
    boolean done = false;
    try {
      stop.check();
      if (comparison.source() == null) {
        conductor.readVersions(comparison, events, stop);
      } else {
        readTrueStems(mine, comparison, stop);
        conductor.run(comparison, events, stop);
        prepared = events.prepared;
      }
      done = true;
    } catch (CancellationException e) {
      LOG.debug("superseded");
    } catch (MediaException e) {
      post(mine, () -> listener.sourceFailed(e.getMessage()));
    } catch (OutOfMemoryError e) {
      LOG.error("not enough memory", e);
      conductor.forget();
      post(
          mine,
          () ->
              listener.sourceFailed(
                  "There is not enough memory for this. Choose a shorter excerpt, or close other"
                      + " programs and try again."));
    } catch (RuntimeException | Error e) {
      LOG.error("the background work broke down", e);
      post(
          mine,
          () ->
              listener.sourceFailed(
                  "The program made an error of its own while it was measuring; its log says"
                      + " more."));
    } finally {
      boolean whole = done;
      post(mine, () -> listener.finished(whole));
    }
  }

  /** A true stem that cannot be read is named, and the others serve. */
  private void readTrueStems(RunId mine, Comparison comparison, Stop stop) {
    Map<String, Recording> stems = new LinkedHashMap<>();
    for (var stem : comparison.trueStems().entrySet()) {
      try {
        stems.put(stem.getKey(), conductor.read(stem.getValue(), (what, share) -> stop.check()));
      } catch (MediaException e) {
        String problem = "True stem " + stem.getKey() + ": " + e.getMessage();
        post(mine, () -> listener.news(problem));
      }
    }
    post(mine, () -> listener.trueStemsReady(stems));
  }

  /** Hands on what the conductor tells of one run. */
  private final class Events implements Conductor.Listener {
    private final RunId run;
    private final Comparison comparison;
    private final Map<Matched, Prepared> prepared = new IdentityHashMap<>();
    private final Map<Matched, Prepared> before = Pipeline.this.prepared;
    private Audio source;

    Events(RunId run, Comparison comparison) {
      this.run = run;
      this.comparison = comparison;
    }

    @Override
    public void progress(String what, double share) {
      post(run, () -> listener.progress(what, share));
    }

    @Override
    public void recalled(Results results) {
      post(run, () -> listener.results(results));
    }

    @Override
    public void sourceRead(Recording recording) {
      post(run, () -> listener.sourceRead(recording));
    }

    @Override
    public void sourceReady(Recording recording, Recording reference, PreparedSource onSource) {
      source = recording.audio();
      post(run, () -> listener.sourceReady(recording, reference, onSource.first()));
      Prepared clean = preparedReference(onSource);
      post(run, () -> listener.referenceReady(clean));
    }

    private Prepared preparedReference(PreparedSource onSource) {
      try {
        Matched matched = onSource.matchedReference().orElse(null);
        if (matched != preparedOf) {
          preparedOf = matched;
          preparedReference =
              matched == null ? null : Prepared.of(matched, onSource.first().source().whole());
        }
        return preparedReference;
      } catch (MatchException e) {
        post(run, () -> listener.news("The clean recording: " + e.getMessage()));
        return null;
      }
    }

    @Override
    public void versionRead(String versionId, Map<String, Recording> files) {
      post(run, () -> listener.versionRead(versionId, files));
    }

    @Override
    public void versionMatched(String versionId, Matched matched) {
      Prepared ready;
      synchronized (prepared) {
        Prepared known = before.get(matched);
        ready = known != null ? known : Prepared.of(matched, source);
        prepared.put(matched, ready);
      }
      post(run, () -> listener.versionReady(versionId, ready));
    }

    @Override
    public void versionFailed(String versionId, String problem) {
      post(run, () -> listener.versionFailed(versionId, problem));
    }

    @Override
    public void measured(Results results) {
      post(run, () -> listener.results(results));
    }
  }

  @Override
  public void close() {
    if (thread.isShutdown()) {
      return;
    }
    wanted = new RunId(-1, runs.incrementAndGet());
    // What is going on gives up by itself; only then may what it works on be let go.
    thread.execute(conductor::close);
    thread.shutdown();
  }
}
