package kettlesieve.app.model;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executor;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;
import kettlesieve.app.model.sheet.SheetLayout;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.SoundOut;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.work.PreparedExcerpt;
import kettlesieve.core.work.ResultStore;
import kettlesieve.core.work.Results;
import kettlesieve.core.work.Work;

/**
 * What the window shows: the comparison being worked on, how far its files have come, the sheet,
 * and what is selected. Knows nothing of windows; all properties change on the interface thread,
 * which is whatever the given executor stands for.
 *
 * <p>Over 400 lines because it is the one place where what the window shows changes: its parts
 * (document, pipeline, listening, workshop, rounds, handover) are classes of their own, and here
 * each change is told to all that it concerns, in one order.
 */
public final class Workspace implements AutoCloseable {
  private final Pipeline pipeline;
  private final Listening listening;
  private final Workshop workshop;
  private final Handover handover;
  private final Rounds rounds;
  private final RoundupDesk roundups;
  private final Pieces pieces;
  private final Executor ui;
  private final OutsideChanges outside;
  private final Document document;
  private final ObjectProperty<Recording> source = new SimpleObjectProperty<>();
  private final ObjectProperty<Recording> reference = new SimpleObjectProperty<>();
  private final ObjectProperty<PreparedExcerpt> preparedExcerpt = new SimpleObjectProperty<>();
  private final StringProperty sourceProblem = new SimpleStringProperty();
  private final ObservableMap<String, VersionState> versions = FXCollections.observableHashMap();
  private final ObjectProperty<ScoreSheet> sheet = new SimpleObjectProperty<>();
  private final StringProperty activity = new SimpleStringProperty("");
  private final DoubleProperty activityShare = new SimpleDoubleProperty(-1);
  private final BooleanProperty busy = new SimpleBooleanProperty();
  private final News news = new News();
  private final ObjectProperty<Step> step = new SimpleObjectProperty<>(Step.GATHER);
  private final Selection selection = new Selection();
  private final FirstTwo firstTwo = new FirstTwo(this);
  private final StemSounds stems = new StemSounds(this);
  private final OwnTime ownTime;
  private final SheetLayout sheetLayout;
  private final LastFolder lastFolder;
  private final Takes takes;
  private final NewFiles newFiles = new NewFiles();
  private Prepared preparedReference;
  private final TrueStems trueStems = new TrueStems(source);

  /**
   * @param ui runs tasks on the interface thread
   * @param reader reads recordings
   * @param outputs makes sound outputs
   * @param store keeps what was measured
   * @param stateFolder where recovery copies are kept
   */
  public Workspace(
      Executor ui,
      MediaReader reader,
      Supplier<SoundOut> outputs,
      ResultStore store,
      Path stateFolder) {
    this.ui = ui;
    this.pipeline = new Pipeline(ui, reader, store, new Incoming());
    this.listening =
        new Listening(ui, outputs, text -> ui.execute(() -> news.textProperty().set(text)));
    this.workshop = new Workshop(this, ui, reader, stateFolder);
    this.rounds =
        new Rounds(this, outputs, text -> ui.execute(() -> news.textProperty().set(text)));
    this.roundups = new RoundupDesk(ui, reader, store);
    this.pieces = new Pieces(ui, reader);
    this.handover = new Handover(this, ui, stateFolder);
    this.ownTime = new OwnTime(this, ui);
    this.document = new Document(stateFolder, this::show);
    this.takes = new Takes(this, ui);
    this.outside = new OutsideChanges(this, ui);
    this.sheetLayout = new SheetLayout(stateFolder);
    this.lastFolder = new LastFolder(stateFolder);
  }

  // --- the document ---

  /** What is open: its file, its changes. */
  public Document document() {
    return document;
  }

  public ReadOnlyObjectProperty<Comparison> comparisonProperty() {
    return document.comparisonProperty();
  }

  public Comparison comparison() {
    return document.comparison();
  }

  /** Changes the comparison; can be undone. */
  public void edit(UnaryOperator<Comparison> change) {
    document.edit(change);
  }

  private void show(Comparison before, Comparison next) {
    versions.keySet().removeIf(id -> next.version(id).isEmpty());
    takes.keepOnly(next);
    boolean sameWork = Work.of(next).equals(Work.of(before));
    if (sameWork && sheet.get() != null) {
      if (!java.util.Objects.equals(next.profile(), before.profile())
          || !next.profiles().equals(before.profiles())
          || !next.roleWeights().equals(before.roleWeights())
          || !java.util.Objects.equals(next.times(), before.times())) {
        sheet.set(sheet.get().under(next));
      }
    } else {
      work(next);
    }
    updateTracks();
  }

