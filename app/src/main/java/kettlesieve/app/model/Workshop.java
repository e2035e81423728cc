package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.media.UserFolders;
import kettlesieve.core.rig.CommandTool;
import kettlesieve.core.rig.Order;
import kettlesieve.core.rig.Rig;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.Run;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.rig.ToolShelf;
import kettlesieve.core.task.Progress;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Versions being made: the tools there are, the runs that go on and how they ended. Properties
 * change on the interface thread.
 *
 * <p>Over 400 lines because runs, their order, their end and what is kept of them are one state,
 * which must be seen as a whole to see that nothing is lost when one is cancelled.
 */
public final class Workshop implements AutoCloseable {
  /** One run in the list. */
  public final class Entry {
    private final Owner owner;
    private final Order order;
    private final DoubleProperty share = new SimpleDoubleProperty(0);
    private final ObjectProperty<Run> run = new SimpleObjectProperty<>();
    private Rig.Ticket ticket;
    private String made;

    private Entry(Owner owner, Order order) {
      this.owner = owner;
      this.order = order;
    }

    /** What is made. */
    public String label() {
      return order.label();
    }

    /** Name of another comparison that it is made for; empty for the open one. */
    public String where() {
      if (owner.same(workspace.document().owner())) {
        return "";
      }
      return owner.file() == null ? "not saved" : owner.file().getFileName().toString();
    }

    /** 0 waiting, −1 going on without figures, else how far. */
    public DoubleProperty shareProperty() {
      return share;
    }

    /** How it went; null as long as it goes on. */
    public ObjectProperty<Run> runProperty() {
      return run;
    }

    /** Stops it; once it has ended, takes it off the list. */
    public void drop() {
      if (run.get() == null) {
        ticket.cancel();
      } else {
        entries.remove(this);
      }
    }
  }

  private static final Logger LOG = LoggerFactory.getLogger(Workshop.class);

