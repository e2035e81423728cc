package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.FutureTask;
import java.util.concurrent.locks.LockSupport;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.event.EventType;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonType;
import javafx.scene.control.CheckBox;
import javafx.scene.control.DialogPane;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.shape.Shape;
import javafx.scene.text.Text;
import javafx.stage.Stage;
import kettlesieve.app.model.Rounds;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.listen.SimulatedOut;
import kettlesieve.core.measure.Part;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/**
 * Blind rounds as a listener meets them.
 *
 * <p>Over 400 lines: each kind of round from its first question to what is kept of it, on a real
 * window.
 */
class RoundWindowTest extends WindowFixture {
  private Stage stage;

  @Start
  void start(Stage shown) {
    stage = shown;
    show(shown);
    stage.titleProperty().bind(frame().titleProperty());
  }

  private void begin(FxRobot robot, Round.Kind kind) {
    robot.interact(
        () ->
            workspace
                .rounds()
                .begin(
                    new Rounds.Plan(
                        kind,
                        Round.Question.OVERALL,
                        List.of("v1", "v2"),
                        8,
                        "K.",
                        new TimeSpan(2, 6),
                        "")));
  }

  /** All that a person or a screen reader could find in the window. */
  private static void words(Node node, List<String> into) {
    into.add(String.valueOf(node.getAccessibleText()));
    into.add(String.valueOf(node.getAccessibleHelp()));
    into.add(String.valueOf(node.getUserData()));
    if (node instanceof Labeled l) {
      into.add(String.valueOf(l.getText()));
    }
    if (node instanceof Text t) {
      into.add(t.getText());
    }
    into.add(String.valueOf(Hint.of(node)));
    if (node instanceof Shape shape) {
      for (int i = 0; i < 2; i++) {
        if (VersionSign.color(i).equals(shape.getFill())) {
          into.add("the sign of a version");
        }
      }
    }
    into.add(String.valueOf(node.getId()));
    if (node instanceof Parent p) {
      p.getChildrenUnmodifiable().forEach(n -> words(n, into));
    }
  }

  private void nothingLeaks(FxRobot robot) {
    List<String> found = new ArrayList<>();
    robot.interact(() -> words(stage.getScene().getRoot(), found));
    found.add(stage.getTitle());
    assertThat(found).hasSizeGreaterThan(20);
    for (String words : found) {
      assertThat(words.toLowerCase(Locale.ROOT))
          .doesNotContain("subtraction")
          .doesNotContain("wiener")
          .doesNotContain("keepers")
          .doesNotContain("sign of a version")
          .doesNotContain("v1")
          .doesNotContain("v2")
          .doesNotContain("source");
    }
  }

