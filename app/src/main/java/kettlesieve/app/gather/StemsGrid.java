package kettlesieve.app.gather;

import java.io.File;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Dialogs;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.RoleSum;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.Recording;
import org.kordamp.ikonli.feather.Feather;

/**
 * Stems: versions by roles. A cell is a file, with a menu to hear it, to give it another role, to
 * replace it or to take it away; sums and remainders are columns too.
 *
 * <p>Over 400 lines because a cell can be filled, moved, replaced or taken away by menu, drop and
 * key, and all of it ends in the same two changes of the comparison.
 */
final class StemsGrid extends VBox {
  private static final double CELL_WIDTH = 76;

  private final Workspace workspace;
  private final Function<String, File> chooser;
  private final HBox proposals = new HBox(6);
  private final GridPane grid = new GridPane();
  private final Set<String> added = new LinkedHashSet<>();

  /**
   * @param chooser asks for one audio file, given a title; null if none was chosen
   */
  StemsGrid(Workspace workspace, Function<String, File> chooser) {
    this.workspace = workspace;
    this.chooser = chooser;
    grid.setHgap(4);
    grid.setVgap(5);
    grid.setId("stems-grid");
    setSpacing(8);
    ScrollPane wide = new ScrollPane(grid);
    wide.setFitToHeight(true);
    wide.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    getChildren().addAll(wide, tools());
  }

  private HBox tools() {
    MenuButton role = new MenuButton("Add a role", Icons.of(Feather.PLUS));
    role.setId("add-role");
    role.setOnShowing(
        e -> {
          role.getItems().clear();
          for (String usual : Roles.USUAL) {
            if (!columns().contains(usual)) {
              role.getItems().add(item(usual, () -> addRole(usual)));
            }
          }
          role.getItems().add(item("Another …", () -> ask("Name of the role", this::addRole)));
        });
    MenuButton sum = new MenuButton("Add a sum", Icons.of(Feather.PLUS_CIRCLE));
    sum.setId("add-sum");
    Hint.set(sum, "A sum of roles, or the mix without a role: for every tool that can form it");
    sum.setOnShowing(
        e -> {
          sum.getItems().clear();
          for (String r : workspace.comparison().roles()) {
            sum.getItems().add(item("The mix without " + r, () -> addRemainder(r)));
          }
          for (String r : workspace.comparison().roles()) {
            List<String> others = new ArrayList<>(workspace.comparison().roles());
            others.remove(r);
            if (others.size() > 1) {
              sum.getItems()
                  .add(
                      item(
                          "Everything but " + r + ": " + String.join(" + ", others),
                          () -> addSum(new RoleSum("sum but " + r, others, false))));
            }
          }
        });
    proposals.setAlignment(Pos.CENTER_LEFT);
    HBox box = new HBox(8, role, sum, proposals);
    box.setAlignment(Pos.CENTER_LEFT);
    return box;
  }

  /** Tools that divide the mix otherwise can be compared on what both can form. */
  private void fillProposals(Comparison c) {
    proposals.getChildren().clear();
    for (RoleSum sum : c.proposedSums()) {
      String role = sum.role();
      long more =
          c.versions().stream()
              .filter(v -> !v.stems().containsKey(role))
              .filter(v -> v.stems().keySet().containsAll(sum.roles()))
              .count();
      Button button = new Button("Compare on \"" + role + "\"", Icons.of(Feather.COLUMNS));
      button.getStyleClass().add("tool-toggle");
      button.setId("propose-" + role.replace(' ', '-'));
      Hint.set(
          button,
          more
              + (more == 1 ? " more version can form it" : " more versions can form it")
              + ": the mix without their own "
              + String.join(" and ", sum.roles())
              + ". Judged like a stem, by what is left of that in it.");
      button.setOnAction(e -> addSum(sum));
      proposals.getChildren().add(button);
    }
  }

  private static MenuItem item(String text, Runnable action) {
    MenuItem item = new MenuItem(text);
    item.setMnemonicParsing(false);
    item.setOnAction(e -> action.run());
    return item;
  }

  private void ask(String question, Consumer<String> answer) {
    Dialogs.words(getScene().getWindow(), question).ifPresent(answer);
  }

  private void addRole(String role) {
    added.add(role);
    fill();
  }

  private void addRemainder(String role) {
    addSum(new RoleSum("mix without " + role, List.of(role), true));
  }

  private void addSum(RoleSum sum) {
    workspace.edit(
        c -> {
          if (c.roleSums().contains(sum)) {
            return c;
          }
          List<RoleSum> list = new ArrayList<>(c.roleSums());
          list.add(sum);
          return c.withRoleSums(list);
        });
  }

  private List<String> columns() {
    Set<String> all = new LinkedHashSet<>(workspace.comparison().roles());
    all.addAll(added);
    return Roles.sorted(all);
  }

