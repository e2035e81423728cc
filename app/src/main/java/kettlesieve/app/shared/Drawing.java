package kettlesieve.app.shared;

import java.lang.ref.Reference;
import java.lang.ref.SoftReference;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.WeakHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.application.Platform;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.picture.PeakPyramid;
import kettlesieve.core.task.Progress;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Works out pictures off the interface thread. */
public final class Drawing {
  private static final Logger LOG = LoggerFactory.getLogger(Drawing.class);
  private static final ExecutorService THREADS =
      Executors.newFixedThreadPool(
          2,
          task -> {
            Thread thread = new Thread(task, "drawing");
            thread.setDaemon(true);
            thread.setPriority(Thread.NORM_PRIORITY - 1);
            return thread;
          });
  private static final Map<Audio, Reference<PeakPyramid>> PEAKS = new WeakHashMap<>();
  private static final Map<Audio, List<Runnable>> BEING_READ = new IdentityHashMap<>();
  private static final ExecutorService PEAK_READER =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "peaks");
            thread.setDaemon(true);
            thread.setPriority(Thread.NORM_PRIORITY - 1);
            return thread;
          });

  private static final ExecutorService FIRST =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "small pictures");
            thread.setDaemon(true);
            return thread;
          });

  private final AtomicLong generation = new AtomicLong();
  private final ExecutorService threads;

  /** Works on the threads that draw lanes, too. */
  public Drawing() {
    this(THREADS);
  }

  private Drawing(ExecutorService threads) {
    this.threads = threads;
  }

  /** For small pictures that must not wait until all lanes are drawn. */
  public static Drawing first() {
    return new Drawing(FIRST);
  }

  /** Works something out; only the result of the newest request is handed over. */
  public <T> void request(Supplier<T> work, Consumer<T> result) {
    long mine = generation.incrementAndGet();
    threads.submit(
        () -> {
          if (generation.get() != mine) {
            return;
          }
          try {
            T value = work.get();
            Platform.runLater(
                () -> {
                  if (generation.get() == mine) {
                    result.accept(value);
                  }
                });
          } catch (RuntimeException | Error e) {
            LOG.error("a picture could not be drawn", e);
          }
        });
  }

  /** Runs something on the threads that draw. */
  static void background(Runnable work) {
    THREADS.submit(work);
  }

  /** The peaks of all channels of a recording if they are known; null otherwise. */
  public static PeakPyramid peaksIfKnown(Audio audio) {
    synchronized (PEAKS) {
      Reference<PeakPyramid> kept = PEAKS.get(audio);
      return kept == null ? null : kept.get();
    }
  }

  /**
   * Reads the peaks of a recording on a thread of its own, so that no picture waits for it.
   *
   * @param known called on the interface thread when they are there
   */
  public static void readPeaks(Audio audio, Runnable known) {
    synchronized (BEING_READ) {
      List<Runnable> others = BEING_READ.get(audio);
      if (others != null) {
        others.add(known);
        return;
      }
      BEING_READ.put(audio, new ArrayList<>(List.of(known)));
    }
    PEAK_READER.submit(
        () -> {
          try {
            peaks(audio);
          } catch (RuntimeException | Error e) {
            LOG.error("the peaks of a recording could not be read", e);
          } finally {
            List<Runnable> waiting;
            synchronized (BEING_READ) {
              waiting = BEING_READ.remove(audio);
            }
            if (peaksIfKnown(audio) != null) {
              Platform.runLater(() -> waiting.forEach(Runnable::run));
            }
          }
        });
  }

  /** The peaks of all channels of a recording; takes a while the first time. */
  public static PeakPyramid peaks(Audio audio) {
    PeakPyramid known = peaksIfKnown(audio);
    if (known != null) {
      return known;
    }
    PeakPyramid made = PeakPyramid.ofAll(audio, Progress.SILENT);
    synchronized (PEAKS) {
      // Softly: the peaks know their recording, and would keep it for ever.
      PEAKS.put(audio, new SoftReference<>(made));
    }
    return made;
  }
}