  void work(Comparison next) {
    busy.set(true);
    activity.set("looking at the files");
    outside.remember(next.files().stream().map(MediaRef::file).toList());
    newFiles.beside(next);
    pipeline.request(document.owner().id(), next);
  }

  /** How empty comparisons begin, by the person's habits. */
  public void beginWith(UnaryOperator<Comparison> wished) {
    document.beginWith(wished);
  }

  /** Begins an empty comparison. */
  public void startNew() {
    clear();
    document.startNew();
    step.set(Step.GATHER);
  }

  /**
   * Opens a comparison file.
   *
   * @throws ComparisonFileException if it cannot be read; what was open stays
   */
  public void open(Path path) throws ComparisonFileException {
    ComparisonFile.Stored read = ComparisonFile.read(path);
    clear();
    document.replace(read, path);
  }

  /** Takes up a recovered comparison. */
  public void recover(Autosave.Copy copy) {
    clear();
    document.recover(copy);
  }

  private void clear() {
    listening.stop();
    listening.plain();
    outside.forget();
    takes.forget();
    newFiles.forget();
    rounds.leave();
    versions.clear();
    source.set(null);
    reference.set(null);
    preparedReference = null;
    trueStems.forget();
    preparedExcerpt.set(null);
    sourceProblem.set(null);
    sheet.set(null);
    selection.clear();
    news.textProperty().set("");
  }

  /** Looks whether files or the comparison were changed while the person was elsewhere. */
  public void lookAgain() {
    outside.look();
  }

  /** Puts what the open file holds by now in the place of what is open; the step stays. */
  void reopen(ComparisonFile.Stored now, Path file) {
    Step at = step.get();
    clear();
    document.replace(now, file);
    step.set(at);
  }

  // --- times ---

  /** Tells times as the comparison wants them. */
  public Clock clock() {
    Recording now = source.get();
    return now == null
        ? Clock.of(comparison(), null, 0)
        : Clock.of(comparison(), now.facts().startSeconds(), now.facts().sampleRate());
  }

  // --- convenient changes ---

  /** Brings in files as their names tell. */
  public void addFiles(List<Path> files) {
    Comparison c = comparison();
    Path known = c.source() == null ? null : c.source().file();
    take(FileNames.sort(files, c.job(), known));
  }

  /** Brings in files as what they were sorted for. */
  public void take(List<FileNames.Proposal> proposals) {
    edit(c -> Intake.add(c, proposals));
  }

  /** Changes the kind of job; files keep their place as far as the new job has one for them. */
  public void setJob(Job job) {
    edit(c -> Intake.asJob(c, job));
  }

  /** Moves a version up or down by some places. */
  public void move(String id, int places) {
    edit(
        c -> {
          List<Version> list = new ArrayList<>(c.versions());
          int at = list.indexOf(c.version(id).orElseThrow());
          int to = Math.max(0, Math.min(list.size() - 1, at + places));
          list.add(to, list.remove(at));
          return c.withVersions(list);
        });
  }

  // --- results ---

  /** What the run that is wanted tells, on the interface thread. */
  private final class Incoming implements Pipeline.Listener {
    @Override
    public void progress(String what, double share) {
      busy.set(true);
      activity.set(what);
      activityShare.set(share);
    }

    @Override
    public void sourceRead(Recording s) {
      if (s != source.get()) {
        sourceProblem.set(null);
        preparedExcerpt.set(null);
        if (source.get() != null) {
          // They lie on the time of the source before.
          takes.forget();
        }
        source.set(s);
        updateTracks();
      }
    }

    @Override
    public void sourceReady(Recording s, Recording r, PreparedExcerpt first) {
      sourceProblem.set(null);
      reference.set(r);
      source.set(s);
      preparedExcerpt.set(first);
      document.note(c -> Checksums.noted(c, s, r));
      updateTracks();
    }

    @Override
    public void referenceReady(Prepared prepared) {
      preparedReference = prepared;
      updateTracks();
    }

    @Override
    public void trueStemsReady(Map<String, Recording> stems) {
      trueStems.take(stems);
      updateTracks();
    }

    @Override
    public void news(String text) {
      news.textProperty().set(text);
    }

    @Override
    public void sourceFailed(String text) {
      source.set(null);
      preparedExcerpt.set(null);
      sheet.set(null);
      sourceProblem.set(text);
      updateTracks();
    }

    @Override
    public void versionRead(String id, Map<String, Recording> files) {
      VersionState was = versions.getOrDefault(id, VersionState.UNREAD);
      update(id, new VersionState(files, was.prepared(), null));
      document.note(c -> Checksums.noted(c, id, files));
    }

