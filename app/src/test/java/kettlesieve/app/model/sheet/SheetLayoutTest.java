package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import kettlesieve.app.model.sheet.Group;
import kettlesieve.app.model.sheet.SheetLayout;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SheetLayoutTest {
  @TempDir Path folder;

  @Test
  void whatOnlyInformsIsFoldedAtFirst() {
    SheetLayout layout = new SheetLayout(folder);
    assertThat(layout.folded(Group.INFO)).isTrue();
    assertThat(layout.folded(Group.MISSED)).isFalse();
    assertThat(layout.shown("flutter")).isTrue();
  }

  @Test
  void columnsArePutAwayAndRemembered() {
    SheetLayout layout = new SheetLayout(folder);
    layout.show("flutter", false);
    layout.fold(Group.INFO);
    layout.fold(Group.LOST);
    SheetLayout again = new SheetLayout(folder);
    assertThat(again.shown("flutter")).isFalse();
    assertThat(again.shown("dropouts")).isTrue();
    assertThat(again.folded(Group.INFO)).isFalse();
    assertThat(again.folded(Group.LOST)).isTrue();
    again.showAll();
    assertThat(new SheetLayout(folder).shown("flutter")).isTrue();
    assertThat(new SheetLayout(folder).folded(Group.LOST)).isFalse();
  }

  @Test
  void aHeadSortsBestFirstThenWorstFirstThenNotAtAll() {
    SheetLayout layout = new SheetLayout(folder);
    int changes = layout.changesProperty().get();
    layout.sort("overall");
    assertThat(layout.sortedBy()).isEqualTo("overall");
    assertThat(layout.worstFirst()).isFalse();
    layout.sort("overall");
    assertThat(layout.worstFirst()).isTrue();
    layout.sort("flutter");
    assertThat(layout.sortedBy()).isEqualTo("flutter");
    assertThat(layout.worstFirst()).isFalse();
    layout.sort("flutter");
    layout.sort("flutter");
    assertThat(layout.sortedBy()).isEmpty();
    assertThat(layout.changesProperty().get()).isEqualTo(changes + 5);
  }

  @Test
  void aDamagedMemoryIsNoObstacle() throws Exception {
    Files.write(
        folder.resolve("sheet.properties"), "hidden=\\u00zz".getBytes(StandardCharsets.ISO_8859_1));
    SheetLayout layout = new SheetLayout(folder);
    assertThat(layout.shown("flutter")).isTrue();
    layout.show("flutter", false);
    assertThat(new SheetLayout(folder).shown("flutter")).isFalse();
  }
}
