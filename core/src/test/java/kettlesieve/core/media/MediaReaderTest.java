package kettlesieve.core.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.MappedAudio;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Over 400 lines: every form that is read and every way in which a file can be wrong. */
class MediaReaderTest {
  @TempDir Path folder;
  private MediaReader reader;

  @BeforeEach
  void setUp() {
    reader = new MediaReader(folder.resolve("cache"));
  }

  /** Every form holds one second of 440 Hz at a quarter of full scale. */
  @ParameterizedTest
  @CsvSource({
    "u8.wav,8000,1,8,false,0.01", "s16.wav,44100,2,16,false,0.0001",
    "s24.wav,48000,1,24,false,0.000001", "s32.wav,22050,1,32,false,0.000001",
    "f32.wav,16000,1,32,false,0.000001", "f64.wav,16000,1,64,false,0.000001",
    "eight.wav,8000,8,16,false,0.0001", "rf64.wav,16000,1,16,false,0.0001",
    "high.wav,192000,1,16,false,0.0001", "tone.aiff,16000,1,16,false,0.0001",
    "tone.flac,96000,1,24,false,0.0001", "tone.ogg,44100,1,0,true,0.02",
    "tone.mp3,44100,1,0,true,0.02"
  })
  void readsEveryForm(
      String file, int rate, int channels, int bits, boolean lossy, double tolerance)
      throws MediaException {
    Recording recording = reader.read(Sounds.resource("formats/" + file), Progress.SILENT);
    MediaFacts facts = recording.facts();
    assertThat(facts.sampleRate()).isEqualTo(rate);
    assertThat(facts.channels()).isEqualTo(channels);
    assertThat(facts.lossy()).isEqualTo(lossy);
    if (!file.equals("tone.flac")) {
      assertThat(facts.bits()).isEqualTo(bits);
    }
    assertThat(facts.seconds()).isCloseTo(1, within(0.06));
    for (int c = 0; c < channels; c++) {
      float[] x = recording.audio().samples(c, rate / 4, rate / 4);
      double worst = 0;
      for (int i = 0; i < x.length; i++) {
        double expected = 0.25 * Math.sin(2 * Math.PI * 440 * (i + rate / 4) / rate);
        worst = Math.max(worst, Math.abs(x[i] - expected));
      }
      assertThat(worst).isLessThan(tolerance);
    }
  }

  @Test
  void knowsTheChecksumOfTheFile() throws Exception {
    Path file = Files.write(folder.resolve("abc.txt"), new byte[] {'a', 'b', 'c'});
    // FIPS 180-4, the example of "abc".
    assertThat(Checksum.sha256(file))
        .isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    byte[] many = new byte[3_500_001];
    new java.util.SplittableRandom(3).nextBytes(many);
    assertThat(Checksum.sha256(Files.write(folder.resolve("long"), many)))
        .isEqualTo(
            java.util.HexFormat.of()
                .formatHex(java.security.MessageDigest.getInstance("SHA-256").digest(many)));
    assertThat(Checksum.sha256(Files.createFile(folder.resolve("empty"))))
        .isEqualTo(Checksum.ofText(""));
  }

  @Test
  void whatIsWrittenIsReadBack() throws Exception {
    Audio noise = Audio.of(44_100, Sounds.white(10_001, 1), Sounds.white(10_001, 2)).times(0.1);
    Path exact = folder.resolve("float.wav");
    WavWriter.write(noise, exact, WavWriter.Format.FLOAT, Progress.SILENT);
    Audio back = reader.read(exact, Progress.SILENT).audio();
    assertThat(back.wholeChannel(1)).isEqualTo(noise.wholeChannel(1));
    Path rounded = folder.resolve("24.wav");
    WavWriter.write(noise, rounded, WavWriter.Format.PCM_24, Progress.SILENT);
    float[] x = reader.read(rounded, Progress.SILENT).audio().wholeChannel(0);
    assertThat(x[77]).isCloseTo(noise.samples(0, 77, 1)[0], within(1.3e-7f));
    assertThat(Files.list(folder).map(Path::toString)).noneMatch(f -> f.endsWith(".part"));
  }

