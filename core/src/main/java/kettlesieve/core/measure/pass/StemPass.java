package kettlesieve.core.measure.pass;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.ownership.Ownership;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What each stem of one version holds in the cells of each role, gathered by slot of time and
 * third-octave band, and what the stems leave of the mix: seen in the same walk over the spectra
 * that tells whose the cells are.
 */
public final class StemPass implements Ownership.Onlooker {
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

  /** By stem, which owner it is; −1 for none. */
  private final int[] own;

  /** What is no stem itself, in the order of the roles after the stems. */
  private final List<Made> made = new ArrayList<>();

  /** The bins that lie in bands. */
  private final int firstBin;

  private final int endBin;

  /** In the stems' own cells of the last frames that were put together: by frame. */
  private List<float[][][]> recent = List.of();

  /**
   * How something comes about that is no stem itself.
   *
   * @param of the stems that are summed
   * @param remainder whether their sum is taken from the mix
   * @param spectra of a recording of its own, by channel; null for what is formed of stems
   */
  private record Made(int[] of, boolean remainder, List<Spectrogram> spectra) {
    static Made formed(String role, List<String> stems) {
      boolean remainder = Roles.parts(role).isEmpty();
      List<String> parts = remainder ? Roles.without(role) : Roles.parts(role);
      return new Made(
          parts.stream().mapToInt(stems::indexOf).filter(i -> i >= 0).toArray(), remainder, null);
    }

    static Made of(Audio audio) {
      return new Made(new int[0], false, SourceMaterial.spectra(audio));
    }

    void form(Ownership.Frame frame, float[][] to) {
      for (int c = 0; c < to.length; c++) {
        float[] sum = to[c];
        Arrays.fill(sum, 0);
        for (int s : of) {
          float[] stem = frame.stems()[s][c];
          for (int i = 0; i < sum.length; i++) {
            sum[i] += stem[i];
          }
        }
        if (remainder) {
          float[] mix = frame.mix()[c];
          for (int i = 0; i < sum.length; i++) {
            sum[i] = mix[i] - sum[i];
          }
        }
      }
    }
  }

  /**
   * Is to look on while it is told whose the cells are.
   *
   * @param together all whose stems are looked at
   * @param stems in the mix's place
   * @param owners the roles that may own cells, in the order of a frame's masks
   */
  public StemPass(StemsTogether together, MatchedStems stems, List<String> owners) {
    this.source = together.source();
    this.roles = new ArrayList<>(stems.parts().keySet());
    this.delivered = stems.stems().size();
    List<String> names = List.copyOf(stems.stems().keySet());
    stems.formed().keySet().forEach(role -> made.add(Made.formed(role, names)));
    // A step may stand before several stems; it is gathered once.
    Map<String, Audio> steps = new LinkedHashMap<>();
    stems
        .chains()
        .values()
        .forEach(chain -> chain.forEach(s -> steps.putIfAbsent(s.words(), s.audio())));
    steps.forEach(
        (words, audio) -> {
          roles.add(words);
          made.add(Made.of(together.excerpt(audio)));
        });
    this.owners = List.copyOf(owners);
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
    own = roles.stream().mapToInt(owners::indexOf).toArray();
    firstBin = Math.max(1, source.bands().firstBin(0));
    endBin = Math.min(bins - 1, source.bands().endBin(bands - 1));
  }

  @Override
  public Ownership.Look look(int first, int count) {
    return new Seen(first, count);
  }

  /** What is gathered of some frames; slots and frames are its own, the rest is put together. */
  private final class Seen implements Ownership.Look {
    private final int first;
    private final int firstBlock;
    private final float[][] seenMixBins;
    private final float[][][] seenStemBins;
    private final double[] seenOwned = new double[owners.size()];
    private final double[] seenLeft = new double[owners.size()];
    private final double[][][] seenWidth = new double[roles.size()][bands][4];

    /** By frame, then before and after, stem and band. */
    private final List<float[][][]> ownPower = new ArrayList<>();

    /** Coefficients of what is made, by channel and, of recordings, by frame. */
    private final float[][][] formed;

    private final float[][][][] recorded;
    private final float[][] power = new float[roles.size()][];

    /** Bins that an owner has in a frame, and their places by slot and band. */
    private final int[] held;

    private final int[] places;

    Seen(int first, int count) {
      this.first = first;
      this.firstBlock = timeline().block(first);
      int span = timeline().block(first + count - 1) - firstBlock + 1;
      int bins = source.source().framing().bins();
      int channels = source.source().channels();
      this.held = new int[bins];
      this.places = new int[bins];
      this.seenMixBins = new float[span][bins];
      this.seenStemBins = new float[roles.size()][span][bins];
      this.formed = new float[made.size()][channels][source.source().framing().length()];
      this.recorded = new float[made.size()][][][];
      for (int m = 0; m < made.size(); m++) {
        power[delivered + m] = new float[bins];
        List<Spectrogram> spectra = made.get(m).spectra();
        if (spectra != null) {
          recorded[m] = Spectrogram.coefficients(spectra, first, count);
        }
      }
    }

    @Override
    public void at(Ownership.Frame frame) {
      float[][][] stems = stems(frame);
      int slot = timeline().slot(frame.index());
      int block = timeline().block(frame.index()) - firstBlock;
      ThirdOctaveBands third = source.bands();
      for (int k = firstBin; k < endBin; k++) {
        int at = slot * bands + third.ofBin(k);
        whole[at] += frame.mixPower()[k];
        residual[at] += frame.leftPower()[k];
      }
      add(frame.mixPower(), seenMixBins[block]);
      for (int r = 0; r < power.length; r++) {
        add(power[r], seenStemBins[r][block]);
      }
      float[][][] own = new float[2][roles.size()][bands];
      for (int o = 0; o < owners.size(); o++) {
        gather(o, slot, frame, stems, own);
      }
      ownPower.add(own);
    }