  private final Workspace workspace;
  private final Executor ui;
  private final MediaReader reader;
  private final Path shelf;
  private final Rig rig;
  private final ExecutorService filer =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "workshop files");
            thread.setDaemon(true);
            return thread;
          });
  private final ObservableList<Entry> entries = FXCollections.observableArrayList();
  private final ObservableList<CommandTool> tools = FXCollections.observableArrayList();

  Workshop(Workspace workspace, Executor ui, MediaReader reader, Path stateFolder) {
    this.workspace = workspace;
    this.ui = ui;
    this.reader = reader;
    this.rig = new Rig(reader);
    this.shelf = stateFolder.resolve("tools.json");
    if (Files.exists(shelf)) {
      try {
        tools.setAll(ToolShelf.read(shelf));
      } catch (IOException e) {
        workspace.messageProperty().set(e.getMessage());
      }
    }
  }

  /** Runs, the newest last. */
  public ObservableList<Entry> entries() {
    return entries;
  }

  /** Outside tools that were kept. */
  public ObservableList<CommandTool> tools() {
    return tools;
  }

  /** What can be used for a job: stand-ins, then kept tools. */
  public List<RigTool> of(Job job) {
    List<RigTool> list = new ArrayList<>();
    StandIns.of(job).forEach(s -> list.add(new RigTool.Inside(s)));
    tools.stream().map(RigTool.Outside::new).filter(t -> t.does(job)).forEach(list::add);
    return list;
  }

  /** Keeps a tool for the next time; it takes the place of the one of its name. */
  public void keep(CommandTool tool) {
    store(ToolShelf.with(tools, tool));
  }

  public void forget(CommandTool tool) {
    store(tools.stream().filter(t -> !t.equals(tool)).toList());
  }

  private void store(List<CommandTool> list) {
    try {
      ToolShelf.write(list, shelf);
      tools.setAll(list);
    } catch (IOException e) {
      workspace
          .messageProperty()
          .set(shelf + ": the tools could not be kept. Check the room on the disk.");
    }
  }

  /** Takes over tools from a file that was exported before. */
  public void importFrom(Path file) {
    try {
      List<CommandTool> list = List.copyOf(tools);
      for (CommandTool tool : ToolShelf.read(file)) {
        list = ToolShelf.with(list, tool);
      }
      store(list);
    } catch (IOException e) {
      workspace.messageProperty().set(e.getMessage());
    }
  }

  /** Writes all kept tools to a file that can be handed on. */
  public void exportTo(Path file) {
    try {
      ToolShelf.write(tools, file);
      workspace.news().done("Exported to " + file.getFileName() + ".");
    } catch (IOException e) {
      workspace
          .messageProperty()
          .set(file + " could not be written. Check the folder and the room on the disk.");
    }
  }

  /**
   * What a tool can be run on here: the source, and for stems the parts of versions.
   *
   * @param version id of the version; null for the source
   * @param part role, or name of a sum
   */
  public record Subject(String version, String part, String title) {
    /** The comparison's source. */
    public static final Subject SOURCE = new Subject(null, null, "the source");
  }

  /** All that a tool can be run on now. */
  public List<Subject> subjects() {
    List<Subject> list = new ArrayList<>(List.of(Subject.SOURCE));
    Comparison c = workspace.comparison();
    if (c.job().inStems()) {
      for (Version v : c.versions()) {
        if (workspace.state(v.id()).prepared() != null) {
          v.stems().keySet().forEach(r -> list.add(new Subject(v.id(), r, v.label() + ": " + r)));
          for (RoleSum sum : c.roleSums()) {
            if (v.stems().keySet().containsAll(sum.roles())) {
              list.add(new Subject(v.id(), sum.name(), v.label() + ": " + sum.name()));
            }
          }
        }
      }
    }
    return list;
  }

  /** Orders runs on the open comparison, one an amount. */
  public void make(RigTool tool, List<Double> amounts, Subject subject) {
    make(tool, amounts, List.of(), false, subject);
  }

  /**
   * Orders runs on the open comparison, one an amount and target.
   *
   * @param targets lengths over the source's, or semitones, as the job asks; empty for what the
   *     comparison asks
   * @param back whether each result is to be brought back again
   */
  public void make(
      RigTool tool, List<Double> amounts, List<Double> targets, boolean back, Subject subject) {
    Recording source = workspace.sourceProperty().get();
    Comparison c = workspace.comparison();
    Path folder = folder(workspace.document().fileProperty().get());
    List<Order> orders = new ArrayList<>();
    for (double amount : amounts) {
      if (subject.version() != null) {
        orders.add(onPart(tool, c, source, amount, subject));
        continue;
      }
      for (Setup setup : setups(c, amount, targets)) {
        orders.add(Order.onSource(tool, source, back ? setup.andBack() : setup, folder));
      }
    }
    List<Entry> batch =
        orders.stream().map(o -> new Entry(workspace.document().owner(), o)).toList();
    batch.forEach(entry -> submit(entry, run -> deliver(run, entry, batch)));
  }

  private static List<Setup> setups(Comparison c, double amount, List<Double> targets) {
    Setup usual = Setup.of(c, amount);
    return targets.isEmpty()
        ? List.of(usual)
        : targets.stream()
            .map(t -> c.job() == Job.PITCH ? usual.asking(1, t) : usual.asking(t, 0))
            .toList();
  }

  /** A result goes to the comparison that ordered it, wherever that is now. */
  private void deliver(Run run, Entry entry, List<Entry> batch) {
    if (entry.owner.same(workspace.document().owner())) {
      show(run, entry, batch);
    } else if (entry.owner.file() != null) {
      Path file = entry.owner.file();
      background(() -> addTo(file, run));
    } else if (run.outcome() == Run.Outcome.DONE) {
      workspace
          .messageProperty()
          .set(
              entry.label()
                  + " was made for a comparison that was left without being saved. Its file is "
                  + run.files().values().iterator().next()
                  + ".");
    }
  }

  /** Adds a result; those of one order stand in its order, whichever is done first. */
  private void show(Run run, Entry entry, List<Entry> batch) {
    Comparison before = workspace.comparison();
    run.addedTo(before)
        .ifPresent(
            grown -> {
              List<Version> list = new ArrayList<>(grown.versions());
              Version made = list.remove(list.size() - 1);
              entry.made = made.id();
              int at = list.size();
              for (Entry later : batch.subList(batch.indexOf(entry) + 1, batch.size())) {
                for (int i = 0; i < at; i++) {
                  at = list.get(i).id().equals(later.made) ? i : at;
                }
              }
              list.add(at, made);
              workspace.edit(c -> grown.withVersions(list));
            });
  }

  private Order onPart(
      RigTool tool, Comparison c, Recording source, double amount, Subject subject) {
    Version version = c.version(subject.version()).orElseThrow();
    Map<String, Audio> stems = workspace.state(version.id()).prepared().stems();
    Stem own = version.stems().get(subject.part());
    Audio audio;
    if (own != null) {
      audio = stems.get(subject.part());
    } else {
      RoleSum sum =
          c.roleSums().stream()
              .filter(s -> s.name().equals(subject.part()))
              .findFirst()
              .orElseThrow();
      Audio parts = SumAudio.of(sum.roles().stream().map(stems::get).toList());
      audio = sum.remainder() ? SumAudio.remainder(source.audio(), List.of(parts)) : parts;
    }
    Stem.Origin origin =
        new Stem.Origin(version.label(), subject.part(), own == null ? null : own.origin());
    return new Order(
        tool,
        audio,
        null,
        FileNames.stem(source.file()) + "-after-" + version.id(),
        Setup.of(c, amount),
        folder(workspace.document().fileProperty().get()),
        origin);
  }

  /**
   * Orders runs on another comparison; results are added to its file. A file that cannot be used
   * leaves a message and nothing else.
   */
  public void makeFor(Path file, RigTool tool, List<Double> amounts) {
    background(
        () -> {
          Comparison c = ComparisonFile.load(file);
          if (c.source() == null || !tool.does(c.job())) {
            say(
                file.getFileName()
                    + (c.source() == null
                        ? ": it has no source yet."
                        : ": " + tool.title() + " is not for the job " + c.job().title() + "."));
            return;
          }
          Recording source = reader.read(c.source().file(), Progress.SILENT);
          Owner owner = new Owner(-1, file);
          ui.execute(
              () -> {
                for (double amount : amounts) {
                  Order order = Order.onSource(tool, c, source, amount, folder(file));
                  Entry entry = new Entry(owner, order);
                  submit(entry, run -> deliver(run, entry, List.of(entry)));
                }
              });
        });
  }

  /** Does something once all that is to be read or written by now has been. */
  public void whenFiled(Runnable then) {
    // A run that has just ended is handed to be written in this very turn.
    ui.execute(() -> filer.execute(() -> ui.execute(then)));
  }

  /** Work on files. */
  interface FileWork {
    void run() throws ComparisonFileException, MediaException;
  }

  /** Reading and writing files never holds up the window; what cannot be done is said. */
  void background(FileWork work) {
    filer.execute(
        () -> {
          try {
            work.run();
          } catch (ComparisonFileException | MediaException e) {
            say(e.getMessage());
          } catch (RuntimeException | Error e) {
            LOG.error("work on a file broke down", e);
            say("The program made an error of its own with a file; its log says more.");
          }
        });
  }

  private void say(String text) {
    ui.execute(() -> workspace.messageProperty().set(text));
  }

  private static void addTo(Path file, Run run) throws ComparisonFileException {
    if (run.outcome() == Run.Outcome.DONE) {
      ComparisonFile.update(file, c -> run.addedTo(c).orElse(c));
    }
  }

  private void submit(Entry entry, java.util.function.Consumer<Run> taken) {
    entries.add(entry);
    entry.ticket =
        rig.submit(
            entry.order,
            (what, share) -> ui.execute(() -> entry.share.set(share == 0 ? 0.001 : share)),
            run ->
                ui.execute(
                    () -> {
                      entry.run.set(run);
                      taken.accept(run);
                    }));
  }

  /** Beside the comparison; as long as it is not saved, in the program's own folder. */
  private static Path folder(Path comparisonFile) {
    return comparisonFile != null
        ? comparisonFile.toAbsolutePath().getParent().resolve("made-here")
        : UserFolders.state().resolve("made-here");
  }

  @Override
  public void close() {
    entries.stream().filter(e -> e.run.get() == null).forEach(Entry::drop);
    rig.close();
    filer.shutdown();
  }
}
