package kettlesieve.core.measure.clip;

import com.google.auto.service.AutoService;
import java.util.Arrays;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.LinearPrediction;
import kettlesieve.core.signal.Windows;

/** Kinks where a repair begins and ends. */
@AutoService(Measure.class)
public final class EdgeCrackle implements PairMeasure {
  private static final int ORDER = 32;
  private static final int FEWEST_CLIPPED = 8;
  private static final int FEWEST_FAR = 40;
  private static final int FAR = 4;
  private static final Declaration DECLARATION =
      new Declaration(
          "edge-crackle",
          "Edge crackle",
          Axis.ADDED.in(Job.DECLIP),
          "dB",
          false,
          "How much the seams of the repaired tops stick out, more than the clipping "
              + "itself did. It sounds like fine crackle on loud words.",
          "One autoregressive model of order 32 a frame for all versions, fitted to the estimated"
              + " original; the smaller of forward and backward residual power within a sample of"
              + " the edges of clipped runs over that more than 4 samples from them, dB; frames with"
              + " 8 clipped and 40 far samples, weighted by the clipped; version minus source, not"
              + " below 0.",
          "Kettle Sieve's own definition; residual after Godsill & Rayner 1998.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    RunReadings.cut(pair);
    ClippedPassages passages = pair.ofSource(ClippedPassages.OF);
    int blocks = pair.timeline().blocks();
    double[] sums = new double[blocks];
    double[] weights = new double[blocks];
    PlaceGrid places = RunReadings.grid(pair);
    Audio version = pair.version().audio();
    int length = pair.framing().sampleRate() > 30_000 ? 2048 : 1024;
    float[] hann = Windows.hann(length);
    for (ClippedPassages.Passage p : passages.all()) {
      float[] v = version.samples(p.channel(), p.from(), p.source().length);
      byte[] kinds = kinds(p.polarity());
      for (int from = 0; from + length <= v.length; from += length / 2) {
        long middle = p.from() + from + length / 2;
        if (middle < pair.firstSample() || middle >= pair.endSample()) {
          continue;
        }
        int clipped = count(p.polarity(), from + length / 4, from + 3 * length / 4);
        if (clipped < FEWEST_CLIPPED) {
          continue;
        }
        double[] y = new double[length];
        for (int i = 0; i < length; i++) {
          y[i] = p.estimate()[from + i] * (double) hann[i];
        }
        double[] model = LinearPrediction.of(y, ORDER);
        if (model == null) {
          continue;
        }
        double crackle =
            edgeDb(v, from, length, model, kinds) - edgeDb(p.source(), from, length, model, kinds);
        if (Double.isFinite(crackle)) {
          int frame = pair.frameOf(middle);
          sums[pair.timeline().block(frame)] += clipped * crackle;
          weights[pair.timeline().block(frame)] += clipped;
          places.add(frame, 0, crackle, clipped);
        }
      }
    }
    if (!(Arrays.stream(weights).sum() > 0)) {
      throw new NotMeasurableException("no clipped run stands free enough to judge its edges");
    }
    Estimate estimate =
        pair.bootstrap()
            .estimate(
                w -> {
                  double sum = 0;
                  double all = 0;
                  for (int b = 0; b < blocks; b++) {
                    sum += w[b] * sums[b];
                    all += w[b] * weights[b];
                  }
                  return all > 0 ? Math.max(0, sum / all) : Double.NaN;
                });
    return Reading.of(DECLARATION.id(), estimate)
        .withTrace(places.trace())
        .withSpots(places.spots(true, 5, 1));
  }

  private static int count(byte[] polarity, int from, int to) {
    int count = 0;
    for (int i = from; i < to; i++) {
      count += polarity[i] != 0 ? 1 : 0;
    }
    return count;
  }

  /** 1 within a sample of the edge of a run, 2 more than four samples from any, else 0. */
  private static byte[] kinds(byte[] polarity) {
    byte[] kinds = new byte[polarity.length];
    Arrays.fill(kinds, (byte) 2);
    for (int i = 0; i < polarity.length; i++) {
      if (polarity[i] != 0) {
        Arrays.fill(kinds, Math.max(0, i - FAR), Math.min(kinds.length, i + FAR + 1), (byte) 0);
      }
    }
    for (int i = 1; i < polarity.length; i++) {
      if ((polarity[i] != 0) != (polarity[i - 1] != 0)) {
        int edge = polarity[i] != 0 ? i : i - 1;
        Arrays.fill(kinds, Math.max(0, edge - 1), Math.min(kinds.length, edge + 2), (byte) 1);
      }
    }
    return kinds;
  }

  /** Residual at the edges over that far from them, dB; NaN where there is too little of either. */
  private static double edgeDb(float[] x, int from, int length, double[] model, byte[] kinds) {
    double edges = 0;
    double far = 0;
    int edgeCount = 0;
    int farCount = 0;
    for (int i = from + length / 4; i < from + 3 * length / 4; i++) {
      if (kinds[i] == 0) {
        continue;
      }
      double forward = 0;
      double backward = 0;
      for (int k = 0; k < model.length; k++) {
        forward += model[k] * x[i - k];
        backward += model[k] * x[i + k];
      }
      double r = Math.min(forward * forward, backward * backward);
      if (kinds[i] == 1) {
        edges += r;
        edgeCount++;
      } else {
        far += r;
        farCount++;
      }
    }
    return edgeCount == 0 || farCount < FEWEST_FAR || !(far > 0) || !(edges > 0)
        ? Double.NaN
        : Db.ofPower(edges / edgeCount / (far / farCount));
  }
}
