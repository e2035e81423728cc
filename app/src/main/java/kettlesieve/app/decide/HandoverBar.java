package kettlesieve.app.decide;

import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBar;
import javafx.scene.control.ButtonType;
import javafx.scene.layout.HBox;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Choosers;
import kettlesieve.app.shared.Dialogs;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Icons;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.RoundsFile;
import kettlesieve.core.report.ScoresCsv;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.score.RankTests;
import kettlesieve.core.score.ScoreSheet;
import org.kordamp.ikonli.feather.Feather;

/** All that can be handed over, in one place: report, reel, matched copies, figures. */
final class HandoverBar extends HBox {
  private static final ButtonType PAGE =
      new ButtonType("Save the page …", ButtonBar.ButtonData.OK_DONE);
  private static final ButtonType PDF = new ButtonType("Save as PDF …", ButtonBar.ButtonData.OTHER);
  private static final ButtonType SAVE = new ButtonType("Save …", ButtonBar.ButtonData.OK_DONE);
  private static final ButtonType FOLDER =
      new ButtonType("Choose a folder …", ButtonBar.ButtonData.OK_DONE);
  private static final ButtonType CLOSE =
      new ButtonType("Close", ButtonBar.ButtonData.CANCEL_CLOSE);

  private final Workspace workspace;

  HandoverBar(Workspace workspace) {
    super(8);
    this.workspace = workspace;
    setId("handover");
    setAlignment(Pos.CENTER_RIGHT);
    Button report =
        button(
            "report",
            "Report …",
            Feather.FILE_TEXT,
            "One page to read, hear and check: what to use and why, readings,\n"
                + "the worst places with their sounds, how all was measured.");
    report.setOnAction(e -> report());
    Button reel =
        button(
            "reel",
            "Reel …",
            Feather.FILM,
            "Source and versions back to back at matched level, in one file,\n"
                + "with the list of pieces beside it.");
    reel.setOnAction(e -> reel());
    Button copies =
        button(
            "copies",
            "Copies …",
            Feather.COPY,
            "Source and versions one by one, whole and at matched level, as WAV\n"
                + "with a cue an excerpt: to lay under each other elsewhere.");
    copies.setOnAction(
        e ->
            Choosers.folder(workspace.lastFolder(), "A folder for the matched copies", window())
                .ifPresent(workspace.handover()::copies));
    Button sheet =
        button(
            "sheet",
            "Sheet …",
            Feather.USERS,
            "A folder for other listeners: blind copies under letters, and a page\n"
                + "that plays them and takes their answers. Drop what comes back here.");
    sheet.setOnAction(e -> sheet());
    Button answers = new Button("Answers …", Icons.of(Feather.INBOX));
    answers.setId("answers");
    Hint.set(
        answers, "Take in what came back from listeners: small files, dropped here or chosen.");
    answers.setOnAction(
        e -> {
          List<Path> files =
              Choosers.of(
                      workspace.lastFolder(),
                      "Answers to a listening sheet",
                      new FileChooser.ExtensionFilter("Answers", "*.json"))
                  .openSeveral(window())
                  .stream()
                  .map(File::toPath)
                  .toList();
          if (!files.isEmpty()) {
            workspace.handover().answers(files);
          }
        });
    getChildren()
        .addAll(
            report,
            reel,
            copies,
            sheet,
            answers,
            figures("CSV", "*.csv", ScoresCsv::write, "export-csv"),
            figures("JSON", "*.json", this::json, "export-json"));
  }

  private String json(ScoreSheet sheet) {
    Path file = workspace.document().fileProperty().get();
    return ScoresJson.write(
        sheet,
        workspace.comparison(),
        file == null ? null : file.getFileName().toString(),
        workspace.document().folder(),
        RankTests.overExcerpts(sheet));
  }

  private Window window() {
    return getScene().getWindow();
  }

