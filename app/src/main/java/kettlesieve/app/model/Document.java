package kettlesieve.app.model;

import java.nio.file.Path;
import java.util.function.BiConsumer;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;

/**
 * The comparison that is open: its file, its changes and their undoing, and the copy that a crash
 * leaves. Knows nothing of recordings and results.
 */
public final class Document implements AutoCloseable {
  /** What a comparison is called until somebody gives it a name. */
  public static final String UNNAMED = "Untitled comparison";

  private final Autosave autosave;
  private final BiConsumer<Comparison, Comparison> changed;
  private final History<Comparison> history = new History<>();
  private final ReadOnlyObjectWrapper<Comparison> comparison = new ReadOnlyObjectWrapper<>(fresh());
  private final ReadOnlyObjectWrapper<Path> file = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyBooleanWrapper unsaved = new ReadOnlyBooleanWrapper();
  private final ReadOnlyBooleanWrapper canUndo = new ReadOnlyBooleanWrapper();
  private final ReadOnlyBooleanWrapper canRedo = new ReadOnlyBooleanWrapper();
  private Owner owner = new Owner(0, null);
  private UnaryOperator<Comparison> begun = UnaryOperator.identity();

  /** The file as it was read or written last; null if what is open is in none. */
  private ComparisonFile.Stored stored;

  /**
   * @param stateFolder where the recovery copy is kept
   * @param changed told what was and what is, after every change of what a person sees
   */
  Document(Path stateFolder, BiConsumer<Comparison, Comparison> changed) {
    this.autosave = new Autosave(stateFolder);
    this.changed = changed;
  }

  static Comparison fresh() {
    return Comparison.empty(UNNAMED, Job.DENOISE);
  }

  /** What is open. */
  public Comparison comparison() {
    return comparison.get();
  }

  public ReadOnlyObjectProperty<Comparison> comparisonProperty() {
    return comparison.getReadOnlyProperty();
  }

  /** Changes the comparison; can be undone. */
  public void edit(UnaryOperator<Comparison> change) {
    Comparison before = comparison.get();
    Comparison after = change.apply(before);
    if (!after.equals(before)) {
      history.remember(before);
      show(after);
      markUnsaved();
    }
  }

  /**
   * Changes the comparison, and returns when the copy on disk holds it too: whatever ends the
   * program after this loses nothing of it. Takes some milliseconds.
   *
   * @return false if the copy could not be written; what is open holds the change all the same
   */
  boolean editForKeeps(UnaryOperator<Comparison> change) {
    edit(change);
    return autosave.flush();
  }

  /** Adds what was found out and not decided by a person: nothing to undo, nothing to save. */
  void note(UnaryOperator<Comparison> change) {
    comparison.set(change.apply(comparison.get()));
  }

  /** Takes the last change back. */
  public void undo() {
    if (history.canUndo()) {
      show(history.undo(comparison.get()));
      markUnsaved();
    }
  }

  /** Does again what was undone last. */
  public void redo() {
    if (history.canRedo()) {
      show(history.redo(comparison.get()));
      markUnsaved();
    }
  }

  private void show(Comparison next) {
    Comparison before = comparison.get();
    comparison.set(next);
    canUndo.set(history.canUndo());
    canRedo.set(history.canRedo());
    changed.accept(before, next);
  }

  /**
   * Puts another comparison in the place of this one. Changes of this one that were neither saved
   * nor given up stay in their copy.
   *
   * @param next as it stands in its file
   * @param path that file
   */
  void replace(ComparisonFile.Stored next, Path path) {
    replace(next.comparison(), path, next);
  }

  /** How comparisons begin, this one too if nothing is in it yet. */
  void beginWith(UnaryOperator<Comparison> wished) {
    begun = wished;
    if (comparison().equals(fresh()) && file.get() == null) {
      note(begun);
    }
  }

  /** Puts an empty comparison in the place of this one. */
  void startNew() {
    replace(begun.apply(fresh()), null, null);
  }

