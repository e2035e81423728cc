package kettlesieve.core.report;

import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Clock;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Round;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.Match;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measures;
import kettlesieve.core.measure.Part;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.roundup.RoundupCost;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.Notice;
import kettlesieve.core.score.Passages;
import kettlesieve.core.score.Places;
import kettlesieve.core.score.Requirements;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SheetOdds;
import kettlesieve.core.score.TradeOff;
import kettlesieve.core.score.WhatIf;
import kettlesieve.core.score.odds.OddsWords;

/** Makes a report of a comparison that was measured. */
public final class ReportMaker {
  /** As much sound as a page may hold that is sent and opened. */
  public static final long MOST_SOUND_BYTES = SpotSounds.MOST_BYTES;

  private static final int VERSIONS_A_TABLE = 6;
  private static final int SPOTS = 3;
  private static final double SPOT_SECONDS = 2.5;

  private final Comparison comparison;
  private final ScoreSheet sheet;
  private final Audio source;
  private final Map<String, Heard> matched;
  private final Map<String, MediaFacts> beside;
  private final Clock clock;
  private final Answer answer;
  private final SheetOdds odds;
  private final ReportLines lines;
  private final Map<String, Integer> numbers = new LinkedHashMap<>();

  /**
   * @param comparison what was compared
   * @param sheet readings, scores and places
   * @param source the whole of it
   * @param matched versions by id; of those that are missing there are no pictures and sounds
   * @param beside facts of the files that are neither source nor version, by their paths; of those
   *     that are missing the report names the file alone
   */
  public ReportMaker(
      Comparison comparison,
      ScoreSheet sheet,
      Audio source,
      Map<String, Heard> matched,
      Map<String, MediaFacts> beside) {
    this.beside = Map.copyOf(beside);
    this.comparison = comparison;
    this.sheet = sheet;
    this.source = source;
    this.matched = matched;
    this.clock = Answer.clock(sheet, comparison);
    this.answer = new Answer(sheet, comparison);
    this.lines = new ReportLines(sheet, comparison);
    this.odds = SheetOdds.of(sheet, Part.ALL);
    for (Version v : comparison.versions()) {
      numbers.put(v.id(), numbers.size() + 1);
    }
  }

  /** The whole report, as {@link #make(LocalDate, long, String, Set)}. */
  public Report make(LocalDate date, long soundBytes, String program) throws IOException {
    return make(date, soundBytes, program, EnumSet.allOf(Section.class));
  }

  /**
   * The report.
   *
   * @param date to be shown
   * @param soundBytes how many bytes of sound there may be in all; 0 for none
   * @param program which program made it, and in which state
   * @param sections what goes into it
   * @throws IOException if there is no room on disk to make the sounds
   */
  public Report make(LocalDate date, long soundBytes, String program, Set<Section> sections)
      throws IOException {
    SpotSounds sounds = new SpotSounds(sections.contains(Section.SOUNDS) ? soundBytes : 0);
    List<Report.Single> singles = new ArrayList<>();
    if (sections.contains(Section.VERSIONS)) {
      for (Entry entry : sheet.ranked(Part.ALL)) {
        singles.add(single(entry, sounds));
      }
    }
    boolean unfair = sections.contains(Section.FAIRNESS);
    List<String> limits =
        sheet.profile().requirements().stream()
            .map(r -> LimitWords.asked(r, read(r.reading())))
            .toList();
    return new Report(
        comparison.name(),
        sheet.job().title(),
        date.toString(),
        sheet.profile().title() + ". " + sheet.profile().description(),
        answer.lines(),
        sheet.ranked(Part.ALL).stream().map(this::place).toList(),
        WhatIf.of(sheet, 3).stream().map(this::turn).toList(),
        lines.against(),
        limits,
        sections.contains(Section.READINGS) ? tables() : List.of(),
        sections.contains(Section.PLOT)
            ? TradeOffSvg.of(TradeOff.of(sheet, comparison), numbers)
            : "",
        sections.contains(Section.PLOT) ? lines.sweeps() : List.of(),
        lines.marks(),
        sections.contains(Section.PASSAGES) ? passages() : List.of(),
        sections.contains(Section.EARS) ? ears() : List.of(),
        singles,
        unfair ? fairness() : List.of(),
        sections.contains(Section.METHOD) ? methods() : List.of(),
        sections.contains(Section.FILES) ? files() : List.of(),
        comparison.notes(),
        unfair ? sheet.allNotices().stream().map(Notice::line).toList() : List.of(),
        sheet.failed().stream()
            .map(f -> new Report.Failed(f.label(), name(f.file()), f.reason()))
            .toList(),
        program,
        sounds.leftOut() == 0
            ? ""
            : "The sounds of "
                + sounds.leftOut()
                + " places were left out, as the page would have become too large.");
  }

