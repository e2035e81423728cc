package kettlesieve.app.frame;

import atlantafx.base.theme.PrimerDark;
import atlantafx.base.theme.PrimerLight;
import javafx.application.Application;
import javafx.beans.value.ChangeListener;
import javafx.beans.value.WeakChangeListener;
import javafx.scene.Scene;
import javafx.scene.text.Font;
import kettlesieve.app.shared.Ink;

/** Fonts and style sheets. */
public final class Look {
  private static final String NIGHT =
      Look.class.getResource("/kettlesieve/app/night.css").toString();

  private Look() {}

  /** The text's font is that of reports, too, and lies with them. */
  private static String folder(String font) {
    return font.startsWith("SourceSans3") ? "/kettlesieve/core/fonts/" : "/kettlesieve/app/fonts/";
  }

  /** Gives a scene the application's look, and the other when it is asked for. */
  public static void apply(Scene scene) {
    for (String font :
        new String[] {
          "SourceSans3_400Regular", "SourceSans3_600SemiBold", "SourceSerif4_600SemiBold"
        }) {
      Font.loadFont(Look.class.getResourceAsStream(folder(font) + font + ".ttf"), 14);
    }
    scene.getStylesheets().add(Look.class.getResource("/kettlesieve/app/paper.css").toString());
    wear(scene, Ink.look());
    ChangeListener<Ink.Look> worn = (o, was, is) -> wear(scene, is);
    // Kept by the scene alone: one that is let go is not held by the look.
    scene.getProperties().put(Look.class, worn);
    Ink.lookProperty().addListener(new WeakChangeListener<>(worn));
  }

  private static void wear(Scene scene, Ink.Look look) {
    boolean night = look == Ink.Look.NIGHT;
    Application.setUserAgentStylesheet(
        night
            ? new PrimerDark().getUserAgentStylesheet()
            : new PrimerLight().getUserAgentStylesheet());
    scene.getStylesheets().remove(NIGHT);
    if (night) {
      scene.getStylesheets().add(NIGHT);
    }
  }
}
