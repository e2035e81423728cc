package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.ground.FrameRange;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Segments;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.task.Stop;

/**
 * Puts versions on the source's rate, channels, time, polarity and level. Nothing is copied: the
 * result is a chain of views (only a version at another rate is rendered once, if it is short).
 */
public final class Matcher {
  /** Half as long or half as long again: beyond that it is no drift. */
  private static final double MOST_DRIFT_PPM = 500_000;

  static final double WARN_CONFIDENCE = 0.3;

  static final double WARN_COVERAGE = 0.5;
  private static final double WARN_MISSING_SECONDS = 0.5;
  private static final long RENDER_SAMPLES = 1L << 23;

  private Matcher() {}

  /**
   * Where a clean recording or another version lies on the source's time.
   *
   * @throws MatchException if it covers less than half of the source
   */
  public static Alignment placeOf(Audio source, Audio other) throws MatchException {
    Audio version = commonRate(source, other);
    Alignment found = align(new Segments(source.downmix()), version, 0, source.frames());
    Coverage.of(found, version, source, 0, source.frames()).check();
    return found;
  }

  /** A recording on the source's time line, over its whole length, its level as it is. */
  public static Audio onSourceTime(Audio source, Audio other, Alignment place) {
    return place.apply(commonRate(source, other), source.frames());
  }

  /**
   * A clean recording at the level it has within the source: least squares, for declipping over the
   * samples that were never clipped, else over all, from which noise is independent.
   *
   * @param source the analysed source
   * @param clean over the same excerpt and on the same time
   */
  public static Audio atSourceLevel(SourceMaterial source, Audio clean, Job job) {
    if (job == Job.DECLIP) {
      double gainDb = LevelMatch.onUnclipped(source.audio(), source.clipping(), clean).gainDb();
      return clean.times(Db.toAmplitude(gainDb));
    }
    double sr = 0;
    double rr = 0;
    float[] s = new float[1 << 14];
    float[] r = new float[1 << 14];
    for (int c = 0; c < clean.channels(); c++) {
      for (long at = 0; at < clean.frames(); at += s.length) {
        source.audio().read(c, at, s, 0, s.length);
        clean.read(c, at, r, 0, r.length);
        for (int i = 0; i < s.length; i++) {
          sr += (double) s[i] * r[i];
          rr += (double) r[i] * r[i];
        }
      }
    }
    double gain = sr > 0 && rr > 0 ? sr / rr : 1;
    // What differs by less than chance is the same level: then nothing is touched.
    return Math.abs(Db.ofAmplitude(gain)) < 0.1 ? clean : clean.times(gain);
  }

  /**
   * Matches one version.
   *
   * @param source the analysed source, {@link SourceMaterial#forChannels} of this version
   * @param delivered the version as it came
   * @param byHand what a person fixed
   * @throws MatchException if the version covers less than half of the excerpt
   */
  public static MatchedVersion match(SourceMaterial source, Audio delivered, MatchOverride byHand)
      throws MatchException {
    return match(source, delivered, byHand, MatchSettings.USUAL, null, Stop.NEVER);
  }

  /**
   * Matches one version, with the level found as the settings say.
   *
   * @param known what was found before; null to look for it
   * @param stop asked now and then
   * @throws MatchException if the version covers less than half of the excerpt
   */
  public static MatchedVersion match(
      SourceMaterial source,
      Audio delivered,
      MatchOverride byHand,
      MatchSettings settings,
      Found known,
      Stop stop)
      throws MatchException {
    List<String> notes = new ArrayList<>();
    List<String> warnings = new ArrayList<>();
    Audio whole = source.whole();
    Audio version = commonRate(whole, source.commonChannels(delivered));
    if (delivered.channels() != source.originalChannels()) {
      warnings.add(
          text(
              "%s against %s: compared on the common downmix",
              channels(delivered.channels()), channels(source.originalChannels())));
    }
    if (version.sampleRate() != delivered.sampleRate()) {
      notes.add(text("resampled from %d to %d Hz", delivered.sampleRate(), whole.sampleRate()));
    }
    if (version.channels() != whole.channels()) {
      throw new IllegalArgumentException("use the source material of the common downmix");
    }
    long from = source.firstFrame();
    long to = from + source.audio().frames();
    stop.check();
    Alignment before = Found.alignment(known);
    Alignment found = before != null ? before : align(source.segments(), version, from, to);
    if (before == null && settings.job() == Job.DECLIP) {
      found = GoodSamples.placed(found, source, version);
    }
    stop.check();
    warnOfAnother(found.confidence(), warnings);
    Alignment used = overruled(found, byHand);
    if (!(Math.abs(used.driftPpm()) <= MOST_DRIFT_PPM)) {
      throw new MatchException(
          text(
              "a drift of %,.0f ppm leaves nothing to compare; set it within ±%,.0f ppm, or go back to"
                  + " what was found",
              used.driftPpm(), MOST_DRIFT_PPM));
    }
    Coverage coverage = Coverage.of(used, version, whole, from, to);
    coverage.check();
    if (coverage.missingSeconds() > WARN_MISSING_SECONDS) {
      warnings.add(
          text(
              "it lacks %.1f s of the excerpt; measured on what both have",
              coverage.missingSeconds()));
    }
    Audio alignedWhole = used.apply(version, whole.frames());
    Audio aligned = alignedWhole.slice(from, to);
    List<Spectrogram> spectra = SourceMaterial.spectra(aligned);
    LevelMatch level = Found.level(known, used);
    if (level == null) {
      level =
          LevelMatch.find(
              source,
              aligned,
              spectra,
              FrameRange.covered(
                  source.framing(), source.startSeconds(), coverage.from(), coverage.to()),
              settings);
    }
    warnings.addAll(level.warnings());
    double gainDb = byHand.gainDb() != null ? byHand.gainDb() : level.gainDb();
    describe(used, gainDb, whole.sampleRate(), byHand, notes);
    Match match =
        new Match(
            used.delaySamples(),
            used.delaySamples() * 1000 / whole.sampleRate(),
            used.polarity(),
            used.driftPpm(),
            gainDb,
            version.seconds() / whole.seconds(),
            found.confidence(),
            delivered.sampleRate(),
            delivered.channels(),
            level.basis(),
            coverage.from(),
            coverage.to(),
            notes,
            warnings);
    return new MatchedVersion(
        match, new Found(found, used, level), delivered, alignedWhole, aligned, spectra);
  }

