package kettlesieve.core.measure.stretch;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Statistics;
import kettlesieve.core.signal.Windows;

/**
 * Whether a source is one voice. Bass, guitar, bells and single notes of a piano have one
 * fundamental at a time as well, but over 80 ms it moves by less than 9 cents, where a voice
 * wanders by 30 to 200; what is struck only falls, where a voice's level rises as often; and an
 * instrument's octaves keep their proportions within 5 dB, where those of vowels change by 5 to 12
 * dB.
 *
 * <p>Set on recorded and played voices and instruments of the calibration bench, of both halves.
 */
final class SingleVoice {
  /** Of a source. */
  static final Analysis.OfSource<SingleVoice> OF = SingleVoice::new;

  private static final int RUN = 8;
  private static final int FEWEST_RUNS = 20;
  private static final double LEAST_VOICED = 0.15;
  private static final double AUDIBLE_DB = -40;

  /** Further is a slip to another octave or note. */
  private static final double MOST_CENTS = 400;

  private static final double USUAL_CENTS = 9;
  private static final double OFTEN_CENTS = 12;
  private static final double LEAST_VARIETY_DB = 5.8;

  /** What wanders as speech does need not have as many vowels: a sitar has 3 dB. */
  private static final double WANDERS_CENTS = 25;

  private static final double SOME_VARIETY_DB = 4;
  private static final int OCTAVES = 4;
  private static final double LOWEST_OCTAVE_HZ = 300;
  private static final double LOOK_SECONDS = 0.05;
  private static final double FALLS_DB = -2.5;
  private static final double LEAST_SHARE = 1e-4;
  private static final double LEVEL_SECONDS = 0.040;

  private final boolean single;

  private SingleVoice(SourceAnalysis analysis) throws NotMeasurableException {
    double[] hz = analysis.shared(StretchedVoices.SOURCE);
    double[] level = levels(analysis, hz.length);
    double loudest = Double.NEGATIVE_INFINITY;
    for (double db : level) {
      loudest = Math.max(loudest, db);
    }
    int audible = 0;
    int voiced = 0;
    List<Double> moves = new ArrayList<>();
    List<Double> changes = new ArrayList<>();
    for (int i = 0; i < hz.length; i++) {
      if (level[i] < loudest + AUDIBLE_DB) {
        continue;
      }
      audible++;
      voiced += Double.isNaN(hz[i]) ? 0 : 1;
      double cents = i + RUN < hz.length ? moved(hz, i) : Double.NaN;
      if (cents < MOST_CENTS) {
        moves.add(cents);
        changes.add(level[i + RUN] - level[i]);
      }
    }
    single =
        moves.size() >= FEWEST_RUNS
            && voiced >= LEAST_VOICED * audible
            && quantile(moves, 0.5) >= USUAL_CENTS
            && quantile(moves, 0.75) >= OFTEN_CENTS
            && quantile(changes, 0.75) >= FALLS_DB
            && variety(analysis, hz, level, loudest + AUDIBLE_DB)
                >= (quantile(moves, 0.5) >= WANDERS_CENTS ? SOME_VARIETY_DB : LEAST_VARIETY_DB);
  }

  /** Standard deviation of the octaves' shares over the voiced moments, mean over octaves, dB. */
  private static double variety(
      SourceAnalysis analysis, double[] hz, double[] level, double least) {
    Audio audio = analysis.source().whole().downmix();
    int rate = audio.sampleRate();
    int look = Integer.highestOneBit((int) (LOOK_SECONDS * rate));
    float[] window = Windows.hann(look);
    float[] x = new float[look];
    double[] sums = new double[OCTAVES];
    double[] squares = new double[OCTAVES];
    int count = 0;
    for (int i = 0; i < hz.length; i++) {
      if (Double.isNaN(hz[i]) || level[i] < least) {
        continue;
      }
      double at = analysis.source().startSeconds() + (i + 0.5) * StretchedVoices.HOP;
      audio.read(0, Math.round(at * rate) - look / 2, x, 0, look);
      for (int k = 0; k < look; k++) {
        x[k] *= window[k];
      }
      Fft.forward(x);
      double[] octaves = new double[OCTAVES];
      double all = 1e-12;
      for (int k = 1; k < look / 2; k++) {
        double octave = Math.log((double) k * rate / look / LOWEST_OCTAVE_HZ) / Math.log(2);
        if (octave >= 0 && octave < OCTAVES) {
          double power = (double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1];
          octaves[(int) octave] += power;
          all += power;
        }
      }
      for (int o = 0; o < OCTAVES; o++) {
        double db = 10 * Math.log10(octaves[o] / all + LEAST_SHARE);
        sums[o] += db;
        squares[o] += db * db;
      }
      count++;
    }
    double mean = 0;
    for (int o = 0; o < OCTAVES; o++) {
      double middle = sums[o] / count;
      mean += Math.sqrt(Math.max(0, squares[o] / count - middle * middle)) / OCTAVES;
    }
    return mean;
  }

  /** How far the pitch wanders from here on; NaN where it is not voiced all the way. */
  private static double moved(double[] hz, int from) {
    double low = Double.POSITIVE_INFINITY;
    double high = 0;
    for (int i = from; i <= from + RUN; i++) {
      if (Double.isNaN(hz[i])) {
        return Double.NaN;
      }
      low = Math.min(low, hz[i]);
      high = Math.max(high, hz[i]);
    }
    return 1200 * Math.log(high / low) / Math.log(2);
  }

  private static double[] levels(SourceAnalysis analysis, int count) {
    Audio audio = analysis.source().whole().downmix();
    int rate = audio.sampleRate();
    float[] x = new float[(int) (LEVEL_SECONDS * rate)];
    double[] db = new double[count];
    for (int i = 0; i < count; i++) {
      double at = analysis.source().startSeconds() + (i + 0.5) * StretchedVoices.HOP;
      audio.read(0, Math.round(at * rate) - x.length / 2, x, 0, x.length);
      double sum = 1e-12;
      for (float v : x) {
        sum += (double) v * v;
      }
      db[i] = 10 * Math.log10(sum);
    }
    return db;
  }

  private static double quantile(List<Double> values, double share) {
    return Statistics.quantile(values.stream().mapToDouble(Double::doubleValue).toArray(), share);
  }

  /** Whether it is one. */
  boolean single() {
    return single;
  }

  /** Says what was looked at where it is none. */
  void check() throws NotMeasurableException {
    if (!single) {
      throw new NotMeasurableException(
          "the source is no single voice: too little of it is voiced, or its pitch and its"
              + " vowels stand still as an instrument's do");
    }
  }
}
