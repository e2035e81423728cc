package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.roundup.Aspect;
import kettlesieve.core.roundup.Roundup;
import kettlesieve.core.roundup.RoundupMaker;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.ManyComparisons;
import kettlesieve.core.work.ResultStore;

/**
 * The comparisons of a round-up, what is known of them, and how they are looked at.
 *
 * <p>Interface thread, but for the thread of its own that scores them: what that tells is taken on
 * the interface thread, and only if it is still the run that is wanted.
 */
public final class RoundupDesk implements AutoCloseable {
  private final Executor ui;
  private final MediaReader reader;
  private final ResultStore store;
  private final Set<Path> files = new LinkedHashSet<>();
  private final Map<Path, ScoredComparison> scored = new LinkedHashMap<>();
  private final Map<Path, String> failed = new LinkedHashMap<>();
  private final BooleanProperty showing = new SimpleBooleanProperty();
  private final ObjectProperty<Roundup.By> by = new SimpleObjectProperty<>(Roundup.By.TOOL);
  private final ObjectProperty<Aspect> aspect = new SimpleObjectProperty<>(Aspect.ALL);
  private final ObjectProperty<String> tag = new SimpleObjectProperty<>("");
  private final ObjectProperty<Job> job = new SimpleObjectProperty<>();
  private final ReadOnlyObjectWrapper<Roundup> roundup = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyBooleanWrapper running = new ReadOnlyBooleanWrapper();
  private final ReadOnlyDoubleWrapper share = new ReadOnlyDoubleWrapper();
  private final ReadOnlyStringWrapper words = new ReadOnlyStringWrapper("");
  private List<Path> shown = List.of();
  private Run run;

  /** One run, which ends when another is wanted. */
  private static final class Run {
    private volatile boolean over;
    private Thread thread;

    void check() {
      if (over) {
        throw new CancellationException();
      }
    }
  }

  RoundupDesk(Executor ui, MediaReader reader, ResultStore store) {
    this.ui = ui;
    this.reader = reader;
    this.store = store;
    by.addListener((o, was, is) -> make());
    aspect.addListener((o, was, is) -> make());
    tag.addListener((o, was, is) -> make());
    job.addListener((o, was, is) -> make());
  }

  /** Whether the window shows it. */
  public BooleanProperty showingProperty() {
    return showing;
  }

  /** What a row is. */
  public ObjectProperty<Roundup.By> byProperty() {
    return by;
  }

  /** What is looked at. */
  public ObjectProperty<Aspect> aspectProperty() {
    return aspect;
  }

  /** Only recordings with this tag; empty for all. */
  public ObjectProperty<String> tagProperty() {
    return tag;
  }

  /** The job that is looked at, of comparisons of several. */
  public ObjectProperty<Job> jobProperty() {
    return job;
  }

  /** What was found so far; null as long as nothing was. */
  public ReadOnlyObjectProperty<Roundup> roundupProperty() {
    return roundup.getReadOnlyProperty();
  }

  /** Whether comparisons are being scored. */
  public ReadOnlyBooleanProperty runningProperty() {
    return running.getReadOnlyProperty();
  }

  /** How much of that is done, 0 to 1. */
  public ReadOnlyDoubleProperty shareProperty() {
    return share.getReadOnlyProperty();
  }

  /** What is being done, in words; what came of it once that is over. */
  public ReadOnlyStringProperty wordsProperty() {
    return words.getReadOnlyProperty();
  }

  /** The comparisons, in the order in which they were brought in. */
  public List<Path> files() {
    return List.copyOf(files);
  }

  /** The file of a recording of the round-up. */
  public Path file(int recording) {
    return shown.get(recording);
  }

  /** Tags of the comparisons of the job. */
  public List<String> tags() {
    TreeSet<String> all = new TreeSet<>();
    ofJob().forEach(c -> all.addAll(c.tags()));
    return List.copyOf(all);
  }

  /** Jobs that were found among the comparisons. */
  public List<Job> jobs() {
    return scored.values().stream().map(ScoredComparison::job).distinct().sorted().toList();
  }

  /** Roles of stems that were found. */
  public List<String> roles() {
    Set<String> roles = new LinkedHashSet<>();
    ofJob().forEach(c -> c.versions().forEach(v -> roles.addAll(v.roles().keySet())));
    return List.copyOf(roles);
  }

  /** Measures that were read on any of them. */
  public List<String> measures() {
    Set<String> all = new LinkedHashSet<>();
    ofJob()
        .forEach(
            c ->
                c.versions()
                    .forEach(v -> all.addAll(v.scores(aspect.get().role()).readings().keySet())));
    return List.copyOf(all);
  }

  private List<ScoredComparison> ofJob() {
    return scored.values().stream().filter(c -> c.job() == job.get()).toList();
  }

  /** Takes comparisons in and scores those that are not known yet. */
  public void add(List<Path> more) {
    boolean any = false;
    for (Path file : more) {
      any |= files.add(file.toAbsolutePath().normalize());
    }
    if (any) {
      start(files.stream().filter(f -> !scored.containsKey(f)).toList());
    }
  }

