package kettlesieve.app.frame;

import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.IntConsumer;
import java.util.function.Predicate;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import kettlesieve.app.listen.ListenView;
import kettlesieve.app.measure.MeasureView;
import kettlesieve.app.model.Listening;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Takes;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Fields;
import kettlesieve.app.shared.OwnKeys;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.listen.Band;
import kettlesieve.core.measure.VoiceRange;

/** Keys for everything; plain keys do nothing while text is being typed. */
final class Keys {
  private final Workspace workspace;
  private final Map<KeyCombination, Runnable> commands = new LinkedHashMap<>();
  private final Map<KeyCode, Runnable> plain = new LinkedHashMap<>();
  private final Map<KeyCode, Runnable> shifted = new LinkedHashMap<>();
  private final KeyCombination copy;
  private final KeyCombination pasted = control(KeyCode.V);
  private final Cards cards;
  private final MeasureView measure;
  private Scene scene;
  private final Set<KeyCode> down = EnumSet.noneOf(KeyCode.class);
  private boolean done;
  private boolean changing;
  private long quietUntil = Long.MIN_VALUE / 2;

  /** So long after a round, and after a key that came too late for it, no key does anything. */
  private static final long QUIET = 700_000_000;

  private static final double SHORTEST = 0.5;
  private static final double LOOP = 2;
  private static final double LEAST_LOOP = 0.05;

  Keys(
      Workspace workspace,
      FileActions files,
      KeyList list,
      MeasureView measure,
      ListenView listen,
      Cards cards) {
    this.workspace = workspace;
    this.cards = cards;
    Listening listening = workspace.listening();
    for (Step step : Step.values()) {
      KeyCode digit = KeyCode.valueOf("DIGIT" + (step.ordinal() + 1));
      commands.put(control(digit), () -> show(step));
    }
    commands.put(control(KeyCode.S), files::save);
    commands.put(control(KeyCode.O), files::open);
    commands.put(control(KeyCode.N), files::startNew);
    commands.put(control(KeyCode.Z), workspace.document()::undo);
    commands.put(control(KeyCode.Y), workspace.document()::redo);
    commands.put(control(KeyCode.COMMA), cards.preferences());
    commands.put(
        new KeyCodeCombination(KeyCode.S, KeyCombination.SHORTCUT_DOWN, KeyCombination.SHIFT_DOWN),
        files::saveAs);
    commands.put(
        new KeyCodeCombination(KeyCode.C, KeyCombination.SHORTCUT_DOWN, KeyCombination.SHIFT_DOWN),
        measure::copyRow);
    plain.put(KeyCode.SPACE, listening::toggle);
    plain.put(KeyCode.L, () -> flip(listening.loopingProperty()));
    plain.put(KeyCode.M, () -> flip(listening.levelMatchedProperty()));
    plain.put(KeyCode.R, () -> flip(listening.onlyRemovedProperty()));
    plain.put(KeyCode.COMMA, () -> listening.seek(listening.positionSeconds() - 1));
    plain.put(KeyCode.PERIOD, () -> listening.seek(listening.positionSeconds() + 1));
    plain.put(KeyCode.HOME, () -> listening.seek(0));
    plain.put(KeyCode.N, () -> measure.stepSpot(1));
    plain.put(KeyCode.P, () -> measure.stepSpot(-1));
    plain.put(KeyCode.D, workspace.firstTwo()::hear);
    plain.put(KeyCode.X, () -> measure.swapWithSource());
    plain.put(KeyCode.PLUS, () -> listen.zoom(0.5));
    plain.put(KeyCode.EQUALS, () -> listen.zoom(0.5));
    plain.put(KeyCode.MINUS, () -> listen.zoom(2));
    plain.put(KeyCode.F, () -> listen.fit());
    plain.put(KeyCode.H, () -> flip(listening.halfSpeedProperty()));
    plain.put(
        KeyCode.T, () -> listening.turnsProperty().set(next(listening.turnsProperty().get())));
    plain.put(KeyCode.V, () -> listening.sideProperty().set(next(listening.sideProperty().get())));
    plain.put(KeyCode.B, () -> nextBand(listening));
    plain.put(KeyCode.C, () -> listening.choose(Listening.REFERENCE));
    plain.put(KeyCode.K, listen::mark);
    plain.put(KeyCode.J, () -> listen.stepMark(1));
    plain.put(KeyCode.G, () -> listen.stepMark(-1));
    plain.put(KeyCode.LEFT, () -> listen.scroll(-0.25));
    plain.put(KeyCode.RIGHT, () -> listen.scroll(0.25));
    plain.put(KeyCode.W, listen::nextPicture);
    plain.put(KeyCode.E, cards.excerpts());
    plain.put(KeyCode.S, listening::soloNext);
    plain.put(KeyCode.F1, list::toggle);
    plain.put(KeyCode.Y, this::otherTake);
    plain.put(KeyCode.I, () -> edge(true));
    plain.put(KeyCode.O, () -> edge(false));
    shifted.put(KeyCode.I, () -> loopEdge(true));
    shifted.put(KeyCode.O, () -> loopEdge(false));
    plain.put(KeyCode.A, cards.place());
    plain.put(KeyCode.U, cards.overview());
    copy = control(KeyCode.C);
    this.measure = measure;
    for (int digit = 0; digit <= 9; digit++) {
      int track = digit;
      plain.put(KeyCode.valueOf("DIGIT" + digit), () -> choose(track));
      plain.put(KeyCode.valueOf("NUMPAD" + digit), () -> choose(track));
    }
  }

