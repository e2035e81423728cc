package kettlesieve.core.report;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Set;
import java.util.TreeSet;
import org.apache.fontbox.ttf.CmapLookup;
import org.apache.fontbox.ttf.TTFParser;
import org.apache.pdfbox.io.RandomAccessReadBuffer;

/**
 * What the font of the PDF can show: signs that it has not are replaced, and said at the end.
 * Nothing may simply vanish from a page that is handed over.
 */
final class PrintableText {
  private static final String INSTEAD = "\u25A1";
  private static final CmapLookup GLYPHS = glyphs();
  private static final int MOST_NAMED = 12;

  private PrintableText() {}

  private static CmapLookup glyphs() {
    try (InputStream in =
        PrintableText.class.getResourceAsStream(
            "/kettlesieve/core/fonts/SourceSans3_400Regular.ttf")) {
      return new TTFParser().parse(new RandomAccessReadBuffer(in)).getUnicodeCmapLookup();
    } catch (IOException e) {
      throw new UncheckedIOException("the font of reports cannot be read", e);
    }
  }

  /** The page with what cannot be shown replaced. */
  static String of(String page) {
    Set<String> missing = new TreeSet<>();
    StringBuilder text = new StringBuilder(page.length());
    page.codePoints()
        .forEach(
            c -> {
              if (c < 0x80 || GLYPHS.getGlyphId(c) != 0) {
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
