package kettlesieve.calibrate.truth;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.reference.BssEval;

/**
 * What is true of a stem: the separation evaluation of images (Vincent et al. 2007), and the
 * scale-invariant ratio (Le Roux et al. 2019).
 *
 * @param sdr signal-to-distortion ratio, dB
 * @param isr source image-to-spatial-distortion ratio, dB
 * @param sir signal-to-interference ratio, dB
 * @param sar signal-to-artifacts ratio, dB
 * @param siSdr scale-invariant signal-to-distortion ratio over both channels, dB
 * @param by signal-to-interference ratio of each offender, dB
 */
public record StemTruth(
    double sdr, double isr, double sir, double sar, double siSdr, Map<String, Double> by) {
  private static final double MOST_DB = 60;

  /**
   * Of all stems of several tools against those that the mix was made of.
   *
   * @param tools by tool and role
   */
  public static Map<String, Map<String, StemTruth>> of(
      Map<String, Audio> truth, Map<String, Map<String, Audio>> tools) {
    List<String> roles = List.copyOf(truth.keySet());
    List<BssEval.Judged> judged = new ArrayList<>();
    List<String[]> names = new ArrayList<>();
    tools.forEach(
        (tool, stems) ->
            stems.forEach(
                (role, stem) -> {
                  judged.add(new BssEval.Judged(stem, roles.indexOf(role)));
                  names.add(new String[] {tool, role});
                }));
    double[][] sums = new double[judged.size()][7];
    BssEval evaluation = new BssEval(List.copyOf(truth.values()), BssEval.Form.IMAGES);
    double[][] shares =
        evaluation.split(judged, (form, e, block) -> add(block, sums[e])).get(BssEval.Form.IMAGES);
    Map<String, Map<String, StemTruth>> all = new LinkedHashMap<>();
    for (int e = 0; e < sums.length; e++) {
      double[] s = sums[e];
      String role = names.get(e)[1];
      Map<String, Double> by = new LinkedHashMap<>();
      for (int r = 0; r < roles.size(); r++) {
        if (!roles.get(r).equals(role)) {
          by.put(roles.get(r), db(s[2], shares[e][r]));
        }
      }
      Audio own = truth.get(role);
      StemTruth found =
          new StemTruth(
              db(s[0], s[6]),
              db(s[0], s[1]),
              db(s[2], s[3]),
              db(s[4], s[5]),
              scaleInvariant(own, judged.get(e).audio()),
              by);
      all.computeIfAbsent(names.get(e)[0], t -> new LinkedHashMap<>()).put(role, found);
    }
    return all;
  }

  private static void add(BssEval.Block block, double[] sums) {
    for (int i = 0; i < block.length(); i++) {
      double e = block.estimate()[i];
      double w = block.wanted()[i];
      double t = block.target()[i];
      double a = block.all()[i];
      sums[0] += w * w;
      sums[1] += (t - w) * (t - w);
      sums[2] += t * t;
      sums[3] += (a - t) * (a - t);
      sums[4] += a * a;
      sums[5] += (e - a) * (e - a);
      sums[6] += (e - w) * (e - w);
    }
  }

  private static double scaleInvariant(Audio truth, Audio stem) {
    double cross = 0;
    double own = 0;
    double other = 0;
    for (int c = 0; c < truth.channels(); c++) {
      float[] x = truth.wholeChannel(c);
      float[] y = stem.wholeChannel(c);
      for (int i = 0; i < x.length; i++) {
        cross += (double) x[i] * y[i];
        own += (double) x[i] * x[i];
        other += (double) y[i] * y[i];
      }
    }
    double target = cross * cross / own;
    return db(target, other - target);
  }

  private static double db(double of, double to) {
    double ratio = 10 * Math.log10((of + 1e-30) / Math.max(to, 1e-30));
    return Math.max(-MOST_DB, Math.min(MOST_DB, ratio));
  }
}
