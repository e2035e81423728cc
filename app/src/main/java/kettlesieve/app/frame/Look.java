package kettlesieve.app.frame;

import atlantafx.base.theme.PrimerLight;
import javafx.application.Application;
import javafx.scene.Scene;
import javafx.scene.text.Font;

/** Fonts and style sheets. */
public final class Look {
  private Look() {}

  /** The text's font is that of reports, too, and lies with them. */
  private static String folder(String font) {
    return font.startsWith("SourceSans3") ? "/kettlesieve/core/fonts/" : "/kettlesieve/app/fonts/";
  }

  /** Gives a scene the application's look. */
  public static void apply(Scene scene) {
    for (String font :
        new String[] {
          "SourceSans3_400Regular", "SourceSans3_600SemiBold", "SourceSerif4_600SemiBold"
        }) {
      Font.loadFont(Look.class.getResourceAsStream(folder(font) + font + ".ttf"), 14);
    }
    Application.setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
    scene.getStylesheets().add(Look.class.getResource("/kettlesieve/app/paper.css").toString());
  }
}
