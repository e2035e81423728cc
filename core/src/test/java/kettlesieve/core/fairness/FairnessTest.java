package kettlesieve.core.fairness;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.Matcher;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.Recording;
import kettlesieve.core.signal.LinearTimeAudio;
import org.junit.jupiter.api.Test;

class FairnessTest {
  private static final Audio SPEECH = Audio.of(48_000, Sounds.speech48());

  private static Recording recording(String name, Audio audio, boolean lossy) {
    MediaFacts facts =
        new MediaFacts(
            name,
            1000,
            "wav",
            lossy ? "mp3" : "pcm_s24le",
            24,
            lossy,
            audio.sampleRate(),
            audio.channels(),
            audio.frames());
    return new Recording(Path.of(name), facts, audio);
  }

  private static List<Fairness.Item> items(Audio version, boolean lossy) throws Exception {
    Version v = Version.of("v1", "a", MediaRef.of(Path.of("a.wav")));
    Comparison c = Comparison.empty("x", Job.DENOISE).plus(v);
    MatchedVersion matched =
        Matcher.match(
            SourceMaterial.of(SPEECH, null, null).forChannels(version.channels()),
            version,
            v.match());
    return Fairness.of(
        c, v, recording("s", SPEECH, false), List.of(recording("a", version, lossy)), matched);
  }

  private static List<String> matters(List<Fairness.Item> items) {
    return items.stream().map(Fairness.Item::matter).toList();
  }

  @Test
  void anHonestVersionHasNothingUnfair() throws Exception {
    float[] x = SPEECH.wholeChannel(0);
    float[] hiss = Sounds.white(x.length, 7);
    assertThat(items(Audio.of(48_000, Sounds.mix(x, hiss, 0.0005)), false)).isEmpty();
  }

  @Test
  void eachThingIsNamedWithWhatWasDone() throws Exception {
    Audio spoiled =
        LinearTimeAudio.map(SPEECH, 24_000, SPEECH.frames() / 2 + 12_000, -960, 2).times(-0.4);
    List<Fairness.Item> items = items(spoiled, true);
    assertThat(matters(items)).contains("delay", "polarity", "level", "rate", "codec", "length");
    assertThat(items).allMatch(i -> i.version().equals("a") && !i.done().isEmpty());
    assertThat(items)
        .anyMatch(i -> i.matter().equals("delay") && i.found().startsWith("late by 20.0"));
  }

  @Test
  void oversAndACutTopAreFound() throws Exception {
    float[] x = SPEECH.wholeChannel(0);
    float[] dull = Sounds.lowPass(x, 48_000, 4000);
    assertThat(matters(items(Audio.of(48_000, dull), false))).contains("bandwidth");
    float loudest = 0;
    for (float s : x) {
      loudest = Math.max(loudest, Math.abs(s));
    }
    assertThat(matters(items(SPEECH.times(1.3 / loudest), false))).contains("overs", "level");
  }

  @Test
  void theSourceInDisguiseIsRecognised() throws Exception {
    assertThat(matters(items(SPEECH.times(-0.5), false))).contains("identical");
  }

  @Test
  void twinsAndUnlikeAmountsAreNamedOnce() {
    Comparison c = Comparison.empty("x", Job.DENOISE);
    Map<String, List<String>> files = new LinkedHashMap<>();
    String[][] versions = {
      {"a", "Alder", "30", "sum1"}, {"b", "Alder", "60", "sum2"}, {"c", "Birch", "30", "sum1"}
    };
    for (String[] v : versions) {
      String id = c.freshId();
      c =
          c.plus(
              Version.of(id, v[0], MediaRef.of(Path.of(v[0])))
                  .withTool(v[1])
                  .withAmount(Double.valueOf(v[2])));
      files.put(id, List.of(v[3]));
    }
    List<Fairness.Item> items = Fairness.among(c, "s", files);
    assertThat(items).hasSize(2);
    assertThat(items.get(0).version()).isEqualTo("c");
    assertThat(items.get(0).found()).isEqualTo("the same file as a");
    assertThat(items.get(1).found()).isEqualTo("Alder at 30, 60; Birch at 30");
  }
}
