package kettlesieve.core.report;

import java.awt.Font;
import java.awt.FontFormatException;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Set;
import java.util.TreeSet;

/**
 * What the font of the PDF can show: signs that it has not are replaced, and said at the end.
 * Nothing may simply vanish from a page that is handed over.
 */
final class PrintableText {
  private static final String INSTEAD = "\u25A1";
  private static final Font FONT = font();
  private static final int MOST_NAMED = 12;

  private PrintableText() {}

  private static Font font() {
    try (InputStream in =
        PrintableText.class.getResourceAsStream(
            "/kettlesieve/core/fonts/SourceSans3_400Regular.ttf")) {
      return Font.createFont(Font.TRUETYPE_FONT, in);
    } catch (IOException e) {
      throw new UncheckedIOException("the font of reports cannot be read", e);
    } catch (FontFormatException e) {
      throw new IllegalStateException("the font of reports is broken", e);
    }
  }

  /** The page with what cannot be shown replaced. */
  static String of(String page) {
    Set<String> missing = new TreeSet<>();
    StringBuilder text = new StringBuilder(page.length());
    page.codePoints()
        .forEach(
            c -> {
              if (c < 0x80 || FONT.canDisplay(c)) {
                text.appendCodePoint(c);
              } else {
                missing.add(String.format("U+%04X", c));
                text.append(INSTEAD);
              }
            });
    if (missing.isEmpty()) {
      return text.toString();
    }
    String said =
        "<p class=\"quiet\">Signs that the font of this file has not, shown as a box: "
            + String.join(", ", missing.stream().limit(MOST_NAMED).toList())
            + (missing.size() > MOST_NAMED ? " and " + (missing.size() - MOST_NAMED) + " more" : "")
            + ". The HTML page shows them.</p>";
    return text.toString().replace("</body>", said + "</body>");
  }
}
