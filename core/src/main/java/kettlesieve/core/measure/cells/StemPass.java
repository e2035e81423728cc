package kettlesieve.core.measure.cells;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.match.CellMask;
import kettlesieve.core.match.RoleCells;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.Stop;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * One pass over the spectra of a mix and of the stems of one version together: what each stem holds
 * in the cells of each role, gathered by slot of time and third-octave band, and what the stems
 * leave of the mix.
 */
public final class StemPass {
  private static final int TILE = 64;
  private static final int LAG = 2;

  private final List<String> roles;
  private final List<String> owners;
  private final SourceAnalysis source;
  private final int bands;
  private final int delivered;

  /** By stem, owner, slot and band: real part of stem times conjugate mix, and the stem's power. */
  private final float[][][] cross;

  private final float[][][] energy;

  /** By owner, slot and band: power of the mix, and number of cells. */
  private final float[][] mix;

  private final float[][] cells;

  /** By slot and band: power of the mix in all cells, and of what the stems leave of it. */
  private final float[] whole;

  private final float[] residual;

  /** By owner: power of the mix in its cells, and of what the stems leave of it there. */
  private final double[] owned;

  private final double[] ownedLeft;

  /** By stem and frame, in the stem's own cells: power of the mix and of the stem, and cells. */
  private final float[][] before;

  private final float[][] after;
  private final float[][] count;

  /** By stem and frame, in its own cells: how amplitudes rise in the mix and in the stem. */
  private final float[][] riseBefore;

  private final float[][] riseAfter;

  /** By stem and slot, in its own cells of two channels: middle and side of mix and stem. */
  private final float[][][] width;

  /** The same by band, over all slots. */
  private final double[][][] widthOfBand;

  /** By block and bin: power of the mix; by stem the same of each stem. */
  private final float[][] mixBins;

  private final float[][][] stemBins;

  /** Gathers all of a set. */
  public StemPass(StemSet set, Stop stop) {
    this.source = set.source();
    this.roles = new ArrayList<>(set.stems().parts().keySet());
    this.delivered = set.stems().stems().size();
    // A step may stand before several stems; it is gathered once.
    Map<String, Audio> steps = new LinkedHashMap<>();
    set.stems()
        .chains()
        .values()
        .forEach(chain -> chain.forEach(s -> steps.putIfAbsent(s.words(), set.step(s))));
    this.roles.addAll(steps.keySet());
    this.owners = set.cells().owners();
    this.bands = source.bands().count();
    int slots = source.timeline().slots();
    int frames = source.timeline().frames();
    cross = new float[roles.size()][owners.size()][slots * bands];
    energy = new float[roles.size()][owners.size()][slots * bands];
    mix = new float[owners.size()][slots * bands];
    cells = new float[owners.size()][slots * bands];
    whole = new float[slots * bands];
    residual = new float[slots * bands];
    owned = new double[owners.size()];
    ownedLeft = new double[owners.size()];
    before = new float[roles.size()][frames];
    after = new float[roles.size()][frames];
    count = new float[roles.size()][frames];
    riseBefore = new float[roles.size()][frames];
    riseAfter = new float[roles.size()][frames];
    width = new float[roles.size()][slots][4];
    widthOfBand = new double[roles.size()][bands][4];
    int blocks = source.timeline().blocks();
    int bins = source.source().framing().bins();
    mixBins = new float[blocks][bins];
    stemBins = new float[roles.size()][blocks][bins];
    gather(set, steps, stop);
  }

  private void gather(StemSet set, Map<String, Audio> steps, Stop stop) {
    Framing framing = source.source().framing();
    List<Spectrogram> mixture = spectra(set.mix());
    List<List<Spectrogram>> stems = new ArrayList<>();
    set.stems().parts().keySet().forEach(r -> stems.add(spectra(set.stem(r))));
    steps.values().forEach(s -> stems.add(spectra(s)));
    RoleCells told = set.cells();
    CellMask[] masks = owners.stream().map(told::cells).toArray(CellMask[]::new);
    int[] own = roles.stream().mapToInt(owners::indexOf).toArray();
    float[][][] ringBefore = new float[roles.size()][LAG + 1][bands];
    float[][][] ringAfter = new float[roles.size()][LAG + 1][bands];
    for (int first = 0; first < framing.count(); first += TILE) {
      stop.check();
      int n = Math.min(TILE, framing.count() - first);
      float[][][] x = coefficients(mixture, first, n);
      float[][][][] s = new float[roles.size()][][][];
      for (int r = 0; r < s.length; r++) {
        s[r] = coefficients(stems.get(r), first, n);
      }
      for (int t = 0; t < n; t++) {
        frame(first + t, t, x, s, masks, own, ringBefore, ringAfter);
      }
    }
  }

  private static List<Spectrogram> spectra(Audio audio) {
    return kettlesieve.core.match.SourceMaterial.spectra(audio);
  }

  private static float[][][] coefficients(List<Spectrogram> channels, int first, int n) {
    float[][][] all = new float[channels.size()][][];
    for (int c = 0; c < all.length; c++) {
      all[c] = channels.get(c).coefficients(first, n);
    }
    return all;
  }

