package kettlesieve.core.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.task.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The listening sheet: what its folder holds and what it does not, and what comes back. */
class BlindCopiesTest {
  private static final int RATE = 16_000;
  private static final float[] SPEECH = Sounds.speech16();
  private static final Audio SOURCE = Audio.of(RATE, Arrays.copyOf(SPEECH, 6 * RATE));

  @TempDir private Path folder;

  private static Comparison comparison() {
    Comparison c = Comparison.empty("Lamp room", Job.STRETCH);
    for (String label : List.of("Secret tool 30", "Other tool", "Third")) {
      c = c.plus(Version.of(c.freshId(), label, new MediaRef(label + ".wav", null)));
    }
    return c.withExcerpts(
        List.of(
            new Excerpt("Secret passage", new TimeSpan(1, 3)),
            new Excerpt("Another", new TimeSpan(4, 5))));
  }

  /** Three of different length, level and channel count. */
  private static Map<String, Heard> matched() {
    Map<String, Heard> matched = new LinkedHashMap<>();
    matched.put("v1", new Heard(SOURCE, TimeMap.IDENTITY, Map.of()));
    Audio longer = Audio.of(RATE, Arrays.copyOf(SPEECH, 9 * RATE));
    matched.put("v2", new Heard(longer, TimeMap.line(0, 1.25), Map.of()));
    matched.put("v3", new Heard(SOURCE.times(2.5).asChannels(2), TimeMap.IDENTITY, Map.of()));
    return matched;
  }

  private static BlindCopies copies(Round.Kind kind, boolean withSource, long seed) {
    return BlindCopies.of(
        comparison(),
        SOURCE,
        null,
        matched(),
        new BlindCopies.Wish(
            "abc123", kind, Round.Question.LOST, "2026-11-26T08:00:00Z", withSource, "", seed));
  }

  @Test
  void theFolderTellsNothing() throws Exception {
    Path out = folder.resolve("sheet");
    BlindCopies copies = copies(Round.Kind.RATING, false, 5);
    copies.write(out);
    Set<Long> sizes = new HashSet<>();
    Set<Object> dates = new HashSet<>();
    try (Stream<Path> all = Files.list(out)) {
      for (Path file : all.toList()) {
        dates.add(Files.getLastModifiedTime(file));
        byte[] bytes = Files.readAllBytes(file);
        String text = new String(bytes, StandardCharsets.ISO_8859_1);
        for (String secret :
            List.of("Secret", "tool", "Third", "Lamp", "v1", "v2", folder.toString(), "Another")) {
          assertThat(text.contains(secret) && !file.toString().endsWith(".wav"))
              .as(file + " holds " + secret)
              .isFalse();
        }
        if (file.toString().endsWith(".wav")) {
          assertThat(file.getFileName().toString()).matches("[A-D]\\.wav");
          sizes.add((long) bytes.length);
          // Nothing but the format and the samples.
          assertThat(text.substring(12, 16)).isEqualTo("fmt ");
          assertThat(text.substring(36, 40)).isEqualTo("data");
          Audio audio = MediaReader.standard().read(file, Progress.SILENT).audio();
          assertThat(bytes.length).isEqualTo((int) (44 + audio.frames() * 2 * 3));
          assertThat(audio.channels()).isEqualTo(2);
        }
      }
    }
    assertThat(sizes).hasSize(1);
    assertThat(dates).hasSize(1);
    String page = Files.readString(out.resolve("listen.html"));
    assertThat(page).doesNotContain("http:").doesNotContain("https:").contains("\"id\":\"abc123\"");
  }

