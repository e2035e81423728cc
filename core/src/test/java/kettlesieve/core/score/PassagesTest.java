package kettlesieve.core.score;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.report.LeadersAudio;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Who leads where: real speech in noise, versions that are better in one half each. */
class PassagesTest {
  private static final int RATE = 16_000;
  private static final int LENGTH = 16 * RATE;
  private static final MediaFacts FACTS =
      new MediaFacts("00", 1, "wav", "pcm", 16, false, RATE, 1, LENGTH);
  private static float[] speech;
  private static float[] noise;
  private static PreparedExcerpt preparedExcerpt;

  @BeforeAll
  static void source() throws Exception {
    float[] read = Sounds.speech16();
    speech = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      speech[i] = i % (2 * RATE) < RATE / 2 ? 0 : read[i % read.length];
    }
    noise = Sounds.white(LENGTH, 12);
    List<TimeSpan> pauses = new ArrayList<>();
    for (int s = 0; s < 16; s += 2) {
      pauses.add(new TimeSpan(s + 0.05, s + 0.45));
    }
    preparedExcerpt = PreparedExcerpt.of(Audio.of(RATE, noisy(i -> 1)), null, null, pauses);
  }

  private interface Gain {
    double at(int sample);
  }

  private static float[] noisy(Gain gain) {
    double factor = Sounds.noiseFactor(speech, noise, 12);
    float[] x = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      x[i] = (float) (speech[i] + gain.at(i) * factor * noise[i]);
    }
    return x;
  }

  private static ScoreSheet sheet(Map<String, float[]> versions, Map<String, Heard> heard)
      throws Exception {
    List<Measured> measured = new ArrayList<>();
    for (var version : versions.entrySet()) {
      MatchedVersion matched =
          preparedExcerpt.match(Audio.of(RATE, version.getValue()), MatchOverride.NONE);
      heard.put(version.getKey(), Heard.of(matched));
      measured.add(
          Measured.of(
              VersionFacts.of(
                  version.getKey(), version.getKey(), Path.of("v.wav"), FACTS, matched.match()),
              preparedExcerpt.measure(matched)));
    }
    Scoring scoring = Scoring.shipped();
    return ScoreSheet.of(
        new Heading(Job.DENOISE, scoring.profileOrDefault(null), scoring, Path.of("s.wav"), FACTS),
        measured,
        List.of(),
        List.of(),
        List.of());
  }

  @Test
  void theChangeOfTheLeadIsFoundWithinAPassage() throws Exception {
    int half = LENGTH / 2;
    Map<String, float[]> versions = new LinkedHashMap<>();
    versions.put("first", noisy(i -> i < half ? 0.05 : 0.9));
    versions.put("second", noisy(i -> i < half ? 0.9 : 0.05));
    Map<String, Heard> heard = new LinkedHashMap<>();
    ScoreSheet sheet = sheet(versions, heard);
    Passages passages = Passages.of(sheet).orElseThrow();
    assertThat(passages.passages()).hasSize(8);
    List<Passages.Passage> stretches = passages.stretches();
    assertThat(stretches).extracting(Passages.Passage::leader).containsExactly("first", "second");
    assertThat(stretches.get(0).to()).isCloseTo(8, within(Passages.SECONDS));
    assertThat(stretches).allMatch(Passages.Passage::sure);
    assertThat(Passages.title(stretches.get(0).reason())).isNotEmpty();
    // No passage ends after the file.
    MediaFacts shorter =
        new MediaFacts("00", 1, "wav", "pcm", 16, false, RATE, 1, LENGTH - 7 * RATE / 10);
    Heading heading =
        new Heading(Job.DENOISE, sheet.profile(), sheet.scoring(), Path.of("s.wav"), shorter);
    ScoreSheet cut = ScoreSheet.of(heading, sheet.versions(), List.of(), List.of(), List.of());
    assertThat(Passages.of(cut).orElseThrow().passages().get(7).to()).isEqualTo(shorter.seconds());
    // The leaders' signal takes the right halves, and no jump stands out at the seam.
    LeadersAudio leaders = new LeadersAudio(passages, heard, RATE, LENGTH);
    float[] x = leaders.wholeChannel(0);
    float[] first = heard.get("first").audio().wholeChannel(0);
    float[] second = heard.get("second").audio().wholeChannel(0);
    assertThat(x[RATE * 3]).isEqualTo(first[RATE * 3]);
    assertThat(x[RATE * 13]).isEqualTo(second[RATE * 13]);
    double own = 0;
    double seam = 0;
    int at = (int) Math.round(stretches.get(0).to() * RATE);
    for (int i = 1; i < LENGTH; i++) {
      double jump = Math.abs(x[i] - x[i - 1]);
      if (Math.abs(i - at) < RATE / 50) {
        seam = Math.max(seam, jump);
      } else {
        own = Math.max(own, jump);
      }
    }
    assertThat(seam).isLessThan(own);
  }

  @Test
  void versionsThatAreNotToldApartHaveOneSteadyLeader() throws Exception {
    Map<String, float[]> versions = new LinkedHashMap<>();
    for (int v = 0; v < 3; v++) {
      float[] x = noisy(i -> 0.2);
      float[] own = Sounds.white(LENGTH, 100 + v);
      for (int i = 0; i < LENGTH; i++) {
        x[i] += 0.0002f * own[i];
      }
      versions.put("v" + v, x);
    }
    Passages passages = Passages.of(sheet(versions, new LinkedHashMap<>())).orElseThrow();
    assertThat(passages.stretches().stream().map(Passages.Passage::leader).distinct()).hasSize(1);
    assertThat(passages.passages()).noneMatch(Passages.Passage::sure);
    assertThat(Passages.of(sheet(Map.of("a", versions.get("v0")), new LinkedHashMap<>())))
        .isEmpty();
  }

  @Test
  void whatNobodyMastersIsMarked() throws Exception {
    Map<String, float[]> versions = new LinkedHashMap<>();
    float[] left = noisy(i -> 1);
    for (int i = 0; i < LENGTH; i++) {
      left[i] *= i / 1500 % 2 == 0 ? 0.03f : 1;
    }
    versions.put("left", left);
    float[] gated = noisy(i -> 0.9);
    for (int i = 0; i < LENGTH; i++) {
      gated[i] *= i / 2000 % 2 == 0 ? 0.02f : 1;
    }
    versions.put("gated", gated);
    Passages passages = Passages.of(sheet(versions, new LinkedHashMap<>())).orElseThrow();
    assertThat(passages.passages()).anyMatch(p -> !p.mastered());
    assertThat(Arrays.asList("left", "gated")).contains(passages.passages().get(0).leader());
  }
}
