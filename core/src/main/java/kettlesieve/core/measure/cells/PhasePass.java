package kettlesieve.core.measure.cells;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.match.Covering;
import kettlesieve.core.match.Ground;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.signal.Framing;

/**
 * One walk over spectra with phases, source beside version, of at most 600 frames of a channel,
 * evenly over the recording: what is an average over it needs no more. A constant turn of a
 * frequency (a filter, a delay) is taken off the version first. The spectra themselves are not
 * kept.
 */
final class PhasePass {
  /** Of a pair in denoise. */
  static final Analysis<PhasePass> OF = PhasePass::new;

  private static final int EVERY = 2;
  private static final int MOST_FRAMES = 600;

  private final PhasesKept kept;
  private final List<VoiceChanges.Row> rows = new ArrayList<>();

  private PhasePass(Pair pair) throws NotMeasurableException {
    Ground ground = pair.ground();
    this.kept = new PhasesKept(pair);
    int all = pair.endFrame() - pair.firstFrame();
    int step = Math.max(EVERY, (all + MOST_FRAMES - 1) / MOST_FRAMES);
    float[][] sources = new float[(all + step - 1) / step][];
    float[][] versions = new float[sources.length][];
    for (int c = 0; c < pair.channels(); c++) {
      for (int i = 0; i < sources.length; i++) {
        if (i % 64 == 0) {
          pair.stop().check();
        }
        int frame = pair.firstFrame() + i * step;
        sources[i] = pair.source().spectrum(c).coefficients(frame, 1)[0];
        versions[i] = pair.versionSpectrum(c).coefficients(frame, 1)[0];
      }
      turn(sources, versions, pair.framing(), Math.sqrt(pair.version().powerGain()));
      Covering noise = ground.covering(c);
      for (int i = 0; i < sources.length; i++) {
        int frame = pair.firstFrame() + i * step;
        kept.add(sources[i], versions[i], ground.wanted(c), frame);
        if (ground.active(frame)) {
          rows.add(VoiceChanges.row(pair, frame, sources[i], versions[i], noise.moveTo(frame)));
        }
      }
    }
    kept.finish();
  }

  private static void turn(float[][] source, float[][] version, Framing framing, double gain) {
    for (int k = 1; k < framing.bins() - 1; k++) {
      double re = 0;
      double im = 0;
      for (int i = 0; i < source.length; i++) {
        float[] x = source[i];
        float[] y = version[i];
        re += (double) y[2 * k] * x[2 * k] + (double) y[2 * k + 1] * x[2 * k + 1];
        im += (double) y[2 * k + 1] * x[2 * k] - (double) y[2 * k] * x[2 * k + 1];
      }
      double size = Math.sqrt(re * re + im * im);
      float cos = (float) (size > 0 ? gain * re / size : gain);
      float sin = (float) (size > 0 ? gain * im / size : 0);
      for (float[] y : version) {
        float yr = y[2 * k];
        y[2 * k] = yr * cos + y[2 * k + 1] * sin;
        y[2 * k + 1] = y[2 * k + 1] * cos - yr * sin;
      }
    }
  }

  /** Whether what was taken away is a sound of its own. */
  PhasesKept kept() {
    return kept;
  }

  /** Gains of the bands of active frames, in their order, one channel after the other. */
  List<VoiceChanges.Row> rows() {
    return rows;
  }
}
