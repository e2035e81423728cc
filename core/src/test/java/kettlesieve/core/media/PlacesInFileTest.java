package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** EBU Tech 3285 as another program writes it, cues as this one does, chapters. */
class PlacesInFileTest {
  @TempDir Path folder;

  @Test
  void theTimeReferenceOfAnotherProgramsFileIsRead() throws Exception {
    Path file = Sounds.resource("formats/bext.wav");
    assertThat(PlacesInFile.of(file).startSamples()).isEqualTo(172_800_000L);
    Recording read = new MediaReader(folder.resolve("cache")).read(file, Progress.SILENT);
    assertThat(read.facts().startSeconds()).isEqualTo(3600.0);
  }

  @Test
  void soItIsInRf64() throws Exception {
    Path file = Sounds.resource("formats/bext64.wav");
    try (RandomAccessFile in = new RandomAccessFile(file.toFile(), "r")) {
      byte[] four = new byte[4];
      in.readFully(four);
      assertThat(new String(four)).isEqualTo("RF64");
    }
    assertThat(PlacesInFile.of(file).startSamples()).isEqualTo(172_800_000L);
  }

  @Test
  void ownCuesComeBackWithTheirNames() throws Exception {
    Path file = folder.resolve("c.wav");
    WavWriter.write(
        Audio.of(48_000, new float[48_000]),
        List.of(new WavWriter.Cue(24_000, "gulls"), new WavWriter.Cue(100, "Lampe an – für 2 s")),
        file,
        WavWriter.Format.PCM_24,
        Progress.SILENT);
    assertThat(PlacesInFile.of(file).markers())
        .containsExactly(
            new PlacesInFile.Marker(100, "Lampe an – für 2 s"),
            new PlacesInFile.Marker(24_000, "gulls"));
    assertThat(PlacesInFile.of(file).startSamples()).isNull();
    // Kept with what was decoded, and read from there the next time.
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    assertThat(reader.read(file, Progress.SILENT).facts().places().markers()).hasSize(2);
    assertThat(reader.read(file, Progress.SILENT).facts().places().markers()).hasSize(2);
  }

  @Test
  void chaptersAreMarkersToo() throws Exception {
    Path file = Sounds.resource("formats/chapters.mka");
    Recording read = new MediaReader(folder.resolve("cache")).read(file, Progress.SILENT);
    int rate = read.facts().sampleRate();
    assertThat(read.facts().places().markers())
        .containsExactly(
            new PlacesInFile.Marker(0, "door"),
            new PlacesInFile.Marker(Math.round(0.16 * rate), "wind"));
  }

  /** The sound counts: a chunk that lies about its length is passed over. */
  @Test
  void damagedChunksDoNoHarm() throws Exception {
    Path file = Sounds.resource("formats/bext.wav");
    byte[] all = Files.readAllBytes(file);
    int at = new String(all, java.nio.charset.StandardCharsets.ISO_8859_1).indexOf("bext");
    for (int size : new int[] {-1, 0, 5, 1 << 30}) {
      byte[] other = all.clone();
      for (int i = 0; i < 4; i++) {
        other[at + 4 + i] = (byte) (size >> 8 * i);
      }
      Path broken = folder.resolve("broken" + size + ".wav");
      Files.write(broken, other);
      assertThat(PlacesInFile.of(broken).startSamples()).isNull();
    }
    Path tiny = folder.resolve("tiny.wav");
    Files.write(tiny, new byte[] {'R', 'I', 'F', 'F', 1, 2});
    assertThat(PlacesInFile.of(tiny)).isEqualTo(PlacesInFile.NONE);
    assertThat(PlacesInFile.of(Sounds.resource("formats/s24.wav"))).isEqualTo(PlacesInFile.NONE);
  }
}
