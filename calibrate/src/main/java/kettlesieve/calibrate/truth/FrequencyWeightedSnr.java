package kettlesieve.calibrate.truth;

/**
 * Frequency-weighted segmental signal-to-noise ratio (Hu &amp; Loizou, "Evaluation of objective
 * quality measures for speech enhancement", IEEE Trans. Audio, Speech, Lang. Process. 16, 2008):
 * magnitudes of third-octave bands, 30 ms frames, each band's ratio held between −10 and 35 dB and
 * weighted by the clean magnitude to the power 0.2. Frames without speech (40 dB under the
 * strongest) are left out.
 */
final class FrequencyWeightedSnr {
  private static final double THIRD = Math.pow(10, 0.1);
  private static final double SILENT = 1e-4;

  private FrequencyWeightedSnr() {}

  static double of(float[] clean, float[] version, int rate) {
    int length = Integer.highestOneBit((int) (0.04 * rate));
    float[][] c = ShortTime.of(clean, length, length / 2);
    float[][] v = ShortTime.of(version, length, length / 2);
    double[] energy = new double[c.length];
    double strongest = 0;
    for (int t = 0; t < c.length; t++) {
      for (float x : c[t]) {
        energy[t] += (double) x * x;
      }
      strongest = Math.max(strongest, energy[t]);
    }
    double sum = 0;
    int frames = 0;
    for (int t = 0; t < c.length; t++) {
      if (energy[t] < SILENT * strongest) {
        continue;
      }
      double weighted = 0;
      double weights = 0;
      for (double low = 100; low * THIRD < Math.min(8000, 0.47 * rate); low *= THIRD) {
        int first = (int) Math.ceil(low * length / rate);
        int end = Math.max(first + 1, (int) Math.ceil(low * THIRD * length / rate));
        double own = magnitude(c[t], first, end);
        double other = magnitude(v[t], first, end);
        double db = 20 * Math.log10(own / Math.max(Math.abs(own - other), 1e-6 * own + 1e-20));
        double weight = Math.pow(own, 0.2);
        weighted += weight * Math.max(-10, Math.min(35, db));
        weights += weight;
      }
      if (weights > 0) {
        sum += weighted / weights;
        frames++;
      }
    }
    return sum / Math.max(1, frames);
  }

  private static double magnitude(float[] frame, int first, int end) {
    double sum = 0;
    for (int k = first; k < end; k++) {
      sum +=
          Math.sqrt(
              (double) frame[2 * k] * frame[2 * k] + (double) frame[2 * k + 1] * frame[2 * k + 1]);
    }
    return sum;
  }
}
