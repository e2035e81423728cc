package kettlesieve.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.Slider;
import javafx.scene.control.TextInputControl;
import javafx.scene.layout.Background;
import javafx.scene.layout.BackgroundFill;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.stage.Stage;
import kettlesieve.app.model.RoundupDesk;
import kettlesieve.app.model.Step;
import kettlesieve.app.shared.Contrast;
import kettlesieve.app.shared.Ink;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.TimeSpan;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/**
 * Goes over every screen in both looks: words stand out from their ground by 4.5 to 1 (WCAG 2.1,
 * 1.4.3), and whatever can be reached has a name for screen readers (4.1.2).
 */
class EveryScreenTest extends WindowFixture {
  private static final double LEAST = 4.5;

  @Start
  void start(Stage stage) {
    show(stage);
  }

  @AfterEach
  void day(FxRobot robot) {
    robot.interact(() -> Ink.wear(Ink.Look.DAY));
  }

  /** A colour as it is seen over another. */
  private static Color over(Color top, Color below) {
    double share = top.getOpacity();
    return Color.color(
        share * top.getRed() + (1 - share) * below.getRed(),
        share * top.getGreen() + (1 - share) * below.getGreen(),
        share * top.getBlue() + (1 - share) * below.getBlue());
  }

  /** What a node stands on: the fills behind it, the nearest last. */
  private static Color ground(Node node) {
    List<Color> fills = new ArrayList<>();
    for (Node n = node; n != null; n = n.getParent()) {
      Background background = n instanceof Region r ? r.getBackground() : null;
      if (background == null) {
        continue;
      }
      List<BackgroundFill> own = background.getFills();
      for (int i = own.size() - 1; i >= 0; i--) {
        if (own.get(i).getFill() instanceof Color c && c.getOpacity() > 0) {
          fills.add(c);
        }
      }
    }
    Color seen = Ink.paper();
    for (int i = fills.size() - 1; i >= 0; i--) {
      seen = over(fills.get(i), seen);
    }
    return seen;
  }

  private static boolean seen(Node node) {
    for (Node n = node; n != null; n = n.getParent()) {
      if (!n.isVisible() || n.isDisabled() || n.getOpacity() < 0.99) {
        return false;
      }
    }
    return true;
  }

  private static void walk(Node node, List<Node> into) {
    into.add(node);
    if (node instanceof Parent parent) {
      parent.getChildrenUnmodifiable().forEach(child -> walk(child, into));
    }
  }

  private static String told(Node node) {
    String text = node instanceof Labeled l ? l.getText() : "";
    return node.getClass().getSimpleName() + " #" + node.getId() + " \"" + text + "\" ";
  }

  private void look(String screen, Set<String> faults) {
    Parent root = frame();
    root.applyCss();
    root.layout();
    List<Node> all = new ArrayList<>();
    walk(root, all);
    for (Node node : all) {
      if (!seen(node)) {
        continue;
      }
      if (node instanceof Labeled label
          && label.getText() != null
          && !label.getText().isBlank()
          && label.getTextFill() instanceof Color ink) {
        Color ground = ground(node);
        double ratio = Contrast.of(over(ink, ground), ground);
        if (ratio < LEAST) {
          faults.add(
              String.format("%s: %s %.2f, %s on %s", screen, told(node), ratio, ink, ground));
        }
      }
      if (reachable(node) && name(node).isBlank()) {
        faults.add(screen + ": no name: " + told(node) + " in " + node.getParent());
      }
    }
  }

  private static boolean reachable(Node node) {
    // Parts of a control belong to it.
    for (Node n = node.getParent(); n != null; n = n.getParent()) {
      if (n instanceof Control
          && !(n instanceof javafx.scene.control.ScrollPane)
          && !(n instanceof javafx.scene.control.SplitPane)) {
        return false;
      }
    }
    return node.isFocusTraversable()
        && (node instanceof ButtonBase
            || node instanceof ComboBoxBase
            || node instanceof TextInputControl
            || node instanceof Slider
            || node instanceof ScrollBar
            || node.getAccessibleRole() != javafx.scene.AccessibleRole.PARENT
                && !(node instanceof Control));
  }

