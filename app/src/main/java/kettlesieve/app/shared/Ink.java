package kettlesieve.app.shared;

import java.util.function.Supplier;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.ObjectBinding;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.scene.paint.Color;
import javafx.scene.paint.Paint;
import kettlesieve.core.measure.Axis;

/**
 * The colours that drawings use; the same as in the style sheets. There are two looks, and one is
 * on. It is changed on the interface thread; whoever draws on another is told which look it draws
 * for.
 */
public final class Ink {
  /** Looks of the window. */
  public enum Look {
    /** Ink on paper. */
    DAY(
        "#F7F4EE #FFFFFF #D9D3C7 #1E2A32 #5C6665 #0E6B6B #A8321E #8A5A00 #7A3E9D #1F5FA8"
            + " #ECE7DC #9A927F"),
    /** Lamplight on ink. */
    NIGHT(
        "#12191F #1A232A #3A4650 #F0E7D6 #A9B0AC #5CC8BE #FF9478 #E2AC52 #CDA2EE #82B8F5"
            + " #26313A #7F8A8E");

    private final Color[] colors;

    Look(String list) {
      String[] parts = list.split(" ");
      colors = new Color[parts.length];
      for (int i = 0; i < parts.length; i++) {
        colors[i] = Color.web(parts[i]);
      }
    }

    /** The ground of the window. */
    public Color paper() {
      return colors[0];
    }

    /** The ground of what lies on it. */
    public Color panel() {
      return colors[1];
    }

    public Color rule() {
      return colors[2];
    }

    /** Of words and signs. */
    public Color ink() {
      return colors[3];
    }

    /** Of words beside. */
    public Color quiet() {
      return colors[4];
    }

    public Color action() {
      return colors[5];
    }

    public Color warning() {
      return colors[6];
    }

    /** The colour of an axis; always shown with its word or sign. */
    public Color of(Axis axis) {
      return switch (axis) {
        case MISSED -> colors[7];
        case ADDED -> colors[8];
        case LOST -> colors[9];
        case INFO -> quiet();
      };
    }

    /** Of the lines behind a plot. */
    public Color grid() {
      return colors[10];
    }

    /** Of lines that join, and of what lies far back. */
    public Color faint() {
      return colors[11];
    }

    /**
     * For a spectrogram, as 0xAARRGGBB: 0 is the ground, 1 deep ink by day and full light by night;
     * lightness goes strictly one way with the level.
     */
    public int shade(double share) {
      double s = Math.max(0, Math.min(1, share));
      if (this == DAY) {
        return between(paper(), DEEP, Math.pow(s, 1.35));
      }
      return s < EMBER_AT
          ? between(paper(), EMBER, s / EMBER_AT)
          : between(EMBER, LIGHT, (s - EMBER_AT) / (1 - EMBER_AT));
    }

    /**
     * A gain in the change map, as 0xAARRGGBB: the ground where nothing changed, blue where
     * something was taken out, violet where something was put in; full from 30 dB on.
     */
    public int change(double gainDb) {
      double s = Math.min(1, Math.max(0, Math.abs(gainDb) - 1.5) / 28);
      Color full =
          this == DAY
              ? gainDb < 0 ? Color.web("#12488C") : Color.web("#6B2290")
              : gainDb < 0 ? Color.web("#86C0FF") : Color.web("#DCA0FF");
      return between(paper(), full, Math.pow(s, 0.8));
    }

    /** Black or white, whichever is read better on a colour. */
    public static Color on(Color ground) {
      double light = 0.2126 * linear(ground.getRed()) + 0.7152 * linear(ground.getGreen());
      light += 0.0722 * linear(ground.getBlue());
      // Where both have the same contrast, 4.58, after WCAG 2.1.
      return light > 0.179 ? Color.BLACK : Color.WHITE;
    }

    private static double linear(double part) {
      return part <= 0.04045 ? part / 12.92 : Math.pow((part + 0.055) / 1.055, 2.4);
    }

    private static int between(Color from, Color to, double share) {
      Color c = from.interpolate(to, share);
      return 0xff000000
          | (int) Math.round(255 * c.getRed()) << 16
          | (int) Math.round(255 * c.getGreen()) << 8
          | (int) Math.round(255 * c.getBlue());
    }
  }

  private static final Color DEEP = Color.web("#0E1C2A");
  private static final Color EMBER = Color.web("#A8621F");
  private static final Color LIGHT = Color.web("#FFF3D6");
  private static final double EMBER_AT = 0.6;

  private static final ReadOnlyObjectWrapper<Look> LOOK = new ReadOnlyObjectWrapper<>(Look.DAY);

  private Ink() {}

  /** The look that is on. */
  public static ReadOnlyObjectProperty<Look> lookProperty() {
    return LOOK.getReadOnlyProperty();
  }

  /** The look that is on. */
  public static Look look() {
    return LOOK.get();
  }

  /** Puts a look on; whatever is drawn draws itself again. */
  public static void wear(Look look) {
    LOOK.set(look);
  }

  public static Color paper() {
    return look().paper();
  }

  public static Color panel() {
    return look().panel();
  }

  public static Color rule() {
    return look().rule();
  }

  public static Color ink() {
    return look().ink();
  }

  public static Color quiet() {
    return look().quiet();
  }

  public static Color action() {
    return look().action();
  }

  public static Color warning() {
    return look().warning();
  }

  public static Color grid() {
    return look().grid();
  }

  public static Color faint() {
    return look().faint();
  }

  /** The colour of an axis; always shown with its word or sign. */
  public static Color of(Axis axis) {
    return look().of(axis);
  }

  /** A colour of the look that is on, for what is set once and stays. */
  public static ObjectBinding<Paint> bound(Supplier<Color> color) {
    return Bindings.createObjectBinding(color::get, LOOK);
  }

  /** A colour that lets what is behind show through. */
  public static Color veil(Color color, double opacity) {
    return color.deriveColor(0, 1, 1, opacity);
  }
}
