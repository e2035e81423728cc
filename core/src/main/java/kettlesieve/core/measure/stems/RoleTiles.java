package kettlesieve.core.measure.stems;

import java.util.Arrays;
import java.util.Comparator;
import java.util.Optional;
import java.util.stream.IntStream;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.pass.StemEnergies;

/**
 * What became of a role's own cells in its stem, freed of a mere change of level: the level is the
 * gain that half of the material has at least, each slot and band weighted as it is heard.
 */
public final class RoleTiles {
  /** The pass over a set, which all measures of stems read: made when its cells were told. */
  public static final StemSet.OfSet<StemEnergies> PASS =
      set -> {
        throw new IllegalStateException("cells are told, and what lies in them, before measuring");
      };

  /** Loud and soft material count alike to the ear as a power of their energies. */
  private static final double HEARD_POWER = 0.3;

  private static final int FEWEST_CELLS = 200;

  private final StemEnergies pass;
  private final int role;
  private final int owner;
  private final double level;

  /**
   * @throws NotMeasurableException if nothing tells what belongs to the role, or there is too
   *     little of it
   */
  public RoleTiles(StemSet set, String role) throws NotMeasurableException {
    this(set, role, role);
  }

  /**
   * The same of what a stem was taken from.
   *
   * @param role whose cells they are
   * @param words of the step of its chain
   */
  public RoleTiles(StemSet set, String role, String words) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    this.pass = set.shared(PASS);
    this.role = pass.role(words);
    this.owner = pass.owner(role);
    Optional<String> problem = set.cells().problem(role);
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
    double cells = 0;
    for (int s = 0; s < pass.timeline().slots(); s++) {
      for (int b = 0; b < pass.bands(); b++) {
        cells += pass.cells(owner, s, b);
      }
    }
    if (cells < FEWEST_CELLS) {
      throw new NotMeasurableException("there is too little in the mix that is " + role + " alone");
    }
    this.level = usualGain();
  }

  private double usualGain() {
    int slots = pass.timeline().slots();
    int bands = pass.bands();
    Integer[] order =
        IntStream.range(0, slots * bands)
            .filter(i -> mix(i / bands, i % bands) > 0)
            .boxed()
            .sorted(Comparator.comparingDouble((Integer i) -> rawGain(i / bands, i % bands)))
            .toArray(Integer[]::new);
    double all = Arrays.stream(order).mapToDouble(i -> weight(i / bands, i % bands)).sum();
    double sum = 0;
    for (Integer i : order) {
      sum += weight(i / bands, i % bands);
      if (sum >= all / 2) {
        return Math.max(1e-6, rawGain(i / bands, i % bands));
      }
    }
    return 1;
  }

  private double rawGain(int slot, int band) {
    return pass.energy(role, owner, slot, band) / pass.mix(owner, slot, band);
  }

  /** Power of the mix in the role's cells of a frame. */
  public double before(int frame) {
    return pass.before(role, frame);
  }

  /** Power of the stem there. */
  public double after(int frame) {
    return pass.after(role, frame);
  }

  /** Number of the role's cells in a frame. */
  public double cells(int frame) {
    return pass.count(role, frame);
  }

  /** How amplitudes rise in the role's cells of the mix, by frame. */
  public double[] risesOfMix() {
    return doubles(pass.riseBefore(role));
  }

  /** The same of the stem. */
  public double[] risesOfStem() {
    return doubles(pass.riseAfter(role));
  }

  private static double[] doubles(float[] values) {
    double[] same = new double[values.length];
    for (int i = 0; i < same.length; i++) {
      same[i] = values[i];
    }
    return same;
  }

  /** The pass it reads. */
  public StemEnergies pass() {
    return pass;
  }

  /** The stem's index in the pass. */
  public int role() {
    return role;
  }

  /** The usual gain of the stem on its own material, as a power. */
  public double level() {
    return level;
  }

  /** Number of the role's cells in a slot and band. */
  public double cells(int slot, int band) {
    return pass.cells(owner, slot, band);
  }

  /** Power of the mix in the role's cells of a slot and band. */
  public double mix(int slot, int band) {
    return pass.mix(owner, slot, band);
  }

  /** Power of the stem there. */
  public double stem(int slot, int band) {
    return pass.energy(role, owner, slot, band);
  }

  /** Gain of the stem there over its usual one, as a power; not above 1. */
  public double kept(int slot, int band) {
    return Math.min(1, rawGain(slot, band) / level);
  }

  /** How much a slot and band counts. */
  public double weight(int slot, int band) {
    return Math.pow(mix(slot, band), HEARD_POWER);
  }
}
