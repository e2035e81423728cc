package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.image.WritableImage;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import kettlesieve.app.model.News;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.PictureFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.TimeSpan;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** What can be done in each step, by mouse and keys. */
class WindowStepsTest extends WindowFixture {
  @Start
  void start(Stage stage) {
    show(stage);
  }

  // --- gather ---

  @Test
  void amountsThatAreNoneAreAnswered(FxRobot robot) {
    bringIn(robot);
    robot
        .doubleClickOn("#amount-v1")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("much")
        .push(KeyCode.ENTER);
    await(() -> workspace.messageProperty().get().contains("number from 0 to 100"));
    assertThat(workspace.comparison().versions().get(0).amount()).isEqualTo(60);
    robot
        .doubleClickOn("#amount-v1")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("35")
        .push(KeyCode.ENTER);
    await(() -> workspace.comparison().versions().get(0).amount() == 35);
  }

  @Test
  void twoVersionsCannotHaveOneLabel(FxRobot robot) {
    bringIn(robot);
    robot
        .doubleClickOn("#label-v1")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("Smoothed wiener 30")
        .push(KeyCode.ENTER);
    await(() -> workspace.messageProperty().get().contains("already called"));
    assertThat(workspace.comparison().versions().get(0).label()).isEqualTo("Plain subtraction 60");
  }

  @Test
  void versionsAreMovedAndTakenOut(FxRobot robot) {
    bringIn(robot);
    Node down = byName(robot, "Move Plain subtraction 60 down");
    robot.clickOn(down);
    await(() -> workspace.comparison().versions().get(1).id().equals("v1"));
    Node remove = byName(robot, "Take Smoothed wiener 30 out of the comparison");
    robot.clickOn(remove);
    await(() -> workspace.comparison().versions().size() == 1);
    robot.clickOn("#undo");
    await(() -> workspace.comparison().versions().size() == 2);
    robot.clickOn("#redo");
    await(() -> workspace.comparison().versions().size() == 1);
  }

  private static Node byName(FxRobot robot, String name) {
    return robot
        .lookup((Node n) -> n instanceof Button && name.equals(n.getAccessibleText()))
        .query();
  }

  @Test
  void theFactsOfTheSourceAreShown(FxRobot robot) {
    bringIn(robot);
    await(() -> text(robot, "LUFS") && text(robot, "dBTP") && text(robot, "dBFS RMS"));
    assertThat(text(robot, "0:14.0, 48 kHz, mono, 24 bit")).isTrue();
    assertThat(text(robot, "no samples")).isTrue();
  }

  @Test
  void nonsenseAmountsOfAStandInAreAnswered(FxRobot robot) {
    bringIn(robot);
    robot.doubleClickOn("#make-amounts").push(KeyCode.CONTROL, KeyCode.A).write("30, lots");
    robot.clickOn("#make");
    await(() -> text(robot, "Amounts are numbers from 0 to 100"));
    assertThat(workspace.comparison().versions()).hasSize(2);
  }

  // --- header ---

  @Test
  void nameJobAndProfileAreChangedAtTheTop(FxRobot robot) {
    bringIn(robot);
    robot
        .doubleClickOn("#name")
        .push(KeyCode.CONTROL, KeyCode.A)
        .write("Watch room")
        .push(KeyCode.ENTER);
    await(() -> workspace.comparison().name().equals("Watch room"));
    ComboBox<Profile> profile = profiles(robot);
    robot.interact(() -> profile.setValue(profile.getItems().get(3)));
    await(() -> "podcast".equals(workspace.comparison().profile()));
    assertThat(workspace.sheetProperty().get().profile().title()).isEqualTo("Podcast");
    robot.interact(() -> workspace.edit(c -> c.withJob(Job.DEREVERB)));
    awaitSheet();
    await(() -> workspace.sheetProperty().get().job() == Job.DEREVERB);
  }

  @SuppressWarnings("unchecked")
  private static ComboBox<Profile> profiles(FxRobot robot) {
    return robot.lookup("#profile").queryAs(ComboBox.class);
  }

