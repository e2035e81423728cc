package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import kettlesieve.core.ground.Activity;
import kettlesieve.core.ground.DirectGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.pass.CellFrame;
import kettlesieve.core.measure.pass.CellPass;
import kettlesieve.core.measure.pass.Gatherer;
import kettlesieve.core.measure.pass.Gathering;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * What became of the noise soon after wanted sound has ended (150 to 350 ms), and much later (600
 * ms and more).
 */
public final class QuietGains implements Gatherer {
  /** What a pass over what the pauses tell gathered. */
  public static final Analysis<QuietGains> OF =
      pair -> pair.shared(CellPass.OF_PAUSES).get(QuietGains.class);

  /** Wanted sound stays away at least so long after an end that counts. */
  public static final double OFFSET_SECONDS = 0.35;

  private static final double FLOOR_DB = -30;
  private static final double GAIN_STEP_DB = 0.25;
  private static final double QUIET_CELL = 1.6;

  /** What a frame without wanted sound is to the sound before it. */
  private enum After {
    SOON,
    LATER
  }

  private final ThirdOctaveBands bands;
  private final After[] after;
  private final int lowBin;
  private final int highBin;
  private final BlockHistograms soonAfter;
  private final BlockHistograms muchLater;
  private final PlaceGrid places;
  private int soonCount;
  private int laterCount;

  QuietGains(Pair pair) {
    this.bands = pair.bands();
    this.after = after(pair.source().pauses().activity(), pair.framing());
    this.lowBin = pair.source().pauseLowBin();
    this.highBin = pair.source().pauseHighBin();
    this.soonAfter = new BlockHistograms(pair.timeline(), FLOOR_DB, 20, GAIN_STEP_DB);
    this.muchLater = new BlockHistograms(pair.timeline(), FLOOR_DB, 20, GAIN_STEP_DB);
    this.places = new PlaceGrid(pair.timeline(), bands.count());
  }

  private static After[] after(Activity activity, Framing framing) {
    After[] after = new After[framing.count()];
    for (int offset : activity.offsets(OFFSET_SECONDS)) {
      int next = Math.min(activity.nextOnset(offset) - framing.framesIn(0.05), after.length);
      for (int t = offset; t < next; t++) {
        double seconds = (t - offset) * framing.hopSeconds();
        if (seconds >= 0.15 && seconds <= 0.35) {
          after[t] = After.SOON;
        } else if (seconds >= 0.6) {
          after[t] = After.LATER;
        }
      }
    }
    return after;
  }

  @Override
  public void add(CellFrame cells) {
    After when = after[cells.frame()];
    if (when == null) {
      return;
    }
    CellFrame.Smoothed smoothed = cells.smoothed();
    for (int k = lowBin; k <= highBin; k++) {
      if (smoothed.source()[k] <= QUIET_CELL * cells.noise(k)) {
        double db = Math.max(FLOOR_DB, smoothed.gainDb(k));
        if (when == After.SOON) {
          soonAfter.add(cells.block(), db, 1);
          soonCount++;
        } else {
          muchLater.add(cells.block(), db, 1);
          laterCount++;
        }
        int band = bands.ofBin(k);
        if (band >= 0) {
          places.add(cells.frame(), band, db, 1);
        }
      }
    }
  }

  /** Gains soon after wanted sound, dB, not under −30. */
  public BlockHistograms soonAfter() {
    return soonAfter;
  }

  /** Gains much later, dB, not under −30. */
  public BlockHistograms muchLater() {
    return muchLater;
  }

  /** The smaller of the two numbers of cells. */
  public int cells() {
    return Math.min(soonCount, laterCount);
  }

  /** Where the gains come from. */
  public PlaceGrid places() {
    return places;
  }

  /** Gathered where the pauses tell what is wanted. */
  @AutoService(Gathering.class)
  public static final class Kind extends Gathering {
    public Kind() {
      super(QuietGains.class, (pair, ground) -> !(ground instanceof DirectGround), QuietGains::new);
    }
  }
}