  void fill() {
    grid.getChildren().clear();
    Comparison c = workspace.comparison();
    fillProposals(c);
    List<String> roles = columns();
    grid.add(Texts.of("Version", "column-head"), 0, 0, 2, 1);
    for (int i = 0; i < roles.size(); i++) {
      grid.add(head(roles.get(i)), i + 2, 0);
    }
    for (int i = 0; i < c.roleSums().size(); i++) {
      grid.add(sumHead(c.roleSums().get(i)), roles.size() + i + 2, 0);
    }
    Label truth = Texts.of("True stems", "strong");
    Hint.set(truth, "What the source was mixed from, where it is known");
    HBox truthBox = new HBox(8, Icons.of(Feather.STAR), truth);
    truthBox.setAlignment(Pos.CENTER_LEFT);
    grid.add(truthBox, 0, 1, 2, 1);
    for (int i = 0; i < roles.size(); i++) {
      grid.add(trueCell(c, roles.get(i)), i + 2, 1);
    }
    int row = 2;
    for (Version v : c.versions()) {
      addRow(c, v, roles, row++);
    }
    if (row == 2) {
      grid.add(
          Texts.wrapped(
              "No stems yet: drop the files that the tools made. Names such as"
                  + " \"tool-vocals.wav\" sort themselves.",
              "quiet"),
          0,
          row,
          Math.max(2, roles.size() + 2),
          1);
    }
  }

  private Node head(String role) {
    Button head = new Button(role);
    head.setMnemonicParsing(false);
    head.getStyleClass().setAll("button", "spot-button", "column-head");
    Hint.set(head, "Hear " + role + " alone, in all versions");
    head.setOnAction(e -> workspace.listening().solo(role));
    head.setPrefWidth(CELL_WIDTH);
    head.setWrapText(true);
    head.setMaxHeight(Double.MAX_VALUE);
    return head;
  }

  private Node sumHead(RoleSum sum) {
    Button head = new Button((sum.remainder() ? "− " : "Σ ") + sum.name());
    head.setMnemonicParsing(false);
    head.getStyleClass().setAll("button", "spot-button", "column-head");
    Hint.set(
        head,
        sum.name()
            + (sum.remainder() ? ": the mix minus " : ": ")
            + String.join(" + ", sum.roles())
            + ". Click to hear it; right click to take it away");
    head.setOnAction(e -> workspace.listening().hear(sum));
    head.setContextMenu(
        new ContextMenu(
            item(
                "Take this sum away",
                () ->
                    workspace.edit(
                        x ->
                            x.withRoleSums(
                                x.roleSums().stream().filter(s -> !s.equals(sum)).toList())))));
    head.setPrefWidth(CELL_WIDTH);
    head.setWrapText(true);
    head.setMaxHeight(Double.MAX_VALUE);
    return head;
  }

  private void addRow(Comparison c, Version v, List<String> roles, int row) {
    int index = c.versions().indexOf(v);
    grid.add(VersionSign.of(index, 20), 0, row);
    Label name = VersionName.strong(workspace, v.label());
    name.setMinWidth(120);
    name.setMaxWidth(190);
    VBox names = new VBox(name);
    names.setAlignment(Pos.CENTER_LEFT);
    v.stems().values().stream()
        .filter(s -> s.origin() != null)
        .findFirst()
        .ifPresent(
            s -> {
              Label chain = Texts.wrapped("from " + s.origin().words(), "quiet", "small");
              chain.setMaxWidth(190);
              chain.setMinHeight(Region.USE_PREF_SIZE);
              names.getChildren().add(chain);
            });
    grid.add(names, 1, row);
    for (int i = 0; i < roles.size(); i++) {
      grid.add(cell(v, roles.get(i)), i + 2, row);
    }
    for (int i = 0; i < c.roleSums().size(); i++) {
      grid.add(sumCell(v, c.roleSums().get(i)), roles.size() + i + 2, row);
    }
  }