  @Test
  void longRecordingsAreMappedAndFoundAgain() throws Exception {
    float[] x = Sounds.white((1 << 22) + 5000, 4);
    Path file = folder.resolve("long.wav");
    WavWriter.write(Audio.of(48_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    Recording first = reader.read(file, Progress.SILENT);
    assertThat(first.audio()).isInstanceOf(MappedAudio.class);
    assertThat(first.audio().frames()).isEqualTo(x.length);
    assertThat(first.audio().samples(0, 4_190_000, 9000))
        .isEqualTo(Arrays.copyOfRange(x, 4_190_000, 4_199_000));
    Recording again = new MediaReader(folder.resolve("cache")).read(file, Progress.SILENT);
    assertThat(again.facts()).isEqualTo(first.facts());
    assertThat(again.audio().samples(0, 123_456, 100))
        .isEqualTo(first.audio().samples(0, 123_456, 100));
  }

  @Test
  void aDamagedCacheIsMadeAgain() throws Exception {
    float[] x = Sounds.white((int) SampleSink.IN_MEMORY + 1, 4);
    Path file = folder.resolve("long.wav");
    WavWriter.write(Audio.of(48_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    String sha = reader.read(file, Progress.SILENT).facts().sha256();
    Files.write(folder.resolve("cache").resolve(sha + ".f32"), new byte[100]);
    assertThat(reader.read(file, Progress.SILENT).audio().samples(0, 9, 3))
        .isEqualTo(Arrays.copyOfRange(x, 9, 12));
  }

  @Test
  void cancellingStopsAndLeavesNothing() throws Exception {
    Path file = folder.resolve("long.wav");
    WavWriter.write(
        Audio.of(48_000, new float[6_000_000]), file, WavWriter.Format.FLOAT, Progress.SILENT);
    Progress cancelled =
        (what, share) -> {
          if (share > 0.8) {
            throw new CancellationException();
          }
        };
    assertThatThrownBy(() -> reader.read(file, cancelled))
        .isInstanceOf(CancellationException.class);
    assertThat(folder.resolve("cache")).isEmptyDirectory();
  }

  @Test
  void missingEmptyAndFolderAreToldApart() throws Exception {
    refused(folder.resolve("nowhere.wav"), "there is no such file", "Check the name");
    refused(Files.createFile(folder.resolve("empty.wav")), "empty", "Export or copy it again");
    refused(folder, "a folder", "Choose an audio file");
  }

  @Test
  void otherFilesAreRefused() throws Exception {
    refused(
        Files.writeString(folder.resolve("letter.wav"), "Dear keeper, ".repeat(900)),
        "not an audio file",
        "Export");
    byte[] random = new byte[50_000];
    new java.util.Random(3).nextBytes(random);
    refused(Files.write(folder.resolve("random.mp3"), random), "", "Export");
  }

  @Test
  void aPlaylistCannotOpenOtherFiles() throws Exception {
    Path wav = Sounds.resource("formats/s24.wav");
    refused(
        Files.writeString(
            folder.resolve("list.wav"), "#EXTM3U\n#EXTINF:1,\nfile:" + wav + "\n#EXT-X-ENDLIST\n"),
        "not an audio file",
        "Export");
    refused(
        Files.writeString(
            folder.resolve("concat.wav"), "ffconcat version 1.0\nfile '" + wav + "'\n"),
        "not an audio file",
        "Export");
  }

  @Test
  void notANumberIsRefusedWithItsPlace() throws Exception {
    float[] x = Sounds.white(48_000, 1);
    x[24_000] = Float.NaN;
    Path file = folder.resolve("nan.wav");
    WavWriter.write(Audio.of(48_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    refused(file, "0.500 s from its start", "fixed-point");
    x[24_000] = Float.POSITIVE_INFINITY;
    WavWriter.write(Audio.of(48_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    refused(file, "not numbers", "Make it again");
  }

  @Test
  void aFileThatWasCutOffIsRefused() throws Exception {
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/s24.wav"));
    refused(
        Files.write(folder.resolve("cut.wav"), Arrays.copyOf(whole, whole.length / 2)),
        "ends early",
        "Copy or export it again");
  }

  @Test
  void aHeaderWithoutSoundIsRefused() throws Exception {
    ByteBuffer head = ByteBuffer.allocate(44).order(ByteOrder.LITTLE_ENDIAN);
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/s16.wav"));
    head.put(whole, 0, 36).put("data".getBytes()).putInt(0);
    head.putInt(4, 36);
    refused(Files.write(folder.resolve("zero.wav"), head.array()), "", "Export");
  }

  @Test
  void ratesOutsideTheRangeAreRefused() throws Exception {
    Path file = folder.resolve("slow.wav");
    WavWriter.write(Audio.of(4000, new float[4000]), file, WavWriter.Format.FLOAT, Progress.SILENT);
    refused(file, "4000 Hz", "convert");
  }

  @Test
  void aFailedWriteLeavesTheOldFile() throws IOException {
    Path file = Files.writeString(folder.resolve("old.wav"), "old");
    Progress failing =
        (what, share) -> {
          throw new CancellationException();
        };
    assertThatThrownBy(
            () ->
                WavWriter.write(
                    Audio.of(8000, new float[9000]), file, WavWriter.Format.FLOAT, failing))
        .isInstanceOf(CancellationException.class);
    assertThat(file).hasContent("old");
  }

  /** Cut between two samples, so that what is there looks whole. */
  @Test
  void aWavAndAnAiffCutBetweenSamplesAreRefused() throws Exception {
    for (String name : new String[] {"s16.wav", "s24.wav", "f32.wav", "rf64.wav", "tone.aiff"}) {
      byte[] whole = Files.readAllBytes(Sounds.resource("formats/" + name));
      Path cut = folder.resolve("cut-" + name);
      Files.write(cut, Arrays.copyOf(whole, whole.length - 24 * (whole.length / 100)));
      refused(cut, "ends early", "Copy or export it again");
    }
  }

  /** Programs that write to a pipe do not know the length. */
  @Test
  void aHeaderThatPromisesNothingIsTaken() throws Exception {
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/s16.wav"));
    for (int size : new int[] {-1, 0xfffffff0}) {
      byte[] piped = whole.clone();
      ByteBuffer.wrap(piped).order(ByteOrder.LITTLE_ENDIAN).putInt(4, size).putInt(40, size);
      Path file = Files.write(folder.resolve("piped" + size + ".wav"), piped);
      assertThat(reader.read(file, Progress.SILENT).facts().seconds()).isCloseTo(1, within(0.01));
    }
  }

  @Test
  void everyFlippedBitOfAFlacIsNoticed() throws Exception {
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/tone.flac"));
    int begin = 4 + 4 + 34;
    int silent = 0;
    for (int i = 0; i < 60; i++) {
      byte[] flipped = whole.clone();
      int at = begin + (int) ((long) i * (whole.length - begin) / 60) + 50;
      flipped[Math.min(at, whole.length - 1)] ^= (byte) (1 << i % 8);
      Path file = Files.write(folder.resolve("flipped-" + i + ".flac"), flipped);
      try {
        Audio read = reader.read(file, Progress.SILENT).audio();
        // A bit of the padding or of a comment is no sound.
        Audio right = reader.read(Sounds.resource("formats/tone.flac"), Progress.SILENT).audio();
        silent += Arrays.equals(read.wholeChannel(0), right.wholeChannel(0)) ? 0 : 1;
      } catch (MediaException e) {
        assertThat(e).hasMessageContaining("flipped-" + i + ".flac");
      }
    }
    assertThat(silent).isZero();
  }

  @Test
  void aTagBehindAFlacIsNoSound() throws Exception {
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/tone.flac"));
    byte[] tagged = Arrays.copyOf(whole, whole.length + 128);
    System.arraycopy("TAGFog horn".getBytes(), 0, tagged, whole.length, 11);
    Path file = Files.write(folder.resolve("tagged.flac"), tagged);
    assertThat(reader.read(file, Progress.SILENT).audio().wholeChannel(0))
        .isEqualTo(
            reader
                .read(Sounds.resource("formats/tone.flac"), Progress.SILENT)
                .audio()
                .wholeChannel(0));
  }

  @Test
  void damagedAndMissingOggPagesAreNoticedWithTheirPlace() throws Exception {
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/tone.ogg"));
    byte[] flipped = whole.clone();
    flipped[whole.length * 3 / 4] ^= 8;
    refused(Files.write(folder.resolve("flipped.ogg"), flipped), "is damaged", "Export");
    refused(
        Files.write(folder.resolve("cut.ogg"), Arrays.copyOf(whole, whole.length * 3 / 4)),
        "is damaged",
        "Export");
    // The last of its three pages, without the mark that it is the last.
    int last = 3336;
    byte[] page = Arrays.copyOfRange(whole, last, whole.length);
    page[5] = 0;
    ByteBuffer bytes = ByteBuffer.wrap(page).order(ByteOrder.LITTLE_ENDIAN).putInt(22, 0);
    bytes.putInt(22, OggPages.checksum(0, page, page.length));
    byte[] unended = Arrays.copyOf(whole, whole.length);
    System.arraycopy(page, 0, unended, last, page.length);
    Path endless = Files.write(folder.resolve("endless.ogg"), unended);
    assertThat(reader.read(endless, Progress.SILENT).facts().doubt()).contains("cut off");
    assertThat(reader.read(Sounds.resource("formats/tone.ogg"), Progress.SILENT).facts().doubt())
        .isNull();
  }

  /** RFC 3533, the polynomial 0x04c11db7 without reflection; "123456789" gives 0x89a1897f. */
  @Test
  void theChecksumOfOggIsThatOfItsStandard() {
    assertThat(OggPages.checksum(0, "123456789".getBytes(), 9)).isEqualTo(0x89a1897f);
  }

  @Test
  void aCacheThatWasAlteredIsMadeAgain() throws Exception {
    float[] x = Sounds.white(200_000, 4);
    Path file = folder.resolve("long.wav");
    WavWriter.write(Audio.of(48_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    String sha = reader.read(file, Progress.SILENT).facts().sha256();
    Path samples = folder.resolve("cache").resolve(sha + ".f32");
    byte[] altered = Files.readAllBytes(samples);
    altered[1000] ^= 64;
    Files.write(samples, altered);
    assertThat(reader.read(file, sha, Progress.SILENT).audio().wholeChannel(0)).isEqualTo(x);
    Path facts = folder.resolve("cache").resolve(sha + ".json");
    Files.writeString(facts, Files.readString(facts).replace("48000", "44100"));
    assertThat(reader.read(file, sha, Progress.SILENT).audio().sampleRate()).isEqualTo(48_000);
    Files.delete(samples);
    Files.createDirectories(samples.resolve("in the way"));
    assertThat(reader.read(file, sha, Progress.SILENT).audio().wholeChannel(0)).isEqualTo(x);
  }

  @Test
  void shortSoundNeedsNoCacheFolderAndNoHeapWhereThereIsOne() throws Exception {
    float[] x = Sounds.white(300_000, 4);
    Path file = folder.resolve("short.wav");
    WavWriter.write(Audio.of(48_000, x), file, WavWriter.Format.FLOAT, Progress.SILENT);
    assertThat(reader.read(file, Progress.SILENT).audio()).isInstanceOf(MappedAudio.class);
    MediaReader blocked = new MediaReader(Files.createFile(folder.resolve("blocked")));
    assertThat(blocked.read(file, Progress.SILENT).audio().wholeChannel(0)).isEqualTo(x);
  }

  /** A header of a few bytes can promise more than any disk holds. */
  @Test
  void daysOfSoundAreRefusedBeforeAnythingIsDecoded() throws Exception {
    byte[] whole = Files.readAllBytes(Sounds.resource("formats/tone.flac"));
    // The length is the last 36 bits before the checksum of STREAMINFO (RFC 9639, 8.2).
    whole[21] |= 0x0f;
    refused(Files.write(folder.resolve("days.flac"), whole), "hours long", "up to 24 hours");
  }

  private MediaReader limited(String gigabytes) throws IOException {
    Path settings = Files.createDirectories(folder.resolve("state"));
    Files.writeString(
        settings.resolve("settings.properties"), "decoded-gigabytes = " + gigabytes + "\n");
    return new MediaReader(folder.resolve("cache"), DecodedLimit.in(settings));
  }

  /** Ten million samples of silence, 40 MB decoded, in a FLAC of some kilobytes. */
  private byte[] silence() throws Exception {
    Path file = folder.resolve("silence.flac");
    FlacWriter.write(Audio.of(48_000, new float[10_000_000]), file);
    byte[] whole = Files.readAllBytes(file);
    assertThat(whole.length).isLessThan(200_000);
    return whole;
  }

  @Test
  void whatDecodesToTooMuchIsRefusedBeforeItIsDecodedWhereTheHeaderSaysSo() throws Exception {
    silence();
    Path file = folder.resolve("silence.flac");
    int[] told = {0};
    assertThatThrownBy(() -> limited("0.02").read(file, (what, share) -> told[0]++))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("silence.flac")
        .hasMessageContaining("decodes to 0.040 GB, more than the 0.020 GB")
        .hasMessageContaining("raise decoded-gigabytes in")
        .hasMessageContaining("settings.properties");
    assertThat(told[0]).isEqualTo(1);
    assertThat(folder.resolve("cache")).doesNotExist();
    assertThat(limited("0.05").read(file, Progress.SILENT).audio().frames()).isEqualTo(10_000_000);
  }

  @Test
  void whatDecodesToTooMuchIsRefusedSoonWhereNoHeaderSaysSoAndLeavesNothing() throws Exception {
    byte[] whole = silence();
    // The length is the last 36 bits before the checksum of STREAMINFO; 0 for not known (RFC 9639).
    whole[21] &= (byte) 0xf0;
    Arrays.fill(whole, 22, 26, (byte) 0);
    Path file = Files.write(folder.resolve("endless.flac"), whole);
    double[] far = {0};
    assertThatThrownBy(() -> limited("0.01").read(file, (what, share) -> far[0] = share))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("endless.flac")
        .hasMessageContaining("decodes to about 0.0");
    assertThat(folder.resolve("cache")).isEmptyDirectory();
    // Where it cannot be foretold it is stopped where it passes the limit.
    assertThatThrownBy(() -> limited("0.03").read(file, Progress.SILENT))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("decodes to more than 0.030 GB");
    assertThat(folder.resolve("cache")).isEmptyDirectory();
    assertThat(limited("0.05").read(file, Progress.SILENT).audio().frames()).isEqualTo(10_000_000);
  }

  @Test
  void nonsenseInTheSettingsLeavesTheUsualLimit() throws Exception {
    for (String words : List.of("much", "-3", "0", "\\u00zz")) {
      silence();
      assertThat(limited(words).read(folder.resolve("silence.flac"), Progress.SILENT).facts())
          .as(words)
          .isNotNull();
    }
  }

  @Test
  void onlyPlainFilesAreOpened() throws Exception {
    Path pipe = folder.resolve("pipe.wav");
    assertThat(new ProcessBuilder("mkfifo", pipe.toString()).start().waitFor()).isZero();
    refused(pipe, "no plain file", "Choose an audio file");
    refused(Path.of("/dev/zero"), "no plain file", "Choose an audio file");
  }

  /** Most of it is a hole in the file: nothing is written, and all of it would have to be read. */
  @Test
  void gigabytesOfSomethingElseAreNotReadThrough() throws Exception {
    Path file = folder.resolve("junk.wav");
    try (var out = new java.io.RandomAccessFile(file.toFile(), "rw")) {
      out.write(new byte[] {1, 2, 3, 4, 5, 6, 7, 8});
      out.setLength(40L << 30);
    }
    long[] read = {0};
    assertThatThrownBy(() -> reader.read(file, (what, share) -> read[0]++))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining("not an audio file");
    assertThat(read[0]).isEqualTo(1);
  }

  private void refused(Path file, String problem, String remedy) {
    assertThatThrownBy(() -> reader.read(file, Progress.SILENT))
        .isInstanceOf(MediaException.class)
        .hasMessageContaining(file.toString())
        .hasMessageContaining(problem)
        .hasMessageContaining(remedy);
  }
}