  private void report() {
    ButtonType answer =
        Dialogs.panel(
            window(), "The report", new ReportPanel(workspace.handover()), PAGE, PDF, CLOSE);
    if (answer == PAGE) {
      choose("Save the report", ".html", new FileChooser.ExtensionFilter("Page", "*.html"))
          .ifPresent(workspace.handover()::report);
    } else if (answer == PDF) {
      choose("Save the report", ".pdf", new FileChooser.ExtensionFilter("PDF", "*.pdf"))
          .ifPresent(workspace.handover()::report);
    }
  }

  private void reel() {
    ReelPanel panel = new ReelPanel(workspace);
    if (Dialogs.panel(window(), "The reel", panel, SAVE, CLOSE) == SAVE) {
      choose("Save the reel", "-reel.wav", new FileChooser.ExtensionFilter("WAV", "*.wav"))
          .ifPresent(file -> workspace.handover().reel(file, panel.wish()));
    }
  }

  private void sheet() {
    Set<String> roles = workspace.listening().rolesProperty().get();
    String stem =
        workspace.listening().allRoles().isEmpty()
            ? ""
            : roles.size() == 1
                ? roles.iterator().next() + " alone, as in the bar below"
                : "all of them, as a mix; to ask about one, hear it alone in the bar below";
    SheetPanel panel = new SheetPanel(stem);
    if (Dialogs.panel(window(), "A listening sheet for others", panel, FOLDER, CLOSE) == FOLDER) {
      Choosers.folder(workspace.lastFolder(), "An empty folder for the sheet", window())
          .ifPresent(folder -> workspace.handover().sheet(folder, panel.wish()));
    }
  }

  private java.util.Optional<Path> choose(
      String title, String ending, FileChooser.ExtensionFilter kind) {
    return Choosers.of(workspace.lastFolder(), title, kind)
        .save(window(), workspace.document().plainName() + ending, workspace.document().folder());
  }

  /** A button for what can be handed over once all is measured. */
  private Button button(String id, String words, Feather icon, String tip) {
    Button button = button(workspace, words, icon, tip);
    button.setId(id);
    return button;
  }

  /** The same for other places of this step. */
  static Button button(Workspace workspace, String words, Feather icon, String tip) {
    Button button = new Button(words, Icons.of(icon));
    Hint.set(button, tip);
    button
        .disableProperty()
        .bind(
            workspace
                .sheetProperty()
                .isNull()
                .or(workspace.sourceProperty().isNull())
                .or(workspace.handover().busyProperty()));
    return button;
  }

  private Button figures(
      String form, String ending, Function<ScoreSheet, String> writer, String id) {
    return figures(form, ending, writer, id, "Export the readings and scores as " + form);
  }

  private Button figures(
      String form, String ending, Function<ScoreSheet, String> writer, String id, String title) {
    Button button = new Button(form + " …", Icons.of(Feather.DOWNLOAD));
    button.setId(id);
    Hint.set(button, title);
    button.disableProperty().bind(workspace.sheetProperty().isNull());
    button.setOnAction(
        e ->
            choose(title, ending.substring(1), new FileChooser.ExtensionFilter(form, ending))
                .ifPresent(file -> write(file, writer.apply(workspace.sheetProperty().get()))));
    return button;
  }

  /** Every trial of the blind rounds, as {@code CSV} or {@code JSON}. */
  Button trials(String form) {
    boolean csv = form.equals("CSV");
    Button button =
        figures(
            form,
            csv ? "*-rounds.csv" : "*-rounds.json",
            sheet ->
                csv
                    ? RoundsFile.csv(workspace.comparison())
                    : RoundsFile.json(workspace.comparison(), sheet),
            "rounds-" + form.toLowerCase(java.util.Locale.ROOT),
            "Export the blind rounds, trial by trial, as " + form);
    button.getStyleClass().add("small");
    return button;
  }

  private void write(Path file, String text) {
    if (workspace.comparison().files().stream().anyMatch(ref -> ref.file().equals(file))) {
      workspace
          .messageProperty()
          .set(file.getFileName() + " is one of the recordings compared. Choose another name.");
      return;
    }
    try {
      WholeFile.write(file, text);
      workspace.news().done("Exported to " + file.getFileName() + ".");
    } catch (IOException e) {
      workspace
          .messageProperty()
          .set(file + " could not be written. Check the folder and the room on the disk.");
    }
  }
}
