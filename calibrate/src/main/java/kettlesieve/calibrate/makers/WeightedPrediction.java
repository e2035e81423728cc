package kettlesieve.calibrate.makers;

import kettlesieve.core.signal.Audio;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/**
 * Dereverberation by weighted prediction error (Nakatani et al., "Speech dereverberation based on
 * variance-normalized delayed linear prediction", IEEE TASLP 18(7), 2010), one channel: in every
 * bin, what frames some time ago foretell of now is late reverberation and taken away.
 *
 * @param delaySeconds what is younger is left alone
 * @param taps frames that foretell
 */
record WeightedPrediction(double delaySeconds, int taps) {
  private static final int ROUNDS = 3;

  Audio process(Audio in) {
    int length = in.sampleRate() > 30_000 ? 1024 : 512;
    int hop = length / 4;
    Frames framing = new Frames(length, hop);
    float[][] frames = framing.of(in.wholeChannel(0));
    int delay = (int) Math.ceil(delaySeconds * in.sampleRate() / hop);
    for (int k = 1; k < length / 2; k++) {
      bin(frames, k, delay);
    }
    return Audio.of(in.sampleRate(), framing.samples(frames, Math.toIntExact(in.frames())));
  }

  private void bin(float[][] frames, int k, int delay) {
    int count = frames.length;
    double[] re = new double[count];
    double[] im = new double[count];
    double most = 0;
    for (int t = 0; t < count; t++) {
      re[t] = frames[t][2 * k];
      im[t] = frames[t][2 * k + 1];
      most = Math.max(most, re[t] * re[t] + im[t] * im[t]);
    }
    double[] dryRe = re.clone();
    double[] dryIm = im.clone();
    for (int round = 0; round < ROUNDS; round++) {
      DMatrixRMaj filter = filter(re, im, dryRe, dryIm, delay, 1e-6 * most + 1e-20);
      for (int t = 0; t < count; t++) {
        double a = re[t];
        double b = im[t];
        for (int j = 0; j < taps && t - delay - j >= 0; j++) {
          double g = filter.get(j);
          double h = filter.get(taps + j);
          double x = re[t - delay - j];
          double y = im[t - delay - j];
          a -= g * x - h * y;
          b -= g * y + h * x;
        }
        dryRe[t] = a;
        dryIm[t] = b;
      }
    }
    for (int t = 0; t < count; t++) {
      frames[t][2 * k] = (float) dryRe[t];
      frames[t][2 * k + 1] = (float) dryIm[t];
    }
  }

  /** Least squares weighted by the dry sound's variance; real parts first, then imaginary ones. */
  private DMatrixRMaj filter(
      double[] re, double[] im, double[] dryRe, double[] dryIm, int delay, double least) {
    DMatrixRMaj normal = new DMatrixRMaj(2 * taps, 2 * taps);
    DMatrixRMaj right = new DMatrixRMaj(2 * taps, 1);
    for (int t = delay + taps; t < re.length; t++) {
      double weight = 1 / Math.max(least, dryRe[t] * dryRe[t] + dryIm[t] * dryIm[t]);
      for (int i = 0; i < taps; i++) {
        double x = weight * re[t - delay - i];
        double y = weight * im[t - delay - i];
        right.add(i, 0, x * re[t] + y * im[t]);
        right.add(taps + i, 0, x * im[t] - y * re[t]);
        for (int j = 0; j <= i; j++) {
          double u = re[t - delay - j];
          double v = im[t - delay - j];
          normal.add(i, j, x * u + y * v);
          normal.add(taps + i, j, x * v - y * u);
        }
      }
    }
    double ridge = 1e-10;
    for (int i = 0; i < taps; i++) {
      ridge = Math.max(ridge, 1e-8 * normal.get(i, i));
    }
    for (int i = 0; i < taps; i++) {
      normal.add(i, i, ridge);
      for (int j = 0; j <= i; j++) {
        double a = normal.get(i, j);
        double b = -normal.get(taps + i, j);
        normal.set(j, i, a);
        normal.set(taps + i, taps + j, a);
        normal.set(taps + j, taps + i, a);
        // The imaginary part is antisymmetric.
        normal.set(taps + i, j, -b);
        normal.set(j, taps + i, -b);
        normal.set(taps + j, i, b);
        normal.set(i, taps + j, b);
      }
    }
    DMatrixRMaj filter = new DMatrixRMaj(2 * taps, 1);
    if (!CommonOps_DDRM.solve(normal, right, filter)) {
      filter.zero();
    }
    return filter;
  }
}
