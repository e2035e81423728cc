package kettlesieve.app.frame;

import java.io.IOException;
import java.io.Reader;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.geometry.Rectangle2D;
import javafx.stage.Screen;
import javafx.stage.Stage;
import kettlesieve.app.shared.Ink;
import kettlesieve.core.comparison.FrameRate;
import kettlesieve.core.comparison.TimeFormat;
import kettlesieve.core.media.WholeFile;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What is remembered from one start to the next: the window's place and recent comparisons. */
public final class Preferences {
  private static final Logger LOG = LoggerFactory.getLogger(Preferences.class);
  private static final int MOST_RECENT = 8;

  /** Sizes that can be chosen, in percent. */
  public static final List<Integer> SIZES = List.of(100, 125, 150);

  private final Path file;
  private final Properties values = new Properties();
  private final ReadOnlyIntegerWrapper size = new ReadOnlyIntegerWrapper(100);

  public Preferences(Path folder) {
    this.file = folder.resolve("window.properties");
    if (Files.exists(file)) {
      try (Reader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
        values.load(in);
      } catch (IOException | IllegalArgumentException e) {
        LOG.warn("the remembered settings cannot be read; starting without", e);
      }
    }
    size.set(keptSize());
  }

  /** Puts a window where it was, if that is on a screen. */
  public void place(Stage stage) {
    try {
      double x = Double.parseDouble(values.getProperty("x", ""));
      double y = Double.parseDouble(values.getProperty("y", ""));
      double width = Double.parseDouble(values.getProperty("width", ""));
      double height = Double.parseDouble(values.getProperty("height", ""));
      Rectangle2D kept = new Rectangle2D(x, y, width, height);
      List<Screen> on = Screen.getScreensForRectangle(kept);
      if (!on.isEmpty()) {
        Rectangle2D place = within(kept, on.get(0).getVisualBounds());
        stage.setX(place.getMinX());
        stage.setY(place.getMinY());
        stage.setWidth(place.getWidth());
        stage.setHeight(place.getHeight());
        stage.setMaximized(Boolean.parseBoolean(values.getProperty("maximized")));
      }
    } catch (NumberFormatException e) {
      LOG.debug("no window place is remembered");
    }
  }

  /** A window's place moved, and made smaller if need be, so that nothing of it hangs over. */
  public static Rectangle2D within(Rectangle2D window, Rectangle2D room) {
    double width = Math.min(window.getWidth(), room.getWidth());
    double height = Math.min(window.getHeight(), room.getHeight());
    double x = Math.max(room.getMinX(), Math.min(window.getMinX(), room.getMaxX() - width));
    double y = Math.max(room.getMinY(), Math.min(window.getMinY(), room.getMaxY() - height));
    return new Rectangle2D(x, y, width, height);
  }

  /** Remembers where a window is. */
  public void remember(Stage stage) {
    values.setProperty("maximized", Boolean.toString(stage.isMaximized()));
    if (stage.isMaximized()) {
      // Its place when it is not maximised again stays what it was.
      store();
      return;
    }
    values.setProperty("x", Double.toString(stage.getX()));
    values.setProperty("y", Double.toString(stage.getY()));
    values.setProperty("width", Double.toString(stage.getWidth()));
    values.setProperty("height", Double.toString(stage.getHeight()));
    store();
  }

  /** Comparisons that were opened or saved last, the newest first. */
  public List<Path> recent() {
    List<Path> paths = new ArrayList<>();
    for (int i = 0; i < MOST_RECENT; i++) {
      String path = values.getProperty("recent" + i);
      if (path != null) {
        paths.add(Path.of(path));
      }
    }
    return paths;
  }

  /** Puts a comparison at the head of the recent ones. */
  public void used(Path path) {
    List<Path> paths = new ArrayList<>(recent());
    Path absolute = path.toAbsolutePath();
    paths.remove(absolute);
    paths.add(0, absolute);
    for (int i = 0; i < Math.min(MOST_RECENT, paths.size()); i++) {
      values.setProperty("recent" + i, paths.get(i).toString());
    }
    store();
  }

  /** Name of the sound device a person chose; null for the system's choice. */
  public String device() {
    return values.getProperty("device");
  }

  /** Remembers the sound device; null for the system's choice. */
  public void useDevice(String name) {
    if (name == null) {
      values.remove("device");
    } else {
      values.setProperty("device", name);
    }
    store();
  }

  /** The look of the window. */
  public Ink.Look look() {
    return "night".equals(values.getProperty("look")) ? Ink.Look.NIGHT : Ink.Look.DAY;
  }

  /** Puts a look on and remembers it. */
  public void useLook(Ink.Look look) {
    values.setProperty("look", look == Ink.Look.NIGHT ? "night" : "day");
    store();
    Ink.wear(look);
  }

  /** How large everything is drawn, in percent. */
  public ReadOnlyIntegerProperty sizeProperty() {
    return size.getReadOnlyProperty();
  }

  /** Draws everything at one of {@link #SIZES}, and remembers it. */
  public void useSize(int percent) {
    values.setProperty("size", Integer.toString(percent));
    store();
    size.set(percent);
  }

  private int keptSize() {
    String kept = values.getProperty("size", "");
    return SIZES.stream().filter(s -> kept.equals(s.toString())).findFirst().orElse(100);
  }

  /** How times are told in a comparison that is begun; its own start never goes along. */
  public TimeFormat times() {
    try {
      String rate = values.getProperty("frame-rate");
      return new TimeFormat(
          TimeFormat.As.valueOf(values.getProperty("times", TimeFormat.As.MINUTES.name())),
          rate == null ? null : FrameRate.of(rate),
          null);
    } catch (IllegalArgumentException e) {
      LOG.debug("no way of telling times is remembered", e);
      return TimeFormat.PLAIN;
    }
  }

  /** As a comparison holds it: nothing for what is told anyhow. */
  static TimeFormat told(TimeFormat times) {
    return times.equals(TimeFormat.PLAIN) ? null : times;
  }

  /** Remembers how times are told, for comparisons that are begun later. */
  public void useTimes(TimeFormat times) {
    values.setProperty("times", times.as().name());
    if (times.rate() != null) {
      values.setProperty("frame-rate", times.rate().title());
    }
    store();
  }

  private void store() {
    try {
      Files.createDirectories(file.getParent());
      StringWriter text = new StringWriter();
      values.store(text, null);
      WholeFile.write(file, text.toString());
    } catch (IOException e) {
      LOG.warn("settings cannot be remembered", e);
    }
  }
}
