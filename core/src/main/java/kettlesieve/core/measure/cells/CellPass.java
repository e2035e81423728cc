package kettlesieve.core.measure.cells;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.ground.Ground;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;

/**
 * One pass over source and version together, which feeds all that is gathered of the cells: a
 * spectrum is transformed once, however many measures want it.
 */
public final class CellPass {
  /** The pass over the ground of the job. */
  public static final Analysis<CellPass> OF = pair -> new CellPass(pair, pair.ground());

  /** The pass over what the pauses tell, whatever the job; the same where that is its ground. */
  public static final Analysis<CellPass> OF_PAUSES = CellPass::ofPauses;

  private static final int ASKED_EVERY = 512;

  private final WantedBands bands;
  private final WantedRanges ranges;
  private final WantedBins bins;
  private final UnwantedGains unwanted;
  private final QuietGains quiet;
  private final FrameLevels levels;
  private final RangeGains rangeGains;
  private final CellLosses losses;
  private final SuppressionErrors suppression;
  private final RoomLosses roomLosses;

  private static CellPass ofPauses(Pair pair) throws NotMeasurableException {
    PauseGround pauses = pair.source().pauses();
    Optional<String> problem = pauses.problem();
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
    return pair.source().ground() == pauses ? pair.shared(OF) : new CellPass(pair, pauses);
  }

  private CellPass(Pair pair, Ground ground) throws NotMeasurableException {
    this.bands = new WantedBands(pair);
    this.ranges = new WantedRanges(pair);
    this.bins = new WantedBins(pair);
    this.unwanted = new UnwantedGains(pair);
    this.quiet = new QuietGains(pair);
    this.levels = new FrameLevels(pair);
    this.rangeGains = ground instanceof DirectGround ? new RangeGains(pair) : null;
    this.roomLosses = ground instanceof DirectGround ? new RoomLosses(pair) : null;
    List<Gatherer> all = new ArrayList<>(List.of(bands, ranges, bins, unwanted, quiet, levels));
    // A version that was brought back from another time is judged as after denoising.
    boolean room = pair.job() == Job.DEREVERB || pair.job() == Job.DECLIP;
    this.losses = room ? null : new CellLosses(pair);
    this.suppression = pair.job() == Job.DENOISE ? new SuppressionErrors(pair) : null;
    if (losses != null) {
      all.add(losses);
    }
    if (suppression != null) {
      all.add(suppression);
    }
    if (rangeGains != null) {
      // What only a room needs.
      all.remove(unwanted);
      all.remove(quiet);
      all.add(rangeGains);
      all.add(roomLosses);
    }
    PhasesKept phases = PhasesKept.of(pair);
    for (int c = 0; c < pair.channels(); c++) {
      CellFrame cells = new CellFrame(pair, ground, c, phases);
      for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
        if (t % ASKED_EVERY == 0) {
          pair.stop().check();
        }
        cells.moveTo(t);
        for (Gatherer gatherer : all) {
          gatherer.add(cells);
        }
      }
    }
    bands.finish();
  }

  /** Energies of the wanted cells by frame and third-octave. */
  public WantedBands bands() {
    return bands;
  }

  /** Energies of the wanted cells by frame and range of the voice. */
  public WantedRanges ranges() {
    return ranges;
  }

  /** Energies of the wanted cells by block and bin. */
  public WantedBins bins() {
    return bins;
  }

  /** Gains of cells that hold only what is not wanted, while wanted sound goes on. */
  public UnwantedGains unwanted() {
    return unwanted;
  }

  /** Gains of the noise after wanted sound has ended. */
  public QuietGains quiet() {
    return quiet;
  }

  /** Gains of single wanted cells by range; gathered in a room only, null elsewhere. */
  public RangeGains rangeGains() {
    return rangeGains;
  }

  /** Losses of single wanted cells; null in a room and in declip. */
  public CellLosses losses() {
    return losses;
  }

  /** Distances to an estimate of the voice; gathered in denoise only, null elsewhere. */
  public SuppressionErrors suppression() {
    return suppression;
  }

  /** Losses of cells between voice and room; gathered in a room only, null elsewhere. */
  public RoomLosses roomLosses() {
    return roomLosses;
  }

  /** Levels of the frames. */
  public FrameLevels levels() {
    return levels;
  }
}
