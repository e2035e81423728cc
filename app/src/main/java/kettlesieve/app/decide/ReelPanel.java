package kettlesieve.app.decide;

import java.util.List;
import java.util.Set;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.RadioButton;
import javafx.scene.control.Spinner;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Handover;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.report.Reel;

/** What is played in a reel, and how. */
final class ReelPanel extends VBox {
  private static final String ALL_ROLES = "all of them together";

  private final RadioButton worst = new RadioButton("The places that cost most, 3 s each:");
  private final Spinner<Integer> spots = new Spinner<>(1, 30, 6);
  private final CheckBox before = new CheckBox("The source before every version");
  private final Spinner<Double> gap = new Spinner<>(0.0, 10.0, Reel.GAP_SECONDS, 0.5);
  private final ComboBox<String> role = new ComboBox<>();

  ReelPanel(Workspace workspace) {
    super(10);
    setId("reel-panel");
    setPadding(new Insets(4, 18, 10, 18));
    Comparison comparison = workspace.comparison();
    int kept = comparison.excerpts().size();
    RadioButton excerpts =
        new RadioButton(
            kept == 0
                ? "The whole recording"
                : kept == 1 ? "The kept excerpt" : "The " + kept + " kept excerpts");
    excerpts.setId("reel-excerpts");
    worst.setId("reel-worst");
    spots.setId("reel-spots");
    spots.setPrefWidth(76);
    spots.setEditable(true);
    spots.disableProperty().bind(worst.selectedProperty().not());
    ToggleGroup which = new ToggleGroup();
    which.getToggles().addAll(excerpts, worst);
    excerpts.setSelected(true);
    gap.setId("reel-gap");
    gap.setPrefWidth(86);
    gap.setEditable(true);
    before.setId("reel-before");
    getChildren()
        .addAll(
            Texts.of("What is played", "strong"),
            excerpts,
            row(worst, spots),
            Texts.of("How", "strong"),
            before,
            row(Texts.of("Silence between pieces, s"), gap));
    List<String> roles = comparison.roles();
    if (!roles.isEmpty()) {
      Set<String> heard = workspace.listening().rolesProperty().get();
      role.setId("reel-role");
      role.getItems().add(ALL_ROLES);
      role.getItems().addAll(roles);
      role.setValue(heard.size() == 1 ? heard.iterator().next() : ALL_ROLES);
      getChildren().add(row(Texts.of("Stem"), role));
    }
  }

  /** Words and what is set by them, on one height. */
  static HBox row(Node... parts) {
    HBox row = new HBox(8, parts);
    row.setAlignment(Pos.CENTER_LEFT);
    return row;
  }

  /** What was set. */
  Handover.ReelWish wish() {
    String chosen = role.getValue();
    return new Handover.ReelWish(
        worst.isSelected() ? spots.getValue() : 0,
        chosen == null || chosen.equals(ALL_ROLES) ? "" : chosen,
        before.isSelected(),
        gap.getValue());
  }
}
