package kettlesieve.core.measure;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Progress;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * The clean recording itself, entered as a version, comes before all others; no reference given.
 */
class PerfectRemovalTest {

  static Stream<Arguments> cases() {
    return NeutralTest.neutralCases();
  }

  @ParameterizedTest(name = "{0} noise, {1} dB, {2} Hz")
  @MethodSource("cases")
  void ranksFirst(String kind, int snr, int rate) throws Exception {
    float[] clean = rate == 48_000 ? Sounds.speech48() : Sounds.speech16();
    float[] noise =
        switch (kind) {
          case "white" -> Sounds.white(clean.length, 5);
          case "pink" -> Sounds.pink(clean.length, 5);
          default -> Sounds.hum(clean.length, rate, 5);
        };
    double factor = Sounds.noiseFactor(clean, noise, snr);
    float[] noisy = Sounds.mix(clean, noise, factor);
    Audio source = Audio.of(rate, noisy);
    Map<String, float[]> versions = new LinkedHashMap<>();
    versions.put("untouched", noisy);
    versions.put("noise at -10 dB", Sounds.mix(clean, noise, 0.316 * factor));
    versions.put(
        "subtraction", new PlainSubtraction().process(source, 90, Progress.SILENT).wholeChannel(0));
    versions.put(
        "smoothed", new SmoothedWiener().process(source, 60, Progress.SILENT).wholeChannel(0));
    versions.put("low-passed", Sounds.lowPass(clean, rate, 3400));
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(source, null, null, null);
    double best = overall(preparedExcerpt, Audio.of(rate, clean));
    for (var version : versions.entrySet()) {
      double other = overall(preparedExcerpt, Audio.of(rate, version.getValue()));
      assertThat(best).as(version.getKey()).isGreaterThanOrEqualTo(other);
      if (version.getKey().equals("untouched") || version.getKey().equals("low-passed")) {
        assertThat(best).as(version.getKey()).isGreaterThan(other + 1);
      }
    }
  }

  private static double overall(PreparedExcerpt preparedExcerpt, Audio version)
      throws MatchException {
    Readings taken =
        preparedExcerpt.measure(
            preparedExcerpt.match(version, MatchOverride.NONE),
            Scoring.shipped().scales().keySet());
    Scoring scoring = Scoring.shipped();
    return Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.DENOISE)
        .overall()
        .orElseThrow()
        .value();
  }
}
