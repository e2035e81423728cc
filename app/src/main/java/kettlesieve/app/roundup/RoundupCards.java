package kettlesieve.app.roundup;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.report.RoundupWords;
import kettlesieve.core.roundup.Agreement;
import kettlesieve.core.roundup.Difficulties;
import kettlesieve.core.roundup.Roundup;

/**
 * What follows from a round-up, in cards: tests, material, costs, the clean recordings, difficulty.
 */
final class RoundupCards extends VBox {
  RoundupCards(Roundup now) {
    super(8);
    HBox cards = new HBox(10);
    cards.setFillHeight(false);
    cards.getChildren().add(card("Whether they differ", RoundupWords.tests(now.all())));
    List<String> tags = RoundupWords.tags(now);
    if (!tags.isEmpty()) {
      cards.getChildren().add(card("By material", tags));
    }
    List<String> costs = new ArrayList<>();
    int cores = Runtime.getRuntime().availableProcessors();
    for (Roundup.Row e : now.all().entries()) {
      String words = RoundupWords.cost(e.cost(), cores);
      if (!words.isEmpty()) {
        costs.add(e.name() + ": " + words);
      }
    }
    if (!costs.isEmpty()) {
      cards.getChildren().add(card("What they take", costs));
    }
    Optional<Agreement> agreement = Agreement.of(now);
    agreement.ifPresent(
        a ->
            cards
                .getChildren()
                .add(card("Against the clean recordings", RoundupWords.agreement(a))));
    getChildren().add(cards);
    Optional<Difficulties> difficulties = Difficulties.of(now);
    if (difficulties.isPresent()) {
      DifficultyPlot plot = new DifficultyPlot(difficulties.get());
      HBox.setHgrow(plot, Priority.ALWAYS);
      VBox words = card("Where they fall apart", RoundupWords.difficulties(difficulties.get()));
      words.setMaxWidth(420);
      getChildren().add(new HBox(10, plot, words));
    }
    if (!now.failed().isEmpty()) {
      getChildren()
          .add(
              card(
                  "Left out",
                  now.failed().stream()
                      .map(
                          f ->
                              f.file()
                                  + (f.label().isEmpty() ? "" : ", " + f.label())
                                  + ": "
                                  + f.reason())
                      .toList()));
    }
  }

  private static VBox card(String title, List<String> lines) {
    VBox card = new VBox(3, Texts.of(title, "strong"));
    card.getStyleClass().add("card");
    lines.forEach(l -> card.getChildren().add(Texts.wrapped(l, "small")));
    card.setMinWidth(180);
    HBox.setHgrow(card, Priority.ALWAYS);
    card.setMaxWidth(Double.MAX_VALUE);
    card.setPrefWidth(260);
    return card;
  }
}
