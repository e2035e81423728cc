package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.TimeMap;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.task.Stop;

/**
 * Matches a version that was stretched or shifted: it keeps its own time, and a map from the
 * source's time to it is found. Level and words as in {@link Matcher}.
 */
public final class StretchMatcher {
  /** A file whose length differs by more may have been made at another ratio. */
  private static final double OTHER_LENGTH = 0.04;

  private static final double CLEARLY_BETTER = 0.2;

  private StretchMatcher() {}

  /**
   * Matches a stretched or shifted version: it keeps its own time, and a map to it is found.
   *
   * @param source the analysed source
   * @param delivered the version as it came
   * @param byHand what a person fixed
   * @param settings of the comparison
   * @param known what was found before; null to look for it
   * @param stop asked now and then
   * @throws MatchException if there is nothing to hold on to
   */
  public static StretchedVersion match(
      SourceMaterial source,
      Audio delivered,
      MatchOverride byHand,
      MatchSettings settings,
      Found known,
      Stop stop)
      throws MatchException {
    Audio whole = source.whole();
    Audio version = Matcher.commonRate(whole, delivered);
    if (delivered.seconds() < 0.5) {
      throw new MatchException("it is shorter than half a second. Export it again at full length.");
    }
    List<String> notes = new ArrayList<>();
    List<String> warnings = new ArrayList<>();
    if (version.sampleRate() != delivered.sampleRate()) {
      notes.add(
          Matcher.text("resampled from %d to %d Hz", delivered.sampleRate(), whole.sampleRate()));
    }
    double length = delivered.seconds() / whole.seconds();
    double expected =
        settings.job() == Job.PITCH ? 1 : settings.ratio() != null ? settings.ratio() : length;
    double moved = settings.job() == Job.PITCH ? settings.pitchRatio() : 1 / expected;
    MapFit found =
        known != null && known.place() instanceof MapFit before
            ? before
            : likelier(whole.downmix(), version.downmix(), expected, length, moved, stop);
    if (found.coverage() < Matcher.WARN_CONFIDENCE) {
      Matcher.warnOfAnother(found.coverage(), warnings);
    } else if (found.coverage() < Matcher.WARN_COVERAGE) {
      warnings.add(
          Matcher.text("only %.0f %% of the source was found again in it", 100 * found.coverage()));
    }
    double ratio = byHand.ratio() != null ? byHand.ratio() : found.slope();
    double offset =
        byHand.delaySamples() != null ? byHand.delaySamples() / whole.sampleRate() : found.offset();
    MapFit fit =
        byHand.ratio() != null
            ? MapFit.line(offset, ratio, found.coverage())
            : found.later(offset - found.offset());
    TimeMap map = fit.map();
    LevelMatch level =
        known != null && known.level() != null
            ? known.level()
            : LevelMatch.ofWhole(source.audio(), version, settings.level());
    warnings.addAll(level.warnings());
    double gainDb = byHand.gainDb() != null ? byHand.gainDb() : level.gainDb();
    Alignment place = new Alignment(offset * whole.sampleRate(), 0, 1, found.coverage());
    Matcher.describe(place, gainDb, whole.sampleRate(), byHand, notes);
    notes.add(
        Matcher.text(
            "runs %.4f times as long, %s",
            ratio, byHand.ratio() != null ? "set by hand" : "played through its time map"));
    double from = Math.max(0, map.inverse(0));
    double to = Math.min(whole.seconds(), map.inverse(version.seconds()));
    Match match =
        new Match(
            place.delaySamples(),
            offset * 1000,
            1,
            0,
            gainDb,
            ratio,
            found.coverage(),
            delivered.sampleRate(),
            delivered.channels(),
            level.basis(),
            from,
            Math.max(from, to),
            notes,
            warnings);
    return new StretchedVersion(
        match, new Found(found, null, level), settings, delivered, version, fit);
  }

  /**
   * The map at the length that was asked for; where the file's own length is far from that, and
   * fits better, at that one: a version made at another ratio is to be told so, not misread.
   */
  private static MapFit likelier(
      Audio source, Audio version, double expected, double length, double moved, Stop stop)
      throws MatchException {
    MapFit asked = map(source, version, expected, moved, stop);
    if (Math.abs(length / expected - 1) < OTHER_LENGTH || length < 0.1 || length > 10) {
      return asked;
    }
    stop.check();
    double other = Math.abs(moved * expected - 1) < 0.01 ? 1 / length : moved;
    MapFit own = map(source, version, length, other, stop);
    return own.coverage() > asked.coverage() + CLEARLY_BETTER ? own : asked;
  }

  private static MapFit map(Audio source, Audio version, double expected, double moved, Stop stop)
      throws MatchException {
    double[] scales = Math.abs(moved - 1) < 0.01 ? new double[] {1} : new double[] {1, moved};
    return new StretchAligner(source, version, expected, stop, scales).find();
  }
}
