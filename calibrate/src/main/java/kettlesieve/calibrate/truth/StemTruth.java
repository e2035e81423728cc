package kettlesieve.calibrate.truth;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.reference.BssEval;

/**
 * What is true of a stem: the separation evaluation in the sources form (Vincent et al. 2006).
 *
 * @param sdr signal-to-distortion ratio, dB
 * @param sir signal-to-interference ratio, dB
 */
public record StemTruth(double sdr, double sir) {
  /** Of a stem against those the mix was made of. */
  public static StemTruth of(Map<String, Audio> truth, String role, Audio stem) {
    List<Audio> sources = new ArrayList<>(List.of(truth.get(role).downmix()));
    truth.forEach(
        (r, a) -> {
          if (!r.equals(role)) {
            sources.add(a.downmix());
          }
        });
    double[] energy = new double[3];
    new BssEval(sources, BssEval.Form.SOURCES)
        .split(
            List.of(new BssEval.Judged(stem.downmix(), 0)),
            (form, judged, block) -> {
              for (int i = 0; i < block.length(); i++) {
                double target = block.target()[i];
                energy[0] += target * target;
                energy[1] += Math.pow(block.all()[i] - target, 2);
                energy[2] += Math.pow(block.estimate()[i] - target, 2);
              }
            });
    return new StemTruth(
        10 * Math.log10(energy[0] / Math.max(energy[2], 1e-12 * energy[0])),
        10 * Math.log10(energy[0] / Math.max(energy[1], 1e-12 * energy[0])));
  }
}