  /** Takes in the comparisons of a folder and the folders below it. */
  public void addFolder(Path folder) {
    words.set("Looking through " + folder.getFileName() + " …");
    Thread looking =
        new Thread(
            () -> {
              List<Path> found;
              try {
                found = ManyComparisons.in(folder);
              } catch (IOException e) {
                ui.execute(() -> words.set(folder + ": this folder cannot be read."));
                return;
              }
              ui.execute(
                  () -> {
                    words.set(found.isEmpty() ? "There is no comparison in that folder." : "");
                    add(found);
                  });
            },
            "round-up folder");
    looking.setDaemon(true);
    looking.start();
  }

  /** The comparisons of the job that is looked at. */
  public List<Path> filesOfJob() {
    return ofJob().stream().map(c -> Path.of(c.file())).toList();
  }

  /** Scores all of them again: what did not change is known at once. */
  public void again() {
    start(files());
  }

  /** Takes all of them out. */
  public void clear() {
    stop();
    files.clear();
    scored.clear();
    failed.clear();
    words.set("");
    make();
  }

  /** Stops scoring; what was scored stays. */
  public void stop() {
    if (run != null) {
      run.over = true;
      run = null;
      running.set(false);
      words.set("Stopped. " + counted());
    }
  }

  private void start(List<Path> wanted) {
    if (run != null) {
      run.over = true;
    }
    if (wanted.isEmpty()) {
      return;
    }
    Run own = new Run();
    run = own;
    running.set(true);
    share.set(0);
    words.set("Reading " + wanted.size() + (wanted.size() == 1 ? " comparison" : " comparisons"));
    List<ManyComparisons.Named> all =
        wanted.stream().map(f -> new ManyComparisons.Named(f.toString(), f)).toList();
    Stop stop = own::check;
    own.thread =
        new Thread(
            () -> {
              try {
                ManyComparisons many =
                    new ManyComparisons(
                        () -> reader, store, Runtime.getRuntime().availableProcessors());
                many.run(all, c -> c, listener(own), stop);
                later(own, this::finished);
              } catch (CancellationException e) {
                // Another run is wanted, or none.
                return;
              }
            },
            "round-up");
    own.thread.setDaemon(true);
    own.thread.start();
  }

  private ManyComparisons.Listener listener(Run own) {
    return new ManyComparisons.Listener() {
      @Override
      public void at(int done, int of, String file) {
        later(
            own,
            () -> {
              share.set((double) done / of);
              words.set(done + " of " + of + ": " + Path.of(file).getFileName());
            });
      }

      @Override
      public void scored(ScoredComparison c) {
        later(own, () -> take(Path.of(c.file()), c));
      }

      @Override
      public void failed(ScoredComparison.Failed f) {
        later(own, () -> lose(Path.of(f.file()), f.reason()));
      }
    };
  }

  private void later(Run own, Runnable what) {
    ui.execute(
        () -> {
          if (run == own) {
            what.run();
          }
        });
  }

  private void take(Path file, ScoredComparison c) {
    failed.remove(file);
    scored.put(file, c);
    if (job.get() == null || !jobs().contains(job.get())) {
      job.set(c.job());
    }
    make();
  }

  private void lose(Path file, String reason) {
    scored.remove(file);
    failed.put(file, reason);
    make();
  }

  private void finished() {
    run = null;
    running.set(false);
    share.set(1);
    words.set(counted());
  }

  private String counted() {
    int n = scored.size();
    return n
        + (n == 1 ? " comparison scored" : " comparisons scored")
        + (failed.isEmpty() ? "" : ", " + failed.size() + " cannot be used");
  }

  /** Makes the round-up of what is known, as it is looked at now. */
  private void make() {
    List<ScoredComparison> own =
        ofJob().stream().filter(c -> tag.get().isEmpty() || c.tags().contains(tag.get())).toList();
    List<Path> used = own.stream().map(c -> Path.of(c.file())).toList();
    Map<String, Path> byShown = new LinkedHashMap<>();
    List<ScoredComparison> named = new ArrayList<>();
    List<ManyComparisons.Named> names = ManyComparisons.named(used);
    for (int i = 0; i < used.size(); i++) {
      byShown.put(names.get(i).shown(), used.get(i));
      named.add(own.get(i).at(names.get(i).shown()));
    }
    List<ScoredComparison.Failed> left = new ArrayList<>();
    failed.forEach(
        (file, reason) ->
            left.add(new ScoredComparison.Failed(String.valueOf(file.getFileName()), "", reason)));
    if (named.isEmpty() && left.isEmpty()) {
      shown = List.of();
      roundup.set(null);
      return;
    }
    Roundup made = new RoundupMaker(by.get(), aspect.get()).of(named, left);
    shown = made.comparisons().stream().map(c -> byShown.get(c.file())).toList();
    roundup.set(made);
  }

  /** The version's label of a tool on a recording, if it was measured. */
  public Optional<String> label(String name, int recording) {
    return Optional.ofNullable(roundup.get())
        .flatMap(r -> r.all().entry(name))
        .map(e -> e.cells().get(recording))
        .map(Roundup.Cell::label);
  }

  @Override
  public void close() {
    if (run != null) {
      run.over = true;
      run = null;
    }
  }
}