  @Test
  void twoClicksBeginARoundThatIsHeardAndAnsweredByKeys(FxRobot robot) throws Exception {
    bringIn(robot);
    robot.interact(() -> workspace.stepProperty().set(Step.LISTEN));
    robot.clickOn("#blind-round");
    await(() -> robot.lookup("#round-panel").tryQuery().isPresent());
    DialogPane dialog = (DialogPane) robot.lookup("#round-panel").query().getScene().getRoot();
    ButtonType begin = dialog.getButtonTypes().get(0);
    // What cannot begin does not close with an error: Begin waits.
    CheckBox one = robot.lookup((CheckBox b) -> "v1".equals(b.getUserData())).query();
    robot.interact(() -> one.setSelected(false));
    assertThat(dialog.lookupButton(begin).isDisabled()).isTrue();
    robot.interact(() -> one.setSelected(true));
    assertThat(dialog.lookupButton(begin).isDisabled()).isFalse();
    robot.clickOn(dialog.lookupButton(begin));
    await(() -> workspace.rounds().runningProperty().get() != null);
    nothingLeaks(robot);
    // Keys of the other steps do nothing now.
    robot.push(KeyCode.CONTROL, KeyCode.DIGIT4);
    assertThat(workspace.stepProperty().get()).isEqualTo(Step.LISTEN);
    robot.push(KeyCode.X);
    await(() -> workspace.rounds().playing() && workspace.rounds().heardProperty().get() == 2);
    robot.push(KeyCode.A).push(KeyCode.B);
    assertThat(workspace.rounds().heardProperty().get()).isEqualTo(1);
    // Each answer once: a robot's key that is held too long on a busy machine repeats itself.
    press(KeyCode.DIGIT1);
    press(KeyCode.DIGIT2);
    // Held, it repeats itself, and still is one answer.
    robot.interact(
        () -> {
          for (int i = 0; i < 3; i++) {
            Event.fireEvent(
                stage.getScene().getRoot(),
                new KeyEvent(
                    KeyEvent.KEY_PRESSED, "", "", KeyCode.DIGIT1, false, false, false, false));
          }
          Event.fireEvent(
              stage.getScene().getRoot(),
              new KeyEvent(
                  KeyEvent.KEY_RELEASED, "", "", KeyCode.DIGIT1, false, false, false, false));
        });
    nothingLeaks(robot);
    assertThat(workspace.rounds().trial()).isEqualTo(3);
    // Broken off, and gone on with where it was.
    robot.push(KeyCode.ESCAPE);
    await(() -> workspace.stepProperty().get() == Step.DECIDE);
    assertThat(workspace.comparison().rounds().get(0).next()).isEqualTo(3);
    assertThat(text(robot, "Broken off after 3 of 16 trials")).isTrue();
    robot.interact(() -> find(robot, "#round-on-r1", Button.class).fire());
    await(() -> workspace.rounds().runningProperty().get() != null);
    assertThat(workspace.rounds().trial()).isEqualTo(3);
    // From here on whoever listens hears it.
    for (int i = 3; i < 15; i++) {
      press(rightAnswer(i));
    }
    // A key too many, at once after the last answer, is not for the window behind; a moment later
    // it is.
    robot.interact(
        () -> {
          now(rightAnswer(15));
          now(KeyCode.B);
          now(KeyCode.H);
        });
    await(() -> workspace.rounds().runningProperty().get() == null);
    assertThat(workspace.listening().bandProperty().get()).isNull();
    assertThat(workspace.listening().halfSpeedProperty().get()).isFalse();
    await(() -> text(robot, "of 16: you hear it"));
    robot.sleep(1000).push(KeyCode.B);
    assertThat(workspace.listening().bandProperty().get()).isNotNull();
    robot.interact(() -> workspace.listening().bandProperty().set(null));
    robot.interact(() -> find(robot, "#round-away-r1", Button.class).fire());
    assertThat(workspace.comparison().rounds()).isEmpty();
    robot.interact(workspace.document()::undo);
    assertThat(workspace.comparison().rounds()).hasSize(1);
  }

  private KeyCode rightAnswer(int trial) {
    Round round = workspace.rounds().runningProperty().get();
    boolean first = round.trials().get(trial).x().equals(round.items().get(0));
    return first ? KeyCode.DIGIT1 : KeyCode.DIGIT2;
  }

  /** Keys of menus belong to the window behind: none of them reaches it. */
  @Test
  void keysOfMenusDoNothingWhileItRuns(FxRobot robot) {
    bringIn(robot);
    begin(robot, Round.Kind.ABX);
    int versions = workspace.comparison().versions().size();
    robot.push(KeyCode.CONTROL, KeyCode.N);
    robot.push(KeyCode.CONTROL, KeyCode.O);
    robot.push(KeyCode.CONTROL, KeyCode.V);
    robot.push(KeyCode.CONTROL, KeyCode.COMMA);
    robot.push(KeyCode.F6);
    assertThat(workspace.rounds().runningProperty().get()).isNotNull();
    assertThat(workspace.comparison().versions()).hasSize(versions);
    assertThat(robot.listWindows()).hasSize(1);
    robot.interact(() -> workspace.rounds().end());
    assertThat(robot.lookup("#preferences").query().isVisible()).isFalse();
  }