  private void frame(
      int frame,
      int t,
      float[][][] x,
      float[][][][] s,
      CellMask[] masks,
      int[] own,
      float[][][] ringBefore,
      float[][][] ringAfter) {
    ThirdOctaveBands third = source.bands();
    int slot = source.timeline().slot(frame);
    int channels = x.length;
    int now = frame % (LAG + 1);
    for (int r = 0; r < roles.size(); r++) {
      java.util.Arrays.fill(ringBefore[r][now], 0);
      java.util.Arrays.fill(ringAfter[r][now], 0);
    }
    for (int k = 1; k < x[0][t].length / 2; k++) {
      int band = third.ofBin(k);
      if (band < 0) {
        continue;
      }
      int at = slot * bands + band;
      int block = source.timeline().block(frame);
      float power = 0;
      float left = 0;
      for (int c = 0; c < channels; c++) {
        float re = x[c][t][2 * k];
        float im = x[c][t][2 * k + 1];
        power += re * re + im * im;
        // What was formed of the stems is in them already.
        for (int r = 0; r < delivered; r++) {
          re -= s[r][c][t][2 * k];
          im -= s[r][c][t][2 * k + 1];
        }
        left += re * re + im * im;
      }
      whole[at] += power;
      residual[at] += left;
      mixBins[block][k] += power;
      for (int r = 0; r < s.length; r++) {
        for (float[][] channel : s[r]) {
          float re = channel[t][2 * k];
          float im = channel[t][2 * k + 1];
          stemBins[r][block][k] += re * re + im * im;
        }
      }
      for (int o = 0; o < masks.length; o++) {
        if (!masks[o].has(frame, k)) {
          continue;
        }
        mix[o][at] += power;
        cells[o][at]++;
        owned[o] += power;
        ownedLeft[o] += left;
        for (int r = 0; r < s.length; r++) {
          float real = 0;
          float e = 0;
          for (int c = 0; c < channels; c++) {
            float re = s[r][c][t][2 * k];
            float im = s[r][c][t][2 * k + 1];
            real += re * x[c][t][2 * k] + im * x[c][t][2 * k + 1];
            e += re * re + im * im;
          }
          cross[r][o][at] += real;
          energy[r][o][at] += e;
          if (own[r] == o) {
            before[r][frame] += power;
            after[r][frame] += e;
            count[r][frame]++;
            ringBefore[r][now][band] += power;
            ringAfter[r][now][band] += e;
            if (channels == 2) {
              widen(width[r][slot], widthOfBand[r][band], x, s[r], t, k);
            }
          }
        }
      }
    }
    int then = (frame + 1) % (LAG + 1);
    for (int r = 0; r < roles.size() && frame >= LAG; r++) {
      riseBefore[r][frame] = rise(ringBefore[r][then], ringBefore[r][now]);
      riseAfter[r][frame] = rise(ringAfter[r][then], ringAfter[r][now]);
    }
  }

  private static float rise(float[] then, float[] now) {
    double sum = 0;
    for (int b = 0; b < now.length; b++) {
      sum += Math.max(0, Math.sqrt(now[b]) - Math.sqrt(then[b]));
    }
    return (float) sum;
  }

  private static void widen(float[] to, double[] band, float[][][] x, float[][][] s, int t, int k) {
    for (int i = 2 * k; i <= 2 * k + 1; i++) {
      float middle = x[0][t][i] + x[1][t][i];
      float side = x[0][t][i] - x[1][t][i];
      to[0] += middle * middle;
      to[1] += side * side;
      band[0] += middle * middle;
      band[1] += side * side;
      middle = s[0][t][i] + s[1][t][i];
      side = s[0][t][i] - s[1][t][i];
      to[2] += middle * middle;
      to[3] += side * side;
      band[2] += middle * middle;
      band[3] += side * side;
    }
  }

  /** How frames are gathered. */
  public Timeline timeline() {
    return source.timeline();
  }

  public int bands() {
    return bands;
  }

  public int role(String role) {
    return roles.indexOf(role);
  }

  public int owner(String role) {
    return owners.indexOf(role);
  }

  /** Real part of stem times conjugate mix in a role's cells of a slot and band. */
  public double cross(int role, int owner, int slot, int band) {
    return cross[role][owner][slot * bands + band];
  }

  /** Power of a stem in a role's cells. */
  public double energy(int role, int owner, int slot, int band) {
    return energy[role][owner][slot * bands + band];
  }

  /** Power of the mix in a role's cells. */
  public double mix(int owner, int slot, int band) {
    return mix[owner][slot * bands + band];
  }

  /** Power of the mix in a bin of a block, all its frames together. */
  public double mixBin(int block, int bin) {
    return mixBins[block][bin];
  }

  /** Power of a stem there. */
  public double stemBin(int role, int block, int bin) {
    return stemBins[role][block][bin];
  }

  /** Number of a role's cells. */
  public double cells(int owner, int slot, int band) {
    return cells[owner][slot * bands + band];
  }

  /** Power of the mix in all cells. */
  public double whole(int slot, int band) {
    return whole[slot * bands + band];
  }

  /** Power of what the stems leave of the mix. */
  public double residual(int slot, int band) {
    return residual[slot * bands + band];
  }

  /** What the stems leave of the mix in a role's cells, as a share of its power; NaN for none. */
  public double leftOf(int owner) {
    return owned[owner] > 0 ? ownedLeft[owner] / owned[owner] : Double.NaN;
  }

  /** Power of the mix in a stem's own cells of a frame. */
  public double before(int role, int frame) {
    return before[role][frame];
  }

  /** Power of the stem there. */
  public double after(int role, int frame) {
    return after[role][frame];
  }

  /** Number of a stem's own cells in a frame. */
  public double count(int role, int frame) {
    return count[role][frame];
  }

  public float[] riseBefore(int role) {
    return riseBefore[role];
  }

  public float[] riseAfter(int role) {
    return riseAfter[role];
  }

  /** The same as {@link #width} of a band, over all slots. */
  public double[] widthOfBand(int role, int band) {
    return widthOfBand[role][band];
  }

  /** Powers of middle and side of the mix, then of the stem, in a stem's own cells of a slot. */
  public float[] width(int role, int slot) {
    return width[role][slot];
  }
}
