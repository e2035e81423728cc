package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockHistograms;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;

/** A voice that sounds as if in a tube. */
@AutoService(Measure.class)
public final class Phasiness implements StretchMeasure {
  private static final double LOW_HZ = 1000;
  private static final double HIGH_HZ = 4000;
  private static final double SECONDS = 0.040;
  private static final double CLEAR_DB = -6;
  private static final double LEAST = 1e-4;
  private static final int FEWEST = 20;
  private static final Declaration DECLARATION =
      new Declaration(
          "phasiness",
          "Phasiness",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "dB",
          false,
          "How much of the voice's pulse is smeared: the voice sounds distant, as if spoken into a"
              + " tube. Up to 2 dB is not heard; a plain phase vocoder reads 6 and more.",
          "Envelope of 1 to 4 kHz (Hilbert), 40 ms a voiced frame: depth 10·log10(|A(f0)|² +"
              + " |A(2·f0)|² + 1e-4) of its components over its mean, each signal at its own f0;"
              + " source minus version where the source's is over −6 dB, median, not below 0.",
          "After Laroche & Dolson, IEEE Trans. Speech Audio Process. 7, 1999; f0 by de Cheveigné &"
              + " Kawahara 2002.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    warp.source().shared(SingleVoice.OF).check();
    List<StretchedVoices.Frame> frames = warp.shared(StretchedVoices.OF).frames();
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    BlockHistograms less = new BlockHistograms(warp.source().timeline(), -40, 40, 0.05);
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), LOW_HZ, HIGH_HZ);
    // What was merely played faster or slower has its band elsewhere.
    StretchedPitch pitch = warp.shared(StretchedPitch.OF);
    double scale = pitch.played() ? pitch.ratio() : 1;
    int count = 0;
    for (int i = 0; i < frames.size(); i += 2) {
      StretchedVoices.Frame frame = frames.get(i);
      double own = depth(source, frame.source(), frame.before(), 1);
      if (!(own > CLEAR_DB)) {
        continue;
      }
      double hz = frame.both() ? frame.after() : frame.before() * pitch.ratio();
      double lost = own - depth(version, frame.version(), hz, scale);
      int at = warp.frame(frame.source());
      less.add(warp.source().timeline().block(at), lost, 1);
      places.add(at, 0, lost, 1);
      count++;
    }
    if (count < FEWEST) {
      throw new NotMeasurableException("there is no voice with a clear pulse");
    }
    Estimate estimate = warp.source().bootstrap().estimate(less::median).map(x -> Math.max(0, x));
    return Reading.of(DECLARATION.id(), estimate)
        .with("frames", count, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(2, estimate.value()), 1));
  }

  /** How deep the envelope pulses at f0 and twice f0, dB. */
  private static double depth(Audio audio, double seconds, double hz, double scale) {
    int rate = audio.sampleRate();
    int wanted = (int) Math.round(SECONDS * rate);
    int length = Fft.powerOfTwo(2L * wanted);
    float[] x = audio.samples(0, Math.round(seconds * rate) - length / 2, length);
    float[] window = Windows.hann(length);
    for (int i = 0; i < length; i++) {
      x[i] *= window[i];
    }
    Fft.forward(x);
    double top = Math.min(scale * HIGH_HZ, 0.45 * rate);
    float[] turned = new float[length];
    x[0] = 0;
    x[1] = 0;
    for (int k = 1; k < length / 2; k++) {
      double f = (double) k * rate / length;
      boolean within = f >= scale * LOW_HZ && f <= top;
      x[2 * k] = within ? x[2 * k] : 0;
      x[2 * k + 1] = within ? x[2 * k + 1] : 0;
      turned[2 * k] = x[2 * k + 1];
      turned[2 * k + 1] = -x[2 * k];
    }
    Fft.inverse(x);
    Fft.inverse(turned);
    int from = (length - wanted) / 2;
    float[] inner = Windows.hann(wanted / 2 * 2);
    double mean = 0;
    double[] re = new double[2];
    double[] im = new double[2];
    // One turn after the other: sines are slow, and these are a few thousand a frame.
    double stepRe = Math.cos(2 * Math.PI * hz / rate);
    double stepIm = Math.sin(2 * Math.PI * hz / rate);
    double turnRe = 1;
    double turnIm = 0;
    for (int i = 0; i < inner.length; i++) {
      // The outer window is undone: what is looked at lies in its middle.
      double envelope =
          Math.sqrt(x[from + i] * x[from + i] + turned[from + i] * turned[from + i])
              / Math.max(0.05, window[from + i]);
      double weighted = inner[i] * envelope;
      mean += weighted;
      re[0] += weighted * turnRe;
      im[0] += weighted * turnIm;
      // Twice the angle.
      re[1] += weighted * (turnRe * turnRe - turnIm * turnIm);
      im[1] += weighted * 2 * turnRe * turnIm;
      double next = turnRe * stepRe - turnIm * stepIm;
      turnIm = turnRe * stepIm + turnIm * stepRe;
      turnRe = next;
    }
    if (!(mean > 0)) {
      return 10 * Math.log10(LEAST);
    }
    double sum = LEAST;
    for (int h = 0; h < 2; h++) {
      sum += 4 * (re[h] * re[h] + im[h] * im[h]) / (mean * mean);
    }
    return 10 * Math.log10(sum);
  }
}
