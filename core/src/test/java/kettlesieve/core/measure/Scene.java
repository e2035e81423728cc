package kettlesieve.core.measure;

import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.Matcher;

/**
 * Real speech at 16 kHz under white noise, about 17 s, and versions of it, for the tests of single
 * measures. Matching by hand (no delay, no gain) keeps the expected figures exact.
 */
public final class Scene {
  public static final int RATE = 16_000;
  public static final float[] SPEECH = Sounds.speech16();
  public static final float[] NOISE = Sounds.white(SPEECH.length, 21);
  public static final double FACTOR = Sounds.noiseFactor(SPEECH, NOISE, 15);
  public static final float[] NOISY = Sounds.mix(SPEECH, NOISE, FACTOR);

  private static final MatchOverride AS_IT_IS = new MatchOverride(0.0, 1, 0.0, null, null);

  private Scene() {}

  public static float[] withNoiseTimes(double gain) {
    return Sounds.mix(SPEECH, NOISE, gain * FACTOR);
  }

  public static Pair pair(float[]... version) {
    return pair(null, null, Audio.of(RATE, NOISY), Audio.of(RATE, version));
  }

  public static Pair pair(TimeSpan excerpt, List<TimeSpan> pauses, Audio source, Audio version) {
    return pair(excerpt, pauses, source, version, null);
  }

  public static Pair pair(
      TimeSpan excerpt, List<TimeSpan> pauses, Audio source, Audio version, Audio reference) {
    SourceMaterial material =
        SourceMaterial.of(source, excerpt, pauses).forChannels(version.channels());
    try {
      MatchedVersion matched = Matcher.match(material, version, AS_IT_IS);
      return new Pair(new SourceAnalysis(material, reference, Job.DENOISE), matched);
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  public static Reading read(PairMeasure measure, Pair pair) {
    try {
      return measure.measure(pair);
    } catch (NotMeasurableException e) {
      throw new AssertionError(e);
    }
  }

  /** The reason why a measure gives no reading. */
  public static String reason(PairMeasure measure, Pair pair) {
    try {
      throw new AssertionError("it was measured: " + measure.measure(pair).value());
    } catch (NotMeasurableException e) {
      return e.getMessage();
    }
  }
}
