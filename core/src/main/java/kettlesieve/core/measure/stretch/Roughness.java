package kettlesieve.core.measure.stretch;

import com.google.auto.service.AutoService;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BlockRatio;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.signal.Biquad;
import kettlesieve.core.signal.Fft;
import kettlesieve.core.signal.Windows;
import kettlesieve.core.task.Stop;

/** Quick beating that a version has and its source has not, in music however dense. */
@AutoService(Measure.class)
public final class Roughness implements StretchMeasure {
  private static final double[] BANDS_HZ = {300, 500, 800, 1250, 2000, 3150, 5000};
  private static final double QUALITY = 2;
  private static final double ENVELOPE_RATE = 500;
  private static final int LOOK = 128;
  private static final int AT_ONCE = 4096;
  private static final double LEAD_SECONDS = 0.1;
  private static final double FROM_HZ = 20;
  private static final double TO_HZ = 120;
  private static final double AUDIBLE = 1e-3;
  private static final int FEWEST = 40;
  private static final Declaration DECLARATION =
      new Declaration(
          "roughness",
          "Roughness",
          Axis.ADDED.in(Job.STRETCH, Job.PITCH),
          "%",
          false,
          "How much the sound has begun to rattle or buzz: pieces of some hundredths of a second"
              + " that do not fit, heard as a grating on everything that sounds on.",
          "Envelopes of seven bands around 300 to 5,000 Hz (in the version at the pitch it has), in"
              + " looks of 256 ms: root of the power of 20 to 120 Hz over the square of the mean."
              + " Version minus source at mapped moments (there"
              + " over the ratio of pitches, and times that of lengths, the deeper of both), weighted by the root of the band's power,"
              + " mean over what lies within 30 dB of the loudest; not below 0. Not of a single voice"
              + " that was shifted.",
          "Kettle Sieve's own definition; the range after Fastl & Zwicker, \"Psychoacoustics\","
              + " Springer 2007, chapter 11.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  /** Envelopes of the source's excerpt by band, worked out once for all versions. */
  private static final Analysis.OfSource<float[][]> SOURCE =
      source -> {
        double start = source.source().startSeconds();
        double end = start + source.source().audio().seconds();
        return envelopes(source.source().whole().downmix(), start, end, 1);
      };

  /** By band; null for one that reaches too high. */
  private static float[][] envelopes(Audio audio, double from, double to, double pitch) {
    float[][] envelopes = new float[BANDS_HZ.length][];
    for (int b = 0; b < envelopes.length; b++) {
      if (1.3 * BANDS_HZ[b] * pitch < 0.45 * audio.sampleRate()) {
        envelopes[b] = envelope(audio, from, to, BANDS_HZ[b] * pitch);
      }
    }
    return envelopes;
  }

  private static int every(Audio audio) {
    return (int) Math.round(audio.sampleRate() / ENVELOPE_RATE);
  }

  /** Envelope of a band, some 500 times a second; filtered piece by piece, however long it is. */
  private static float[] envelope(Audio audio, double from, double to, double hz) {
    int rate = audio.sampleRate();
    int every = every(audio);
    double half = Math.pow(2, 1 / (2 * QUALITY));
    int lead = (int) (LEAD_SECONDS * rate);
    long first = Math.round(from * rate);
    float[] envelope = new float[(int) Math.max(0, (to - from) * rate / every)];
    for (int begin = 0; begin < envelope.length; begin += AT_ONCE) {
      Stop.checkHere();
      int count = Math.min(AT_ONCE, envelope.length - begin);
      float[] raw = audio.samples(0, first + (long) begin * every - lead, lead + count * every);
      double[] x = new double[raw.length];
      for (int i = 0; i < x.length; i++) {
        x[i] = raw[i];
      }
      for (int twice = 0; twice < 2; twice++) {
        Biquad.highPass(hz / half, Math.sqrt(0.5), rate).filter(x);
        Biquad.lowPass(hz * half, Math.sqrt(0.5), rate).filter(x);
      }
      for (int i = 0; i < count; i++) {
        double sum = 0;
        for (int j = 0; j < every; j++) {
          double v = x[lead + i * every + j];
          sum += v * v;
        }
        envelope[begin + i] = (float) Math.sqrt(sum / every);
      }
    }
    return envelope;
  }

  /** Depth of quick modulation and mean power of a look; null where it reaches over an end. */
  private static double[] look(
      float[] envelope, double seconds, double rate, float[] window, double scale) {
    int from = (int) Math.round(seconds * rate) - LOOK / 2;
    if (from < 0 || from + LOOK > envelope.length) {
      return null;
    }
    float[] x = new float[LOOK];
    double mean = 0;
    double weight = 0;
    for (int i = 0; i < LOOK; i++) {
      mean += window[i] * envelope[from + i];
      weight += window[i];
    }
    mean /= weight;
    double squares = 0;
    for (int i = 0; i < LOOK; i++) {
      x[i] = (float) (window[i] * (envelope[from + i] - mean));
      squares += window[i] * window[i];
    }
    Fft.forward(x);
    double power = 0;
    for (int k = 1; k < LOOK / 2; k++) {
      double hz = k * rate / LOOK;
      if (hz >= FROM_HZ * scale && hz <= TO_HZ * scale) {
        power += 2 * ((double) x[2 * k] * x[2 * k] + (double) x[2 * k + 1] * x[2 * k + 1]);
      }
    }
    double depth = mean > 0 ? Math.sqrt(power / (LOOK * squares)) / mean : 0;
    return new double[] {depth, mean * mean};
  }

  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    if (warp.source().job() == Job.PITCH && warp.source().shared(SingleVoice.OF).single()) {
      throw new NotMeasurableException(
          "a single voice whose pitch was moved: its own pulse lies where roughness does");
    }
    Audio source = warp.source().source().whole().downmix();
    Audio version = warp.version().audio().downmix();
    double pitch = warp.shared(StretchedPitch.OF).ratio();
    double rate = (double) source.sampleRate() / every(source);
    float[] window = Windows.hann(LOOK);
    BlockRatio more = new BlockRatio(warp.source());
    PlaceGrid places = PlaceGrid.ofTime(warp.source().timeline(), 250, 6000);
    double start = warp.source().source().startSeconds();
    double end = start + warp.source().source().audio().seconds();
    double from = Math.max(0, warp.fit().map().at(start));
    double to = Math.min(version.seconds(), warp.fit().map().at(end));
    float[][] before = warp.source().shared(SOURCE);
    float[][] after = envelopes(version, from, to, pitch);
    int count = 0;
    double loudest = 0;
    for (float[] envelope : before) {
      for (int i = 0; envelope != null && i < envelope.length; i++) {
        loudest = Math.max(loudest, (double) envelope[i] * envelope[i]);
      }
    }
    double step = LOOK / rate / 2;
    for (double at = start + step; at + step < end; at += step) {
      double there = warp.fit().map().at(at) - from;
      for (int b = 0; b < BANDS_HZ.length; b++) {
        if (before[b] == null || after[b] == null) {
          continue;
        }
        double[] then = look(before[b], at - start, rate, window, 1 / pitch);
        double[] now = look(after[b], there, rate, window, 1);
        if (then == null || now == null || then[1] < AUDIBLE * loudest) {
          continue;
        }
        // What swells and fades does so faster where it was shortened.
        double[] faster = look(before[b], at - start, rate, window, warp.fit().slope() / pitch);
        double weight = Math.sqrt(then[1]);
        int frame = warp.frame(at);
        double rougher = 100 * (now[0] - Math.max(then[0], faster[0]));
        more.add(warp.source().timeline().block(frame), rougher * weight, weight);
        places.add(frame, 0, rougher, weight);
        count++;
      }
    }
    if (count < FEWEST) {
      throw new NotMeasurableException("too little of it sounds long enough to be followed");
    }
    Estimate estimate = more.estimate(x -> Math.max(0, x));
    return Reading.of(DECLARATION.id(), estimate)
        .with("looks", count, "")
        .withTrace(places.trace())
        .withSpots(places.spots(true, Math.max(3, estimate.value()), 0));
  }
}
