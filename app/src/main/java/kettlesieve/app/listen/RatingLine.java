package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Rounds;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Round;

/** One line from "unusable" to "as good as it can be", on which lettered tokens are put. */
final class RatingLine extends VBox {
  private static final double TOKEN = 44;

  /** Tokens that lie over each other hang at so many heights. */
  private static final int LEVELS = 4;

  private final Rounds rounds;
  private final Pane field = new Pane();
  private final Region rule = new Region();
  private final HBox tray = new HBox(10);
  private final Label state = Texts.of("", "quiet");
  private final Button finish = new Button("All are placed");
  private final List<Button> tokens = new ArrayList<>();

  RatingLine(Rounds rounds) {
    super(16);
    this.rounds = rounds;
    VBox.setVgrow(this, Priority.ALWAYS);
    setAlignment(Pos.CENTER);
    field.setMinHeight(LEVELS * (TOKEN + 6) + 26);
    field.setPrefHeight(LEVELS * (TOKEN + 6) + 26);
    rule.setStyle("-fx-background-color: -ink;");
    // Laid out by hand: a pane would give it no width.
    rule.setManaged(false);
    field.getChildren().add(rule);
    int count = rounds.runningProperty().get().trials().size();
    for (int i = 0; i < count; i++) {
      tokens.add(token(i));
    }
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox ends =
        new HBox(Texts.of("unusable", "quiet"), gap, Texts.of("as good as it can be", "quiet"));
    tray.setMinHeight(TOKEN + 4);
    tray.setAlignment(Pos.CENTER);
    finish.setId("round-finish");
    finish.getStyleClass().add("primary");
    finish.setFocusTraversable(false);
    finish.setOnAction(e -> rounds.end());
    HBox below = new HBox(16, state, finish);
    below.setAlignment(Pos.CENTER);
    getChildren().addAll(field, ends, tray, below);
    field.widthProperty().addListener((o, was, is) -> refresh());
    refresh();
  }

  private Button token(int number) {
    String letter = String.valueOf((char) ('A' + number));
    Button token = new Button(letter);
    token.setId("token-" + letter);
    token.getStyleClass().add("rating-token");
    token.setMinSize(TOKEN, TOKEN);
    token.setMaxSize(TOKEN, TOKEN);
    token.setFocusTraversable(false);
    token.setOnMousePressed(e -> rounds.hear(number));
    token.setOnMouseDragged(
        e -> {
          double x = field.sceneToLocal(e.getSceneX(), e.getSceneY()).getX();
          double width = Math.max(1, field.getWidth() - TOKEN);
          rounds.move(number, 100 * (x - TOKEN / 2) / width);
        });
    token.setOnMouseReleased(
        e -> {
          Round round = rounds.runningProperty().get();
          Double at = round == null ? null : round.trials().get(number).position();
          if (at != null && !e.isStillSincePress()) {
            rounds.place(number, at);
          }
        });
    return token;
  }

  /** Puts every token where it is now. */
  void refresh() {
    Round round = rounds.runningProperty().get();
    if (round == null) {
      return;
    }
    double width = Math.max(1, field.getWidth() - TOKEN);
    rule.resizeRelocate(TOKEN / 2, field.getPrefHeight() - 12, width, 3);
    int heard = rounds.heardProperty().get();
    List<double[]> taken = new ArrayList<>();
    int waiting = 0;
    for (int i = 0; i < tokens.size(); i++) {
      Button token = tokens.get(i);
      Double at = round.trials().get(i).position();
      token.setAccessibleText(
          token.getText()
              + (at == null ? ", not placed yet" : ", at " + Math.round(at) + " of 100"));
      token.getStyleClass().removeAll("heard", "waiting");
      if (i == heard) {
        token.getStyleClass().add("heard");
      }
      if (at == null) {
        waiting++;
        token.getStyleClass().add("waiting");
        if (!tray.getChildren().contains(token)) {
          field.getChildren().remove(token);
          tray.getChildren().add(token);
        }
      } else {
        if (!field.getChildren().contains(token)) {
          tray.getChildren().remove(token);
          field.getChildren().add(token);
        }
        double x = width * at / 100;
        int level = 0;
        while (level < LEVELS - 1 && over(taken, x, level)) {
          level++;
        }
        taken.add(new double[] {x, level});
        token.relocate(x, field.getPrefHeight() - 20 - (level + 1) * (TOKEN + 6));
      }
    }
    state.setText(
        waiting == 0
            ? "They can be moved until you are done."
            : waiting + " still to be placed: hear them, then drag them up to the line.");
    finish.setDisable(waiting > 0);
  }

  private static boolean over(List<double[]> taken, double x, int level) {
    return taken.stream().anyMatch(t -> t[1] == level && Math.abs(t[0] - x) < TOKEN + 2);
  }
}