  @Test
  void lettersAreShuffledAnewAndLoopsBeginAtTheSameWord() {
    Set<List<String>> orders = new HashSet<>();
    for (long seed = 0; seed < 60; seed++) {
      orders.add(List.copyOf(copies(Round.Kind.PAIRS, false, seed).key().letters().values()));
    }
    // All six orders of three come up.
    assertThat(orders).hasSize(6);
    BlindCopies copies = copies(Round.Kind.PAIRS, true, 9);
    assertThat(copies.key().letters()).containsValue(Round.SOURCE).hasSize(4);
    assertThat(copies.pairs()).hasSize(12).doesNotHaveDuplicates();
    // The longest of a passage makes its length: 2 s in the time of the stretched one.
    assertThat(copies.loops().get(0).to()).isCloseTo(2.5, within(1e-3));
    double second = copies.loops().get(1).from();
    assertThat(copies.loops().get(1).to() - second).isCloseTo(1.25, within(1e-3));
    copies
        .key()
        .letters()
        .forEach(
            (letter, item) -> {
              Audio audio = copies.copies().get(letter);
              int at = (int) Math.round(second * RATE) + 2_000;
              double own =
                  item.equals("v2")
                      ? SPEECH[5 * RATE + 2_000]
                      : SOURCE.samples(0, 4 * RATE + 2_000, 1)[0] * (item.equals("v3") ? 2.5 : 1);
              // All are lowered alike where the loudest would clip.
              assertThat((double) audio.samples(0, at, 1)[0]).isCloseTo(own * gain(), within(1e-5));
            });
  }

  private static double gain() {
    double peak = 0;
    for (double[] part : new double[][] {{1, 3, 2.5}, {4, 5, 2.5}, {1.25, 3.75, 1}, {5, 6.25, 1}}) {
      for (int i = (int) (part[0] * RATE); i < part[1] * RATE; i++) {
        peak = Math.max(peak, Math.abs(SPEECH[i]) * part[2]);
      }
    }
    return Math.min(1, (1 - Math.pow(2, -23)) / peak);
  }

  @Test
  void tooManyForPairsIsSaid() {
    Comparison c = comparison();
    Map<String, Heard> many = new LinkedHashMap<>(matched());
    for (int i = 0; i < 4; i++) {
      c = c.plus(Version.of(c.freshId(), "more " + i, new MediaRef("m.wav", null)));
      many.put("v" + (4 + i), matched().get("v1"));
    }
    Comparison seven = c;
    assertThatThrownBy(
            () ->
                BlindCopies.of(
                    seven,
                    SOURCE,
                    null,
                    many,
                    new BlindCopies.Wish(
                        "x", Round.Kind.PAIRS, Round.Question.OVERALL, "", false, "", 1)))
        .hasMessageContaining("7 are too many for pairs");
  }

  @Test
  void theCleanRecordingHidesWithItsAnchors() {
    BlindCopies copies =
        BlindCopies.of(
            comparison(),
            SOURCE,
            new Heard(SOURCE, TimeMap.IDENTITY, Map.of()),
            matched(),
            new BlindCopies.Wish("x", Round.Kind.RATING, Round.Question.OVERALL, "", false, "", 1));
    assertThat(copies.key().letters().values())
        .containsExactlyInAnyOrder(
            "v1", "v2", "v3", Round.REFERENCE, Round.LOW_ANCHOR, Round.MID_ANCHOR);
  }

  // --- answers ---

  private static Comparison handedOut() {
    return comparison().withSheet(copies(Round.Kind.RATING, false, 5).key());
  }

  private static ObjectNode answer(String listener, int... values) throws Exception {
    ObjectMapper json = new ObjectMapper();
    ObjectNode a = json.createObjectNode();
    a.put("schema", AnswerFile.SCHEMA).put("sheet", "abc123").put("listener", listener);
    a.put("kind", "rating");
    ObjectNode passage = a.putArray("ratings").addObject();
    for (int i = 0; i < values.length; i++) {
      passage.put(String.valueOf((char) ('A' + i)), values[i]);
    }
    return sealed(a);
  }

  private static ObjectNode sealed(ObjectNode a) {
    a.remove("checksum");
    return a.put("checksum", Checksum.ofText(AnswerFile.canonical(a)));
  }

  private Path file(String name, JsonNode answer) throws Exception {
    return Files.writeString(folder.resolve(name), answer.toPrettyString());
  }

