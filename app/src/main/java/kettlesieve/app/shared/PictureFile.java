package kettlesieve.app.shared;

import java.awt.image.BufferedImage;
import java.io.File;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Node;
import javafx.scene.SnapshotParameters;
import javafx.scene.control.ButtonType;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.DataFormat;
import javafx.scene.transform.Transform;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import javax.imageio.ImageIO;
import kettlesieve.core.media.WholeFile;

/** Hands on what is drawn, as PNG or SVG, to a file or the clipboard. */
public final class PictureFile {
  private static final DataFormat SVG = format();

  private static DataFormat format() {
    DataFormat known = DataFormat.lookupMimeType("image/svg+xml");
    return known == null ? new DataFormat("image/svg+xml") : known;
  }

  /** Where the last picture went; pictures are kept together. */
  private static File last;

  private PictureFile() {}

  /** Puts a drawing on the clipboard, at twice its size on the screen. */
  static void copy(Node drawing) {
    ClipboardContent content = new ClipboardContent();
    content.putImage(drawing.snapshot(twice(), null));
    Clipboard.getSystemClipboard().setContent(content);
  }

  /**
   * Puts a vector picture on the clipboard, as what it is and as text for whoever knows no better.
   */
  static void copySvg(String svg) {
    ClipboardContent content = new ClipboardContent();
    content.put(SVG, ByteBuffer.wrap(svg.getBytes(StandardCharsets.UTF_8)));
    content.putString(svg);
    Clipboard.getSystemClipboard().setContent(content);
  }

  private static SnapshotParameters twice() {
    SnapshotParameters twice = new SnapshotParameters();
    twice.setTransform(Transform.scale(2, 2));
    return twice;
  }

  /** Asks for a file and saves a drawing there: as SVG, or as PNG at twice its size here. */
  static void choose(CanvasPane drawing) {
    FileChooser chooser = new FileChooser();
    chooser.setTitle("Save as a picture");
    chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("PNG", "*.png"));
    chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("SVG", "*.svg"));
    chooser.setInitialFileName("picture.png");
    if (last != null && last.isDirectory()) {
      chooser.setInitialDirectory(last);
    }
    Window owner = drawing.getScene().getWindow();
    File file = chooser.showSaveDialog(owner);
    if (file != null) {
      last = file.getAbsoluteFile().getParentFile();
      try {
        if (file.getName().toLowerCase(java.util.Locale.ROOT).endsWith(".svg")) {
          WholeFile.write(file.toPath(), drawing.svg());
        } else {
          write(drawing.snapshot(twice(), null), file.toPath());
        }
      } catch (IOException e) {
        Dialogs.ask(
            owner,
            "The picture was not saved",
            file + " could not be written. Check the folder and the room on the disk.",
            ButtonType.OK);
      }
    }
  }

  /** Writes an image as PNG. */
  public static void write(WritableImage image, Path file) throws IOException {
    int width = (int) image.getWidth();
    int height = (int) image.getHeight();
    BufferedImage copy = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    PixelReader pixels = image.getPixelReader();
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        copy.setRGB(x, y, pixels.getArgb(x, y));
      }
    }
    if (file.toAbsolutePath().getParent() != null) {
      Files.createDirectories(file.toAbsolutePath().getParent());
    }
    WholeFile.write(
        file,
        out -> {
          if (!ImageIO.write(copy, "png", out)) {
            throw new IOException("no writer for PNG");
          }
        });
  }
}