  @Test
  void warningsAreCountedAndListed(FxRobot robot) throws Exception {
    Path broken = Files.writeString(folder.resolve("broken.wav"), "no sound");
    robot.interact(
        () ->
            workspace.addFiles(
                List.of(file("tape.wav"), file("plain-subtraction-60.wav"), broken)));
    await(() -> workspace.sheetProperty().get() != null && !workspace.busyProperty().get());
    Button warnings = find(robot, "#warnings", Button.class);
    assertThat(warnings.getText()).isEqualTo("1 warning");
    robot.clickOn(warnings);
    assertThat(text(robot, "Warnings")).isTrue();
    assertThat(text(robot, "Broken: this is not an audio file")).isTrue();
    // It closes by Escape, by a press anywhere else, and by its own button.
    Node list = robot.lookup("#notices").query();
    robot.push(KeyCode.ESCAPE);
    await(() -> !list.isVisible());
    robot.clickOn(warnings);
    await(list::isVisible);
    robot.clickOn("#step-match");
    await(() -> !list.isVisible());
    assertThat(workspace.stepProperty().get()).isEqualTo(Step.MATCH);
    robot.clickOn(warnings);
    await(list::isVisible);
    robot.clickOn(warnings);
    await(() -> !list.isVisible());
  }

  @Test
  void savingUnderTheKnownNameNeedsNoQuestion(FxRobot robot) {
    bringIn(robot);
    Path file = folder.resolve("kept.sieve");
    robot.interact(
        () -> {
          try {
            workspace.document().save(file);
          } catch (Exception e) {
            throw new AssertionError(e);
          }
        });
    robot.interact(() -> workspace.edit(c -> c.withNotes("later")));
    assertThat(workspace.document().unsavedProperty().get()).isTrue();
    robot.push(KeyCode.CONTROL, KeyCode.S);
    await(() -> !workspace.document().unsavedProperty().get());
    assertThat(workspace.messageProperty().get()).contains("kept.sieve");
    // A success does not look like an error, and neither moves what is under the pointer.
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.DONE);
    Node strip = robot.lookup("#notice").query();
    assertThat(strip.getPseudoClassStates()).extracting(Object::toString).contains("done");
    Node page = robot.lookup("#label-v1").query();
    double told = page.localToScene(0, 0).getY();
    robot.interact(() -> workspace.messageProperty().set("It cannot be."));
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.PROBLEM);
    assertThat(strip.getPseudoClassStates()).extracting(Object::toString).doesNotContain("done");
    robot.interact(() -> workspace.messageProperty().set(""));
    assertThat(page.localToScene(0, 0).getY()).isEqualTo(told);
  }

  // --- listening ---

  @Test
  void keysOfTheListeningBar(FxRobot robot) {
    bringIn(robot);
    var listening = workspace.listening();
    robot.clickOn("#step-listen");
    robot.push(KeyCode.L);
    await(() -> listening.loopingProperty().get());
    robot.push(KeyCode.M);
    await(() -> !listening.levelMatchedProperty().get());
    robot.push(KeyCode.R);
    await(() -> listening.onlyRemovedProperty().get());
    robot.interact(() -> listening.seek(10));
    robot.push(KeyCode.PERIOD);
    await(() -> listening.positionSeconds() == 11);
    robot.push(KeyCode.COMMA).push(KeyCode.COMMA);
    await(() -> listening.positionSeconds() == 9);
    robot.push(KeyCode.HOME);
    await(() -> listening.positionSeconds() == 0);
    robot.push(KeyCode.DIGIT2);
    await(() -> listening.chosenProperty().get().equals("v2"));
    robot.push(KeyCode.DIGIT9);
    assertThat(listening.chosenProperty().get()).isEqualTo("v2");
    assertThat(find(robot, "#track-v2", ToggleButton.class).isSelected()).isTrue();
  }

  @Test
  void keysAreLettersWhileTyping(FxRobot robot) {
    bringIn(robot);
    robot.doubleClickOn("#tool-v1").push(KeyCode.CONTROL, KeyCode.A).write("mlr 12");
    assertThat(find(robot, "#tool-v1", TextField.class).getText()).isEqualTo("mlr 12");
    assertThat(workspace.listening().loopingProperty().get()).isFalse();
    assertThat(workspace.listening().chosenProperty().get()).isEqualTo("source");
    robot.push(KeyCode.ENTER);
    await(() -> workspace.comparison().versions().get(0).tool().equals("mlr 12"));
  }

  @Test
  void whatWasRemovedIsHeard(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-listen");
    robot.push(KeyCode.DIGIT1).push(KeyCode.R).push(KeyCode.SPACE);
    await(() -> !outputs.isEmpty() && outputs.get(0).heardLeft().length > 48_000);
    robot.push(KeyCode.SPACE);
    await(() -> !workspace.listening().playing());
    float[] heard = outputs.get(0).heardLeft();
    float[] source = workspace.sourceProperty().get().audio().samples(0, 0, heard.length);
    float[] version = workspace.state("v1").prepared().matched().samples(0, 0, heard.length);
    for (int i = 2000; i < 40_000; i += 131) {
      assertThat(heard[i])
          .isCloseTo(source[i] - version[i], org.assertj.core.api.Assertions.within(1e-5f));
    }
  }

  @Test
  void lanesShowWaveformsAndZoom(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-listen");
    robot.clickOn("#picture-waveform");
    assertThat(find(robot, "#picture-waveform", ToggleButton.class).isSelected()).isTrue();
    WritableImage whole = snapshot(robot);
    robot.push(KeyCode.EQUALS).push(KeyCode.EQUALS);
    await(() -> !same(whole, snapshot(robot)));
    robot.clickOn("#picture-spectrogram");
    robot.push(KeyCode.F);
    await(() -> dark(snapshot(robot)) > 0.02);
  }

  private static WritableImage snapshot(FxRobot robot) {
    WritableImage[] image = new WritableImage[1];
    robot.interact(() -> image[0] = robot.lookup("#listen").query().snapshot(null, null));
    return image[0];
  }

  private static boolean same(WritableImage a, WritableImage b) {
    for (int y = 60; y < a.getHeight(); y += 7) {
      for (int x = 200; x < a.getWidth(); x += 11) {
        if (a.getPixelReader().getArgb(x, y) != b.getPixelReader().getArgb(x, y)) {
          return false;
        }
      }
    }
    return true;
  }

  /** Share of dark points where the lanes are. */
  private static double dark(WritableImage image) {
    int count = 0;
    int all = 0;
    for (int y = 60; y < image.getHeight() - 40; y += 3) {
      for (int x = 200; x < image.getWidth() - 60; x += 3) {
        all++;
        count += image.getPixelReader().getColor(x, y).getBrightness() < 0.5 ? 1 : 0;
      }
    }
    return (double) count / all;
  }

  // --- overview ---

  @Test
  void clicksGoThereAndDoubleClicksShowTheWholeAgain(FxRobot robot) {
    bringIn(robot);
    robot.interact(() -> workspace.edit(c -> c.withExcerpt(new TimeSpan(3, 9))));
    awaitSheet();
    Node overview = robot.lookup(".overview").query();
    var bounds = overview.localToScreen(overview.getBoundsInLocal());
    robot.clickOn(bounds.getMinX() + bounds.getWidth() / 2, bounds.getMinY() + 30);
    double half = workspace.sourceProperty().get().audio().seconds() / 2;
    await(() -> Math.abs(workspace.listening().positionSeconds() - half) < 0.1);
    robot.doubleClickOn(bounds.getMinX() + 300, bounds.getMinY() + 30);
    await(() -> workspace.comparison().excerpt() == null);
    awaitSheet();
  }

  @Test
  void pausesAreMarkedByHandWithShift(FxRobot robot) {
    bringIn(robot);
    Node overview = robot.lookup(".overview").query();
    var bounds = overview.localToScreen(overview.getBoundsInLocal());
    double seconds = workspace.sourceProperty().get().audio().seconds();
    double y = bounds.getMinY() + 40;
    double from = bounds.getMinX() + 5.35 / seconds * bounds.getWidth();
    double to = bounds.getMinX() + 5.75 / seconds * bounds.getWidth();
    robot.press(KeyCode.SHIFT);
    robot.drag(from, y).dropTo(to, y);
    robot.release(KeyCode.SHIFT);
    await(() -> workspace.comparison().pauses() != null);
    assertThat(workspace.comparison().excerpt()).isNull();
    // The mark mends what was found: the other pauses are still there.
    assertThat(workspace.comparison().pauses()).hasSizeGreaterThan(3);
    assertThat(workspace.comparison().pauses()).anyMatch(p -> p.from() <= 5.5 && p.to() >= 5.6);
    awaitSheet();
    assertThat(find(robot, "#excerpt", MenuButton.class).getText()).contains("marked by hand");
    robot.interact(() -> workspace.edit(c -> c.withPauses(null)));
    awaitSheet();
    await(
        () ->
            workspace.preparedExcerptProperty().get().source().pauses().activity().pauses().size()
                > 3);
  }

  // --- measure ---

  @Test
  void theSheetShowsEveryReadingAndCopiesOne(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-measure");
    await(() -> robot.lookup("#fold-info").tryQuery().isPresent());
    robot.interact(() -> find(robot, "#fold-info", Button.class).fire());
    for (String measure :
        List.of(
            "pause-noise",
            "noise-under-voice",
            "musical-noise",
            "flutter",
            "voice-loss",
            "bandwidth",
            "dropouts")) {
      assertThat(robot.lookup("#cell-v1-" + measure).tryQuery()).as(measure).isPresent();
    }
    // What only informs lies further right: the versions stay where they are meanwhile.
    ScrollBar across = find(robot, "#sheet-across", ScrollBar.class);
    robot.interact(() -> across.setValue(across.getMax()));
    for (String measure : List.of("noise-cut", "level-change")) {
      assertThat(robot.lookup("#cell-v1-" + measure).tryQuery()).as(measure).isPresent();
    }
    assertThat(robot.lookup("#overall-v1").tryQuery()).isPresent();
    robot.interact(() -> find(robot, "#cell-v2-noise-cut", ToggleButton.class).fire());
    String shown = find(robot, "#detail-value", Label.class).getText();
    assertThat(shown).contains(" dB");
    robot.push(KeyCode.CONTROL, KeyCode.C);
    String[] copied = new String[1];
    robot.interact(() -> copied[0] = Clipboard.getSystemClipboard().getString());
    assertThat(copied[0]).startsWith("Smoothed wiener 30\tNoise cut\t");
    assertThat(shown).startsWith(copied[0].substring(copied[0].lastIndexOf('\t') + 1));
  }

  @Test
  void theWeakestReadingIsOfferedFirst(FxRobot robot) {
    bringIn(robot);
    robot.clickOn("#step-measure");
    await(() -> workspace.selection().measureProperty().get() != null);
    assertThat(workspace.selection().measureProperty().get()).isNotEmpty();
    assertThat(robot.lookup("#detail-value").tryQuery()).isPresent();
  }

  // --- all ---

  @Test
  void picturesAreSavedAsPng(FxRobot robot) throws Exception {
    bringIn(robot);
    WritableImage[] image = new WritableImage[1];
    robot.interact(() -> image[0] = robot.lookup(".overview").query().snapshot(null, null));
    Path file = folder.resolve("pictures/overview.png");
    PictureFile.write(image[0], file);
    var read = javax.imageio.ImageIO.read(file.toFile());
    assertThat(read.getWidth()).isEqualTo((int) image[0].getWidth());
  }

  @Test
  void everyControlHasANameForScreenReaders(FxRobot robot) {
    bringIn(robot);
    for (Step step : Step.values()) {
      robot.interact(() -> workspace.stepProperty().set(step));
      for (Node node :
          robot.lookup((Node n) -> n instanceof Labeled l && l.isFocusTraversable()).queryAll()) {
        Labeled control = (Labeled) node;
        boolean named =
            control.getText() != null && !control.getText().isBlank()
                || control.getAccessibleText() != null;
        boolean inner = control.getStyleClass().contains("arrow-button");
        assertThat(named || inner).as(step + ": " + control).isTrue();
      }
    }
  }
}
