package kettlesieve.core.measure.reference;

import java.util.List;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.SumAudio;

/**
 * The energies of the separation evaluation of a version, with the clean recording as the wanted
 * source and what was unwanted (source minus clean recording) as the other, gathered by slot.
 *
 * <p>As sources: target = the filtered clean recording; as images: target = the clean recording as
 * it is, and what filtering it would explain counts as spatial (here: spectral) distortion.
 */
public final class Separation {
  /** As sources: on the downmix. */
  public static final Analysis<Separation> SOURCES = pair -> of(pair, false);

  /** As images: channels as they are. */
  public static final Analysis<Separation> IMAGES = pair -> of(pair, true);

  private static final Analysis.OfSource<BssEval> FACTORED_SOURCES = s -> evaluation(s, false);
  private static final Analysis.OfSource<BssEval> FACTORED_IMAGES = s -> evaluation(s, true);

  private static final double LARGEST_DB = 100;

  /** Which ratio. */
  public enum Kind {
    /** Target over everything else. */
    SDR,
    /** Target over filtering distortion; of images only. */
    ISR,
    /** Target over interference: the noise that is left. */
    SIR,
    /** Target and interference over artifacts. */
    SAR
  }

  private final Pair pair;
  private final boolean images;
  // By slot: target, filtering, target + filtering, interference, all sources, artifacts, all
  // error.
  private final double[][] slots;

  private static Separation of(Pair pair, boolean images) throws NotMeasurableException {
    pair.needReference();
    return new Separation(pair, pair.ofSource(images ? FACTORED_IMAGES : FACTORED_SOURCES), images);
  }

  /** The clean recording and what was unwanted: the same for all versions. */
  private static BssEval evaluation(SourceAnalysis source, boolean images)
      throws NotMeasurableException {
    Audio clean = source.reference().orElseThrow();
    Audio unwanted = SumAudio.remainder(source.source().audio(), List.of(clean));
    List<Audio> sources = List.of(clean, unwanted);
    try {
      return images
          ? BssEval.ofImages(sources)
          : BssEval.ofSources(sources.stream().map(Audio::downmix).toList());
    } catch (IllegalArgumentException e) {
      throw new NotMeasurableException(
          "the clean recording cannot be told from the noise here: " + e.getMessage());
    }
  }

  private Separation(Pair pair, BssEval evaluation, boolean images) {
    this.pair = pair;
    this.images = images;
    this.slots = new double[pair.timeline().slots()][7];
    Audio version = pair.version().audio();
    Audio reference = pair.reference().orElseThrow();
    Audio judged = images ? version : version.downmix();
    Audio clean = images ? reference : reference.downmix();
    for (int c = 0; c < judged.channels(); c++) {
      int channel = c;
      evaluation.split(
          judged,
          c,
          (from, estimate, target, all, length) ->
              add(from, estimate, target, all, clean.samples(channel, from, length), length));
    }
  }

  private void add(
      long from, float[] estimate, float[] target, float[] all, float[] clean, int length) {
    for (int i = 0; i < length; i++) {
      double[] sums = slots[pair.timeline().slot(pair.frameOf(from + i))];
      double wanted = images ? clean[i] : target[i];
      double filtering = target[i] - wanted;
      double interference = (double) all[i] - target[i];
      double artifacts = (double) estimate[i] - all[i];
      sums[0] += wanted * wanted;
      sums[1] += filtering * filtering;
      sums[2] += (double) target[i] * target[i];
      sums[3] += interference * interference;
      sums[4] += (double) all[i] * all[i];
      sums[5] += artifacts * artifacts;
      double error = estimate[i] - wanted;
      sums[6] += error * error;
    }
  }

  private static double ratioDb(Kind kind, double[] sums) {
    double of =
        switch (kind) {
          case SDR, ISR -> sums[0];
          case SIR -> sums[2];
          case SAR -> sums[4];
        };
    double to =
        switch (kind) {
          case SDR -> sums[6];
          case ISR -> sums[1];
          case SIR -> sums[3];
          case SAR -> sums[5];
        };
    if (!(of > 0)) {
      return Double.NaN;
    }
    return Math.max(-LARGEST_DB, Db.ofPower(of / Math.max(to, of * Db.toPower(-LARGEST_DB))));
  }

  /** A ratio over the excerpt, not above 100 dB. */
  public Estimate estimate(Kind kind) {
    double[][] blocks = new double[pair.timeline().blocks()][7];
    for (int s = 0; s < slots.length; s++) {
      double[] block = blocks[pair.timeline().blockOfSlot(s)];
      for (int i = 0; i < block.length; i++) {
        block[i] += slots[s][i];
      }
    }
    return pair.bootstrap()
        .estimate(
            w -> {
              double[] sum = new double[7];
              for (int b = 0; b < blocks.length; b++) {
                for (int i = 0; i < sum.length; i++) {
                  sum[i] += w[b] * blocks[b][i];
                }
              }
              return ratioDb(kind, sum);
            });
  }

  /** The ratio in each slot that holds wanted sound. */
  public PlaceGrid places(Kind kind) {
    PlaceGrid places = PlaceGrid.ofTime(pair.timeline(), 20, pair.framing().sampleRate() / 2.0);
    int slotFrames = pair.framing().framesIn(0.1);
    for (int s = 0; s < slots.length; s++) {
      int frame = Math.min(pair.timeline().frames() - 1, s * slotFrames + slotFrames / 2);
      if (pair.source().pauses().activity().active(frame)) {
        double value = ratioDb(kind, slots[s]);
        if (Double.isFinite(value)) {
          places.add(s * slotFrames, 0, value, 1);
        }
      }
    }
    return places;
  }
}
