package kettlesieve.core.report;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/**
 * JSON with every list under the key {@code spots} emptied. Most of a file of scores are the places
 * of its readings, and a round-up asks for none of them; reading past them number by number takes
 * three times as long as all the rest. A list of spots holds objects of numbers alone, so it ends
 * at the first closing bracket.
 */
final class WithoutSpots extends FilterInputStream {
  private static final byte[] KEY = {'"', 's', 'p', 'o', 't', 's', '"'};

  /** Bytes of the key that were seen; behind it 7 for the colon, 8 for the bracket. */
  private int seen;

  private boolean skipping;

  WithoutSpots(InputStream in) {
    super(in);
  }

  @Override
  public int read() throws IOException {
    byte[] one = new byte[1];
    int n = read(one, 0, 1);
    return n < 0 ? -1 : one[0] & 0xFF;
  }

  @Override
  public int read(byte[] into, int from, int length) throws IOException {
    if (length == 0) {
      return 0;
    }
    int kept = 0;
    while (kept == 0) {
      int n = in.read(into, from, length);
      if (n < 0) {
        return -1;
      }
      kept = sift(into, from, n);
    }
    return kept;
  }

  /** Moves what stays to the front; how much that is. */
  private int sift(byte[] bytes, int from, int n) {
    int to = from;
    for (int i = from; i < from + n; i++) {
      byte b = bytes[i];
      if (skipping) {
        if (b != ']') {
          continue;
        }
        skipping = false;
        seen = 0;
      } else if (seen < KEY.length) {
        seen = b == KEY[seen] ? seen + 1 : b == KEY[0] ? 1 : 0;
      } else if (b != ' ') {
        boolean colon = seen == KEY.length && b == ':';
        skipping = seen == KEY.length + 1 && b == '[';
        seen = colon ? seen + 1 : b == KEY[0] ? 1 : 0;
      }
      bytes[to++] = b;
    }
    return to - from;
  }
}