  private void replace(Comparison next, Path path, ComparisonFile.Stored inFile) {
    if (unsaved.get()) {
      autosave.next();
    }
    history.clear();
    owner = new Owner(owner.id() + 1, path);
    file.set(path);
    stored = inFile;
    show(next);
    unsaved.set(false);
  }

  /** Takes up what a crash left; its copy is deleted once there is one of this window's own. */
  void recover(Autosave.Copy copy) {
    // Against the file as it was then: what others wrote since is not written over.
    replace(
        copy.comparison(),
        copy.original(),
        copy.sha256().isEmpty()
            ? null
            : new ComparisonFile.Stored(copy.comparison(), copy.sha256()));
    markUnsaved();
    autosave.flush();
    autosave.forget(copy);
  }

  /** Says that what is open is in no file as it stands. */
  private void markUnsaved() {
    unsaved.set(true);
    autosave.later(comparison.get(), file.get(), stored == null ? "" : stored.sha256());
  }

  /**
   * The file to save to: a name without the ending gets it. A comparison that has no name yet is
   * called after its file.
   */
  public Path named(Path chosen) {
    String given = chosen.getFileName().toString();
    boolean whole = given.endsWith(ComparisonFile.ENDING);
    if (comparison().name().equals(UNNAMED)) {
      String stem =
          whole ? given.substring(0, given.length() - ComparisonFile.ENDING.length()) : given;
      edit(c -> c.withName(stem));
    }
    return whole ? chosen : chosen.resolveSibling(given + ComparisonFile.ENDING);
  }

  /**
   * Saves the comparison and from now on belongs to that file. Versions that another program added
   * to it meanwhile come in.
   *
   * @throws kettlesieve.core.comparison.ChangedElsewhereException if another program changed it in
   *     any other way
   * @throws ComparisonFileException if it cannot be written
   */
  public void save(Path path) throws ComparisonFileException {
    boolean same = stored != null && path.equals(file.get());
    keep(
        same
            ? ComparisonFile.save(comparison.get(), path, stored)
            : ComparisonFile.save(comparison.get(), path),
        path);
  }

  /**
   * Saves the comparison over whatever stands there.
   *
   * @throws ComparisonFileException if it cannot be written
   */
  public void saveOver(Path path) throws ComparisonFileException {
    keep(ComparisonFile.save(comparison.get(), path), path);
  }

  private void keep(ComparisonFile.Stored written, Path path) {
    stored = written;
    file.set(path);
    owner.savedTo(path);
    discardChanges();
    if (!written.comparison().versions().equals(comparison.get().versions())) {
      show(written.comparison());
    }
  }

  /** Whether the file holds something else than when it was read or written last. */
  boolean changedElsewhere(ComparisonFile.Stored now) {
    return stored != null && !stored.sha256().equals(now.sha256());
  }

  /** Takes what is open for saved: leaving it asks nothing. */
  public void discardChanges() {
    unsaved.set(false);
    autosave.discard();
  }

  /** What a crash may have left. */
  public Autosave autosave() {
    return autosave;
  }

  /** What is open, as the one that orders work. */
  Owner owner() {
    return owner;
  }

  public ReadOnlyObjectProperty<Path> fileProperty() {
    return file.getReadOnlyProperty();
  }

  /** The folder of its file; null if it is in none. */
  public Path folder() {
    Path own = file.get();
    return own == null ? null : own.toAbsolutePath().normalize().getParent();
  }

  /** The comparison's name as a part of a file's. */
  public String plainName() {
    return comparison().name().replaceAll("[^\\p{L}\\p{N}]+", "-");
  }

  public ReadOnlyBooleanProperty unsavedProperty() {
    return unsaved.getReadOnlyProperty();
  }

  public ReadOnlyBooleanProperty canUndoProperty() {
    return canUndo.getReadOnlyProperty();
  }

  public ReadOnlyBooleanProperty canRedoProperty() {
    return canRedo.getReadOnlyProperty();
  }

  @Override
  public void close() {
    autosave.close();
  }
}