  /**
   * Matches a version in stems: their sum is put in the place and polarity of the mix, and every
   * stem with it. Levels are left alone.
   *
   * @param source the analysed mix
   * @param delivered the stems by role, as they came
   * @param byHand what a person fixed
   * @param known where their sum was found before; null to look for it
   * @param stop asked now and then
   * @throws MatchException if the stems cover less than half of the excerpt
   */
  public static MatchedStems matchStems(
      SourceMaterial source,
      Map<String, Audio> delivered,
      MatchOverride byHand,
      Found known,
      Stop stop)
      throws MatchException {
    Audio mix = source.whole();
    List<String> notes = new ArrayList<>();
    List<String> warnings = new ArrayList<>();
    Map<String, Audio> stems = new LinkedHashMap<>();
    long longest = 0;
    for (var stem : delivered.entrySet()) {
      Audio common = commonRate(mix, stem.getValue());
      if (stem.getValue().sampleRate() != mix.sampleRate()) {
        notes.add(
            text(
                "%s: resampled from %d to %d Hz",
                stem.getKey(), stem.getValue().sampleRate(), mix.sampleRate()));
      }
      if (common.channels() != mix.channels()) {
        warnings.add(
            text(
                "%s: %s against a mix in %s",
                stem.getKey(), channels(common.channels()), channels(mix.channels())));
      }
      longest = Math.max(longest, common.frames());
      stems.put(stem.getKey(), common);
    }
    long frames = longest;
    Audio sum =
        SumAudio.of(
            stems.values().stream()
                .map(a -> a.slice(0, frames).asChannels(mix.channels()))
                .toList());
    long from = source.firstFrame();
    long to = from + source.audio().frames();
    stop.check();
    Alignment before = Found.alignment(known);
    Alignment found =
        before != null
            ? before
            : rightWayUp(align(source.segments(), sum, from, to), mix, stems, from, to);
    stop.check();
    warnOfAnother(found.confidence(), warnings);
    Alignment used = overruled(found, byHand);
    Coverage coverage = Coverage.of(used, sum, mix, from, to);
    coverage.check();
    describe(used, 0, mix.sampleRate(), byHand, notes);
    stop.check();
    Map<String, Audio> placed = new LinkedHashMap<>(stems);
    placed.replaceAll((role, stem) -> used.apply(stem, mix.frames()));
    Map<String, Double> ends = new LinkedHashMap<>();
    stems.forEach(
        (role, stem) -> ends.put(role, (stem.frames() - used.delaySamples()) / used.step()));
    warnings.addAll(StemFaults.of(mix, placed, ends, from, to));
    Audio first = delivered.values().iterator().next();
    Match match =
        new Match(
            used.delaySamples(),
            used.delaySamples() * 1000 / mix.sampleRate(),
            used.polarity(),
            used.driftPpm(),
            0,
            sum.seconds() / mix.seconds(),
            found.confidence(),
            first.sampleRate(),
            first.channels(),
            "left as delivered",
            coverage.from(),
            coverage.to(),
            notes,
            warnings);
    return new MatchedStems(match, new Found(found, null, null), mix, placed);
  }