  /** Six ratings that all prefer the same: Wilcoxon's exact two-sided p is 2/64. */
  @Test
  void roundsOfTheSameVersionsAreSummedUpWhoeverListened() {
    Comparison c =
        Comparison.empty("c", Job.DENOISE)
            .plus(Version.of("v1", "mild", null))
            .plus(Version.of("v2", "strong", null));
    assertThat(EarTable.together(c)).isEmpty();
    for (int i = 0; i < 6; i++) {
      Round.Trial mild = new Round.Trial(List.of("v1"), null, null, 60.0 + i);
      Round.Trial strong = new Round.Trial(List.of("v2"), null, null, 30.0 - i);
      c =
          c.withRound(
              new Round(
                  c.freshRoundId(),
                  Round.Kind.RATING,
                  null,
                  i % 2 == 0 ? "K." : "M.",
                  i,
                  null,
                  "",
                  List.of("v1", "v2"),
                  "2026-11-26T09:00:00Z",
                  List.of(mild, strong)));
    }
    assertThat(EarTable.together(c))
        .singleElement()
        .asString()
        .startsWith("6 rounds together, rating")
        .contains("K., M.")
        .contains("  62.5   61.3 to  63.8  mild")
        .contains("agreement of 6 rounds: W = 1.00")
        .contains("mild and strong differ, p = 0.031");
    // Another question, or other versions, is another matter.
    Round pairs =
        new Round(
            "r9",
            Round.Kind.PAIRS,
            null,
            "K.",
            9,
            null,
            "",
            List.of("v1", "v2"),
            "2026-11-26T09:00:00Z",
            List.of(new Round.Trial(List.of("v1", "v2"), null, "v1", null)));
    assertThat(EarTable.together(c.withRound(pairs))).hasSize(1);
    assertThat(EarTable.together(c.withRound(pairs).withRound(again(pairs)))).hasSize(2);
  }

  private static Round again(Round r) {
    return new Round(
        "r10", r.kind(), r.question(), "M.", 10, null, "", r.items(), r.begun(), r.trials());
  }

  @Test
  void answersAreTakenOnceAndSummedUp() throws Exception {
    Comparison c = handedOut();
    Path first = file("one.json", answer("K.", 80, 20, 60, 40));
    c = AnswerFile.take(c, first);
    c = AnswerFile.take(c, first);
    c = AnswerFile.take(c, file("two.json", answer("M.", 90, 30, 50, 45)));
    ListeningSheet sheet = c.sheets().get(0);
    assertThat(sheet.answers()).hasSize(2);
    String best = sheet.letters().get("A");
    assertThat(EarTable.of(c, sheet))
        .contains("2 answers")
        .contains("  85.0   82.5 to  87.5  " + EarTable.name(c, best) + " (A)")
        .contains("agreement of 2 listeners: W = 1.00");
    // Kept in the file, for this program and for others.
    Path stored = folder.resolve("c.sieve");
    ComparisonFile.save(c.withSource(null), stored);
    assertThat(ComparisonFile.load(stored).sheets()).isEqualTo(c.sheets());
  }

  @Test
  void whatIsNoAnswerIsRefusedByName() throws Exception {
    Comparison c = handedOut();
    ObjectNode altered = answer("K.", 80, 20, 60, 40);
    ((ObjectNode) altered.get("ratings").get(0)).put("A", 81);
    refused(c, file("altered.json", altered), "altered after it was saved");
    ObjectNode more = answer("K.", 80, 20, 60, 40);
    more.put("extra", true);
    refused(c, file("more.json", more), "altered after it was saved");
    ObjectNode foreign = answer("K.", 80, 20, 60, 40);
    foreign.put("sheet", "other");
    refused(c, file("foreign.json", sealed(foreign)), "was not made from this comparison");
    refused(c, file("few.json", answer("K.", 80, 20)), "not every letter is rated");
    refused(c, file("high.json", answer("K.", 80, 20, 60, 140)), "does not have");
    refused(c, Files.writeString(folder.resolve("empty.json"), ""), "it is empty");
    refused(c, Files.writeString(folder.resolve("text.json"), "hello"), "no answer");
    refused(c, Files.writeString(folder.resolve("list.json"), "[1]"), "no answer");
    refused(c, folder.resolve("gone.json"), "no such file");
    byte[] large = new byte[50 << 20];
    Arrays.fill(large, (byte) ' ');
    refused(c, Files.write(folder.resolve("large.json"), large), "1 MiB");
  }

  private static void refused(Comparison c, Path file, String why) {
    assertThatThrownBy(() -> AnswerFile.take(c, file))
        .isInstanceOf(AnswerFile.RefusedException.class)
        .hasMessageContaining(file.getFileName().toString())
        .hasMessageContaining(why);
  }
}