  /**
   * What keys ask of the frame.
   *
   * @param excerpts opens and closes the list of excerpts
   * @param place waits for a time to be typed
   * @param overview zooms the overview in and out
   * @param preferences opens and closes the preferences
   * @param paste takes in files from the clipboard
   */
  record Cards(
      Runnable excerpts, Runnable place, Runnable overview, Runnable preferences, Runnable paste) {}

  /** From a version to what it was before it was rendered again, and back. */
  private void otherTake() {
    Listening listening = workspace.listening();
    String now = listening.chosenProperty().get();
    listening.choose(Takes.versionOf(now).orElse(Takes.heardAs(now)));
  }

  /** The excerpt begins or ends where the playhead is. */
  private void edge(boolean begin) {
    double at = workspace.listening().positionSeconds();
    var source = workspace.sourceProperty().get();
    if (source == null) {
      return;
    }
    TimeSpan before = workspace.comparison().excerpt();
    double from = begin ? at : before == null ? 0 : before.from();
    double to = begin ? before == null ? source.audio().seconds() : before.to() : at;
    if (to - from < SHORTEST) {
      // What was the other end is behind this one: the excerpt goes to the source's own end.
      from = begin ? at : 0;
      to = begin ? source.audio().seconds() : at;
    }
    if (to - from >= SHORTEST) {
      TimeSpan span = new TimeSpan(from, to);
      workspace.edit(c -> c.withTogether(false).withExcerpt(span));
    }
  }

  /** The loop in the lanes begins or ends where the playhead is. */
  private void loopEdge(boolean begin) {
    Listening listening = workspace.listening();
    double at = listening.positionSeconds();
    TimeSpan before = listening.spotLoopProperty().get();
    double length = before == null ? LOOP : before.seconds();
    double from = begin ? at : before == null || before.from() >= at ? at - length : before.from();
    double to = begin ? before == null || before.to() <= at ? at + length : before.to() : at;
    from = Math.max(0, from);
    if (to - from >= LEAST_LOOP) {
      listening.spotLoopProperty().set(new TimeSpan(from, to));
    }
  }

  /** Turns to a step; the ring that shows where keys go does not stay on the old one. */
  private void show(Step step) {
    workspace.stepProperty().set(step);
    Fields.leave(scene);
  }

  private static KeyCombination control(KeyCode code) {
    return new KeyCodeCombination(code, KeyCombination.SHORTCUT_DOWN);
  }

  private static void flip(javafx.beans.property.BooleanProperty property) {
    property.set(!property.get());
  }

  private static <E extends Enum<E>> E next(E value) {
    E[] all = value.getDeclaringClass().getEnumConstants();
    return all[(value.ordinal() + 1) % all.length];
  }

