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
  private final Autosave autosave;
  private final BiConsumer<Comparison, Comparison> changed;
  private final History<Comparison> history = new History<>();
  private final ReadOnlyObjectWrapper<Comparison> comparison = new ReadOnlyObjectWrapper<>(fresh());
  private final ReadOnlyObjectWrapper<Path> file = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyBooleanWrapper unsaved = new ReadOnlyBooleanWrapper();
  private final ReadOnlyBooleanWrapper canUndo = new ReadOnlyBooleanWrapper();
  private final ReadOnlyBooleanWrapper canRedo = new ReadOnlyBooleanWrapper();
  private Owner owner = new Owner(0, null);

  /**
   * @param stateFolder where the recovery copy is kept
   * @param changed told what was and what is, after every change of what a person sees
   */
  Document(Path stateFolder, BiConsumer<Comparison, Comparison> changed) {
    this.autosave = new Autosave(stateFolder);
    this.changed = changed;
  }

  static Comparison fresh() {
    return Comparison.empty("Untitled comparison", Job.DENOISE);
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
      unsaved.set(true);
      autosave.later(after, file.get());
    }
  }

  /** Adds what was found out and not decided by a person: nothing to undo, nothing to save. */
  void note(UnaryOperator<Comparison> change) {
    comparison.set(change.apply(comparison.get()));
  }

  /** Takes the last change back. */
  public void undo() {
    if (history.canUndo()) {
      show(history.undo(comparison.get()));
      unsaved.set(true);
    }
  }

  /** Does again what was undone last. */
  public void redo() {
    if (history.canRedo()) {
      show(history.redo(comparison.get()));
      unsaved.set(true);
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
   * Puts another comparison in the place of this one.
   *
   * @param path the file it belongs to; null if it has none
   */
  void replace(Comparison next, Path path) {
    history.clear();
    owner = new Owner(owner.id() + 1, path);
    file.set(path);
    show(next);
    unsaved.set(false);
    autosave.discard();
  }

  /** Says that what is open is in no file as it stands. */
  void markUnsaved() {
    unsaved.set(true);
  }

  /**
   * Saves the comparison and from now on belongs to that file.
   *
   * @throws ComparisonFileException if it cannot be written
   */
  public void save(Path path) throws ComparisonFileException {
    ComparisonFile.save(comparison.get(), path);
    file.set(path);
    owner.savedTo(path);
    discardChanges();
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
