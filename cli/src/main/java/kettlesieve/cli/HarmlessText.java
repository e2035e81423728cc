package kettlesieve.cli;

import java.io.FilterWriter;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.Writer;

/**
 * Text that a terminal cannot take for a command: labels and messages come from files and tools of
 * others. Control characters and those that turn the direction of writing are shown as a mark.
 */
final class HarmlessText extends PrintWriter {
  private static final char MARK = '\u00B7';

  private final PrintWriter raw;

  /**
   * @param raw where the text goes
   */
  HarmlessText(PrintWriter raw) {
    super(new Filter(raw), true);
    this.raw = raw;
  }

  /** Where what is meant for programs goes, as it is. */
  static PrintWriter raw(PrintWriter out) {
    return out instanceof HarmlessText own ? own.raw : out;
  }

  private static final class Filter extends FilterWriter {
    Filter(Writer out) {
      super(out);
    }

    @Override
    public void write(int c) throws IOException {
      out.write(harmless((char) c) ? c : MARK);
    }

    @Override
    public void write(char[] text, int from, int length) throws IOException {
      char[] safe = new char[length];
      for (int i = 0; i < length; i++) {
        safe[i] = harmless(text[from + i]) ? text[from + i] : MARK;
      }
      out.write(safe, 0, length);
    }

    @Override
    public void write(String text, int from, int length) throws IOException {
      write(text.toCharArray(), from, length);
    }
  }

  private static boolean harmless(char c) {
    boolean turns = c >= 0x202A && c <= 0x202E || c >= 0x2066 && c <= 0x2069;
    return !turns && (!Character.isISOControl(c) || c == '\n' || c == '\t');
  }
}
