package kettlesieve.app.frame;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.Words;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Tags;
import kettlesieve.core.testpiece.PieceException;
import kettlesieve.core.testpiece.PieceRecipe;
import kettlesieve.core.testpiece.PieceRecipeBuilder;
import org.kordamp.ikonli.feather.Feather;

/** Makes a source whose truth is known, out of a clean recording or stems of the person's own. */
final class TestPieceCard extends FloatingCard {
  /** Where the noise comes from. */
  private enum Noise {
    WHITE("White noise", "white"),
    PINK("Pink noise", "pink"),
    HUM("Mains hum", "hum"),
    CLICKS("Clicks", "clicks"),
    PAUSES("The pauses of a recording …", PieceRecipe.PAUSE),
    FILE("A recording: voices, music, a place …", "");

    private final String title;
    private final String word;

    Noise(String title, String word) {
      this.title = title;
      this.word = word;
    }

    private boolean ofFile() {
      return this == PAUSES || this == FILE;
    }
  }

  private static final double LABEL = 190;

  private final Workspace workspace;
  private final java.util.function.Consumer<Path> open;
  private Job job = Job.DENOISE;
  private Noise noise = Noise.PINK;
  private Path clean;
  private Path noiseFile;
  private Path room;
  private final Map<String, PieceRecipe.StemShare> stems = new LinkedHashMap<>();
  private final Map<Job, TextField> difficulties = new LinkedHashMap<>();
  private final TextField shift = field("1.25", "How far it goes there and back");
  private final TextField tags = field("", "Tags, separated by commas");
  private final TextField seed = field("1", "Seed of what is drawn");
  private final TextField coding =
      field("", "kbit/s of an MP3 that it goes through; empty for none");
  private final TextField level = field("", "dB by which the level moves; empty for none");
  private final TextField rate = field("", "Sampling frequency in Hz; empty for the recording's");
  private final CheckBox soft = new CheckBox("bends before it holds (soft)");
  private final CheckBox upper = new CheckBox("upper half only");
  private final Label problem = Texts.wrapped("", "warning-text");

  TestPieceCard(Workspace workspace, java.util.function.Consumer<Path> open) {
    super("test-piece", "Make a test piece", 680);
    this.workspace = workspace;
    this.open = open;
    difficulties.put(
        Job.DENOISE, field("20, 15, 10, 5, 0", "Signal-to-noise ratios in dB, one piece each"));
    difficulties.put(
        Job.DECLIP, field("-3, -6, -9", "Clip levels in dB of the peak, one piece each"));
    difficulties.put(
        Job.DEREVERB, field("0.4, 0.8, 1.6", "Decay times in seconds, one piece each"));
    difficulties.forEach((j, f) -> f.setId("piece-difficulty-" + j.id()));
    shift.setId("piece-shift");
    tags.setId("piece-tags");
    seed.setId("piece-seed");
    coding.setId("piece-coding");
    level.setId("piece-level");
    rate.setId("piece-rate");
    List.of(coding, level, rate).forEach(f -> f.setPrefWidth(64));
    soft.setId("piece-soft");
    upper.setId("piece-upper");
    problem.setId("piece-problem");
    workspace.pieces().wordsProperty().addListener((o, was, is) -> problem.setText(is));
    workspace.pieces().runningProperty().addListener((o, was, is) -> refill());
  }

  private static TextField field(String text, String words) {
    TextField field = new TextField(text);
    field.setAccessibleText(words);
    Hint.set(field, words);
    field.setPrefWidth(150);
    return field;
  }

  private static HBox row(String words, Node... controls) {
    Label label = Texts.of(words);
    label.setMinWidth(LABEL);
    HBox row = new HBox(10, label);
    row.getChildren().addAll(controls);
    row.setAlignment(Pos.CENTER_LEFT);
    return row;
  }

