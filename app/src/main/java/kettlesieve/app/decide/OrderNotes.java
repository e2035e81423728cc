package kettlesieve.app.decide;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.Costliest;
import kettlesieve.core.score.ReferenceOrder;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.WhatIf;

/** Notes under the ranking: what contradicts its order, and what would change it. */
final class OrderNotes {
  /** More pairs than these say no more. */
  private static final int MOST_SHOWN = 4;

  private OrderNotes() {}

  /** Where the scores and the clean recording contradict each other. */
  static Node disagreements(List<ReferenceOrder.Disagreement> all) {
    VBox box = new VBox(2, Texts.of("The clean recording says otherwise", "strong"));
    box.setId("disagreements");
    box.setPadding(new Insets(12, 0, 0, 0));
    for (ReferenceOrder.Disagreement d : all.subList(0, Math.min(MOST_SHOWN, all.size()))) {
      box.getChildren().add(Texts.wrapped(d.line(), "quiet", "small"));
    }
    if (all.size() > MOST_SHOWN) {
      box.getChildren()
          .add(
              Texts.of(
                  "and " + (all.size() - MOST_SHOWN) + " more pairs; the JSON has all of them",
                  "quiet",
                  "small"));
    }
    return box;
  }

  /** What would change the order of the first. */
  static Node turns(Workspace workspace, List<WhatIf> turns, ScoreSheet sheet) {
    VBox box = new VBox(2, Texts.of("What would change the order", "strong"));
    box.setId("turns");
    box.setPadding(new Insets(12, 0, 0, 0));
    Set<String> offered = new HashSet<>();
    for (WhatIf turn : turns) {
      String label = workspace.comparison().version(turn.version()).map(Version::label).orElse("");
      box.getChildren().add(Texts.wrapped(label + ": " + turn.words(), "quiet", "small"));
      sheet
          .entry(Part.ALL, turn.version())
          .flatMap(e -> Costliest.of(e, sheet.profile()))
          .filter(r -> offered.add(turn.version() + " " + r.measure()))
          .flatMap(
              r ->
                  SpotButton.of(
                      workspace, turn.version(), r.measure(), r.spots().stream().findFirst()))
          .ifPresent(
              hear -> {
                hear.setId("turn-spot-" + turn.version());
                box.getChildren().add(hear);
              });
    }
    return box;
  }
}
