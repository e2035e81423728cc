package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** What the font of the PDF has not does not vanish. */
class PrintableTextTest {
  @Test
  void whatTheFontHasStaysAsItIs() {
    String page = "<body>Größe − “Wörter” ≤ 3 dB · Ωμέγα ČŠŽ</body>";
    assertThat(PrintableText.of(page)).isEqualTo(page);
  }

  @Test
  void whatItHasNotIsABoxAndNamed() {
    String page = PrintableText.of("<body>灯 x 台</body>");
    assertThat(page).startsWith("<body>\u25A1 x \u25A1<p").contains("U+53F0, U+706F");
    assertThat(page).endsWith("</body>");
  }

  @Test
  void manyAreCounted() {
    StringBuilder many = new StringBuilder("<body>");
    for (int i = 0; i < 40; i++) {
      many.appendCodePoint(0x4E00 + i);
    }
    assertThat(PrintableText.of(many + "</body>")).contains("and 28 more");
  }
}
