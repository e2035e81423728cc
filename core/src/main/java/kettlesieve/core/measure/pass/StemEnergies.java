package kettlesieve.core.measure.pass;

import java.util.List;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.Timeline;

/**
 * What the stems of one version and of what is made of them hold in the cells of each role, by slot
 * of time and third-octave band, and what they leave of the mix. Written by {@link StemPass} while
 * it walks, read-only for everybody else.
 *
 * <p><b>Layout.</b> Slot and band lie in one line, {@code slot * bands + band}, in floats: an hour
 * of four roles is 60 MB a version.
 */
public final class StemEnergies {
  private final List<String> roles;
  private final List<String> owners;
  private final SourceAnalysis source;
  private final int bands;

  /** By stem, owner, slot and band: real part of stem times conjugate mix, and the stem's power. */
  final float[][][] cross;

  final float[][][] energy;

  /** By owner, slot and band: power of the mix, and number of cells. */
  final float[][] mix;

  final float[][] cells;

  /** By slot and band: power of the mix in all cells, and of what the stems leave of it. */
  final float[] whole;

  final float[] residual;

  /** By owner: power of the mix in its cells, and of what the stems leave of it there. */
  final double[] owned;

  final double[] ownedLeft;

  /** By stem and frame, in the stem's own cells: power of the mix and of the stem, and cells. */
  final float[][] before;

  final float[][] after;
  final float[][] count;

  /** By stem and frame, in its own cells: how amplitudes rise in the mix and in the stem. */
  final float[][] riseBefore;

  final float[][] riseAfter;

  /** By stem and slot, in its own cells of two channels: middle and side of mix and stem. */
  final float[][][] width;

  /** The same by band, over all slots. */
  final double[][][] widthOfBand;

  /** By block and bin: power of the mix; by stem the same of each stem. */
  final float[][] mixBins;

  final float[][][] stemBins;

  StemEnergies(SourceAnalysis source, List<String> roles, List<String> owners) {
    this.source = source;
    this.roles = List.copyOf(roles);
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
