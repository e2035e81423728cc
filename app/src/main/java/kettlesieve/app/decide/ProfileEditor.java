package kettlesieve.app.decide;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.ProfileFile;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.report.LimitWords;
import kettlesieve.core.score.Scoring;
import org.kordamp.ikonli.feather.Feather;

/**
 * What the chosen delivery profile asks for, and a copy of it to change. A person's own profiles
 * are kept in the comparison.
 */
final class ProfileEditor extends VBox {
  private static final List<Axis> AXES = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);

  private static final FileChooser.ExtensionFilter PROFILES =
      new FileChooser.ExtensionFilter("Delivery profiles", "*.json");

  private final Workspace workspace;
  private final TextField title = new TextField();
  private final Map<Axis, TextField> weights = new LinkedHashMap<>();
  private final Map<Axis, TextField> tolerances = new LinkedHashMap<>();
  private final Button keep = new Button("Keep");
  private final Button copy = new Button("Copy and edit");
  private final Button forget = new Button("Delete");
  private final LimitRows limits;
  private final Label shippedLimits = Texts.wrapped("", "quiet", "small");
  private final Label problem = Texts.wrapped("", "warning-text");
  private Profile shown;

  ProfileEditor(Workspace workspace) {
    this.workspace = workspace;
    this.limits = new LimitRows(workspace, this::keep);
    setSpacing(6);
    setId("profile-editor");
    GridPane grid = new GridPane();
    grid.setHgap(10);
    grid.setVgap(4);
    grid.add(Texts.of("Weight", "column-head"), 0, 1);
    grid.add(Texts.of("Points forgiven", "column-head"), 0, 2);
    int column = 1;
    for (Axis axis : AXES) {
      grid.add(Texts.of(axis.title(), axis.id() + "-text"), column, 0);
      grid.add(field(weights, axis, "weight", "Weight of "), column, 1);
      grid.add(field(tolerances, axis, "forgiven", "Points forgiven on "), column, 2);
      column++;
    }
    title.setId("profile-title");
    title.setPromptText("Name of the profile");
    title.setAccessibleText("Name of the profile");
    title.setPrefWidth(170);
    keep.setId("profile-keep");
    keep.setOnAction(e -> keep());
    copy.setId("profile-copy");
    copy.setOnAction(e -> copy());
    forget.setId("profile-delete");
    forget.setOnAction(e -> forget());
    HBox.setHgrow(title, Priority.ALWAYS);
    problem.managedProperty().bind(problem.textProperty().isNotEmpty());
    Button export = Icons.button(Feather.DOWNLOAD, "Write this profile to a file", this::export);
    export.setId("profile-export");
    Button take = Icons.button(Feather.UPLOAD, "Take in a profile from a file", this::take);
    take.setId("profile-import");
    HBox buttons = new HBox(6, title, copy, keep, forget, export, take);
    buttons.setAlignment(Pos.CENTER_LEFT);
    shippedLimits.setId("profile-limits-told");
    shippedLimits.setMaxWidth(330);
    getChildren()
        .addAll(
            Texts.of("What the profile asks for", "section"),
            buttons,
            grid,
            shippedLimits,
            limits,
            problem);
    workspace.comparisonProperty().addListener((o, was, is) -> show());
    show();
  }

  private TextField field(Map<Axis, TextField> fields, Axis axis, String id, String name) {
    TextField field = new TextField();
    field.setPrefWidth(74);
    field.setId("profile-" + id + "-" + axis.id());
    field.setAccessibleText(name + axis.title());
    field.setOnAction(e -> keep());
    fields.put(axis, field);
    return field;
  }

  private boolean own(Profile profile) {
    return workspace.comparison().profiles().contains(profile);
  }

  private void show() {
    Profile now =
        Scoring.of(workspace.comparison()).profileOrDefault(workspace.comparison().profile());
    if (now.equals(shown)) {
      return;
    }
    shown = now;
    problem.setText("");
    title.setText(now.title());
    boolean own = own(now);
    for (Axis axis : AXES) {
      weights.get(axis).setText(number(now.weight(axis.id())));
      tolerances.get(axis).setText(number(now.tolerance(axis.id())));
      weights.get(axis).setEditable(own);
      tolerances.get(axis).setEditable(own);
    }
    limits.show(now.requirements());
    limits.setVisible(own);
    limits.setManaged(own);
    boolean told = !own && !now.requirements().isEmpty();
    shippedLimits.setText(
        "Limits: "
            + now.requirements().stream()
                .map(r -> LimitWords.asked(r, Optional.empty()))
                .collect(Collectors.joining("; ")));
    shippedLimits.setVisible(told);
    shippedLimits.setManaged(told);
    title.setEditable(own);
    keep.setVisible(own);
    keep.setManaged(own);
    forget.setVisible(own);
    forget.setManaged(own);
  }

  private static String number(double value) {
    return value == Math.rint(value) ? Numbers.fixed(value, 0) : Numbers.fixed(value, 1);
  }

  private void copy() {
    Scoring scoring = Scoring.of(workspace.comparison());
    String newTitle = shown.title() + " (own)";
    for (int n = 2; taken(scoring, slug(newTitle)); n++) {
      newTitle = shown.title() + " (own " + n + ")";
    }
    Profile made = shown.named(slug(newTitle), newTitle);
    workspace.edit(c -> c.withOwnProfile(made).withProfile(made.name()));
    title.requestFocus();
  }

  private static boolean taken(Scoring scoring, String name) {
    return scoring.profile(name).isPresent();
  }

  private static String slug(String text) {
    String plain = text.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-");
    String trimmed = plain.replaceAll("^-+|-+$", "");
    return trimmed.isEmpty() ? "own" : trimmed.substring(0, Math.min(60, trimmed.length()));
  }

  private void keep() {
    keep(shown.requirements());
  }

  /** What is typed, with some limits; limits are taken at once, each is whole. */
  private void keep(List<Requirement> asked) {
    if (!own(shown)) {
      return;
    }
    try {
      Map<String, Double> weighed = numbers(weights);
      Map<String, Double> forgiven = numbers(tolerances);
      boolean alike = weighed.equals(shown.weights()) && forgiven.equals(shown.tolerance());
      Profile changed =
          new Profile(
              shown.name(),
              title.getText().trim(),
              // What was said of other weights is not true of these.
              alike ? shown.description() : "",
              weighed,
              forgiven,
              asked);
      problem.setText("");
      workspace.edit(c -> c.withOwnProfile(changed));
    } catch (NumberFormatException e) {
      problem.setText(
          "Weights are numbers from 0 to 100, not all 0; points forgiven from 0 to 90.");
      limits.show(shown.requirements());
    } catch (IllegalArgumentException e) {
      problem.setText(Sentences.begun(e.getMessage()) + ".");
      limits.show(shown.requirements());
    }
  }

  private void export() {
    Choosers.of(workspace.lastFolder(), "Write the profile to", PROFILES)
        .save(getScene().getWindow(), shown.name() + ".json", null)
        .ifPresent(
            file -> {
              try {
                ProfileFile.write(shown, file);
                workspace.news().done("The profile stands in " + file.getFileName() + ".");
              } catch (IOException e) {
                workspace
                    .messageProperty()
                    .set(
                        file.getFileName()
                            + " could not be written. Check the folder and the room on the disk.");
              }
            });
  }

  private void take() {
    Choosers.of(workspace.lastFolder(), "A delivery profile", PROFILES)
        .open(getScene().getWindow())
        .ifPresent(this::take);
  }

  /** Takes in a profile from its file; one that has its short name already is replaced by it. */
  void take(Path file) {
    try {
      Profile read = ProfileFile.read(file);
      boolean shipped =
          Scoring.shipped().profile(read.name()).isPresent()
              && workspace.comparison().profiles().stream()
                  .noneMatch(p -> p.name().equals(read.name()));
      Profile own = shipped ? read.named(read.name() + "-own", read.title() + " (own)") : read;
      workspace.edit(c -> c.withOwnProfile(own).withProfile(own.name()));
      workspace.news().done("The profile \"" + own.title() + "\" was taken in.");
    } catch (IOException e) {
      workspace
          .messageProperty()
          .set(e.getMessage() == null ? file.getFileName() + " cannot be read." : e.getMessage());
    }
  }

  private static Map<String, Double> numbers(Map<Axis, TextField> fields) {
    Map<String, Double> numbers = new LinkedHashMap<>();
    fields.forEach(
        (axis, field) ->
            numbers.put(axis.id(), Double.parseDouble(field.getText().trim().replace(',', '.'))));
    return numbers;
  }

  private void forget() {
    Profile gone = shown;
    workspace.edit(
        c -> {
          List<Profile> rest = new ArrayList<>(c.profiles());
          rest.remove(gone);
          return c.withProfiles(rest).withProfile(null);
        });
  }
}
