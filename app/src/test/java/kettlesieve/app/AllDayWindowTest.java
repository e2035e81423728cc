package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.stage.Stage;
import kettlesieve.app.frame.Magnified;
import kettlesieve.app.frame.Preferences;
import kettlesieve.app.model.News;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.Ink;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.FrameRate;
import kettlesieve.core.comparison.TimeFormat;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/** Preferences, times, places in files, parts of files, takes: what a long day asks for. */
class AllDayWindowTest extends WindowFixture {
  @Start
  void start(Stage stage) {
    show(stage);
  }

  @AfterEach
  void day(FxRobot robot) {
    robot.interact(() -> Ink.wear(Ink.Look.DAY));
  }

  @Test
  void timesAreToldAsTimecodeFromATypedStart(FxRobot robot) throws Exception {
    bringIn(robot);
    robot.push(KeyCode.CONTROL, KeyCode.COMMA);
    choose(robot, "#times-as", TimeFormat.As.TIMECODE);
    choose(robot, "#frame-rate", FrameRate.FPS_25);
    type(robot, "#times-start", "10:00:00:00");
    assertThat(workspace.comparison().times())
        .isEqualTo(new TimeFormat(TimeFormat.As.TIMECODE, FrameRate.FPS_25, 36_000.0));
    await(() -> find(robot, "#clock", TextField.class).getText().equals("10:00:00:00"));
    type(robot, "#clock", "10:00:04:05");
    await(() -> Math.abs(workspace.listening().positionSeconds() - 4.2) < 1e-3);
    type(robot, "#clock", "10:00:04:25");
    assertThat(workspace.messageProperty().get()).contains("no such timecode at 25 frames");
    assertThat(workspace.listening().positionSeconds())
        .isCloseTo(4.2, org.assertj.core.data.Offset.offset(1e-3));
    // Spots and marks say the same time.
    goTo(robot, Step.LISTEN);
    robot.interact(() -> find(robot, "#add-mark", javafx.scene.control.Button.class).fire());
    assertThat(text(robot, "10:00:04:05")).isTrue();
    type(robot, "#times-start", "25:00:00:00");
    assertThat(workspace.messageProperty().get()).startsWith("The start was not taken");
    // The next comparison begins like this, without the start, which was this source's own.
    robot.interact(() -> workspace.document().discardChanges());
    robot.interact(workspace::startNew);
    assertThat(workspace.comparison().times())
        .isEqualTo(new TimeFormat(TimeFormat.As.TIMECODE, FrameRate.FPS_25, null));
    assertThat(workspace.document().unsavedProperty().get()).isFalse();
  }

  @Test
  void theNightLookIsWornAndKept(FxRobot robot) {
    bringIn(robot);
    robot.push(KeyCode.CONTROL, KeyCode.COMMA);
    robot.interact(() -> find(robot, "#look-1", ToggleButton.class).fire());
    assertThat(Ink.look()).isEqualTo(Ink.Look.NIGHT);
    assertThat(frame().getScene().getStylesheets()).anyMatch(s -> s.endsWith("night.css"));
    assertThat(new Preferences(folder.resolve("state")).look()).isEqualTo(Ink.Look.NIGHT);
    robot.interact(() -> find(robot, "#look-0", ToggleButton.class).fire());
    assertThat(frame().getScene().getStylesheets()).noneMatch(s -> s.endsWith("night.css"));
    robot.push(KeyCode.ESCAPE);
    assertThat(robot.lookup("#preferences").query().isVisible()).isFalse();
  }