  @Test
  void theLoopIsTypedBeforeItBegins(FxRobot robot) {
    bringIn(robot);
    robot.interact(() -> workspace.stepProperty().set(Step.LISTEN));
    robot.clickOn("#blind-round");
    await(() -> robot.lookup("#round-panel").tryQuery().isPresent());
    DialogPane dialog = (DialogPane) robot.lookup("#round-panel").query().getScene().getRoot();
    Node begin = dialog.lookupButton(dialog.getButtonTypes().get(0));
    TextField from = (TextField) dialog.lookup("#round-from");
    TextField to = (TextField) dialog.lookup("#round-to");
    robot.interact(
        () -> {
          from.setText("0:01.5");
          to.setText("0:01.6");
        });
    // A tenth of a second is no loop; nor is what is no time.
    assertThat(begin.isDisabled()).isTrue();
    robot.interact(() -> to.setText("soon"));
    assertThat(begin.isDisabled()).isTrue();
    robot.interact(() -> to.setText("0:04.0"));
    assertThat(begin.isDisabled()).isFalse();
    robot.interact(() -> ((Button) begin).fire());
    await(() -> workspace.rounds().runningProperty().get() != null);
    assertThat(workspace.rounds().runningProperty().get().span()).isEqualTo(new TimeSpan(1.5, 4));
    robot.interact(() -> workspace.rounds().end());
  }

  @Test
  void tokensAreRatedByKeysAndPairsPreferred(FxRobot robot) throws Exception {
    bringIn(robot);
    begin(robot, Round.Kind.RATING);
    nothingLeaks(robot);
    Round round = workspace.rounds().runningProperty().get();
    // Two versions, one of them twice, and the untouched source.
    assertThat(round.trials()).hasSize(4);
    Button finish = find(robot, "#round-finish", Button.class);
    for (int i = 0; i < 4; i++) {
      assertThat(finish.isDisabled()).isTrue();
      // Pressed once: a robot's key that the machine lets hang repeats itself, which moves on.
      press(KeyCode.valueOf(String.valueOf((char) ('A' + i))));
      press(KeyCode.RIGHT);
      if (round.trials().get(i).items().get(0).equals("v2")) {
        pressShifted(KeyCode.RIGHT);
        pressShifted(KeyCode.RIGHT);
      }
      if (round.trials().get(i).items().get(0).equals("source")) {
        pressShifted(KeyCode.LEFT);
      }
    }
    nothingLeaks(robot);
    // A drag is one change, however far it goes.
    Node dragged = robot.lookup("#token-A").query();
    Round before = workspace.comparison().rounds().get(0);
    Double at = before.trials().get(0).position();
    robot.drag(dragged).moveBy(90, 0).moveBy(-45, 0).drop();
    robot.interact(() -> {});
    Round after = workspace.comparison().rounds().get(0);
    assertThat(after.trials().get(0).position()).isNotEqualTo(at);
    robot.interact(() -> workspace.document().undo());
    assertThat(workspace.comparison().rounds().get(0)).isEqualTo(before);
    robot.interact(() -> workspace.rounds().place(0, at));
    robot.push(KeyCode.ENTER);
    await(() -> workspace.rounds().runningProperty().get() == null);
    String best = workspace.comparison().version("v2").orElseThrow().label();
    await(() -> text(robot, "Of the versions you put " + best + " highest, at 70 of 100."));
    assertThat(text(robot, "you put it 0 points apart")).isTrue();

    begin(robot, Round.Kind.PAIRS);
    nothingLeaks(robot);
    List<Round.Trial> pairs = workspace.rounds().runningProperty().get().trials();
    assertThat(pairs).hasSize(2);
    for (int i = 0; i < 2; i++) {
      int trial = i;
      await(() -> workspace.rounds().trial() == trial);
      robot.push(pairs.get(i).items().get(0).equals("v2") ? KeyCode.DIGIT1 : KeyCode.DIGIT2);
    }
    await(() -> workspace.rounds().runningProperty().get() == null);
    await(() -> text(robot, "You preferred " + best));
    // Three decided pairs: weights are offered, and that they are too few is said.
    assertThat(text(robot, "too few to tell")).isTrue();
    robot.interact(() -> find(robot, "#ear-weights", Button.class).fire());
    await(() -> "by-ear".equals(workspace.comparison().profile()));
    assertThat(find(robot, "#ranking-title", Label.class).getText()).contains("By ear");
  }

