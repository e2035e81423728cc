package kettlesieve.core.measure;

import java.util.List;

/**
 * Where a figure comes from.
 *
 * @param trace the value over time
 * @param spectrum the value per band
 * @param spots the worst places, worst first, at most {@link #MOST_SPOTS}
 */
public record Evidence(Trace trace, BandSpectrum spectrum, List<Spot> spots) {
  /** More spots than these are not kept. */
  public static final int MOST_SPOTS = 20;

  /** Nothing to show. */
  public static final Evidence NONE = new Evidence(Trace.NONE, BandSpectrum.NONE, List.of());

  public Evidence {
    spots = List.copyOf(spots.subList(0, Math.min(MOST_SPOTS, spots.size())));
  }
}
