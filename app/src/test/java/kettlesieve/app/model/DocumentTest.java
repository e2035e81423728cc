package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.ChangedElsewhereException;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DocumentTest {
  @TempDir Path folder;
  private final List<String> told = new ArrayList<>();
  private Document document;

  @BeforeEach
  void open() {
    document =
        new Document(
            folder.resolve("state"), (was, is) -> told.add(was.notes() + ">" + is.notes()));
  }

  @AfterEach
  void close() {
    document.close();
  }

  private void write(String notes) {
    document.edit(c -> c.withNotes(notes));
  }

  @Test
  void changesAreUndoneAndDoneAgainInOrder() {
    write("one");
    write("two");
    assertThat(document.canRedoProperty().get()).isFalse();
    document.undo();
    assertThat(document.comparison().notes()).isEqualTo("one");
    assertThat(document.canRedoProperty().get()).isTrue();
    document.undo();
    assertThat(document.canUndoProperty().get()).isFalse();
    document.undo();
    document.redo();
    document.redo();
    assertThat(document.comparison().notes()).isEqualTo("two");
    String empty = Document.fresh().notes();
    assertThat(told)
        .containsExactly(
            empty + ">one", "one>two", "two>one", "one>" + empty, empty + ">one", "one>two");
  }

  @Test
  void whatChangesNothingIsNoChange() {
    document.edit(c -> c);
    assertThat(told).isEmpty();
    assertThat(document.unsavedProperty().get()).isFalse();
    assertThat(document.canUndoProperty().get()).isFalse();
  }

  @Test
  void whatIsNotedIsNeitherUndoneNorUnsaved() {
    document.note(c -> c.withNotes("found out"));
    assertThat(document.comparison().notes()).isEqualTo("found out");
    assertThat(document.unsavedProperty().get()).isFalse();
    assertThat(document.canUndoProperty().get()).isFalse();
  }

  @Test
  void aSavedComparisonBelongsToItsFile() throws Exception {
    write("kept");
    assertThat(document.unsavedProperty().get()).isTrue();
    Path file = folder.resolve("a.sieve");
    document.save(file);
    assertThat(document.unsavedProperty().get()).isFalse();
    assertThat(document.fileProperty().get()).isEqualTo(file);
    assertThat(document.owner().file()).isEqualTo(file);
    assertThat(ComparisonFile.load(file).notes()).isEqualTo("kept");
  }

  @Test
  void aFileGetsItsEndingAndAComparisonWithoutANameIsCalledAfterIt() {
    document.edit(c -> c.withName(Document.UNNAMED));
    assertThat(document.named(folder.resolve("harbour")))
        .isEqualTo(folder.resolve("harbour.sieve"));
    assertThat(document.comparison().name()).isEqualTo("harbour");
    assertThat(document.named(folder.resolve("pier.sieve")))
        .isEqualTo(folder.resolve("pier.sieve"));
    assertThat(document.comparison().name()).isEqualTo("harbour");
  }

  @Test
  void aFileThatCannotBeWrittenLeavesTheWorkUnsaved() throws Exception {
    write("kept");
    Path nowhere = Files.createFile(folder.resolve("a file")).resolve("a.sieve");
    assertThatThrownBy(() -> document.save(nowhere)).isInstanceOf(ComparisonFileException.class);
    assertThat(document.unsavedProperty().get()).isTrue();
    assertThat(document.fileProperty().get()).isNull();
    assertThat(document.comparison().notes()).isEqualTo("kept");
  }

  @Test
  void anotherComparisonIsAnotherOwnerWithoutTheOldOnesHistory() throws Exception {
    write("old");
    Owner before = document.owner();
    Path file = folder.resolve("b.sieve");
    document.replace(ComparisonFile.save(Comparison.empty("Another", Job.DECLIP), file), file);
    assertThat(document.comparison().name()).isEqualTo("Another");
    assertThat(document.fileProperty().get()).isEqualTo(file);
    assertThat(document.canUndoProperty().get()).isFalse();
    assertThat(document.unsavedProperty().get()).isFalse();
    assertThat(document.owner().same(before)).isFalse();
  }

  private Document another() {
    return new Document(folder.resolve("state"), (was, is) -> {});
  }

  /** A window that died: its copies are on disk, its lock is free. */
  private void die() {
    document.autosave().flush();
    document.close();
  }

  private static List<String> notes(List<Autosave.Copy> copies) {
    return copies.stream().map(c -> c.comparison().notes()).toList();
  }

  @Test
  void everyStartOffersWhatACrashLeftUntilItIsDecided() throws Exception {
    write("an hour of work");
    die();
    // Started again and again, and closed without a decision, once with work of its own.
    for (int i = 0; i < 3; i++) {
      try (Document next = another()) {
        assertThat(notes(next.autosave().left())).containsExactly("an hour of work");
        next.autosave().release();
        if (i == 1) {
          next.edit(c -> c.withNotes("other work"));
          next.discardChanges();
        }
      }
    }
    try (Document next = another()) {
      next.autosave().left().forEach(next.autosave()::forget);
      next.autosave().release();
    }
    try (Document next = another()) {
      assertThat(next.autosave().left()).isEmpty();
    }
    assertThat(Files.list(folder.resolve("state/unsaved"))).isEmpty();
  }

  @Test
  void recoveringAndDyingAgainLosesNothing() throws Exception {
    Path file = folder.resolve("a.sieve");
    document.save(file);
    write("kept through two crashes");
    die();
    Document second = another();
    second.recover(second.autosave().left().get(0));
    second.autosave().release();
    assertThat(second.unsavedProperty().get()).isTrue();
    assertThat(second.fileProperty().get()).isEqualTo(file);
    second.close();
    try (Document third = another()) {
      List<Autosave.Copy> left = third.autosave().left();
      assertThat(notes(left)).containsExactly("kept through two crashes");
      third.recover(left.get(0));
      third.save(file);
      assertThat(third.autosave().left()).isEmpty();
    }
    assertThat(ComparisonFile.load(file).notes()).isEqualTo("kept through two crashes");
    try (Document fourth = another()) {
      assertThat(fourth.autosave().left()).isEmpty();
    }
  }

  @Test
  void whatWasRecoveredDoesNotWriteOverWhatOthersDidSince() throws Exception {
    Path file = folder.resolve("a.sieve");
    document.save(file);
    write("mine");
    die();
    ComparisonFile.update(file, c -> c.withNotes("theirs"));
    try (Document next = another()) {
      next.recover(next.autosave().left().get(0));
      assertThatThrownBy(() -> next.save(file)).isInstanceOf(ChangedElsewhereException.class);
      next.saveOver(file);
    }
    assertThat(ComparisonFile.load(file).notes()).isEqualTo("mine");
  }

  @Test
  void undoIsKeptLikeAnythingElse() {
    write("one");
    write("two");
    document.undo();
    die();
    try (Document next = another()) {
      assertThat(notes(next.autosave().left())).containsExactly("one");
    }
  }

  @Test
  void aWindowThatLivesKeepsItsWorkToItself() throws Exception {
    write("of this window");
    document.autosave().flush();
    try (Document other = another()) {
      assertThat(other.autosave().left()).isEmpty();
      other.edit(c -> c.withNotes("of the other"));
      other.autosave().flush();
      assertThat(Files.list(folder.resolve("state/unsaved"))).hasSize(2);
    }
    // The other one died with work of its own: the first is offered it, and still has its own.
    assertThat(notes(document.autosave().left())).containsExactly("of the other");
    document.discardChanges();
  }

  @Test
  void workThatNobodyGaveUpSurvivesAnotherComparison() throws Exception {
    write("never decided");
    document.startNew();
    write("the next one");
    die();
    try (Document next = another()) {
      assertThat(notes(next.autosave().left()))
          .containsExactlyInAnyOrder("never decided", "the next one");
    }
  }

  @Test
  void versionsThatAnotherProgramAddedComeInWithASave() throws Exception {
    Path file = folder.resolve("a.sieve");
    document.save(file);
    Version made = Version.of("v1", "made elsewhere", MediaRef.of(folder.resolve("v.wav")));
    ComparisonFile.update(file, c -> c.plus(made));
    write("mine");
    document.save(file);
    assertThat(document.comparison().versions())
        .extracting(Version::label)
        .containsExactly("made elsewhere");
    assertThat(ComparisonFile.load(file).notes()).isEqualTo("mine");
    assertThat(document.unsavedProperty().get()).isFalse();
  }

  @Test
  void whatIsBrokenIsLeftWhereItIs() throws Exception {
    write("good");
    die();
    Path folderOfIt;
    try (var all = Files.list(folder.resolve("state/unsaved"))) {
      folderOfIt = all.findFirst().orElseThrow();
    }
    Path broken = Files.writeString(folderOfIt.resolve("9.sieve"), "{");
    try (Document next = another()) {
      assertThat(notes(next.autosave().left())).containsExactly("good");
    }
    assertThat(broken).exists();
  }
}
