package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
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
  void aFileThatCannotBeWrittenLeavesTheWorkUnsaved() throws Exception {
    write("kept");
    Path nowhere = Files.createFile(folder.resolve("a file")).resolve("a.sieve");
    assertThatThrownBy(() -> document.save(nowhere)).isInstanceOf(ComparisonFileException.class);
    assertThat(document.unsavedProperty().get()).isTrue();
    assertThat(document.fileProperty().get()).isNull();
    assertThat(document.comparison().notes()).isEqualTo("kept");
  }

  @Test
  void anotherComparisonIsAnotherOwnerWithoutTheOldOnesHistory() {
    write("old");
    Owner before = document.owner();
    Path file = folder.resolve("b.sieve");
    document.replace(Comparison.empty("Another", Job.DECLIP), file);
    assertThat(document.comparison().name()).isEqualTo("Another");
    assertThat(document.fileProperty().get()).isEqualTo(file);
    assertThat(document.canUndoProperty().get()).isFalse();
    assertThat(document.unsavedProperty().get()).isFalse();
    assertThat(document.owner().same(before)).isFalse();
    document.markUnsaved();
    assertThat(document.unsavedProperty().get()).isTrue();
  }
}