    private void add(float[] x, float[] to) {
      for (int k = firstBin; k < endBin; k++) {
        to[k] += x[k];
      }
    }

    /** Coefficients of all roles in a frame, by channel; their powers are put beside. */
    private float[][][] stems(Ownership.Frame frame) {
      float[][][] all = Arrays.copyOf(frame.stems(), roles.size());
      System.arraycopy(frame.stemPower(), 0, power, 0, delivered);
      for (int m = 0; m < made.size(); m++) {
        float[][] to = formed[m];
        if (recorded[m] == null) {
          made.get(m).form(frame, to);
        } else {
          for (int c = 0; c < to.length; c++) {
            to[c] = recorded[m][c][frame.index() - first];
          }
        }
        all[delivered + m] = to;
        Ownership.power(to, power[delivered + m]);
      }
      return all;
    }

    /** What lies in an owner's cells: first of the mix, then stem by stem. */
    private void gather(
        int owner, int slot, Ownership.Frame frame, float[][][] stems, float[][][] own) {
      CellMask mask = frame.cells()[owner];
      float[] mixPower = frame.mixPower();
      float[] leftPower = frame.leftPower();
      int found = 0;
      for (int k = mask.next(frame.index(), 1); k >= 0; k = mask.next(frame.index(), k + 1)) {
        int at = slot * bands + source.bands().ofBin(k);
        held[found] = k;
        places[found++] = at;
        mix[owner][at] += mixPower[k];
        cells[owner][at]++;
        seenOwned[owner] += mixPower[k];
        seenLeft[owner] += leftPower[k];
      }
      for (int r = 0; r < stems.length; r++) {
        float[] powers = power[r];
        float[] energies = energy[r][owner];
        for (int i = 0; i < found; i++) {
          energies[places[i]] += powers[held[i]];
        }
        for (int c = 0; c < frame.mix().length; c++) {
          cross(frame.mix()[c], stems[r][c], cross[r][owner], found);
        }
        if (StemPass.this.own[r] == owner) {
          gatherOwn(r, slot, frame, stems[r], own, found);
        }
      }
    }

    private void cross(float[] x, float[] stem, float[] to, int found) {
      for (int i = 0; i < found; i++) {
        int re = 2 * held[i];
        to[places[i]] += stem[re] * x[re] + stem[re + 1] * x[re + 1];
      }
    }

    /** What a stem has in the cells of its own role. */
    private void gatherOwn(
        int stem, int slot, Ownership.Frame frame, float[][] coefficients, float[][][] own, int n) {
      float[][] x = frame.mix();
      float[] mixPower = frame.mixPower();
      float[] powers = power[stem];
      int index = frame.index();
      for (int i = 0; i < n; i++) {
        int k = held[i];
        int band = places[i] - slot * bands;
        before[stem][index] += mixPower[k];
        after[stem][index] += powers[k];
        own[0][stem][band] += mixPower[k];
        own[1][stem][band] += powers[k];
        if (x.length == 2) {
          widen(width[stem][slot], seenWidth[stem][band], x, coefficients, k);
        }
      }
      count[stem][index] += n;
    }

    @Override
    public void done() {
      for (int b = 0; b < seenMixBins.length; b++) {
        add(seenMixBins[b], mixBins[firstBlock + b]);
        for (int r = 0; r < seenStemBins.length; r++) {
          add(seenStemBins[r][b], stemBins[r][firstBlock + b]);
        }
      }
      for (int o = 0; o < seenOwned.length; o++) {
        StemPass.this.owned[o] += seenOwned[o];
        ownedLeft[o] += seenLeft[o];
      }
      for (int r = 0; r < seenWidth.length; r++) {
        for (int b = 0; b < bands; b++) {
          for (int i = 0; i < 4; i++) {
            widthOfBand[r][b][i] += seenWidth[r][b][i];
          }
        }
      }
      List<float[][][]> all = new ArrayList<>(recent);
      all.addAll(ownPower);
      for (int t = LAG; t < all.size(); t++) {
        int frame = first - recent.size() + t;
        for (int r = 0; r < roles.size(); r++) {
          riseBefore[r][frame] = rise(all.get(t - LAG)[0][r], all.get(t)[0][r]);
          riseAfter[r][frame] = rise(all.get(t - LAG)[1][r], all.get(t)[1][r]);
        }
      }
      recent = List.copyOf(all.subList(Math.max(0, all.size() - LAG), all.size()));
    }
  }

  private static float rise(float[] then, float[] now) {
    double sum = 0;
    for (int b = 0; b < now.length; b++) {
      sum += Math.max(0, Math.sqrt(now[b]) - Math.sqrt(then[b]));
    }
    return (float) sum;
  }

  private static void widen(float[] to, double[] band, float[][] x, float[][] s, int k) {
    for (int i = 2 * k; i <= 2 * k + 1; i++) {
      float middle = x[0][i] + x[1][i];
      float side = x[0][i] - x[1][i];
      to[0] += middle * middle;
      to[1] += side * side;
      band[0] += middle * middle;
      band[1] += side * side;
      middle = s[0][i] + s[1][i];
      side = s[0][i] - s[1][i];
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

  /** Number of third-octave bands. */
  public int bands() {
    return bands;
  }

  /** Number of a stem, for the accessors below; −1 if there is none. */
  public int role(String role) {
    return roles.indexOf(role);
  }

  /** Number of a role of the mix, for the accessors below; −1 if there is none. */
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

  /** Levels before the attacks of a role, by frame. */
  public float[] riseBefore(int role) {
    return riseBefore[role];
  }

  /** Levels after the attacks of a role, by frame. */
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
