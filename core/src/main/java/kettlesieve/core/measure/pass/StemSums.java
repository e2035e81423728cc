package kettlesieve.core.measure.pass;

import java.util.Arrays;
import java.util.List;

/**
 * Inner products of all stems of all tools and of the mix, Re Σ a·b* over channels, frames and
 * bins, gathered by block of time and third-octave band: all that can be asked of how far stems lie
 * from each other, without the stems. Written by {@link StemSumsPass}, read-only for everybody
 * else.
 *
 * <p><b>Layout.</b> Signal 0 is the mix, then the stems tool by tool. Pairs (i, j ≤ i) lie in one
 * line, block by block and band by band, in floats: eight tools of four roles are 561 pairs, and at
 * most 240 blocks of 30 bands 16 MB, however long the recording.
 *
 * <p><b>Cost.</b> Half of the square of the number of signals per bin, in every second frame: for
 * eight tools of four roles about as much as their transforms.
 */
public final class StemSums {
  private final List<List<String>> roles;
  private final int[] first;
  private final int signals;
  private final int blocks;
  private final int bands;

  final float[] products;

  /** By signal, block and band. */
  final float[] beyond;

  final float[] quadrature;

  /** By tool, block and band. */
  final float[] together;

  /**
   * @param roles by tool
   */
  StemSums(List<List<String>> roles, int blocks, int bands) {
    this.roles = roles.stream().map(List::copyOf).toList();
    this.blocks = blocks;
    this.bands = bands;
    this.first = new int[roles.size()];
    int n = 1;
    for (int t = 0; t < first.length; t++) {
      first[t] = n;
      n += roles.get(t).size();
    }
    this.signals = n;
    this.products = new float[blocks * bands * pairs()];
    this.beyond = new float[n * blocks * bands];
    this.quadrature = new float[n * blocks * bands];
    this.together = new float[roles.size() * blocks * bands];
  }

  /** The same of some of the tools, as if the others had not been there. */
  public StemSums of(int... tools) {
    StemSums some = new StemSums(Arrays.stream(tools).mapToObj(roles::get).toList(), blocks, bands);
    int[] from = new int[some.signals];
    int n = 1;
    for (int t = 0; t < tools.length; t++) {
      for (int r = 0; r < roles.get(tools[t]).size(); r++) {
        from[n++] = first[tools[t]] + r;
      }
    }
    int places = blocks * bands;
    for (int place = 0; place < places; place++) {
      for (int i = 0; i < some.signals; i++) {
        for (int j = 0; j <= i; j++) {
          some.products[place * some.pairs() + pair(i, j)] =
              products[place * pairs() + pair(from[i], from[j])];
        }
        some.beyond[i * places + place] = beyond[from[i] * places + place];
        some.quadrature[i * places + place] = quadrature[from[i] * places + place];
      }
      for (int t = 0; t < tools.length; t++) {
        some.together[t * places + place] = together[tools[t] * places + place];
      }
    }
    return some;
  }

  static int pair(int i, int j) {
    return i >= j ? i * (i + 1) / 2 + j : j * (j + 1) / 2 + i;
  }

  int pairs() {
    return signals * (signals + 1) / 2;
  }

  /** Number of tools. */
  public int tools() {
    return roles.size();
  }

  /** What a tool gives. */
  public List<String> roles(int tool) {
    return roles.get(tool);
  }

  /** Number of a tool's stem of a role among the signals; −1 if it has none. */
  public int signal(int tool, String role) {
    int at = roles.get(tool).indexOf(role);
    return at < 0 ? -1 : first[tool] + at;
  }

  /** Number of signals, the mix among them. */
  public int signals() {
    return signals;
  }

  /** Number of blocks of time, those of the timeline. */
  public int blocks() {
    return blocks;
  }

  /** Number of third-octave bands; what lies under the lowest is in it. */
  public int bands() {
    return bands;
  }

  /** Inner product of two signals. */
  public double product(int i, int j, int block, int band) {
    return products[(block * bands + band) * pairs() + pair(i, j)];
  }

  /**
   * How much more of the mix is in phase with a stem than the stem has itself, where it is more, by
   * tiles of about 0.2 s: a mask m leaves Σ m(1 − m)|X|² there.
   */
  public double beyond(int signal, int block, int band) {
    return beyond[(signal * blocks + block) * bands + band];
  }

  /** Power of what of a stem is in quadrature to the mix: none for a mask of the same frames. */
  public double quadrature(int signal, int block, int band) {
    return quadrature[(signal * blocks + block) * bands + band];
  }

  /** The same of all stems of a tool together: true stems add up to the mix, and it cancels. */
  public double together(int tool, int block, int band) {
    return together[(tool * blocks + block) * bands + band];
  }
}