    @Override
    public void versionReady(String id, Prepared prepared) {
      VersionState before = versions.getOrDefault(id, VersionState.UNREAD);
      update(id, new VersionState(before.recordings(), prepared, null));
      updateTracks();
    }

    @Override
    public void versionFailed(String id, String problem) {
      update(id, new VersionState(Map.of(), null, problem));
      updateTracks();
    }

    @Override
    public void results(Results results) {
      sheet.set(results.sheet().under(comparison()));
    }

    @Override
    public void finished(boolean whole) {
      busy.set(false);
      activity.set("");
      activityShare.set(-1);
      takes.tell(whole);
    }

    private void update(String id, VersionState state) {
      if (comparison().version(id).isPresent()) {
        versions.put(id, state);
      }
    }
  }

  void updateTracks() {
    listening.update(
        comparison(), source.get(), preparedReference, trueStems.byRole(), versions, takes.heard());
  }

  /** Stops reading, matching and measuring; results that are there stay. */
  public void cancelWork() {
    pipeline.cancel();
  }

  /** Does again what was stopped or failed. */
  public void workAgain() {
    work(comparison());
  }

  // --- what the window binds to ---

  public Listening listening() {
    return listening;
  }

  /** What leaves the program: report, reel, the leaders. */
  public Handover handover() {
    return handover;
  }

  /** Blind rounds. */
  public Rounds rounds() {
    return rounds;
  }

  /** The stems of versions as they are heard and drawn. */
  public StemSounds stems() {
    return stems;
  }

  /** What is drawn of versions in their own time. */
  public OwnTime ownTime() {
    return ownTime;
  }

  /** Where versions are made. */
  public Workshop workshop() {
    return workshop;
  }

  /** Makes test pieces. */
  public Pieces pieces() {
    return pieces;
  }

  /** Many comparisons together. */
  public RoundupDesk roundups() {
    return roundups;
  }

  public FirstTwo firstTwo() {
    return firstTwo;
  }

  public Selection selection() {
    return selection;
  }

  /** Where the last file was chosen. */
  public LastFolder lastFolder() {
    return lastFolder;
  }

  /** Versions that were written anew, and what they were before. */
  public Takes takes() {
    return takes;
  }

  /** Files that appeared beside the versions. */
  public NewFiles newFiles() {
    return newFiles;
  }

  /** Watches the files of what is open from now on, until it is closed. */
  public void watchFiles() {
    outside.watch();
  }

  /** How the sheet of readings is laid out. */
  public SheetLayout sheetLayout() {
    return sheetLayout;
  }

  public ObjectProperty<Recording> sourceProperty() {
    return source;
  }

  public ObjectProperty<Recording> referenceProperty() {
    return reference;
  }

  /** The clean recording as it is heard and drawn; null if there is none. */
  public Prepared preparedReference() {
    return preparedReference;
  }

  /** What is known of the files of clean recording and true stems, by their paths. */
  Map<String, MediaFacts> factsBeside() {
    Map<String, MediaFacts> facts = new java.util.LinkedHashMap<>(trueStems.facts());
    if (reference.get() != null) {
      facts.put(reference.get().file().toString(), reference.get().facts());
    }
    return facts;
  }

  /** What the source was mixed from, by role, at its rate; empty if that is not known. */
  public Map<String, Audio> trueStems() {
    return trueStems.byRole();
  }

  public ObjectProperty<PreparedExcerpt> preparedExcerptProperty() {
    return preparedExcerpt;
  }

  /** Why the source cannot be used; null if it can. */
  public StringProperty sourceProblemProperty() {
    return sourceProblem;
  }

  /** How far the versions have come, by their ids. */
  public ObservableMap<String, VersionState> versionStates() {
    return versions;
  }

  public VersionState state(String id) {
    return versions.getOrDefault(id, VersionState.UNREAD);
  }

  public ObjectProperty<ScoreSheet> sheetProperty() {
    return sheet;
  }

  /** What is being done in the background; empty for nothing. */
  public StringProperty activityProperty() {
    return activity;
  }

  public DoubleProperty activityShareProperty() {
    return activityShare;
  }

  public BooleanProperty busyProperty() {
    return busy;
  }

  /** The latest news for the person. */
  public StringProperty messageProperty() {
    return news.textProperty();
  }

  /** The same, to be told of what kind it is. */
  public News news() {
    return news;
  }

  public ObjectProperty<Step> stepProperty() {
    return step;
  }

  @Override
  public void close() {
    outside.close();
    pipeline.close();
    workshop.close();
    roundups.close();
    pieces.close();
    handover.close();
    ownTime.close();
    rounds.close();
    listening.close();
    document.close();
  }
}