  @Test
  void earAndFiguresStandBesideEachOther(FxRobot robot) {
    robot.interact(
        () ->
            workspace.addFiles(
                List.of(
                    file("tape.wav"),
                    file("plain-subtraction-60.wav"),
                    file("smoothed-wiener-30.wav"),
                    file("smoothed-wiener-90.wav"))));
    awaitSheet(3);
    // The ear puts them the other way round.
    List<String> order =
        workspace.sheetProperty().get().ranked(Part.ALL).stream()
            .map(e -> e.version().id())
            .toList();
    List<Round.Trial> trials = new ArrayList<>();
    for (String id : List.of("v1", "v2", "v3")) {
      trials.add(new Round.Trial(List.of(id), null, null, 20.0 + 30 * order.indexOf(id)));
    }
    Round round =
        new Round(
            "r1",
            Round.Kind.RATING,
            Round.Question.OVERALL,
            "",
            1,
            null,
            "",
            List.of("v1", "v2", "v3"),
            "",
            trials);
    robot.interact(() -> workspace.edit(c -> c.withRound(round)));
    robot.interact(() -> workspace.stepProperty().set(Step.DECIDE));
    assertThat(text(robot, "Ear and figures: τ = −1.00")).isTrue();
    assertThat(robot.lookup("#ear-plot-r1").tryQuery()).isPresent();
    assertThat(workspace.messageProperty().get()).doesNotContain("error");
    // What the figures hold against the ear's first is heard at once.
    Button hear = find(robot, "#ear-spot-r1-0", Button.class);
    robot.interact(hear::fire);
    await(() -> workspace.listening().playing());
    assertThat(workspace.listening().chosenProperty().get()).isNotEqualTo(order.get(0));
    robot.interact(() -> workspace.listening().stop());
  }

  /** What a token is, as it sounds: the samples of its matched recording. */
  private float[] sounding(String item) {
    Audio audio =
        item.equals(Round.SOURCE)
            ? workspace.sourceProperty().get().audio()
            : workspace.state(item).prepared().matched();
    return audio.samples(0, 0, 7 * 48_000);
  }

  /** Whether the newest samples that were put out are a piece of a recording. */
  private boolean isHeard(float[] recording) {
    SimulatedOut out = (SimulatedOut) workspace.rounds().output();
    float[] heard = out == null ? new float[0] : out.heardLeft();
    int count = 200;
    if (heard.length < count) {
      return false;
    }
    for (int at = 2 * 48_000 - count; at + count < recording.length; at++) {
      int i = 0;
      while (i < count && Math.abs(heard[heard.length - count + i] - recording[at + i]) < 1e-5f) {
        i++;
      }
      if (i == count) {
        return true;
      }
    }
    return false;
  }

  /** What is shown as heard is what sounds, and nothing else is. */
  private void heardIsShown(Map<String, float[]> sounds) {
    int token = workspace.rounds().heardProperty().get();
    String item = workspace.rounds().tokens().get(token);
    long end = System.nanoTime() + 20_000_000_000L;
    while (!isHeard(sounds.get(item))) {
      assertThat(System.nanoTime()).as("what is shown is never heard").isLessThan(end);
      LockSupport.parkNanos(5_000_000);
    }
    assertThat(workspace.rounds().playing()).isTrue();
  }