  @Override
  void fill(VBox card) {
    card.getChildren()
        .add(
            Texts.wrapped(
                "A clean recording of your own, spoilt in a way that is known: then it can be told"
                    + " how far each tool brings it back, and where it falls apart.",
                "quiet"));
    ComboBox<Job> jobs = new ComboBox<>();
    jobs.setId("piece-job");
    jobs.setAccessibleText("What tools are to do");
    jobs.getItems().setAll(Job.values());
    jobs.setConverter(Words.of(Job::title));
    jobs.setValue(job);
    jobs.setOnAction(
        e -> {
          job = jobs.getValue();
          problem.setText("");
          refill();
        });
    card.getChildren().add(row("For the job", jobs));
    if (job.inStems()) {
      stems(card);
    } else {
      card.getChildren()
          .add(
              row(
                  "Clean recording",
                  choose("piece-clean", clean, "Clean recording", f -> clean = f)));
    }
    switch (job) {
      case DENOISE -> {
        card.getChildren().add(noises());
        card.getChildren()
            .add(
                row(
                    "Signal-to-noise ratios, dB",
                    difficulties.get(job),
                    Texts.of("power over power, whole length", "quiet", "small")));
      }
      case DECLIP ->
          card.getChildren()
              .add(row("Clip levels, dB of the peak", difficulties.get(job), soft, upper));
      case DEREVERB -> {
        card.getChildren()
            .add(row("Decay times, s", difficulties.get(job), Texts.of("or", "quiet")));
        card.getChildren()
            .add(
                row(
                    "a room's impulse response",
                    choose("piece-room", room, "Impulse response", f -> room = f)));
      }
      case STRETCH -> card.getChildren().add(row("Length, there and back", shift));
      case PITCH -> card.getChildren().add(row("Semitones, there and back", shift));
      case STEMS -> {
        // Levels and pans stand beside the stems.
      }
    }
    card.getChildren()
        .add(
            row(
                "Then, if wanted",
                Texts.of("MP3, kbit/s"),
                coding,
                Texts.of("level, dB"),
                level,
                Texts.of("rate, Hz"),
                rate));
    card.getChildren().add(row("Tags for round-ups", tags));
    card.getChildren().add(row("Seed", seed));
    Button make = new Button("Make …", Icons.of(Feather.PLAY_CIRCLE));
    make.setId("piece-make");
    make.setDisable(workspace.pieces().runningProperty().get());
    make.setOnAction(e -> make());
    Button stop = new Button("Stop");
    stop.setId("piece-stop");
    stop.setVisible(workspace.pieces().runningProperty().get());
    stop.setOnAction(e -> workspace.pieces().stop());
    card.getChildren().addAll(problem, new HBox(10, make, stop));
  }

  private HBox noises() {
    ComboBox<Noise> kinds = new ComboBox<>();
    kinds.setId("piece-noise");
    kinds.setAccessibleText("Which noise");
    kinds.getItems().setAll(Noise.values());
    kinds.setConverter(Words.of(n -> n.title));
    kinds.setValue(noise);
    kinds.setOnAction(
        e -> {
          noise = kinds.getValue();
          refill();
        });
    HBox row = row("Noise", kinds);
    if (noise.ofFile()) {
      row.getChildren()
          .add(choose("piece-noise-file", noiseFile, "Recording of the noise", f -> noiseFile = f));
    }
    return row;
  }

  private Button choose(
      String id, Path now, String words, java.util.function.Consumer<Path> chosen) {
    Button button = new Button(now == null ? "Choose …" : now.getFileName().toString());
    button.setMnemonicParsing(false);
    button.setId(id);
    button.setAccessibleText(words + (now == null ? "" : ": " + now.getFileName()));
    button.setMaxWidth(300);
    button.setOnAction(
        e ->
            Choosers.audio(workspace.lastFolder(), words)
                .open(getScene().getWindow())
                .ifPresent(
                    f -> {
                      chosen.accept(f);
                      refill();
                    }));
    return button;
  }

  private void stems(VBox card) {
    Button add = new Button("Add stems …");
    add.setId("piece-stems");
    add.setOnAction(
        e -> {
          Choosers.audio(workspace.lastFolder(), "True stems")
              .openSeveral(getScene().getWindow())
              .forEach(f -> addStem(f.toPath()));
          refill();
        });
    card.getChildren().add(row("True stems", add));
    for (String role : List.copyOf(stems.keySet())) {
      PieceRecipe.StemShare share = stems.get(role);
      TextField db = field(number(share.db()), "Level of " + role + " in dB");
      db.setPrefWidth(60);
      TextField pan =
          field(share.pan() == null ? "" : number(share.pan()), "Pan of " + role + ", −1 to 1");
      pan.setPrefWidth(60);
      Runnable take =
          () ->
              stems.put(
                  role,
                  new PieceRecipe.StemShare(
                      share.file(),
                      parsed(db.getText()).orElse(0.0),
                      parsed(pan.getText()).orElse(null)));
      db.textProperty().addListener((o, was, is) -> take.run());
      pan.textProperty().addListener((o, was, is) -> take.run());
      Button away =
          Icons.button(
              Feather.X,
              "Leave out " + role,
              () -> {
                stems.remove(role);
                refill();
              });
      card.getChildren()
          .add(
              row(
                  role,
                  Texts.of(share.file().getFileName().toString(), "quiet"),
                  db,
                  Texts.of("dB, pan"),
                  pan,
                  away));
    }
  }