  @Test
  void everythingIsDrawnLargerAsFarAsThereIsRoom(FxRobot robot) {
    ReadOnlyIntegerWrapper size = new ReadOnlyIntegerWrapper(150);
    robot.interact(
        () -> {
          Pane inside = new Pane();
          Magnified whole = new Magnified(inside, size.getReadOnlyProperty());
          whole.resize(1920, 1080);
          whole.layout();
          assertThat(whole.factor()).isEqualTo(1.5);
          assertThat(inside.getWidth()).isEqualTo(1280);
          assertThat(inside.getBoundsInParent().getWidth()).isEqualTo(1920);
          // A small window keeps the smallest room that everything has its place in.
          whole.resize(1320, 840);
          whole.layout();
          assertThat(whole.factor()).isEqualTo(1.2);
          size.set(100);
          whole.layout();
          assertThat(inside.getWidth()).isEqualTo(1320);
          CanvasPane.setFineness(1);
        });
  }

  @Test
  void placesInTheFileBecomeExcerpts(FxRobot robot) throws Exception {
    Path source = folder.resolve("log-tape.wav");
    Audio tape =
        new MediaReader(folder.resolve("decoded")).read(file("tape.wav"), Progress.SILENT).audio();
    long rate = tape.sampleRate();
    WavWriter.write(
        tape,
        List.of(new WavWriter.Cue(2 * rate, "gulls"), new WavWriter.Cue(9 * rate, "lamp")),
        source,
        WavWriter.Format.PCM_24,
        Progress.SILENT);
    robot.interact(() -> workspace.addFiles(List.of(source, file("plain-subtraction-60.wav"))));
    awaitSheet(1);
    robot.push(KeyCode.E);
    assertThat(text(robot, "gulls")).isTrue();
    robot.interact(() -> find(robot, "#take-place-0", javafx.scene.control.Button.class).fire());
    assertThat(workspace.comparison().excerpt("gulls").orElseThrow().span().from()).isEqualTo(2);
    assertThat(workspace.comparison().excerpt("gulls").orElseThrow().span().to()).isEqualTo(9);
    robot.interact(() -> find(robot, "#take-place-0", javafx.scene.control.Button.class).fire());
    assertThat(workspace.comparison().excerpt("gulls 2")).isPresent();
    robot.push(KeyCode.ESCAPE);
    robot.interact(() -> workspace.document().discardChanges());
  }

  @Test
  void oneChannelOfManyIsCompared(FxRobot robot) throws Exception {
    Audio tape =
        new MediaReader(folder.resolve("decoded")).read(file("tape.wav"), Progress.SILENT).audio();
    float[] x = tape.wholeChannel(0);
    Path six = folder.resolve("log-six.wav");
    WavWriter.write(
        Audio.of(
            tape.sampleRate(),
            new float[x.length],
            new float[x.length],
            x,
            new float[x.length],
            new float[x.length],
            new float[x.length]),
        six,
        WavWriter.Format.PCM_24,
        Progress.SILENT);
    robot.interact(() -> workspace.addFiles(List.of(six, file("plain-subtraction-60.wav"))));
    await(() -> workspace.sourceProperty().get() != null && !workspace.busyProperty().get());
    goTo(robot, Step.GATHER);
    choose(robot, "#channel-of-source", 3);
    assertThat(workspace.comparison().source().channel()).isEqualTo(3);
    await(
        () ->
            workspace.sourceProperty().get() != null
                && workspace.sourceProperty().get().audio().channels() == 1
                && !workspace.busyProperty().get());
    awaitSheet(1);
    assertThat(workspace.sourceProperty().get().audio().samples(0, 9000, 50))
        .isEqualTo(tape.samples(0, 9000, 50));
    robot.interact(() -> workspace.document().discardChanges());
  }

