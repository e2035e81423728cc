package kettlesieve.app.listen;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ProgressBar;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Rounds;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.listen.RoundPlan;

/**
 * A blind round while it runs: it has the window to itself, and shows nothing that could tell which
 * version is which.
 */
public final class RoundView extends VBox {
  private static final double FINE = 1;
  private static final double COARSE = 10;

  private final Rounds rounds;
  private final VBox body = new VBox(26);
  private final List<Button> choices = new ArrayList<>();
  private final List<Runnable> answers = new ArrayList<>();
  private RatingLine line;

  public RoundView(Workspace workspace) {
    super(28);
    this.rounds = workspace.rounds();
    setId("round");
    getStyleClass().add("round");
    setPadding(new Insets(36, 56, 36, 56));
    getChildren().add(body);
    VBox.setVgrow(body, Priority.ALWAYS);
    rounds.runningProperty().addListener((o, was, is) -> show(is));
    rounds.heardProperty().addListener((o, was, is) -> mark());
    show(rounds.runningProperty().get());
  }

  private void show(Round round) {
    if (round == null) {
      body.getChildren().clear();
      line = null;
      return;
    }
    if (line != null && round.kind() == Round.Kind.RATING) {
      line.refresh();
      return;
    }
    choices.clear();
    answers.clear();
    body.getChildren().setAll(head(round), task(round), foot(round));
    mark();
  }

  private Node head(Round round) {
    String ask =
        switch (round.kind()) {
          case ABX -> "Which of the two is X?";
          case PAIRS -> "Which would you send out?";
          case RATING -> "Put every letter where it belongs.";
        };
    VBox words =
        new VBox(
            2,
            Texts.of(ask, "round-question"),
            Texts.wrapped("Judge " + round.question().words() + ".", "quiet"));
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button leave = new Button("Break off");
    leave.setId("round-leave");
    leave.setAccessibleText("Break off; the round can be gone on with later");
    leave.setOnAction(e -> rounds.end());
    HBox head = new HBox(20, words, gap, progress(round), leave);
    head.setAlignment(Pos.CENTER_LEFT);
    return head;
  }

  private Node progress(Round round) {
    if (round.kind() == Round.Kind.RATING) {
      return new Region();
    }
    int all = Math.max(RoundPlan.expected(round), round.trials().size());
    boolean most = round.kind() == Round.Kind.PAIRS && all > round.trials().size();
    ProgressBar bar = new ProgressBar((double) rounds.trial() / all);
    bar.setPrefWidth(150);
    VBox box =
        new VBox(
            4,
            Texts.of(
                "Trial " + (rounds.trial() + 1) + (most ? " of at most " : " of ") + all, "quiet"),
            bar);
    box.setId("round-progress");
    return box;
  }

  private Node task(Round round) {
    if (round.kind() == Round.Kind.RATING) {
      line = new RatingLine(rounds);
      return line;
    }
    line = null;
    boolean abx = round.kind() == Round.Kind.ABX;
    HBox hear = new HBox(22);
    hear.setAlignment(Pos.CENTER);
    String[] names = abx ? new String[] {"A", "B", "X"} : new String[] {"A", "B"};
    for (int i = 0; i < names.length; i++) {
      int token = i;
      Button button = new Button(names[i]);
      button.setId("hear-" + names[i]);
      button.getStyleClass().add("round-token");
      button.setAccessibleText("Hear " + names[i]);
      button.setFocusTraversable(false);
      button.setOnAction(e -> rounds.hear(token));
      choices.add(button);
      hear.getChildren().add(button);
    }
    HBox reply = new HBox(14);
    reply.setAlignment(Pos.CENTER);
    List<String> items = rounds.tokens();
    for (int i = 0; i < 2; i++) {
      String item = items.get(i);
      reply
          .getChildren()
          .add(answer(abx ? "X is " + names[i] : "I prefer " + names[i], i + 1, item));
    }
    if (!abx) {
      reply.getChildren().add(answer("No difference", 3, Round.NO_DIFFERENCE));
    }
    VBox box = new VBox(34, hear, reply);
    box.setAlignment(Pos.CENTER);
    VBox.setVgrow(box, Priority.ALWAYS);
    return box;
  }

  private Button answer(String words, int key, String item) {
    Button button = new Button(words + "   " + key);
    button.setId("answer-" + key);
    button.setAccessibleText(words);
    button.getStyleClass().add("primary");
    button.setFocusTraversable(false);
    Runnable give = () -> rounds.answer(item);
    button.setOnAction(e -> give.run());
    answers.add(give);
    return button;
  }

  private Node foot(Round round) {
    String keys =
        switch (round.kind()) {
          case ABX -> "A, B, X to hear. 1 or 2 to answer. Space stops and goes on. Esc breaks off.";
          case PAIRS ->
              "A, B to hear. 1, 2 or 3 to answer. Space stops and goes on. Esc breaks off.";
          case RATING ->
              "A letter hears it. Left and right move the one that is heard, with Shift in larger"
                  + " steps. Enter when all are placed. Space stops and goes on. Esc breaks off.";
        };
    return Texts.wrapped(keys, "quiet", "small");
  }

  private void mark() {
    int heard = rounds.heardProperty().get();
    for (int i = 0; i < choices.size(); i++) {
      choices.get(i).getStyleClass().remove("heard");
      if (i == heard) {
        choices.get(i).getStyleClass().add("heard");
      }
    }
    if (line != null) {
      line.refresh();
    }
  }

  /** Everything by keys; returns whether the key was for the round. */
  public boolean key(KeyEvent event) {
    KeyCode code = event.getCode();
    Round round = rounds.runningProperty().get();
    if (round == null || event.isShortcutDown() || event.isAltDown()) {
      return false;
    }
    if (code == KeyCode.SPACE) {
      rounds.toggle();
    } else if (code == KeyCode.ESCAPE) {
      rounds.end();
    } else if (round.kind() == Round.Kind.RATING) {
      rate(event);
    } else if (code.isLetterKey()) {
      int token = "ABX".indexOf(code.getName());
      if (token >= 0) {
        rounds.hear(token);
      }
    } else if (code.isDigitKey()) {
      int answer = code.getName().charAt(code.getName().length() - 1) - '1';
      if (answer >= 0 && answer < answers.size()) {
        answers.get(answer).run();
      }
    }
    return true;
  }

  private void rate(KeyEvent event) {
    KeyCode code = event.getCode();
    double step = event.isShiftDown() ? COARSE : FINE;
    int heard = rounds.heardProperty().get();
    if (code.isLetterKey()) {
      rounds.hear(code.getName().charAt(0) - 'A');
    } else if (heard >= 0 && (code == KeyCode.LEFT || code == KeyCode.RIGHT)) {
      Double at = rounds.runningProperty().get().trials().get(heard).position();
      rounds.place(heard, at == null ? 50 : at + (code == KeyCode.LEFT ? -step : step));
    } else if (code == KeyCode.ENTER && rounds.runningProperty().get().done()) {
      rounds.end();
    }
  }
}