  private List<String> passages() {
    return Passages.of(sheet).map(Passages::stretches).orElse(List.of()).stream()
        .map(p -> PassageWords.of(sheet, p, clock))
        .toList();
  }

  private List<String> ears() {
    List<String> lines = new ArrayList<>();
    for (Round round : comparison.rounds()) {
      lines.add(RoundWords.head(round));
      lines.addAll(RoundWords.lines(comparison, round, sheet));
    }
    for (String together : EarTable.together(comparison)) {
      together.lines().map(String::strip).forEach(lines::add);
    }
    for (ListeningSheet s : comparison.sheets()) {
      if (!s.answers().isEmpty()) {
        EarTable.of(comparison, s).lines().map(String::strip).forEach(lines::add);
      }
    }
    return lines;
  }

  private List<Report.Unfair> fairness() {
    return sheet.allFairness().stream()
        .map(i -> new Report.Unfair(i.version(), i.matter(), i.found(), i.done()))
        .toList();
  }

  private static String name(String file) {
    return file.substring(Math.max(file.lastIndexOf('/'), file.lastIndexOf('\\')) + 1);
  }

  private static String text(String pattern, Object... values) {
    return String.format(Locale.ROOT, pattern, values);
  }

  // --- tables ---

  private Report.Place place(Entry e) {
    Optional<Estimate> overall = e.card().overall();
    List<String> axes = new ArrayList<>();
    for (Axis axis : List.of(Axis.MISSED, Axis.ADDED, Axis.LOST)) {
      Estimate score = e.card().axes().get(axis);
      axes.add(score == null ? "–" : text("%.0f", score.value()));
    }
    return new Report.Place(
        Places.words(e.ranked()),
        numbers.getOrDefault(e.version().id(), 0),
        e.version().label(),
        overall
            .map(o -> text("%.0f (%.0f to %.0f)", o.value(), o.low(), o.high()))
            .orElse("no score"),
        odds.of(e.version().id()).map(o -> OddsWords.ofTen(o.best())).orElse("–"),
        overall.map(o -> (int) Math.round(o.value())).orElse(-1),
        axes,
        Requirements.word(Requirements.of(e, sheet.profile())).orElse(""),
        verdict(e));
  }

  private String turn(WhatIf w) {
    String label = comparison.version(w.version()).map(Version::label).orElse("");
    return label + ": " + w.words();
  }

  private String verdict(Entry e) {
    return comparison.version(e.version().id()).map(Version::judgement).orElse("");
  }

  private List<Report.Table> tables() {
    List<Entry> entries = sheet.entries();
    List<Report.Table> tables = new ArrayList<>();
    int count = (entries.size() + VERSIONS_A_TABLE - 1) / VERSIONS_A_TABLE;
    int width = count == 0 ? 1 : (entries.size() + count - 1) / count;
    for (int from = 0; from < entries.size(); from += width) {
      List<Entry> some = entries.subList(from, Math.min(entries.size(), from + width));
      List<Report.Row> rows = new ArrayList<>();
      for (Declaration d : sheet.columns()) {
        rows.add(
            new Report.Row(
                d.axis(sheet.job()).title(),
                d.title(),
                d.unit(),
                some.stream().map(e -> cell(e.reading(d.id()))).toList()));
      }
      tables.add(
          new Report.Table(
              some.stream().map(e -> numbers.getOrDefault(e.version().id(), 0)).toList(),
              some.stream().map(e -> e.version().label()).toList(),
              rows));
    }
    return tables;
  }

  private Report.Cell cell(Optional<Reading> reading) {
    if (reading.isEmpty()) {
      return new Report.Cell("–", "", -1);
    }
    Reading r = reading.get();
    double low = r.estimate().low();
    double high = r.estimate().high();
    return new Report.Cell(
        Answer.value(r),
        high > low ? Answer.number(low) + " to " + Answer.number(high) : "",
        answer.score(r).map(s -> (int) Math.round(s)).orElse(-1));
  }

  // --- versions ---