  @Test
  void plotsAndRowsGoToTheClipboard(FxRobot robot) {
    bringIn(robot);
    goTo(robot, Step.MEASURE);
    robot.interact(() -> workspace.selection().reading("v1", "pause-noise"));
    robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.C);
    robot.interact(
        () -> {
          String row = Clipboard.getSystemClipboard().getString();
          String[] lines = row.split("\n");
          assertThat(lines).hasSize(2);
          assertThat(lines[0]).startsWith("Version\tOverall\t").contains("Noise in pauses (dB)");
          assertThat(lines[1].split("\t", -1)).hasSameSizeAs(lines[0].split("\t", -1));
        });
    assertThat(workspace.news().kindProperty().get()).isEqualTo(News.Kind.DONE);
    robot.interact(
        () -> {
          CanvasPane map = (CanvasPane) robot.lookup("#spot-map").query();
          assertThat(map.svg()).startsWith("<svg").endsWith("</svg>\n").contains("<text");
        });
  }

  @Test
  void longLabelsAreToldApartEverywhere(FxRobot robot) {
    bringIn(robot);
    String first = "Lighthouse keeper's tape, side A, plain subtraction, amount 60";
    String second = "Lighthouse keeper's tape, side A, plain subtraction, amount 30";
    robot.interact(
        () -> {
          workspace.edit(
              c ->
                  c.withVersion(c.version("v1").orElseThrow().withLabel(first))
                      .withVersion(c.version("v2").orElseThrow().withLabel(second)));
          frame().getScene().getWindow().setWidth(1100);
          frame().getScene().getWindow().setHeight(700);
        });
    await(() -> !workspace.busyProperty().get());
    for (Step step : List.of(Step.LISTEN, Step.MEASURE, Step.DECIDE)) {
      goTo(robot, step);
      robot.interact(() -> frame().layout());
      String one = shown(robot, first);
      String two = shown(robot, second);
      assertThat(one).as(step.toString()).isNotEqualTo(two).contains("60");
      assertThat(two).as(step.toString()).contains("30");
    }
    assertThat(find(robot, "#track-v1", ToggleButton.class).getText()).contains("60");
    robot.interact(() -> workspace.document().discardChanges());
  }

  /** What stands for a label in the view of the step, by its name for screen readers. */
  private static String shown(FxRobot robot, String label) {
    return robot
        .lookup(
            (Labeled l) ->
                l.getText() != null
                    && !l.getText().isBlank()
                    && l.getAccessibleText() != null
                    && l.getAccessibleText().endsWith(label)
                    && (l.getId() == null || !l.getId().startsWith("track-"))
                    && !(l instanceof javafx.scene.control.Button))
        .queryAllAs(Labeled.class)
        .stream()
        .filter(l -> l instanceof Label || l instanceof ToggleButton)
        .map(Labeled::getText)
        .findFirst()
        .orElseThrow();
  }

  @Test
  void aProfileGoesToAFileAndBack(FxRobot robot) throws Exception {
    bringIn(robot);
    goTo(robot, Step.DECIDE);
    Path file = folder.resolve("house.json");
    robot.interact(
        () ->
            kettlesieve.app.shared.Choosers.askBy(
                new kettlesieve.app.shared.Choosers.Asker() {
                  @Override
                  public List<java.io.File> open(
                      javafx.stage.FileChooser c, javafx.stage.Window w, boolean several) {
                    return List.of(file.toFile());
                  }

                  @Override
                  public java.io.File save(javafx.stage.FileChooser c, javafx.stage.Window w) {
                    return file.toFile();
                  }

                  @Override
                  public java.io.File folder(
                      javafx.stage.DirectoryChooser c, javafx.stage.Window w) {
                    return null;
                  }
                }));
    robot.interact(() -> find(robot, "#profile-export", javafx.scene.control.Button.class).fire());
    assertThat(Files.readString(file)).contains("\"name\" : \"even\"");
    robot.interact(() -> find(robot, "#profile-import", javafx.scene.control.Button.class).fire());
    // One that ships with the program is not replaced: it comes in beside it.
    assertThat(workspace.comparison().profile()).isEqualTo("even-own");
    Files.writeString(file, "{}");
    robot.interact(() -> find(robot, "#profile-import", javafx.scene.control.Button.class).fire());
    assertThat(workspace.messageProperty().get()).contains("house.json", "no delivery profile");
    robot.interact(() -> kettlesieve.app.shared.Choosers.askBy(null));
    robot.interact(() -> workspace.document().discardChanges());
  }
}
