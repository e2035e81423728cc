package kettlesieve.app.shared;

import java.lang.ref.Reference;
import java.lang.ref.SoftReference;
import java.util.Map;
import java.util.WeakHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.application.Platform;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.PeakPyramid;
import kettlesieve.core.signal.Progress;
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

  private final AtomicLong generation = new AtomicLong();

  /** Works something out; only the result of the newest request is handed over. */
  public <T> void request(Supplier<T> work, Consumer<T> result) {
    long mine = generation.incrementAndGet();
    THREADS.submit(
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
          } catch (RuntimeException e) {
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
