package kettlesieve.app.gather;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicBoolean;
import javafx.application.Platform;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Numbers;
import kettlesieve.app.shared.Texts;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.Recording;
import kettlesieve.core.media.UserFolders;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.signal.Audio;

/** Makes versions here with a stand-in, over a list of amounts. */
final class MakePanel extends VBox {
  private final Workspace workspace;
  private final ComboBox<StandIn> tool = new ComboBox<>();
  private final TextField amounts = new TextField("40");
  private final Button make = new Button("Make");
  private final Label status = Texts.of("", "quiet", "small");
  private final AtomicBoolean cancelled = new AtomicBoolean();
  private boolean running;

  MakePanel(Workspace workspace) {
    this.workspace = workspace;
    getStyleClass().add("card");
    tool.getItems().setAll(StandIn.ALL);
    tool.setConverter(
        new StringConverter<>() {
          @Override
          public String toString(StandIn s) {
            return s == null ? "" : s.title();
          }

          @Override
          public StandIn fromString(String text) {
            throw new UnsupportedOperationException();
          }
        });
    tool.setValue(StandIn.ALL.get(0));
    tool.setAccessibleText("Stand-in");
    tool.setId("make-tool");
    Label about = Texts.wrapped("", "quiet", "small");
    about
        .textProperty()
        .bind(
            javafx.beans.binding.Bindings.createStringBinding(
                () -> tool.getValue().description(), tool.valueProperty()));
    amounts.setPrefWidth(110);
    amounts.setId("make-amounts");
    amounts.setAccessibleText("Amounts, 0 to 100, separated by commas");
    amounts.setTooltip(new Tooltip("Amounts from 0 to 100, separated by commas"));
    make.setId("make");
    make.setOnAction(e -> pressed());
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox line =
        new HBox(
            8,
            Texts.of("Make a version here", "strong"),
            tool,
            Texts.of("at amounts"),
            amounts,
            make,
            status,
            gap);
    line.setStyle("-fx-alignment: center-left;");
    getChildren().addAll(line, about);
  }

  private void pressed() {
    if (running) {
      cancelled.set(true);
      return;
    }
    Recording source = workspace.sourceProperty().get();
    if (source == null) {
      status.setText("The source is not ready yet.");
      return;
    }
    List<Double> list = new ArrayList<>();
    for (String part : amounts.getText().split("[,;\\s]+")) {
      try {
        double amount = Double.parseDouble(part);
        if (amount >= 0 && amount <= 100) {
          list.add(amount);
          continue;
        }
      } catch (NumberFormatException e) {
        // Said below.
      }
      status.setText("Amounts are numbers from 0 to 100, such as 30, 60, 90.");
      return;
    }
    start(source, tool.getValue(), list);
  }

  private void start(Recording source, StandIn standIn, List<Double> list) {
    running = true;
    cancelled.set(false);
    make.setText("Cancel");
    Path folder = folder();
    Thread thread =
        new Thread(
            () -> {
              String outcome = "Done.";
              try {
                Files.createDirectories(folder);
                for (double amount : list) {
                  one(source, standIn, amount, folder);
                }
              } catch (CancellationException e) {
                outcome = "Cancelled; what was finished stays.";
              } catch (IOException e) {
                outcome = "Could not write to " + folder + ": check the room on the disk.";
              } catch (IllegalArgumentException e) {
                outcome = e.getMessage();
              }
              String text = outcome;
              Platform.runLater(
                  () -> {
                    running = false;
                    make.setText("Make");
                    status.setText(text);
                  });
            },
            "stand-in");
    thread.setDaemon(true);
    thread.start();
  }

  private void one(Recording source, StandIn standIn, double amount, Path folder)
      throws IOException {
    String name = Numbers.fixed(amount, amount == Math.rint(amount) ? 0 : 1);
    Audio made =
        standIn.process(
            source.audio(),
            amount,
            (what, share) -> {
              if (cancelled.get()) {
                throw new CancellationException();
              }
              Platform.runLater(
                  () -> status.setText("amount " + name + ": " + Math.round(100 * share) + " %"));
            });
    String stem = source.file().getFileName().toString().replaceAll("\\.[^.]*$", "");
    Path file = free(folder, stem + "-" + standIn.id() + "-" + name);
    WavWriter.write(made, file, WavWriter.Format.FLOAT, (what, share) -> {});
    Platform.runLater(
        () ->
            workspace.edit(
                c ->
                    c.plus(
                        Version.of(c.freshId(), standIn.title() + " " + name, MediaRef.of(file))
                            .withTool(standIn.title())
                            .withAmount(amount))));
  }

  private static Path free(Path folder, String name) {
    Path file = folder.resolve(name + ".wav");
    for (int n = 2; Files.exists(file); n++) {
      file = folder.resolve(name + "-" + n + ".wav");
    }
    return file;
  }

  /** Beside the comparison; as long as it is not saved, in the program's own folder. */
  private Path folder() {
    Path file = workspace.fileProperty().get();
    return file != null
        ? file.toAbsolutePath().getParent().resolve("made-here")
        : UserFolders.state().resolve("made-here");
  }
}
