package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import kettlesieve.core.Sounds;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What cutting rooms send beside plain audio files; written by another program. */
class OtherFormatsTest {
  @TempDir Path folder;

  private Recording read(Path file) throws MediaException {
    return new MediaReader(folder.resolve("cache")).read(file, Progress.SILENT);
  }

  private static double rms(float[] x) {
    double sum = 0;
    for (int i = x.length / 4; i < 3 * x.length / 4; i++) {
      sum += x[i] * x[i];
    }
    return Math.sqrt(2 * sum / x.length);
  }

  @ParameterizedTest
  @CsvSource({
    "tone.wv,wavpack,false",
    "tone.ac3,ac3,true",
    "tone.eac3,eac3,true",
    "tone.wma,wmav2,true",
    "tone.mxf,pcm_s16le,false",
    "tone.mkv,flac,false",
    "tone.mov,pcm_s24le,false",
    "tone.ts,mp2,true",
    "tone.avi,pcm_s16le,false"
  })
  void oneToneInManyWrappers(String name, String codec, boolean lossy) throws Exception {
    Recording read = read(Sounds.resource("formats/" + name));
    assertThat(read.facts().codec()).isEqualTo(codec);
    assertThat(read.facts().lossy()).isEqualTo(lossy);
    assertThat(read.audio().seconds()).isBetween(0.34, 0.47);
    // The tone of that program has an amplitude of an eighth.
    assertThat(rms(read.audio().wholeChannel(0))).isBetween(0.080, 0.096);
    assertThat(read.facts().streams()).isNull();
    assertThat(read.whole()).isTrue();
    assertThat(FileNames.audio(Path.of(name))).isTrue();
  }

  @Test
  void ofSeveralStreamsOneIsChosen() throws Exception {
    Path file = Sounds.resource("formats/two.mkv");
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    Recording first = reader.read(file, null, 1, Progress.SILENT);
    Recording second = reader.read(file, null, 2, Progress.SILENT);
    assertThat(first.facts().streams())
        .containsExactly("mix, flac, mono", "Stream 2, deu, flac, 2 channels");
    assertThat(rms(first.audio().wholeChannel(0))).isBetween(0.34, 0.36);
    assertThat(second.audio().channels()).isEqualTo(2);
    assertThat(rms(second.audio().wholeChannel(1))).isBetween(0.135, 0.145);
    // The file's checksum is the same, what is kept of its streams is not mixed up.
    assertThat(second.facts().sha256()).isEqualTo(first.facts().sha256());
    String sum = first.facts().sha256();
    assertThat(reader.read(file, sum, 1, Progress.SILENT).audio().channels()).isEqualTo(1);
    assertThat(reader.read(file, sum, 2, Progress.SILENT).audio().channels()).isEqualTo(2);
    assertThatThrownBy(() -> reader.read(file, sum, 3, Progress.SILENT))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("2 audio streams");
    // A tool must not be given the whole file in its place.
    assertThat(first.whole()).isFalse();
  }

  /** Long ones are kept in files: the streams of one recording must not take each other's place. */
  @Test
  void whatIsKeptOfTwoStreamsIsNotMixedUp() throws Exception {
    Path file = Sounds.resource("formats/two-long.mkv");
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    String sum = reader.read(file, null, 1, Progress.SILENT).facts().sha256();
    for (int round = 0; round < 2; round++) {
      assertThat(reader.read(file, sum, 1, Progress.SILENT).audio().samples(0, 9000, 1))
          .containsExactly(0.25f);
      assertThat(reader.read(file, sum, 2, Progress.SILENT).audio().samples(0, 9000, 1))
          .containsExactly(0.5f);
    }
    assertThat(folder.resolve("cache")).isDirectoryContaining("glob:**-2.f32");
  }

  @Test
  void ofSixChannelsOneIsHeardAlone() throws Exception {
    Recording all = read(Sounds.resource("formats/six.flac"));
    assertThat(all.audio().channels()).isEqualTo(6);
    assertThat(all.only(null)).isSameAs(all);
    Recording third = all.only(3);
    assertThat(third.audio().channels()).isEqualTo(1);
    assertThat(third.audio().wholeChannel(0)).isEqualTo(all.audio().wholeChannel(2));
    assertThat(third.whole()).isFalse();
    assertThatThrownBy(() -> all.only(7))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("6 channels");
  }

  @Test
  void aVideoWithoutSoundSaysSo() {
    assertThatThrownBy(() -> read(Sounds.resource("formats/mute.mkv")))
        .hasMessageContaining("no sound in this file");
  }

  /** Where a file was cut off is told, or the rest is heard; never silence for it. */
  @ParameterizedTest
  @ValueSource(strings = {"tone.wv", "tone.mxf"})
  void cutOffFilesAreTold(String name) throws Exception {
    byte[] all = Files.readAllBytes(Sounds.resource("formats/" + name));
    Path cut = folder.resolve("cut-" + name);
    Files.write(cut, Arrays.copyOf(all, all.length / 2));
    assertThatThrownBy(() -> read(cut))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("cut-" + name);
  }
}
