package kettlesieve.core.measure.stretch;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.LogMel;
import kettlesieve.core.match.Onsets;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Statistics;

/**
 * The strong attacks of a source and what became of them in a version in its own time: levels in
 * mel bands each 2 ms, and how they rise.
 */
public final class StretchedHits {
  /** Of a version; the source's side is worked out once for all versions. */
  public static final StretchedPair.OfStretched<StretchedHits> OF = StretchedHits::new;

  private static final Analysis.OfSource<float[][]> SOURCE =
      s ->
          new LogMel(s.source().whole().downmix(), 1)
              .levels(
                  s.source().startSeconds(),
                  Onsets.HOP,
                  (int) (s.source().audio().seconds() / Onsets.HOP));

  private static final int FEWEST = 3;
  private static final double STRONG_DB = 6;
  private static final double OWN_REACH = 0.025;
  private static final double OTHER_REACH = 0.030;

  /**
   * An attack.
   *
   * @param source seconds of the source
   * @param version seconds of the version, where its levels rise most near the mapped place
   * @param rise mean rise of the source's levels there, dB
   * @param kept the same of the version
   */
  public record Hit(double source, double version, double rise, double kept) {
    private static final double LOST = 0.2;

    /** Whether next to nothing of it is left. */
    public boolean lost() {
      return kept < LOST * rise;
    }

    /** Whether the version ended before it. */
    public boolean beyond() {
      return kept == 0;
    }
  }

  private final List<Hit> hits = new ArrayList<>();
  private final float[][] sourceLevels;
  private final float[][] versionLevels;

  private StretchedHits(StretchedPair warp) throws NotMeasurableException {
    Audio version = warp.version().audio().downmix();
    double start = warp.source().source().startSeconds();
    double seconds = warp.source().source().audio().seconds();
    sourceLevels = warp.source().shared(SOURCE);
    double from = Math.max(0, warp.fit().map().at(start));
    double to = Math.min(version.seconds(), warp.fit().map().at(start + seconds));
    versionLevels =
        new LogMel(version, warp.pitch())
            .levels(from, Onsets.HOP, (int) Math.max(1, (to - from) / Onsets.HOP));
    Onsets onsets = new Onsets(sourceLevels);
    double[] own = onsets.flux();
    double[] other = new Onsets(versionLevels).flux();
    List<Integer> frames = onsets.frames();
    double[] rises = frames.stream().mapToDouble(f -> own[f]).toArray();
    double limit = rises.length == 0 ? 0 : Math.max(STRONG_DB, Statistics.quantile(rises, 0.3));
    int reach = (int) Math.round(OTHER_REACH / Onsets.HOP);
    int near = (int) Math.round(OWN_REACH / Onsets.HOP);
    for (int frame : frames) {
      double at = start + frame * Onsets.HOP;
      int there = (int) Math.round((warp.fit().map().at(at) - from) / Onsets.HOP);
      if (own[frame] < limit) {
        continue;
      }
      double rise = own[highest(own, frame, near)];
      if (warp.fit().map().at(at) > version.seconds() + OTHER_REACH) {
        // What ends before it has lost it.
        hits.add(new Hit(at, warp.fit().map().at(at), rise, 0));
        continue;
      }
      if (there < reach || there + reach >= other.length) {
        continue;
      }
      int best = highest(other, there, reach);
      hits.add(new Hit(at, from + best * Onsets.HOP, rise, other[best]));
    }
    if (hits.size() < FEWEST) {
      throw new NotMeasurableException("fewer than three strong attacks to judge by");
    }
  }

  private static int highest(double[] flux, int at, int reach) {
    int best = at;
    for (int i = Math.max(0, at - reach); i <= Math.min(flux.length - 1, at + reach); i++) {
      best = flux[i] > flux[best] ? i : best;
    }
    return best;
  }

  /** The strong attacks, in order. */
  public List<Hit> hits() {
    return List.copyOf(hits);
  }

  /** Mean power of each mel band over the whole, source or version, dB. */
  public double[] tone(boolean ofVersion) {
    float[][] levels = ofVersion ? versionLevels : sourceLevels;
    double[] power = new double[LogMel.BANDS];
    for (float[] frame : levels) {
      for (int b = 0; b < power.length; b++) {
        power[b] += Math.pow(10, frame[b] / 10) / levels.length;
      }
    }
    return Arrays.stream(power).map(p -> 10 * Math.log10(Math.max(1e-6, p))).toArray();
  }
}