  /**
   * One loud stem upside down turns the sum, or draws it to a place where it fits better than it
   * does: where the stems by themselves, whichever way up, go better with the mix as delivered,
   * they stay there; and where most go against the mix, it is those few that are turned, not the
   * version.
   */
  private static Alignment rightWayUp(
      Alignment found, Audio mix, Map<String, Audio> stems, long from, long to) {
    if (found.polarity() > 0 && found.delaySamples() == 0) {
      return found;
    }
    Alignment still = new Alignment(0, 0, 1, found.confidence());
    double there = 0;
    double here = 0;
    for (Audio stem : stems.values()) {
      there += StemFaults.together(mix, found.apply(stem, mix.frames()), from, to);
      here += StemFaults.together(mix, still.apply(stem, mix.frames()), from, to);
    }
    Alignment place = found;
    if (here > there) {
      // How like the mix they are, each whichever way up: 1 where they then add up to it.
      double like = Math.min(1, here / StemFaults.together(mix, mix, from, to));
      place = new Alignment(0, 0, 1, Math.max(like, found.confidence()));
    }
    int against = 0;
    for (Audio stem : stems.values()) {
      boolean turned = StemFaults.upsideDown(mix, place.apply(stem, mix.frames()), from, to);
      against += turned ? 1 : 0;
    }
    return 2 * against > stems.size()
        ? new Alignment(
            place.delaySamples(), place.driftPpm(), -place.polarity(), place.confidence())
        : place;
  }

  static void warnOfAnother(double confidence, List<String> warnings) {
    if (confidence < WARN_CONFIDENCE) {
      warnings.add(
          text("this may be another recording: its likeness to the source is %.2f", confidence));
    }
  }

  private static Alignment align(Segments source, Audio version, long from, long to) {
    return new Aligner(source, version.downmix(), from, to).find();
  }

  private static Alignment overruled(Alignment found, MatchOverride byHand) {
    double delay = byHand.delaySamples() != null ? byHand.delaySamples() : found.delaySamples();
    double drift =
        byHand.driftPpm() != null
            ? byHand.driftPpm()
            : byHand.delaySamples() != null ? 0 : found.driftPpm();
    int polarity = byHand.polarity() != null ? byHand.polarity() : found.polarity();
    return new Alignment(delay, drift, polarity, found.confidence());
  }

  static void describe(
      Alignment a, double gainDb, int rate, MatchOverride byHand, List<String> notes) {
    if (a.delaySamples() != 0) {
      notes.add(
          text(
              "%s by %.3f ms, %s",
              a.delaySamples() > 0 ? "late" : "early",
              Math.abs(a.delaySamples()) * 1000 / rate,
              byHand.delaySamples() != null ? "set by hand" : "moved into place"));
    }
    if (a.polarity() < 0) {
      notes.add(
          byHand.polarity() != null
              ? "inverted polarity, set by hand"
              : "inverted polarity, turned back");
    }
    if (a.driftPpm() != 0) {
      notes.add(
          text(
              "drifted by %.2f ppm, %s",
              a.driftPpm(), byHand.driftPpm() != null ? "set by hand" : "straightened"));
    }
    if (Math.abs(gainDb) >= 0.05) {
      notes.add(
          text(
              "%s by %.1f dB, %s",
              gainDb > 0 ? "quieter" : "louder",
              Math.abs(gainDb),
              byHand.gainDb() != null ? "set by hand" : "level matched"));
    }
  }

  static Audio commonRate(Audio source, Audio version) {
    Audio resampled = LinearTimeAudio.resample(version, source.sampleRate());
    boolean render =
        resampled != version && resampled.frames() * resampled.channels() <= RENDER_SAMPLES;
    return render ? rendered(resampled) : resampled;
  }

  private static Audio rendered(Audio view) {
    float[][] samples = new float[view.channels()][];
    for (int c = 0; c < samples.length; c++) {
      samples[c] = view.wholeChannel(c);
    }
    return Audio.of(view.sampleRate(), samples);
  }

  private static String channels(int count) {
    return count == 1 ? "mono" : count == 2 ? "stereo" : count + " channels";
  }

  static String text(String form, Object... values) {
    return String.format(Locale.ROOT, form, values);
  }

  /** Which part of the excerpt a version covers, in seconds of the source. */
  private record Coverage(double from, double to, double excerptSeconds) {
    static Coverage of(Alignment a, Audio version, Audio source, long from, long to) {
      double rate = source.sampleRate();
      double first = -a.delaySamples() / a.step() / rate;
      double last = (version.frames() - a.delaySamples()) / a.step() / rate;
      double begin = Math.max(first, from / rate);
      double end = Math.min(last, to / rate);
      return new Coverage(begin, Math.max(begin, end), (to - from) / rate);
    }

    double missingSeconds() {
      return excerptSeconds - (to - from);
    }

    void check() throws MatchException {
      if (to - from < 0.5 * excerptSeconds) {
        throw new MatchException(
            text(
                "it covers only %.1f of the %.1f s to be compared. Export it at full length, or"
                    + " choose an excerpt that it covers.",
                to - from, excerptSeconds));
      }
    }
  }
}
