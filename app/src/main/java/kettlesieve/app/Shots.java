package kettlesieve.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Platform;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.stage.Stage;
import javafx.util.Duration;
import kettlesieve.app.frame.Frame;
import kettlesieve.app.model.News;
import kettlesieve.app.model.Rounds;
import kettlesieve.app.model.Step;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.PictureFile;
import kettlesieve.core.comparison.Mark;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Part;
import kettlesieve.demo.Demo;

/** Draws the pictures of the documentation from the demo, one a step, at 1280x800, and ends. */
final class Shots {
  private static final double SETTLE_SECONDS = 2.5;
  private static final String NIGHT = "-night";

  /**
   * One picture.
   *
   * @param name of the file
   * @param demo number of the demo comparison it shows
   * @param step which view
   * @param before what is chosen first
   */
  private record Shot(String name, int demo, Step step, Runnable before) {}

  private final Stage stage;
  private final Frame frame;
  private final Workspace workspace;
  private final Path folder;
  private final List<Shot> shots;
  private int next;
  private int open = -1;

  Shots(Stage stage, Frame frame, Workspace workspace, Path folder, List<String> names) {
    this.stage = stage;
    this.frame = frame;
    this.workspace = workspace;
    this.folder = folder;
    Runnable reading =
        () -> {
          workspace.listening().seek(6.4);
          workspace.listening().choose("v3");
          workspace.selection().reading("v3", "musical-noise");
        };
    Runnable picture = () -> frame.showPicture(1);
    List<Shot> all =
        List.of(
            new Shot("gather", 0, Step.GATHER, reading),
            new Shot("match", 0, Step.MATCH, reading),
            new Shot("listen", 0, Step.LISTEN, this::marked),
            new Shot("measure", 0, Step.MEASURE, picture),
            new Shot("trade-off", 0, Step.MEASURE, () -> frame.showMeasureFace("face-trade-off")),
            new Shot("two-versions", 0, Step.MEASURE, () -> frame.showMeasureFace("face-contrast")),
            new Shot("decide", 0, Step.DECIDE, () -> frame.showMeasureFace("face-readings")),
            new Shot("measure-night", 0, Step.MEASURE, picture),
            new Shot("test-piece", 0, Step.GATHER, frame::showTestPiece),
            new Shot("round-up", 0, Step.GATHER, this::roundup),
            new Shot("round-abx", 0, Step.LISTEN, () -> round(Round.Kind.ABX, 5)),
            new Shot("round-rating", 0, Step.LISTEN, () -> round(Round.Kind.RATING, 6)),
            new Shot("round-result", 0, Step.DECIDE, this::result),
            new Shot("clipping", 2, Step.MEASURE, () -> frame.showMeasureFace("face-clipping")),
            new Shot("gather-stems", 3, Step.GATHER, () -> {}),
            new Shot("bleed", 3, Step.MEASURE, this::bleeding),
            new Shot("role-page", 3, Step.MEASURE, this::role),
            new Shot("attacks", 4, Step.MEASURE, () -> frame.showMeasureFace("face-timing")),
            new Shot("pitch", 5, Step.MEASURE, () -> frame.showMeasureFace("face-pitch")));
    List<String> known = all.stream().map(Shot::name).toList();
    if (!known.containsAll(names)) {
      throw new IllegalArgumentException("the pictures are " + String.join(", ", known));
    }
    shots = all.stream().filter(s -> names.isEmpty() || names.contains(s.name())).toList();
  }

  void run() {
    stage.setWidth(1280);
    stage.setHeight(800);
    after(
        1,
        () -> {
          workspace.stepProperty().set(Step.GATHER);
          step();
        });
  }

  /** A few marks, as a person would have made them. */
  private void marked() {
    frame.showPicture(1);
    Mark gurgle =
        Mark.at(7.7, "v3")
            .withSpan(7.7, 8.9)
            .withBand(2000.0, 6000.0)
            .withNote("gurgles behind the sea")
            .withAxis("added");
    Mark click = Mark.at(15.8, null).withNote("click, left in all").withAxis("missed");
    workspace.edit(c -> c.plus(gurgle).plus(click));
  }

