package kettlesieve.app.model;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Keeps a copy of unsaved work, so that nothing is lost in a crash. The copy is gone after a save
 * or an orderly end; one that is there at the start is offered.
 */
public final class Autosave implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Autosave.class);

  /**
   * Work that a crash left.
   *
   * @param comparison as it was
   * @param original the file it belongs to; null if it had none
   */
  public record Copy(Comparison comparison, Path original) {}

  private final Path copy;
  private final Path origin;
  private final ScheduledExecutorService timer =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread thread = new Thread(task, "autosave");
            thread.setDaemon(true);
            return thread;
          });
  private ScheduledFuture<?> pending;

  Autosave(Path folder) {
    this.copy = folder.resolve("unsaved" + ComparisonFile.ENDING);
    this.origin = folder.resolve("unsaved.origin");
  }

  synchronized void later(Comparison comparison, Path file) {
    if (pending != null) {
      pending.cancel(false);
    }
    pending = timer.schedule(() -> write(comparison, file), 500, TimeUnit.MILLISECONDS);
  }

  private void write(Comparison comparison, Path file) {
    try {
      ComparisonFile.save(comparison, copy);
      Files.writeString(
          origin, file == null ? "" : file.toAbsolutePath().toString(), StandardCharsets.UTF_8);
    } catch (ComparisonFileException | IOException e) {
      LOG.warn("no recovery copy could be written", e);
    }
  }

  /** What a crash left, if anything. */
  public Optional<Copy> left() {
    if (!Files.exists(copy)) {
      return Optional.empty();
    }
    try {
      String original =
          Files.exists(origin) ? Files.readString(origin, StandardCharsets.UTF_8).trim() : "";
      return Optional.of(
          new Copy(ComparisonFile.load(copy), original.isEmpty() ? null : Path.of(original)));
    } catch (ComparisonFileException | IOException e) {
      LOG.warn("the recovery copy cannot be read", e);
      return Optional.empty();
    }
  }

  /** Forgets the copy. */
  public synchronized void discard() {
    if (pending != null) {
      pending.cancel(false);
    }
    timer.execute(
        () -> {
          try {
            Files.deleteIfExists(copy);
            Files.deleteIfExists(origin);
          } catch (IOException e) {
            LOG.warn("the recovery copy cannot be deleted", e);
          }
        });
  }

  @Override
  public void close() {
    timer.shutdown();
    try {
      if (!timer.awaitTermination(2, TimeUnit.SECONDS)) {
        timer.shutdownNow();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
