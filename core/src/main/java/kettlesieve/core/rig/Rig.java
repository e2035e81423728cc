package kettlesieve.core.rig;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Unfinished;
import kettlesieve.core.task.Progress;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Makes versions by running tools, two at a time. Whatever a tool does, the outcome is a {@link
 * Run} and nothing else: results of a run that did not succeed are deleted.
 */
public final class Rig implements AutoCloseable {
  /** How many runs go on at once. */
  public static final int AT_ONCE = 2;

  private static final Logger LOG = LoggerFactory.getLogger(Rig.class);

  private final MediaReader reader;
  private final ExecutorService pool =
      Executors.newFixedThreadPool(
          AT_ONCE,
          task -> {
            Thread thread = new Thread(task, "rig");
            thread.setDaemon(true);
            thread.setPriority(Thread.NORM_PRIORITY - 1);
            return thread;
          });

  /**
   * @param reader checks what outside tools wrote
   */
  public Rig(MediaReader reader) {
    this.reader = reader;
  }

  /** A run that was ordered. */
  public static final class Ticket {
    private final Order order;
    private final AtomicBoolean cancelled = new AtomicBoolean();
    private volatile Future<Run> future;

    private Ticket(Order order) {
      this.order = order;
    }

    /** What was ordered. */
    public Order order() {
      return order;
    }

    /** Stops the run as soon as possible. */
    public void cancel() {
      cancelled.set(true);
    }

    /** Waits for the end. */
    public Run await() throws InterruptedException {
      try {
        return future.get();
      } catch (java.util.concurrent.ExecutionException e) {
        throw new IllegalStateException(e.getCause());
      }
    }
  }

  /**
   * Orders a run.
   *
   * @param progress told how far it is; 0 when it begins
   * @param ended told of the outcome, on a thread of the rig
   */
  public Ticket submit(Order order, Progress progress, Consumer<Run> ended) {
    Ticket ticket = new Ticket(order);
    ticket.future =
        pool.submit(
            () -> {
              Run run = perform(ticket, progress);
              try {
                ended.accept(run);
              } catch (RuntimeException | Error e) {
                LOG.error("the outcome of a run could not be taken in", e);
              }
              return run;
            });
    return ticket;
  }

  private Run perform(Ticket ticket, Progress progress) {
    Order order = ticket.order;
    Elapsed begun = new Elapsed();
    if (ticket.cancelled.get()) {
      return new Run(order, Run.Outcome.CANCELLED, "cancelled", 0, 0.0, Map.of(), List.of());
    }
    try {
      progress.at(order.label(), 0);
      Files.createDirectories(order.folder());
      Unfinished.sweepOnce(order.folder());
      return order.setup().back()
          ? thereAndBack(ticket, begun, progress)
          : once(order, ticket, begun, progress);
    } catch (IOException e) {
      return Run.failed(
          order,
          begun,
          "it could not write to "
              + order.folder()
              + ". Check the room on the disk and whether writing there is allowed.",
          List.of());
    } catch (IllegalArgumentException e) {
      return Run.failed(order, begun, e.getMessage(), List.of());
    } catch (CancellationException e) {
      return new Run(
          order, Run.Outcome.CANCELLED, "cancelled", begun.seconds(), null, Map.of(), List.of());
    } catch (OutOfMemoryError e) {
      LOG.error("not enough memory for a run", e);
      return Run.failed(
          order, begun, "there is not enough memory for it; choose a shorter recording", List.of());
    } catch (RuntimeException | Error e) {
      // Whatever happens, who ordered the run must learn how it ended.
      LOG.error("a run broke down", e);
      return Run.failed(order, begun, "it broke down; the log says more", List.of());
    }
  }

  private Run once(Order order, Ticket ticket, Elapsed begun, Progress progress)
      throws IOException {
    return order.tool() instanceof RigTool.Outside outside
        ? new OutsideRun(reader, order, ticket.cancelled::get, progress).of(outside.tool(), begun)
        : new InsideRun(order, ticket.cancelled::get, progress)
            .of(((RigTool.Inside) order.tool()).standIn(), begun);
  }

  /** One way into a folder of its own, and what came out of it back again. */
  private Run thereAndBack(Ticket ticket, Elapsed begun, Progress progress) throws IOException {
    Order order = ticket.order;
    Path between = Unfinished.folder(order.folder());
    try {
      Order there = order.then(order.subject(), order.inputFile(), order.setup(), between);
      Run first = once(there, ticket, begun, progress);
      if (first.outcome() != Run.Outcome.DONE) {
        return first.of(order);
      }
      Path file = first.files().get(StandIn.WHOLE);
      Audio half = reader.read(file, Progress.SILENT).audio();
      Order back = order.then(half, file, order.setup().inverse(), order.folder());
      return once(back, ticket, begun, progress).of(order).andBefore(first);
    } catch (MediaException e) {
      return Run.failed(order, begun, e.problem(), List.of());
    } finally {
      Unfinished.done(between);
    }
  }

  @Override
  public void close() {
    pool.shutdownNow();
  }
}
