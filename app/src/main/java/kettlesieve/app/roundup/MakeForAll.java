package kettlesieve.app.roundup;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import kettlesieve.app.model.RoundupDesk;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Amounts;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.rig.RigTool;
import org.kordamp.ikonli.feather.Feather;

/** Runs a set of tools on all comparisons of the round-up, and has them scored afterwards. */
final class MakeForAll extends HBox {
  private final Workspace workspace;
  private final RoundupDesk desk;
  private final MenuButton tools = new MenuButton("Tools");
  private final TextField amounts = new TextField("30, 60, 90");
  private final Label made = Texts.of("", "quiet", "small");
  private boolean ordered;

  MakeForAll(Workspace workspace) {
    super(8);
    this.workspace = workspace;
    this.desk = workspace.roundups();
    setAlignment(Pos.CENTER_LEFT);
    tools.setId("roundup-tools");
    amounts.setId("roundup-amounts");
    amounts.setPrefWidth(100);
    amounts.setAccessibleText("Amounts, 0 to 100, separated by commas");
    Button make = new Button("Make for all", Icons.of(Feather.PLAY_CIRCLE));
    make.setId("roundup-make");
    Hint.set(make, "Run these tools on the source of every comparison here");
    make.setOnAction(e -> make());
    getChildren()
        .addAll(
            Texts.of("Try further tools on all of them", "strong"),
            tools,
            Texts.of("at amounts"),
            amounts,
            make,
            made);
    workspace
        .workshop()
        .entries()
        .addListener((javafx.collections.ListChangeListener<Object>) c -> followRuns());
  }

  /** Offers the tools of the job that is looked at. */
  void fillTools() {
    List<String> on =
        tools.getItems().stream()
            .filter(i -> i instanceof CheckMenuItem c && c.isSelected())
            .map(MenuItem::getText)
            .toList();
    tools.getItems().clear();
    Job now = desk.jobProperty().get();
    if (now == null) {
      return;
    }
    for (RigTool tool : workspace.workshop().of(now)) {
      CheckMenuItem item = new CheckMenuItem(tool.title());
      item.setMnemonicParsing(false);
      item.setUserData(tool);
      item.setSelected(on.contains(tool.title()));
      item.setOnAction(e -> nameTools());
      tools.getItems().add(item);
    }
    nameTools();
  }

  private List<RigTool> chosenTools() {
    return tools.getItems().stream()
        .filter(i -> i instanceof CheckMenuItem c && c.isSelected())
        .map(i -> (RigTool) i.getUserData())
        .toList();
  }

  private void nameTools() {
    int n = chosenTools().size();
    tools.setText(n == 0 ? "Choose tools" : n == 1 ? chosenTools().get(0).title() : n + " tools");
  }

  private void make() {
    List<RigTool> some = chosenTools();
    Optional<List<Double>> list = Amounts.of(amounts.getText());
    if (list.isEmpty()) {
      made.setText(Amounts.WISH);
      return;
    }
    if (some.isEmpty()) {
      made.setText("Choose one tool or more.");
      return;
    }
    List<Path> files = desk.filesOfJob();
    for (Path file : files) {
      some.forEach(
          t -> workspace.workshop().makeFor(file, t, t.hasAmount() ? list.get() : List.of(100.0)));
    }
    ordered = true;
    made.setText("Ordered for " + files.size() + " comparisons.");
  }

  private void followRuns() {
    var entries = workspace.workshop().entries();
    long running = entries.stream().filter(e -> e.runProperty().get() == null).count();
    entries.forEach(
        e -> {
          if (e.runProperty().get() == null) {
            e.runProperty().addListener((o, was, is) -> countRuns());
          }
        });
    if (running > 0) {
      countRuns();
    }
  }

  private void countRuns() {
    var entries = workspace.workshop().entries();
    long running = entries.stream().filter(e -> e.runProperty().get() == null).count();
    if (running > 0) {
      made.setText(running + " runs to go");
    } else if (ordered) {
      workspace.workshop().whenFiled(this::allMade);
    }
  }

  /** Every run has ended and is in its comparison: now they are worth scoring. */
  private void allMade() {
    boolean running =
        workspace.workshop().entries().stream().anyMatch(e -> e.runProperty().get() == null);
    if (ordered && !running) {
      ordered = false;
      made.setText("All runs are done.");
      desk.again();
    }
  }
}