  /**
   * Rounds answered while they sound, with what comes to mind of keys in between: whatever is shown
   * is what is heard, in every trial, and when the round is over it is quiet.
   */
  @ParameterizedTest
  @EnumSource(Round.Kind.class)
  void twentyRoundsAnsweredWhileTheySoundAreHeardAsShown(Round.Kind kind, FxRobot robot)
      throws Exception {
    bringIn(robot);
    Map<String, float[]> sounds = new HashMap<>();
    List.of("v1", "v2", Round.SOURCE).forEach(i -> sounds.put(i, sounding(i)));
    SplittableRandom random = new SplittableRandom(5);
    for (int n = 0; n < 20; n++) {
      begin(robot, kind);
      int trials = workspace.rounds().runningProperty().get().trials().size();
      for (int trial = 0; trial < trials; trial++) {
        int tokens = kind == Round.Kind.RATING ? trials : workspace.rounds().tokens().size();
        int token = kind == Round.Kind.RATING ? trial : random.nextInt(tokens);
        if (random.nextInt(4) == 0) {
          press(KeyCode.SPACE);
        }
        press(letter(kind, random.nextInt(tokens)));
        press(letter(kind, token));
        assertThat(workspace.rounds().heardProperty().get()).isEqualTo(token);
        // Most answers come while the switch is still going on.
        if (random.nextInt(4) == 0 || trial == trials - 1) {
          heardIsShown(sounds);
        }
        press(
            kind == Round.Kind.RATING
                ? KeyCode.RIGHT
                : random.nextBoolean() ? KeyCode.DIGIT1 : KeyCode.DIGIT2);
      }
      if (kind == Round.Kind.RATING) {
        press(KeyCode.ENTER);
      }
      assertThat(workspace.rounds().runningProperty().get()).as("round " + n).isNull();
      Round kept = workspace.comparison().rounds().get(n);
      assertThat(kept.done()).isTrue();
      SimulatedOut last = (SimulatedOut) workspace.rounds().output();
      await(
          () -> {
            int before = last.heardLeft().length;
            Thread.sleep(40);
            return last.heardLeft().length == before;
          });
    }
  }

  /** A key as the window gets it, without the robot's waiting for pulses: as fast as a hand can. */
  private void press(KeyCode key) throws Exception {
    soon(() -> now(key, false));
  }

  private void pressShifted(KeyCode key) throws Exception {
    soon(() -> now(key, true));
  }

  private static void soon(Runnable presses) throws Exception {
    FutureTask<Void> pressed = new FutureTask<>(presses, null);
    Platform.runLater(pressed);
    pressed.get();
  }

  /** The same on the interface thread. */
  private void now(KeyCode key) {
    now(key, false);
  }

  private void now(KeyCode key, boolean shift) {
    Node target = stage.getScene().getRoot();
    for (EventType<KeyEvent> type : List.of(KeyEvent.KEY_PRESSED, KeyEvent.KEY_RELEASED)) {
      Event.fireEvent(target, new KeyEvent(type, "", "", key, shift, false, false, false));
    }
  }

  private static KeyCode letter(Round.Kind kind, int token) {
    return kind == Round.Kind.ABX && token == 2
        ? KeyCode.X
        : KeyCode.valueOf(String.valueOf((char) ('A' + token)));
  }

  @Test
  void switchingInARoundHasNoClickAndEqualLoudness(FxRobot robot) throws Exception {
    bringIn(robot);
    begin(robot, Round.Kind.ABX);
    robot.push(KeyCode.A);
    await(() -> workspace.rounds().playing());
    var out = (SimulatedOut) workspace.rounds().output();
    for (KeyCode key : List.of(KeyCode.B, KeyCode.A, KeyCode.X, KeyCode.B, KeyCode.A)) {
      Thread.sleep(250);
      robot.push(key);
    }
    robot.push(KeyCode.SPACE);
    await(() -> !workspace.rounds().playing());
    float[] heard = out.heardLeft();
    // What sounds is the matched version itself: as loud as it is everywhere else.
    float[] first = workspace.state("v1").prepared().matched().samples(0, 2 * 48_000, 9_000);
    for (int i = 2_000; i < 9_000; i++) {
      assertThat(heard[i]).isCloseTo(first[i], within(1e-4f));
    }
    // No step is larger than the recordings' own.
    float own = 0;
    for (String id : List.of("v1", "v2")) {
      float[] x = workspace.state(id).prepared().matched().samples(0, 2 * 48_000, 4 * 48_000);
      for (int i = 1; i < x.length; i++) {
        own = Math.max(own, Math.abs(x[i] - x[i - 1]));
      }
    }
    float largest = 0;
    for (int i = 1; i < heard.length; i++) {
      largest = Math.max(largest, Math.abs(heard[i] - heard[i - 1]));
    }
    assertThat(heard.length).isGreaterThan(20_000);
    assertThat(largest).isPositive().isLessThanOrEqualTo(own * 1.01f);
  }
}
