package kettlesieve.core.measure;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.work.PreparedExcerpt;

/** Real speech at 48 kHz under white noise, and readings of versions of it. */
final class NoisySpeech {
  static final int RATE = 48_000;
  static final float[] SPEECH = Sounds.speech48();
  static final float[] NOISE = Sounds.white(SPEECH.length, 11);
  static final double FACTOR = Sounds.noiseFactor(SPEECH, NOISE, 15);
  static final float[] NOISY = Sounds.mix(SPEECH, NOISE, FACTOR);

  /** The noisy source, analysed once for all that is measured against it. */
  static final PreparedExcerpt ANALYSED = preparedExcerpt(RATE, NOISY, null);

  static final float[] CLEANED = Sounds.mix(SPEECH, NOISE, 0.1 * FACTOR);

  static PreparedExcerpt preparedExcerpt(int rate, float[] source, float[] clean) {
    try {
      return PreparedExcerpt.of(
          Audio.of(rate, source), clean == null ? null : Audio.of(rate, clean), null, null);
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  static Readings take(PreparedExcerpt preparedExcerpt, Audio version) {
    try {
      return preparedExcerpt.measure(preparedExcerpt.match(version, MatchOverride.NONE));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  /** Only some readings, for who needs no others. */
  static Readings take(PreparedExcerpt preparedExcerpt, Audio version, Collection<String> ids) {
    try {
      return preparedExcerpt.measure(
          preparedExcerpt.match(version, MatchOverride.NONE), Set.copyOf(ids));
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  static Readings take(int rate, float[] source, float[] clean, Audio version) {
    return take(preparedExcerpt(rate, source, clean), version);
  }

  static Map<String, Reading> readings(float[] version) {
    return readings(Audio.of(RATE, version));
  }

  static Map<String, Reading> readings(Audio version) {
    return byId(take(ANALYSED, version));
  }

  static Map<String, Reading> byId(Readings taken) {
    return taken.readings().stream().collect(Collectors.toMap(Reading::measure, r -> r));
  }

  static Map<String, Reading> readings(float[] version, Collection<String> ids) {
    return byId(take(ANALYSED, Audio.of(RATE, version), ids));
  }

  static Reading reading(float[] version, String measure) {
    return readings(version, List.of(measure)).get(measure);
  }

  static double value(float[] version, String measure) {
    return reading(version, measure).value();
  }

  /** Readings of harm: what denoising added or took. */
  static final List<String> HARM =
      List.of(
          "musical-noise",
          "breathing",
          "flutter",
          "ringing",
          "voice-loss",
          "bandwidth",
          "dropouts",
          "detail-loss",
          "attack-loss");

  private NoisySpeech() {}
}
