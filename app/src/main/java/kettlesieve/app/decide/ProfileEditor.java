package kettlesieve.app.decide;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.comparison.Requirement;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.score.Scoring;

/**
 * What the chosen delivery profile asks for, and a copy of it to change. A person's own profiles
 * are kept in the comparison.
 */
final class ProfileEditor extends VBox {
  private static final List<Axis> AXES = List.of(Axis.MISSED, Axis.ADDED, Axis.LOST);

  private final Workspace workspace;
  private final TextField title = new TextField();
  private final Map<Axis, TextField> weights = new LinkedHashMap<>();
  private final Map<Axis, TextField> tolerances = new LinkedHashMap<>();
  private final Button keep = new Button("Keep");
  private final Button copy = new Button("Copy and edit");
  private final Button forget = new Button("Delete");
  private final TextArea limits = new TextArea();
  private final Label shippedLimits = Texts.wrapped("", "quiet", "small");
  private final Label problem = Texts.wrapped("", "warning-text");
  private Profile shown;

  ProfileEditor(Workspace workspace) {
    this.workspace = workspace;
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
    HBox buttons = new HBox(6, title, copy, keep, forget);
    buttons.setAlignment(Pos.CENTER_LEFT);
    limits.setId("profile-limits");
    limits.setAccessibleText("Limits of the delivery, one a line");
    limits.setPromptText("Limits, one a line: pause-noise.dBFS <= -60");
    limits.setPrefRowCount(2);
    limits.setPrefColumnCount(24);
    limits.setMinHeight(48);
    limits.setPrefHeight(52);
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
    limits.setText(
        now.requirements().stream().map(Requirement::words).collect(Collectors.joining("\n")));
    limits.setVisible(own);
    limits.setManaged(own);
    boolean told = !own && !now.requirements().isEmpty();
    shippedLimits.setText(
        "Limits: "
            + now.requirements().stream()
                .map(Requirement::words)
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
              limits());
      problem.setText("");
      workspace.edit(c -> c.withOwnProfile(changed));
    } catch (NumberFormatException e) {
      problem.setText(
          "Weights are numbers from 0 to 100, not all 0; points forgiven from 0 to 90.");
    } catch (IllegalArgumentException e) {
      problem.setText(Sentences.begun(e.getMessage()) + ".");
    }
  }

  /** Hard limits, one a line. */
  private List<Requirement> limits() {
    List<Requirement> all = new ArrayList<>();
    for (String line : limits.getText().split("\\R")) {
      if (!line.isBlank()) {
        Requirement one = Requirement.parse(line);
        if (Measures.declaration(one.reading()) == null) {
          throw new IllegalArgumentException("there is no reading called " + one.reading());
        }
        all.add(one);
      }
    }
    return all;
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
