package kettlesieve.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import javafx.geometry.Rectangle2D;
import kettlesieve.app.frame.Preferences;
import kettlesieve.core.report.Section;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SmallModelsTest {
  @TempDir Path folder;

  @Test
  void historyGoesBackAndForth() {
    History<String> history = new History<>();
    assertThat(history.canUndo()).isFalse();
    history.remember("a");
    history.remember("b");
    assertThat(history.undo("c")).isEqualTo("b");
    assertThat(history.undo("b")).isEqualTo("a");
    assertThat(history.canUndo()).isFalse();
    assertThat(history.redo("a")).isEqualTo("b");
    history.remember("b");
    assertThat(history.canRedo()).isFalse();
    history.clear();
    assertThat(history.canUndo()).isFalse();
  }

  @Test
  void whatAReportHoldsIsRemembered() {
    ReportTicks ticks = new ReportTicks(folder);
    assertThat(ticks.ticked()).containsExactly(Section.values());
    ticks.tick(Section.SOUNDS, false);
    ticks.tick(Section.METHOD, false);
    ticks.tick(Section.METHOD, true);
    assertThat(new ReportTicks(folder).ticked())
        .doesNotContain(Section.SOUNDS)
        .contains(Section.METHOD)
        .hasSize(Section.values().length - 1);
    for (Section section : Section.values()) {
      ticks.tick(section, false);
    }
    assertThat(new ReportTicks(folder).ticked()).isEmpty();
  }

  @Test
  void historyForgetsTheOldestFirst() {
    History<Integer> history = new History<>();
    for (int i = 0; i < 500; i++) {
      history.remember(i);
    }
    int steps = 0;
    int now = 500;
    while (history.canUndo()) {
      now = history.undo(now);
      steps++;
    }
    assertThat(steps).isEqualTo(200);
    assertThat(now).isEqualTo(300);
  }

  @Test
  void selectionsChangeTogether() {
    Selection selection = new Selection();
    selection.reading("v2", "flutter");
    assertThat(selection.versionProperty().get()).isEqualTo("v2");
    assertThat(selection.measureProperty().get()).isEqualTo("flutter");
    selection.clear();
    assertThat(selection.versionProperty().get()).isNull();
  }

  @Test
  void recentComparisonsAreRememberedNewestFirst() {
    Preferences preferences = new Preferences(folder);
    for (int i = 0; i < 12; i++) {
      preferences.used(folder.resolve("c" + i + ".sieve"));
    }
    preferences.used(folder.resolve("c5.sieve"));
    List<Path> again = new Preferences(folder).recent();
    assertThat(again).hasSize(8).doesNotHaveDuplicates();
    assertThat(again.get(0)).isEqualTo(folder.resolve("c5.sieve").toAbsolutePath());
    assertThat(again.get(1)).isEqualTo(folder.resolve("c11.sieve").toAbsolutePath());
  }

  @Test
  void damagedPreferencesAreNoObstacle() throws Exception {
    java.nio.file.Files.writeString(folder.resolve("window.properties"), "x=\\u12");
    assertThat(new Preferences(folder).recent()).isEmpty();
  }

  @Test
  void everyStepHasAPurpose() {
    for (Step step : Step.values()) {
      assertThat(step.title()).isNotBlank();
      assertThat(step.purpose()).isNotBlank();
    }
  }

  @Test
  void theChosenSoundDeviceIsRemembered() {
    Preferences first = new Preferences(folder);
    assertThat(first.device()).isNull();
    first.useDevice("Desk");
    assertThat(new Preferences(folder).device()).isEqualTo("Desk");
    first.useDevice(null);
    assertThat(new Preferences(folder).device()).isNull();
  }

  @Test
  void aWindowNeverHangsOverTheScreen() {
    Rectangle2D room = new Rectangle2D(0, 30, 1920, 1050);
    Rectangle2D fits = new Rectangle2D(100, 100, 1280, 800);
    assertThat(Preferences.within(fits, room)).isEqualTo(fits);
    assertThat(Preferences.within(new Rectangle2D(900, 500, 1280, 800), room))
        .isEqualTo(new Rectangle2D(640, 280, 1280, 800));
    assertThat(Preferences.within(new Rectangle2D(-50, 0, 2560, 1400), room)).isEqualTo(room);
  }
}