  /** A blind round in the middle of it. */
  private void round(Round.Kind kind, int answered) {
    Rounds rounds = workspace.rounds();
    leave();
    List<String> all = workspace.comparison().versions().stream().map(Version::id).toList();
    List<String> items = kind == Round.Kind.RATING ? all : all.subList(0, 2);
    rounds.begin(
        new Rounds.Plan(kind, Round.Question.OVERALL, items, 16, "", new TimeSpan(6.4, 10.2), ""));
    if (kind == Round.Kind.RATING) {
      for (int i = 0; i < answered; i++) {
        rounds.place(i, 22 + 61 * i % 70);
      }
    } else {
      for (int i = 0;
          i < answered && rounds.trial() < rounds.runningProperty().get().trials().size() - 1;
          i++) {
        rounds.answer(rounds.tokens().get(0));
      }
    }
    rounds.hear(1);
  }

  private void leave() {
    if (workspace.rounds().runningProperty().get() != null) {
      workspace.rounds().end();
    }
  }

  /** What a finished round says, scrolled to. */
  private void result() {
    leave();
    List<String> items = workspace.comparison().versions().stream().map(Version::id).toList();
    double[] heard = {58, 71, 40, 83, 66, 31};
    List<Round.Trial> trials = new ArrayList<>();
    for (int i = 0; i < items.size(); i++) {
      trials.add(new Round.Trial(List.of(items.get(i)), null, null, heard[i]));
    }
    trials.add(new Round.Trial(List.of(items.get(1)), null, null, 64.0));
    trials.add(new Round.Trial(List.of(Round.REFERENCE), null, null, 97.0));
    Round round =
        new Round(
            "r9",
            Round.Kind.RATING,
            null,
            "K.",
            1,
            null,
            "",
            items,
            "2026-11-26T08:00:00Z",
            trials);
    workspace.edit(c -> c.withRounds(List.of(round)));
    if (frame.lookup("#decide .scroll-pane") instanceof ScrollPane pane) {
      Platform.runLater(() -> pane.setVvalue(0.82));
    }
  }

  /** The grid with the loudest cell chosen. */
  private void bleeding() {
    workspace.selection().reading(new Address("v3", Part.ofRole("vocals"), "bleed", "bass"));
    frame.showMeasureFace("face-bleed");
  }

  /** Every tool's stem of one role. */
  private void role() {
    frame.showMeasureFace("face-roles");
    if (frame.lookup("#lead-vocals") instanceof Button lead) {
      lead.fire();
    }
  }

  private void step() {
    if (next == shots.size()) {
      Platform.exit();
      return;
    }
    Shot shot = shots.get(next++);
    if (open != shot.demo()) {
      open = shot.demo();
      frame.openDemo(Demo.ALL.get(open));
    }
    await(
        shot,
        () -> {
          workspace.messageProperty().set("");
          Ink.wear(shot.name().endsWith(NIGHT) ? Ink.Look.NIGHT : Ink.Look.DAY);
          workspace.stepProperty().set(shot.step());
          shot.before().run();
          settled(
              () -> {
                save(shot.name());
                workspace.document().discardChanges();
                workspace.roundups().showingProperty().set(false);
                step();
              });
        });
  }

  /** Once nothing is on its way any more. */
  private void settled(Runnable then) {
    after(
        SETTLE_SECONDS,
        () -> {
          boolean busy =
              workspace.roundups().runningProperty().get()
                  || workspace.news().kindProperty().get() == News.Kind.UNDER_WAY
                      && !workspace.messageProperty().get().isEmpty();
          if (busy) {
            settled(then);
          } else {
            then.run();
          }
        });
  }

  /** The demo's interviews together. */
  private void roundup() {
    frame.showTestPiece();
    frame.openInterviews();
  }

  private void await(Shot shot, Runnable then) {
    after(
        0.5,
        () -> {
          boolean ready =
              workspace.comparison().name().equals(Demo.ALL.get(shot.demo()).title())
                  && workspace.sheetProperty().get() != null
                  && !workspace.busyProperty().get();
          if (ready) {
            then.run();
          } else {
            await(shot, then);
          }
        });
  }

  private static void after(double seconds, Runnable action) {
    new Timeline(new KeyFrame(Duration.seconds(seconds), e -> action.run())).play();
  }

  private void save(String name) {
    try {
      PictureFile.write(stage.getScene().snapshot(null), folder.resolve(name + ".png"));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
