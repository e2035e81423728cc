package kettlesieve.core.measure.pass;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.ownership.Ownership;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What each stem of one version holds in the cells of each role, gathered by slot of time and
 * third-octave band, and what the stems leave of the mix: seen in the same walk over the spectra
 * that tells whose the cells are.
 */
public final class StemPass implements Ownership.Observer {
  private static final int LAG = 2;

  private final List<String> roles;
  private final List<String> owners;
  private final SourceAnalysis source;
  private final int bands;
  private final int delivered;

  /** What is gathered. */
  private final StemEnergies gathered;

  /** By stem, which owner it is; −1 for none. */
  private final int[] own;

  /** What is no stem itself, in the order of the roles after the stems. */
  private final List<MadeStem> made = new ArrayList<>();

  /** The bins that lie in bands. */
  private final int firstBin;

  private final int endBin;

  /** In the stems' own cells of the last frames that were put together: by frame. */
  private List<float[][][]> recent = List.of();

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
    stems.formed().keySet().forEach(role -> made.add(MadeStem.formed(role, names)));
    // A step may stand before several stems; it is gathered once.
    Map<String, Audio> steps = new LinkedHashMap<>();
    stems
        .chains()
        .values()
        .forEach(chain -> chain.forEach(s -> steps.putIfAbsent(s.words(), s.audio())));
    steps.forEach(
        (words, audio) -> {
          roles.add(words);
          made.add(MadeStem.of(together.excerpt(audio)));
        });
    this.owners = List.copyOf(owners);
    this.bands = source.bands().count();
    gathered = new StemEnergies(source, roles, this.owners);
    int bins = source.source().framing().bins();
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
      this.firstBlock = source.timeline().block(first);
      int span = source.timeline().block(first + count - 1) - firstBlock + 1;
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
      int slot = source.timeline().slot(frame.index());
      int block = source.timeline().block(frame.index()) - firstBlock;
      ThirdOctaveBands third = source.bands();
      for (int k = firstBin; k < endBin; k++) {
        int at = slot * bands + third.ofBin(k);
        gathered.whole[at] += frame.mixPower()[k];
        gathered.residual[at] += frame.leftPower()[k];
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
        gathered.mix[owner][at] += mixPower[k];
        gathered.cells[owner][at]++;
        seenOwned[owner] += mixPower[k];
        seenLeft[owner] += leftPower[k];
      }
      for (int r = 0; r < stems.length; r++) {
        float[] powers = power[r];
        float[] energies = gathered.energy[r][owner];
        for (int i = 0; i < found; i++) {
          energies[places[i]] += powers[held[i]];
        }
        for (int c = 0; c < frame.mix().length; c++) {
          cross(frame.mix()[c], stems[r][c], gathered.cross[r][owner], found);
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
        gathered.before[stem][index] += mixPower[k];
        gathered.after[stem][index] += powers[k];
        own[0][stem][band] += mixPower[k];
        own[1][stem][band] += powers[k];
        if (x.length == 2) {
          widen(gathered.width[stem][slot], seenWidth[stem][band], x, coefficients, k);
        }
      }
      gathered.count[stem][index] += n;
    }

    @Override
    public void done() {
      for (int b = 0; b < seenMixBins.length; b++) {
        add(seenMixBins[b], gathered.mixBins[firstBlock + b]);
        for (int r = 0; r < seenStemBins.length; r++) {
          add(seenStemBins[r][b], gathered.stemBins[r][firstBlock + b]);
        }
      }
      for (int o = 0; o < seenOwned.length; o++) {
        gathered.owned[o] += seenOwned[o];
        gathered.ownedLeft[o] += seenLeft[o];
      }
      for (int r = 0; r < seenWidth.length; r++) {
        for (int b = 0; b < bands; b++) {
          for (int i = 0; i < 4; i++) {
            gathered.widthOfBand[r][b][i] += seenWidth[r][b][i];
          }
        }
      }
      List<float[][][]> all = new ArrayList<>(recent);
      all.addAll(ownPower);
      for (int t = LAG; t < all.size(); t++) {
        int frame = first - recent.size() + t;
        for (int r = 0; r < roles.size(); r++) {
          gathered.riseBefore[r][frame] = rise(all.get(t - LAG)[0][r], all.get(t)[0][r]);
          gathered.riseAfter[r][frame] = rise(all.get(t - LAG)[1][r], all.get(t)[1][r]);
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

  /** What was gathered; complete after the walk. */
  public StemEnergies energies() {
    return gathered;
  }
}
