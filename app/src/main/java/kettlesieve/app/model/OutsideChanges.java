package kettlesieve.app.model;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Version;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What others changed while the person was elsewhere: files that were replaced, removed or came
 * back are read again, a comparison that another program wrote is taken in, and it is said. While a
 * blind round runs nothing is touched: what is judged stays what it was, and the look comes when
 * the round is over.
 *
 * <p>Everything here is called on the interface thread; the looking itself goes on another, a few
 * times a second while files are watched.
 */
final class OutsideChanges {
  private final Workspace workspace;
  private final Executor ui;
  private final FileWatch watch = new FileWatch();

  /** What a look found that has not been acted upon: a round was on. */
  private final List<FileWatch.Found> waiting = new ArrayList<>();

  private static final Logger LOG = LoggerFactory.getLogger(OutsideChanges.class);

  /** Milliseconds from one look to the next. */
  private static final long EVERY = 400;

  private static final int FOLDERS_EVERY = 4;

  private ScheduledExecutorService timer;
  private int glances;
  private boolean lookAfterRound;

  /** Counts comparisons: a look that was on its way when another was opened tells nothing of it. */
  private volatile int opened;

  private volatile boolean closed;

  OutsideChanges(Workspace workspace, Executor ui) {
    this.workspace = workspace;
    this.ui = ui;
    workspace
        .rounds()
        .runningProperty()
        .addListener(
            (o, was, is) -> {
              if (is == null && lookAfterRound) {
                lookAfterRound = false;
                look();
              }
            });
  }

  /** These files are watched from now on, as they are now. */
  void remember(Collection<Path> files) {
    watch.remember(files);
  }

  /** Another comparison is open: what was found of the one before is no news. */
  void forget() {
    waiting.clear();
    lookAfterRound = false;
    opened++;
  }

  private boolean roundIsOn() {
    return workspace.rounds().runningProperty().get() != null;
  }

  void look() {
    if (roundIsOn()) {
      lookAfterRound = true;
      return;
    }
    Path file = workspace.document().fileProperty().get();
    int mine = opened;
    workspace
        .workshop()
        .background(
            () -> {
              // While files are watched they are taken when they have come to rest, not sooner.
              List<FileWatch.Found> found = watching() ? List.of() : watch.changed();
              ComparisonFile.Stored now =
                  file == null || !file.toFile().isFile() ? null : ComparisonFile.read(file);
              ui.execute(
                  () -> {
                    if (mine == opened) {
                      take(found, file, now);
                    }
                  });
            });
  }

  /** Whether all that was found is that versions were written anew, and what to say of them. */
  private boolean rendered(List<FileWatch.Found> found, List<String> news) {
    Map<Path, Version> byFile = new HashMap<>();
    for (Version v : workspace.comparison().versions()) {
      v.files().forEach(ref -> byFile.put(ref.file(), v));
    }
    boolean all = true;
    Set<Path> anew = new HashSet<>();
    List<String> words = new ArrayList<>();
    for (FileWatch.Found one : found) {
      Version v = byFile.get(one.file());
      if (one.change() == FileWatch.Change.REPLACED && v != null) {
        workspace.takes().rendered(v);
        anew.add(one.file());
        words.add(v.label() + " was rendered again (" + one.file().getFileName() + ")");
      } else {
        all = false;
      }
    }
    workspace.document().note(c -> Checksums.forgotten(c, anew));
    if (all) {
      news.clear();
      news.addAll(words);
    }
    return all;
  }

  /** Looks by itself from now on. */
  synchronized void watch() {
    if (timer == null) {
      timer =
          Executors.newSingleThreadScheduledExecutor(
              task -> {
                Thread thread = new Thread(task, "watching files");
                thread.setDaemon(true);
                thread.setPriority(Thread.MIN_PRIORITY);
                return thread;
              });
      timer.scheduleWithFixedDelay(this::glance, EVERY, EVERY, TimeUnit.MILLISECONDS);
    }
  }

  private synchronized boolean watching() {
    return timer != null;
  }

  /** Ends the looking: when this returns nothing is looked at any more. */
  void close() {
    closed = true;
    ScheduledExecutorService ending;
    synchronized (this) {
      ending = timer;
    }
    if (ending == null) {
      return;
    }
    ending.shutdownNow();
    try {
      if (!ending.awaitTermination(1, TimeUnit.SECONDS)) {
        LOG.warn("files are still being looked at");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private void glance() {
    int mine = opened;
    try {
      long now = System.nanoTime() / 1_000_000;
      List<FileWatch.Found> found = watch.settled(now);
      // Folders may be large and far away: they are listed less often.
      List<Path> fresh =
          glances++ % FOLDERS_EVERY == 0 ? workspace.newFiles().look(now) : List.of();
      if (!found.isEmpty() || !fresh.isEmpty()) {
        ui.execute(
            () -> {
              if (closed || mine != opened) {
                return;
              }
              workspace.newFiles().offer(fresh.stream().filter(f -> !own(f)).toList());
              take(
                  found.stream().filter(f -> watched(f.file())).toList(),
                  workspace.document().fileProperty().get(),
                  null);
            });
      }
    } catch (RuntimeException e) {
      // A look that fails is no reason never to look again.
      LOG.warn("files could not be looked at", e);
    }
  }

  /** Whether this program wrote it: a reel that lies beside the versions is none. */
  private boolean own(Path file) {
    List<Path> written = workspace.handover().written();
    return written.contains(file) || written.contains(file.getParent());
  }

  private boolean watched(Path file) {
    return workspace.comparison().files().stream().anyMatch(ref -> ref.file().equals(file));
  }

  private void take(List<FileWatch.Found> fresh, Path file, ComparisonFile.Stored now) {
    waiting.addAll(fresh);
    if (roundIsOn()) {
      // The round began while the look was on its way.
      lookAfterRound = true;
      return;
    }
    List<FileWatch.Found> found = List.copyOf(waiting);
    waiting.clear();
    List<String> news = new ArrayList<>(found.stream().map(FileWatch.Found::words).toList());
    Document document = workspace.document();
    boolean stillOpen = file != null && file.equals(document.fileProperty().get());
    if (now != null && stillOpen && document.changedElsewhere(now)) {
      if (document.unsavedProperty().get()) {
        news.add(
            "another program has changed this comparison: versions that it added come in when you"
                + " save, for anything else you are asked");
      } else {
        workspace.reopen(now, file);
        news.add("another program has changed this comparison: this is what it holds now");
      }
    } else if (!found.isEmpty()) {
      boolean rendered = rendered(found, news);
      workspace.work(workspace.comparison());
      if (rendered) {
        workspace.news().underWay(String.join("; ", news) + ": measuring it anew …");
        return;
      }
    }
    if (!news.isEmpty()) {
      // A file keeps its own small letter, also where its name begins the sentence.
      String words = String.join("; ", news) + ".";
      // No success: what is gone, or changed elsewhere, stays to be read.
      workspace.messageProperty().set(found.isEmpty() ? Sentences.begun(words) : words);
    }
  }
}
