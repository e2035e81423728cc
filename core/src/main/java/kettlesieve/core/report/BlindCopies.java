package kettlesieve.core.report;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.signal.LowPass;
import kettlesieve.core.task.Progress;

/**
 * Versions under letters for other listeners: matched in level, of one rate, channel count and
 * length, each passage from the same word, shuffled. Nothing in them tells which is which but what
 * is heard.
 *
 * @param key what the letters stand for; it stays in the comparison
 * @param copies by letter
 * @param loops where the passages lie in every copy
 * @param pairs for pairs, the letters that are heard together, in order
 */
public record BlindCopies(
    ListeningSheet key, Map<String, Audio> copies, List<Loop> loops, List<List<String>> pairs) {
  /** Pairs of more than these are too many for one who does it as a favour. */
  public static final int MOST_FOR_PAIRS = 6;

  private static final int MOST_LETTERS = 26;
  private static final double GAP_SECONDS = 0.25;
  private static final FileTime ONE_DATE = FileTime.from(Instant.parse("2000-01-01T00:00:00Z"));
  private static final String LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";

  /**
   * A passage in every copy.
   *
   * @param from seconds
   * @param to seconds
   */
  public record Loop(double from, double to) {}

  /**
   * What is asked for.
   *
   * @param id of the sheet
   * @param kind rating or pairs
   * @param question what is to be listened for
   * @param made when, in ISO 8601
   * @param withSource whether the untouched source takes part; in ratings without a clean recording
   *     it does anyway
   * @param role stems: which is heard; empty for all of them together
   * @param seed of the letters and of every order
   */
  public record Wish(
      String id,
      Round.Kind kind,
      Round.Question question,
      String made,
      boolean withSource,
      String role,
      long seed) {}

  /**
   * Makes the copies.
   *
   * @param source the whole of it
   * @param reference the clean recording at the source's level; null if there is none
   * @param matched versions by id; those that are missing are left out
   * @throws IllegalArgumentException if there are too few or too many to be told by letters
   */
  public static BlindCopies of(
      Comparison comparison, Audio source, Heard reference, Map<String, Heard> matched, Wish wish) {
    List<Reel.Passage> passages = Reel.passages(comparison, source, List.of());
    Map<String, List<Audio>> pieces = new LinkedHashMap<>();
    for (Version v : comparison.versions()) {
      Heard heard = matched.get(v.id());
      if (heard != null) {
        List<Audio> own = pieces(heard, wish.role(), passages);
        if (!own.isEmpty()) {
          pieces.put(v.id(), own);
        }
      }
    }
    boolean rating = wish.kind() == Round.Kind.RATING;
    boolean hidden = rating && wish.role().isEmpty();
    if (hidden && reference != null) {
      List<Audio> clean = pieces(reference, "", passages);
      pieces.put(Round.REFERENCE, clean);
      pieces.put(Round.LOW_ANCHOR, clean.stream().map(a -> LowPass.of(a, 3_500)).toList());
      pieces.put(Round.MID_ANCHOR, clean.stream().map(a -> LowPass.of(a, 7_000)).toList());
    }
    if (wish.withSource() || hidden && reference == null) {
      Heard own = new Heard(source, TimeMap.IDENTITY, Map.of());
      pieces.put(Round.SOURCE, pieces(own, "", passages));
    }
    check(pieces.size(), wish.kind());
    List<String> items = new ArrayList<>(pieces.keySet());
    Random random = new Random(wish.seed());
    Collections.shuffle(items, random);
    Map<String, String> letters = new LinkedHashMap<>();
    for (int i = 0; i < items.size(); i++) {
      letters.put(LETTERS.substring(i, i + 1), items.get(i));
    }
    Map<String, Audio> copies = new LinkedHashMap<>();
    List<Loop> loops = new ArrayList<>();
    lay(letters, pieces, source.sampleRate(), copies, loops);
    ListeningSheet key =
        new ListeningSheet(
            wish.id(), wish.kind(), wish.question(), wish.made(), letters, List.of());
    return new BlindCopies(
        key, copies, loops, rating ? List.of() : pairs(List.copyOf(letters.keySet()), random));
  }

  private static void check(int count, Round.Kind kind) {
    if (count < 2) {
      throw new IllegalArgumentException("two versions are needed that can be heard");
    }
    if (kind == Round.Kind.PAIRS && count > MOST_FOR_PAIRS) {
      throw new IllegalArgumentException(
          count
              + " are too many for pairs, which take up to "
              + MOST_FOR_PAIRS
              + ". Have them rated, or take some out");
    }
    if (count > MOST_LETTERS) {
      throw new IllegalArgumentException(count + " are more than there are letters");
    }
  }

  private static List<Audio> pieces(Heard heard, String role, List<Reel.Passage> passages) {
    List<Audio> pieces = new ArrayList<>();
    for (Reel.Passage p : passages) {
      Audio piece =
          role.isEmpty() ? heard.between(p.from(), p.to()) : heard.between(role, p.from(), p.to());
      if (piece == null) {
        return List.of();
      }
      pieces.add(piece);
    }
    return pieces;
  }

  /** Each passage begins at the same place in every copy, and is as long as its longest. */
  private static void lay(
      Map<String, String> letters,
      Map<String, List<Audio>> pieces,
      int rate,
      Map<String, Audio> copies,
      List<Loop> loops) {
    int passages = pieces.values().iterator().next().size();
    int channels =
        pieces.values().stream().flatMap(List::stream).mapToInt(Audio::channels).max().orElse(1);
    double peak =
        pieces.values().stream().flatMap(List::stream).mapToDouble(Reel::peak).max().orElse(0);
    double gain = peak > Reel.FULL ? Reel.FULL / peak : 1;
    long gap = Math.round(GAP_SECONDS * rate);
    Map<String, List<Audio>> laid = new LinkedHashMap<>();
    letters.keySet().forEach(letter -> laid.put(letter, new ArrayList<>()));
    long at = 0;
    for (int p = 0; p < passages; p++) {
      int number = p;
      long longest =
          pieces.values().stream().mapToLong(l -> l.get(number).frames()).max().orElse(0);
      letters.forEach(
          (letter, item) -> {
            Audio piece = pieces.get(item).get(number).asChannels(channels);
            Audio faded = new JoinedAudio(List.of(piece), rate, channels, 0, gain);
            laid.get(letter).add(faded.slice(0, longest));
          });
      loops.add(new Loop((double) at / rate, (double) (at + longest) / rate));
      at += longest + gap;
    }
    laid.forEach(
        (letter, list) -> copies.put(letter, new JoinedAudio(list, rate, channels, gap, 1)));
  }

  /** All pairs in random order, each in one of its two orders; then all again the other way. */
  private static List<List<String>> pairs(List<String> letters, Random random) {
    List<List<String>> once = new ArrayList<>();
    List<List<String>> again = new ArrayList<>();
    for (int i = 0; i < letters.size(); i++) {
      for (int j = i + 1; j < letters.size(); j++) {
        List<String> pair = List.of(letters.get(i), letters.get(j));
        List<String> turned = List.of(letters.get(j), letters.get(i));
        boolean first = random.nextBoolean();
        once.add(first ? pair : turned);
        again.add(first ? turned : pair);
      }
    }
    Collections.shuffle(once, random);
    Collections.shuffle(again, random);
    once.addAll(again);
    return once;
  }

  /** What the page may know: letters and places, nothing else. */
  Map<String, Object> forPage() {
    Map<String, Object> page = new LinkedHashMap<>();
    page.put("id", key.id());
    page.put("kind", key.kind().id());
    // In the alphabet's order: the order of the shuffle is nobody's business.
    page.put("letters", key.letters().keySet().stream().sorted().toList());
    page.put("loops", loops);
    page.put("pairs", pairs);
    return page;
  }

  /**
   * Writes the sheet: a WAV a letter and one page. All files carry the same date.
   *
   * @param folder that is empty or not there yet
   * @throws IOException if it cannot be written; what was written is taken away again
   */
  public void write(Path folder) throws IOException {
    boolean made = Files.notExists(folder);
    Files.createDirectories(folder);
    List<Path> written = new ArrayList<>();
    try {
      for (Map.Entry<String, Audio> copy : copies.entrySet()) {
        Path file = folder.resolve(copy.getKey() + ".wav");
        written.add(file);
        WavWriter.write(copy.getValue(), file, WavWriter.Format.PCM_24, Progress.SILENT);
      }
      Path page = folder.resolve("listen.html");
      written.add(page);
      WholeFile.write(page, ReportPage.listening(this));
      for (Path file : written) {
        Files.setLastModifiedTime(file, ONE_DATE);
      }
    } catch (IOException | RuntimeException e) {
      for (Path file : written) {
        Files.deleteIfExists(file);
      }
      if (made) {
        Files.deleteIfExists(folder);
      }
      throw e;
    }
  }
}