  private Node cell(Version v, String role) {
    Stem stem = v.stems().get(role);
    if (stem == null) {
      Button add = new Button("+");
      add.getStyleClass().setAll("button", "stem-empty");
      add.setPrefWidth(CELL_WIDTH);
      add.setMaxHeight(Double.MAX_VALUE);
      add.setAccessibleText("Add the stem " + role + " to " + v.label());
      add.setOnAction(
          e -> {
            File file = chooser.apply(v.label() + ": " + role);
            if (file != null) {
              change(v, x -> x.withStem(role, Stem.of(MediaRef.of(file.toPath()))));
            }
          });
      return add;
    }
    MenuButton cell = new MenuButton(length(v, role), Icons.of(Feather.CHECK));
    cell.getStyleClass().add("stem-cell");
    cell.setId("stem-" + v.id() + "-" + role.replace(' ', '-'));
    cell.setPrefWidth(CELL_WIDTH);
    cell.setMaxWidth(CELL_WIDTH);
    Hint.set(
        cell,
        FileNames.stem(stem.media().file())
            + "\n"
            + stem.media().path()
            + (stem.origin() == null ? "" : "\ntaken from " + stem.origin().words()));
    Menu others = new Menu("Give it another role");
    for (String other : columns()) {
      if (!other.equals(role) && !v.stems().containsKey(other)) {
        others.getItems().add(item(other, () -> rename(v, role, other)));
      }
    }
    for (String other : Roles.USUAL) {
      if (!columns().contains(other)) {
        others.getItems().add(item(other, () -> rename(v, role, other)));
      }
    }
    others.getItems().add(item("Another …", () -> ask("Role", t -> rename(v, role, t))));
    cell.getItems()
        .addAll(
            item(
                "Hear it alone",
                () -> {
                  workspace.listening().choose(v.id());
                  workspace.listening().rolesProperty().set(Set.of(role));
                  workspace.listening().play();
                }),
            others,
            item(
                "Replace …",
                () -> {
                  File file = chooser.apply(v.label() + ": " + role);
                  if (file != null) {
                    change(v, x -> x.withStem(role, Stem.of(MediaRef.of(file.toPath()))));
                  }
                }),
            item("Take it away", () -> remove(v, role)));
    return cell;
  }

  /** How long a stem is; a dash as long as it is not read. */
  private String length(Version v, String role) {
    Recording recording = workspace.state(v.id()).recordings().get(role);
    return recording == null ? "–" : brief(recording.facts().seconds());
  }

  private static String brief(double seconds) {
    long whole = Math.round(seconds);
    return whole / 60 + ":" + (whole % 60 < 10 ? "0" : "") + whole % 60;
  }

  private Node sumCell(Version v, RoleSum sum) {
    boolean can = v.stems().keySet().containsAll(sum.roles());
    Button cell = new Button(can ? null : "–", can ? Icons.of(Feather.PLAY) : null);
    cell.getStyleClass().setAll("button", "stem-empty");
    cell.setPrefWidth(CELL_WIDTH);
    cell.setMaxHeight(Double.MAX_VALUE);
    cell.setDisable(!can);
    cell.setAccessibleText("Hear " + sum.name() + " of " + v.label());
    cell.setOnAction(
        e -> {
          workspace.listening().choose(v.id());
          workspace.listening().hear(sum);
          workspace.listening().play();
        });
    return cell;
  }

  private Node trueCell(Comparison c, String role) {
    MediaRef ref = c.trueStems().get(role);
    if (ref == null) {
      Button add = new Button("+");
      add.getStyleClass().setAll("button", "stem-empty");
      add.setPrefWidth(CELL_WIDTH);
      add.setAccessibleText("Add the true stem " + role);
      add.setOnAction(
          e -> {
            File file = chooser.apply("True stem: " + role);
            if (file != null) {
              workspace.edit(x -> x.withTrueStem(role, MediaRef.of(file.toPath())));
            }
          });
      return add;
    }
    Audio known = workspace.trueStems().get(role);
    MenuButton cell =
        new MenuButton(known == null ? "–" : brief(known.seconds()), Icons.of(Feather.CHECK));
    cell.getStyleClass().add("stem-cell");
    cell.setPrefWidth(CELL_WIDTH);
    cell.setMaxWidth(CELL_WIDTH);
    cell.setAccessibleText("True stem " + role);
    Hint.set(cell, FileNames.stem(ref.file()) + "\n" + ref.path());
    cell.getItems()
        .add(item("Take it away", () -> workspace.edit(x -> x.withTrueStem(role, null))));
    return cell;
  }

  private void change(Version v, java.util.function.UnaryOperator<Version> change) {
    workspace.edit(c -> c.version(v.id()).map(x -> c.withVersion(change.apply(x))).orElse(c));
  }

  private void rename(Version v, String role, String other) {
    if (v.stems().containsKey(other)) {
      workspace
          .messageProperty()
          .set(v.label() + " has a stem for \"" + other + "\" already; take that away first.");
      return;
    }
    change(
        v,
        x -> {
          Map<String, Stem> stems = new LinkedHashMap<>();
          x.stems().forEach((r, s) -> stems.put(r.equals(role) ? other : r, s));
          return x.withStems(stems);
        });
  }

  private void remove(Version v, String role) {
    if (v.stems().size() == 1) {
      workspace.edit(c -> c.minus(v.id()));
      return;
    }
    change(
        v,
        x -> {
          Map<String, Stem> stems = new LinkedHashMap<>(x.stems());
          stems.remove(role);
          return x.withStems(stems);
        });
  }
}
