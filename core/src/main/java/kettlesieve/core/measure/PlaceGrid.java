package kettlesieve.core.measure;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Mean values of a reading by slot of time and third-octave band: where it comes from. Gives the
 * trace and the worst spots.
 */
public final class PlaceGrid {
  private static final double APART_SECONDS = 0.35;

  private final Timeline timeline;
  private final int bands;
  private final double lowHz;
  private final double highHz;
  private final double[][] sums;
  private final double[][] weights;

  /** A grid of slots by third-octave bands. */
  public PlaceGrid(Timeline timeline, int bands) {
    this(timeline, bands, Double.NaN, Double.NaN);
  }

  private PlaceGrid(Timeline timeline, int bands, double lowHz, double highHz) {
    this.timeline = timeline;
    this.bands = bands;
    this.lowHz = lowHz;
    this.highHz = highHz;
    this.sums = new double[timeline.slots()][bands];
    this.weights = new double[timeline.slots()][bands];
  }

  /** A grid of time alone, for what concerns one range of frequencies as a whole. */
  public static PlaceGrid ofTime(Timeline timeline, double lowHz, double highHz) {
    return new PlaceGrid(timeline, 1, lowHz, highHz);
  }

  /** Adds a value of a frame and band with a weight. */
  public void add(int frame, int band, double value, double weight) {
    int slot = timeline.slot(frame);
    sums[slot][band] += weight * value;
    weights[slot][band] += weight;
  }

  /** Mean value of a slot and band, NaN where there is none. */
  public double value(int slot, int band) {
    return weights[slot][band] > 0 ? sums[slot][band] / weights[slot][band] : Double.NaN;
  }

  /** Mean over the bands of each slot, as a trace. */
  public Trace trace() {
    double[] seconds = new double[timeline.slots()];
    double[] values = new double[seconds.length];
    for (int s = 0; s < seconds.length; s++) {
      seconds[s] = timeline.slotMiddle(s);
      double weight = Arrays.stream(weights[s]).sum();
      values[s] = weight > 0 ? Arrays.stream(sums[s]).sum() / weight : Double.NaN;
    }
    return new Trace(seconds, values);
  }

  /** Mean over all slots of each band; NaN for a band without values. */
  public double[] perBand() {
    double[] values = new double[bands];
    for (int b = 0; b < bands; b++) {
      double sum = 0;
      double weight = 0;
      for (int s = 0; s < sums.length; s++) {
        sum += sums[s][b];
        weight += weights[s][b];
      }
      values[b] = weight > 0 ? sum / weight : Double.NaN;
    }
    return values;
  }

  /**
   * The worst places.
   *
   * @param largestIsWorst whether large values are bad
   * @param limit places less bad than this are left out
   * @param leastWeight places with less weight are left out
   */
  public List<Spot> spots(boolean largestIsWorst, double limit, double leastWeight) {
    record Place(int slot, int band, double value) {}
    double sign = largestIsWorst ? -1 : 1;
    List<Place> places = new ArrayList<>();
    for (int s = 0; s < sums.length; s++) {
      for (int b = 0; b < bands; b++) {
        double value = value(s, b);
        if (weights[s][b] >= leastWeight && sign * value < sign * limit) {
          places.add(new Place(s, b, value));
        }
      }
    }
    places.sort(Comparator.comparingDouble(p -> sign * p.value()));
    List<Spot> spots = new ArrayList<>();
    for (Place p : places) {
      Spot spot =
          new Spot(
              timeline.slotStart(p.slot()),
              timeline.slotEnd(p.slot()),
              Double.isNaN(lowHz) ? ThirdOctaveBands.lowHz(p.band()) : lowHz,
              Double.isNaN(highHz) ? ThirdOctaveBands.highHz(p.band()) : highHz,
              p.value());
      if (spots.stream().noneMatch(s -> Math.abs(s.from() - spot.from()) < APART_SECONDS)) {
        spots.add(spot);
        if (spots.size() == Evidence.MOST_SPOTS) {
          break;
        }
      }
    }
    return spots;
  }

  /** Mid-band frequencies of the grid's bands, Hz. */
  public double[] hz() {
    double[] hz = new double[bands];
    for (int b = 0; b < bands; b++) {
      hz[b] = ThirdOctaveBands.middleHz(b);
    }
    return hz;
  }
}