  private static String name(Node node) {
    if (node.getAccessibleText() != null && !node.getAccessibleText().isBlank()) {
      return node.getAccessibleText();
    }
    if (node instanceof Labeled labeled && labeled.getText() != null) {
      return labeled.getText();
    }
    if (node.getScene() != null) {
      List<Node> all = new ArrayList<>();
      walk(node.getScene().getRoot(), all);
      for (Node other : all) {
        if (other instanceof Label label && label.getLabelFor() == node) {
          return label.getText();
        }
      }
    }
    return "";
  }

  private void screens(FxRobot robot, String job, Set<String> faults) {
    for (Ink.Look look : Ink.Look.values()) {
      robot.interact(() -> Ink.wear(look));
      for (Step step : Step.values()) {
        goTo(robot, step);
        if (step != Step.MEASURE) {
          robot.interact(() -> look(job + " " + step + " " + look, faults));
          continue;
        }
        for (String face :
            List.of(
                "face-readings",
                "face-trade-off",
                "face-contrast",
                "face-clipping",
                "face-bleed",
                "face-roles",
                "face-timing",
                "face-pitch")) {
          robot.interact(() -> frame().showMeasureFace(face));
          robot.interact(() -> look(job + " " + face + " " + look, faults));
        }
      }
    }
  }

  @Test
  void wordsStandOutAndControlsHaveNames(FxRobot robot) {
    Set<String> faults = new LinkedHashSet<>();
    robot.interact(() -> look("empty", faults));
    bringIn(robot);
    robot.interact(() -> frame().showPreferences());
    screens(robot, "denoise", faults);
    robot.interact(() -> frame().showPreferences());
    robot.interact(() -> frame().showExcerpts());
    robot.interact(() -> look("excerpts", faults));
    assertThat(faults).isEmpty();
  }

  @Test
  void soTheyDoForStems(FxRobot robot) throws Exception {
    Set<String> faults = new LinkedHashSet<>();
    open(robot, "harbour-verse");
    screens(robot, "stems", faults);
    assertThat(faults).isEmpty();
  }

  @Test
  void soTheyDoForStretch(FxRobot robot) throws Exception {
    Set<String> faults = new LinkedHashSet<>();
    open(robot, "slow-waltz");
    screens(robot, "stretch", faults);
    assertThat(faults).isEmpty();
  }

  @Test
  void soTheyDoForRoundUpsAndTestPieces(FxRobot robot) throws Exception {
    Set<String> faults = new LinkedHashSet<>();
    Comparison c = ComparisonFile.load(demo().resolve("keepers-log.sieve"));
    List<Path> files = new ArrayList<>();
    for (int i = 0; i < 2; i++) {
      files.add(folder.resolve("part-" + i + ".sieve"));
      ComparisonFile.save(
          c.withVersions(c.versions().subList(i, 2 + i))
              .withTags(List.of("tape"))
              .withExcerpt(new TimeSpan(0, 5)),
          files.get(i));
    }
    RoundupDesk desk = workspace.roundups();
    robot.interact(() -> desk.showingProperty().set(true));
    robot.interact(() -> look("round-up, empty", faults));
    robot.interact(() -> desk.add(files));
    await(() -> !desk.runningProperty().get() && desk.roundupProperty().get() != null);
    assertThat(desk.roundupProperty().get().comparisons()).hasSize(2);
    for (Ink.Look look : Ink.Look.values()) {
      robot.interact(() -> Ink.wear(look));
      robot.interact(() -> look("round-up " + look, faults));
    }
    robot.interact(() -> desk.showingProperty().set(false));
    robot.interact(() -> frame().showTestPiece());
    for (Ink.Look look : Ink.Look.values()) {
      robot.interact(() -> Ink.wear(look));
      for (Job job : Job.values()) {
        ComboBox<Job> jobs = robot.lookup("#piece-job").query();
        robot.interact(() -> jobs.setValue(job));
        robot.interact(() -> look("test piece, " + job + " " + look, faults));
      }
    }
    assertThat(faults).isEmpty();
  }
}