  private void addStem(Path file) {
    String name = FileNames.stem(file);
    String role = Roles.guess(name).orElse(name);
    for (int n = 2; stems.containsKey(role); n++) {
      role = Roles.guess(name).orElse(name) + " " + n;
    }
    stems.put(role, new PieceRecipe.StemShare(file, 0, null));
  }

  private static String number(double value) {
    return kettlesieve.core.comparison.StretchTarget.figure(value);
  }

  private static Optional<Double> parsed(String text) {
    try {
      return Optional.of(Double.parseDouble(text.trim().replace('−', '-')));
    } catch (NumberFormatException e) {
      return Optional.empty();
    }
  }

  private void make() {
    List<PieceRecipe> steps;
    try {
      steps = steps();
      for (PieceRecipe step : steps) {
        step.check();
      }
    } catch (PieceException e) {
      String words = e.getMessage();
      problem.setText(Character.toUpperCase(words.charAt(0)) + words.substring(1) + ".");
      return;
    }
    problem.setText("");
    String name = clean == null ? "mix" : FileNames.stem(clean);
    Choosers.of(workspace.lastFolder(), "Save the test piece", Choosers.COMPARISONS)
        .save(getScene().getWindow(), name + "-piece" + ComparisonFile.ENDING, null)
        .map(
            f ->
                f.toString().endsWith(ComparisonFile.ENDING)
                    ? f
                    : f.resolveSibling(f.getFileName() + ComparisonFile.ENDING))
        .ifPresent(
            out ->
                workspace
                    .pieces()
                    .make(steps, out, Tags.of(tags.getText()), further(), this::made));
  }

  private UnaryOperator<Comparison> further() {
    Double by = parsed(shift.getText()).orElse(null);
    return switch (job) {
      case STRETCH -> c -> c.withRatio(by);
      case PITCH -> c -> c.withSemitones(by);
      case DENOISE, DEREVERB, DECLIP, STEMS -> c -> c;
    };
  }

  /** One is opened; several are what a round-up is for. */
  private void made(List<Path> files) {
    hide();
    if (files.size() == 1) {
      workspace.news().done("The test piece is made: " + files.get(0).getFileName() + ".");
      open.accept(files.get(0));
    } else {
      workspace.roundups().add(files);
      workspace.roundups().showingProperty().set(true);
    }
  }

  private List<PieceRecipe> steps() throws PieceException {
    Double bits = optional(coding, "the kbit/s of the MP3 are a number");
    Double hertz = optional(rate, "the rate is a number of Hz");
    if (seed.getText().isBlank() || parsed(seed.getText()).isEmpty()) {
      throw new PieceException("the seed is a whole number");
    }
    boolean shifted = job.ownTime();
    if (shifted && parsed(shift.getText()).isEmpty()) {
      throw new PieceException("say how far it goes there and back");
    }
    PieceRecipe recipe =
        PieceRecipeBuilder.builder()
            .job(job)
            .clean(job.inStems() ? null : clean)
            .noise(job != Job.DENOISE ? null : noiseWord())
            .soft(soft.isSelected())
            .upperOnly(upper.isSelected())
            .room(job == Job.DEREVERB ? room : null)
            .coding(bits == null ? null : (Integer) bits.intValue())
            .level(optional(level, "the level is a number of dB"))
            .rate(hertz == null ? null : (Integer) hertz.intValue())
            .stems(stems)
            .seed(Math.round(parsed(seed.getText()).get()))
            .build();
    TextField field = difficulties.get(job);
    if (field == null || job == Job.DEREVERB && room != null) {
      return List.of(recipe);
    }
    List<PieceRecipe> steps = new ArrayList<>();
    for (String word : field.getText().split(",")) {
      if (word.isBlank()) {
        continue;
      }
      Optional<Double> step = parsed(word);
      if (step.isEmpty()) {
        throw new PieceException("these are to be numbers, not “" + word.strip() + "”");
      }
      steps.add(recipe.at(step.get()));
    }
    if (steps.isEmpty()) {
      throw new PieceException("give one number or more");
    }
    return steps;
  }

  /** A number, or null for an empty field. */
  private static Double optional(TextField field, String otherwise) throws PieceException {
    if (field.getText().isBlank()) {
      return null;
    }
    return parsed(field.getText()).orElseThrow(() -> new PieceException(otherwise));
  }

  private String noiseWord() throws PieceException {
    if (noise.ofFile() && noiseFile == null) {
      throw new PieceException("choose the recording whose noise is taken");
    }
    return noise.ofFile() ? noise.word + noiseFile : noise.word;
  }
}
