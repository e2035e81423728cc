package kettlesieve.app.measure;

import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.StackPane;
import kettlesieve.app.model.Workspace;
import kettlesieve.core.measure.Part;
import kettlesieve.core.score.ScoreSheet;

/** Role by role: who wins where over all roles, and of one role every tool's stem side by side. */
final class RolesView extends StackPane {
  private final Workspace workspace;
  private final Consumer<String> chooseRole;
  private final ScrollPane scroll = new ScrollPane();

  /**
   * @param chooseRole told which role is to be shown; empty for all of them
   */
  RolesView(Workspace workspace, Consumer<String> chooseRole) {
    this.workspace = workspace;
    this.chooseRole = chooseRole;
    setId("roles");
    setPadding(new Insets(4, 14, 4, 14));
    scroll.setFitToWidth(true);
    getChildren().add(scroll);
  }

  void show(ScoreSheet sheet, Part part) {
    if (sheet == null || sheet.ranks().keySet().stream().allMatch(p -> p.role().isEmpty())) {
      scroll.setContent(null);
    } else if (part.role().isEmpty()) {
      scroll.setContent(new RoleTable(workspace, sheet, part.excerpt(), chooseRole));
    } else {
      scroll.setContent(new RolePage(workspace, sheet, part, () -> chooseRole.accept("")));
    }
  }
}