  /** All frequencies, then the four ranges, then all again. */
  private static void nextBand(Listening listening) {
    Band now = listening.bandProperty().get();
    VoiceRange[] ranges = VoiceRange.values();
    for (int i = 0; i < ranges.length; i++) {
      if (new Band(ranges[i].lowHz(), ranges[i].highHz()).equals(now)) {
        listening
            .bandProperty()
            .set(
                i + 1 < ranges.length
                    ? new Band(ranges[i + 1].lowHz(), ranges[i + 1].highHz())
                    : null);
        return;
      }
    }
    listening
        .bandProperty()
        .set(now == null ? new Band(ranges[0].lowHz(), ranges[0].highHz()) : null);
  }

  private void choose(int track) {
    if (track == 0) {
      workspace.listening().choose(Listening.SOURCE);
    } else if (track <= workspace.comparison().versions().size()) {
      workspace.listening().choose(workspace.comparison().versions().get(track - 1).id());
    }
  }

  /**
   * @param areas moves the focus by so many areas of the window
   * @param hideLists closes what lies over the view
   * @param roundup takes the keys that are for the round-up; while it is shown no others do
   *     anything but typing
   * @param round takes the keys that are for a blind round; while one runs no others do anything
   */
  void install(
      Scene shown,
      Predicate<KeyEvent> round,
      Predicate<KeyEvent> roundup,
      IntConsumer areas,
      Runnable hideLists) {
    plain.put(KeyCode.ESCAPE, hideLists);
    this.scene = shown;
    Fields.leaveOnPress(scene);
    workspace.rounds().runningProperty().addListener((o, was, is) -> quietOnceShown());
    scene.addEventFilter(KeyEvent.KEY_RELEASED, event -> down.remove(event.getCode()));
    // What a key types goes with what it does: a field that it led into is not typed in by it.
    scene.addEventFilter(
        KeyEvent.KEY_TYPED,
        event -> {
          if (done) {
            event.consume();
          }
        });
    scene.addEventFilter(
        KeyEvent.KEY_PRESSED,
        event -> {
          pressed(event, round, roundup, areas);
          done = event.isConsumed();
        });
  }

  /** However long the window takes to change: what was pressed meanwhile was not meant for it. */
  private void quietOnceShown() {
    changing = true;
    Runnable[] shown = new Runnable[1];
    shown[0] =
        () -> {
          scene.removePostLayoutPulseListener(shown[0]);
          quietUntil = System.nanoTime() + QUIET;
          changing = false;
        };
    scene.addPostLayoutPulseListener(shown[0]);
    Platform.requestNextPulse();
  }

  private void pressed(
      KeyEvent event, Predicate<KeyEvent> round, Predicate<KeyEvent> roundup, IntConsumer areas) {
    boolean repeated = !down.add(event.getCode());
    if (workspace.rounds().runningProperty().get() != null) {
      // A key that repeats itself while it is held must not answer the next trial as well.
      if (repeated && event.getCode().isDigitKey() || round.test(event)) {
        event.consume();
      }
      return;
    }
    if (changing || System.nanoTime() - quietUntil < 0) {
      // Meant for the round that has just ended; the window behind must not take it.
      quietUntil = System.nanoTime() + QUIET;
      event.consume();
      return;
    }
    if (workspace.roundups().showingProperty().get()) {
      if (roundup.test(event)) {
        event.consume();
      }
      return;
    }
    for (var command : commands.entrySet()) {
      if (command.getKey().match(event)) {
        command.getValue().run();
        event.consume();
        return;
      }
    }
    if (event.getCode() == KeyCode.F6) {
      areas.accept(event.isShiftDown() ? -1 : 1);
      event.consume();
      return;
    }
    if (scene.getFocusOwner() instanceof OwnKeys own && own.takes(event)) {
      event.consume();
      return;
    }
    boolean typing = scene.getFocusOwner() instanceof TextInputControl;
    if (!typing && pasted.match(event)) {
      cards.paste().run();
      event.consume();
      return;
    }
    if (!typing && copy.match(event)) {
      measure.copySelected();
      event.consume();
      return;
    }
    boolean held = event.isShortcutDown() || event.isAltDown() || event.isMetaDown();
    boolean always = event.getCode() == KeyCode.F1 || event.getCode() == KeyCode.ESCAPE;
    Runnable action =
        event.isShiftDown() && shifted.containsKey(event.getCode())
            ? shifted.get(event.getCode())
            : plain.get(event.getCode());
    if (action != null && !held && (always || !typing)) {
      action.run();
      // A field that is typed in takes back what was typed.
      if (!typing) {
        event.consume();
      }
    }
  }
}
