package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Source and versions back to back: where the pieces stand, how loud they are. */
class ReelTest {
  private static final int RATE = 16_000;
  private static final Audio SOURCE = Audio.of(RATE, Arrays.copyOf(Sounds.speech16(), 6 * RATE));

  @TempDir private Path folder;

  private static Comparison comparison(String... labels) {
    Comparison c = Comparison.empty("reel", Job.DENOISE);
    for (String label : labels) {
      c = c.plus(Version.of(label, label, new MediaRef(label + ".wav", null)));
    }
    return c;
  }

  /** One at half level and 200 samples late, one louder. */
  private static Map<String, Heard> matched() throws Exception {
    float[] x = SOURCE.wholeChannel(0);
    float[] late = new float[x.length];
    float[] loud = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      late[i] = i < 200 ? 0 : 0.5f * x[i - 200];
      loud[i] = 1.6f * x[i];
    }
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(SOURCE, null, null, null);
    Map<String, Heard> matched = new LinkedHashMap<>();
    matched.put("late", Heard.of(preparedExcerpt.match(Audio.of(RATE, late), MatchOverride.NONE)));
    matched.put("loud", Heard.of(preparedExcerpt.match(Audio.of(RATE, loud), MatchOverride.NONE)));
    return matched;
  }

  private static Reel.Plan plan(boolean each, Reel.Passage... passages) {
    return new Reel.Plan(List.of(passages), "", each, 0.5);
  }

  private static double rms(float[] x) {
    return Sounds.rms(x);
  }

  @Test
  void piecesStandAtTheirCuesEquallyLoudWithSilenceBetween() throws Exception {
    Reel reel =
        Reel.of(
            comparison("late", "loud"),
            SOURCE,
            matched(),
            plan(false, new Reel.Passage("First", 1, 3), new Reel.Passage("Second", 4, 5)));
    assertThat(reel.pieces())
        .extracting(Reel.Piece::label)
        .containsExactly("Source", "late", "loud", "Source", "late", "loud");
    Path file = folder.resolve("reel.wav");
    WavWriter.write(reel.audio(), reel.cues(), file, WavWriter.Format.PCM_24, Progress.SILENT);
    Map<Long, String> cues = cues(Files.readAllBytes(file));
    long second = 3 * (2 * RATE + RATE / 2);
    long step = RATE + RATE / 2;
    assertThat(cues.keySet())
        .containsExactly(0L, 40_000L, 80_000L, second, second + step, second + 2 * step);
    assertThat(List.copyOf(cues.values()))
        .isEqualTo(reel.pieces().stream().map(Reel.Piece::label).toList());
    // What others read of it: the samples alone, all of them.
    float[] read = MediaReader.standard().read(file, Progress.SILENT).audio().wholeChannel(0);
    assertThat(read.length).isEqualTo((int) (second + 3 * step - RATE / 2));
    double source = rms(Arrays.copyOfRange(read, 0, 2 * RATE));
    for (long at : new long[] {40_000, 80_000}) {
      double version = rms(Arrays.copyOfRange(read, (int) at, (int) at + 2 * RATE));
      assertThat(20 * Math.log10(version / source)).isCloseTo(0, within(0.3));
      for (int i = (int) at - RATE / 2; i < at; i++) {
        assertThat(read[i]).isZero();
      }
      // The same word at the same place.
      for (int i = 1000; i < 2 * RATE - 1000; i += 777) {
        assertThat(read[(int) at + i]).isCloseTo(read[i], within(0.01f));
      }
    }
    assertThat(reel.text())
        .isEqualTo(
            "First\n0:00 Source\n0:02 late\n0:05 loud\nSecond\n0:07 Source\n0:09 late\n0:10"
                + " loud\n");
    assertThat(reel.csv().lines())
        .startsWith("seconds,frame,excerpt,label", "0.000000,0,First,Source");
    assertThat(reel.loweredDb()).isZero();
  }

  @Test
  void theSourceComesBeforeEachWhereAskedForAndClippingLowersAll() throws Exception {
    Audio hot = SOURCE.times(1.3f / peak(SOURCE.wholeChannel(0)));
    Map<String, Heard> matched = matched();
    Reel reel =
        Reel.of(comparison("late", "loud"), hot, matched, plan(true, new Reel.Passage("", 0, 6)));
    assertThat(reel.pieces())
        .extracting(Reel.Piece::label)
        .containsExactly("Source", "late", "Source", "loud");
    assertThat(reel.loweredDb()).isCloseTo(20 * Math.log10(1.3), within(0.01));
    float[] all = reel.audio().wholeChannel(0);
    assertThat(peak(all)).isCloseTo(1, within(0.001f));
    // The versions are lowered with it.
    float[] version = Arrays.copyOfRange(all, 6 * RATE + RATE / 2, 12 * RATE + RATE / 2);
    assertThat(20 * Math.log10(rms(version) / rms(SOURCE.wholeChannel(0))))
        .isCloseTo(-20 * Math.log10(1.3), within(0.3));
  }

  private static float peak(float[] x) {
    float peak = 0;
    for (float v : x) {
      peak = Math.max(peak, Math.abs(v));
    }
    return peak;
  }

  @Test
  void stretchedVersionsPlayInTheirOwnTime() throws Exception {
    Audio longer =
        StandIns.ALL.stream()
            .filter(s -> s.id().equals("waveform-overlap"))
            .findFirst()
            .orElseThrow()
            .make(SOURCE, new Setup(100, 1.5, 0), Progress.SILENT)
            .values()
            .iterator()
            .next();
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.5, null);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(SOURCE, null, null, null, settings);
    Matched matched = preparedExcerpt.matchAny(longer, MatchOverride.NONE, null, Stop.NEVER);
    Reel reel =
        Reel.of(
            comparison("long"),
            SOURCE,
            Map.of("long", Heard.of(matched)),
            plan(false, new Reel.Passage("", 1, 3)));
    assertThat(reel.pieces().get(0).audio().seconds()).isCloseTo(2, within(0.001));
    assertThat(reel.pieces().get(1).audio().seconds()).isCloseTo(3, within(0.05));
    assertThat(matched).isInstanceOf(StretchedVersion.class);
  }

  /** A reader of its own: frames and labels of the cues, by the specification of 1991. */
  private static Map<Long, String> cues(byte[] bytes) {
    ByteBuffer in = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    assertThat(in.getInt(4) + 8).isEqualTo(bytes.length);
    Map<Integer, Long> frames = new TreeMap<>();
    Map<Integer, String> labels = new TreeMap<>();
    for (int at = 12; at + 8 <= bytes.length; ) {
      String id = new String(bytes, at, 4, StandardCharsets.US_ASCII);
      int length = in.getInt(at + 4);
      if (id.equals("cue ")) {
        for (int i = 0; i < in.getInt(at + 8); i++) {
          int point = at + 12 + 24 * i;
          frames.put(in.getInt(point), (long) in.getInt(point + 20));
        }
      }
      if (id.equals("LIST")) {
        assertThat(new String(bytes, at + 8, 4, StandardCharsets.US_ASCII)).isEqualTo("adtl");
        for (int sub = at + 12; sub < at + 8 + length; ) {
          int size = in.getInt(sub + 4);
          labels.put(
              in.getInt(sub + 8), new String(bytes, sub + 12, size - 5, StandardCharsets.UTF_8));
          sub += 8 + size + size % 2;
        }
      }
      at += 8 + length + length % 2;
    }
    Map<Long, String> cues = new LinkedHashMap<>();
    new ArrayList<>(frames.keySet()).forEach(i -> cues.put(frames.get(i), labels.get(i)));
    return cues;
  }
}