  private Report.Single single(Entry e, SpotSounds sounds) throws IOException {
    Version version = comparison.version(e.version().id()).orElse(null);
    List<String> facts = new ArrayList<>();
    if (version != null && !version.tool().isEmpty()) {
      facts.add("Made with " + version.tool() + plus(version.setting()) + amount(version));
    }
    if (!e.version().cost().none()) {
      facts.add("Cost: " + cost(e));
    }
    facts.add(matchWords(e.version().match()));
    List<Report.Spotted> spots = new ArrayList<>();
    for (Reading r : answer.byCost(e)) {
      if (spots.size() < SPOTS && !r.spots().isEmpty() && answer.score(r).orElse(100.0) < 99.5) {
        spots.add(spotted(e, r, sounds));
      }
    }
    return new Report.Single(
        numbers.getOrDefault(e.version().id(), 0),
        e.version().label(),
        Places.words(e.ranked()),
        verdict(e),
        facts,
        Requirements.of(e, sheet.profile()).stream()
            .map(o -> LimitWords.outcome(o, e, clock))
            .toList(),
        spots);
  }

  private static String plus(String words) {
    return words.isEmpty() ? "" : ", " + words;
  }

  private static String amount(Version v) {
    return v.amount() == null ? "" : text(", amount %s", Answer.number(v.amount()));
  }

  /** Time and what it is over the audio's length: the same on whatever machine it is written. */
  private String cost(Entry e) {
    List<String> words = new ArrayList<>();
    if (e.version().cost().seconds() != null) {
      words.add(Answer.number(e.version().cost().seconds()) + " s");
    }
    RoundupCost over = RoundupCost.of(e.version().cost(), sheet.heading().source().seconds());
    if (!over.none()) {
      words.add(RoundupWords.cost(over, 0));
    }
    return String.join(", ", words);
  }

  private static String matchWords(Match m) {
    return text(
        "Matched: %s ms late, polarity %s, %s dB added, likeness %.2f",
        Answer.number(m.delayMs()),
        m.polarity() < 0 ? "inverted" : "normal",
        Answer.number(m.gainDb()),
        m.confidence());
  }

  private Optional<Reading> read(String measure) {
    return sheet.entries().stream()
        .map((Entry e) -> e.reading(measure))
        .flatMap(Optional::stream)
        .findFirst();
  }

  private Report.Spotted spotted(Entry e, Reading r, SpotSounds sounds) throws IOException {
    Spot spot = r.spots().get(0);
    Declaration d = Measures.declaration(r.measure());
    double middle = (spot.from() + spot.to()) / 2;
    double from = Math.max(0, middle - SPOT_SECONDS / 2);
    double to = Math.min(source.seconds(), from + SPOT_SECONDS);
    String words =
        text(
            "%s at %s, %.0f to %.0f Hz: %s%s",
            d.title(),
            clock.text(spot.at()),
            spot.low(),
            spot.high(),
            Answer.number(spot.value()),
            d.unit().isEmpty() ? "" : " " + d.unit());
    Heard own = matched.get(e.version().id());
    if (own == null) {
      return new Report.Spotted(words, clock.text(middle), "", "", "", "");
    }
    Heard before = new Heard(source, TimeMap.IDENTITY, Map.of());
    double[] there = {own.map().at(from), own.map().at(to)};
    String[] heard = sounds.of(before.between(from, to), own.between(from, to));
    return new Report.Spotted(
        words,
        clock.text(middle),
        SpotPicture.of(source, new double[] {from, to}),
        SpotPicture.of(own.audio(), there),
        heard[0],
        heard[1]);
  }

  // --- how, and of what ---

  private List<Report.Method> methods() {
    return sheet.columns().stream()
        .map(d -> new Report.Method(d.title(), d.id(), d.formula(), d.source()))
        .toList();
  }

  private List<Report.File> files() {
    List<Report.File> files = new ArrayList<>();
    var facts = sheet.heading().source();
    files.add(
        new Report.File(
            "Source",
            sheet.heading().sourceFile().getFileName().toString(),
            facts(facts),
            facts.sha256()));
    if (comparison.reference() != null) {
      files.add(beside("Clean recording", comparison.reference()));
    }
    comparison.trueStems().forEach((role, ref) -> files.add(beside("True stem: " + role, ref)));
    for (Entry e : sheet.entries()) {
      var own = e.version().facts();
      files.add(
          new Report.File(
              e.version().label(),
              e.version().file().getFileName().toString(),
              facts(own),
              own.sha256()));
    }
    return files;
  }

  private Report.File beside(String what, MediaRef ref) {
    MediaFacts known = beside.get(ref.path());
    String sum = known != null ? known.sha256() : ref.sha256() == null ? "" : ref.sha256();
    return new Report.File(
        what,
        ref.file().getFileName() + (ref.part().isEmpty() ? "" : ", " + ref.part()),
        known == null ? "" : facts(known),
        sum);
  }

  private static String facts(MediaFacts facts) {
    return text(
        "%d Hz, %d channel%s, %.2f s",
        facts.sampleRate(), facts.channels(), facts.channels() == 1 ? "" : "s", facts.seconds());
  }
}
