package kettlesieve.core.fairness;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.Match;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.match.StretchedVersion;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.Recording;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.TruePeak;

/**
 * What would have made a comparison unfair, and what was done about each. Part of every export, so
 * that another person can check it.
 */
public final class Fairness {
  /** Found of a version that nothing was done to. */
  public static final String SOURCE_ITSELF = "but for place and level it is the source itself";

  private static final double SAME_LENGTH_SECONDS = 0.010;
  private static final double SAME_LEVEL_DB = 0.05;
  private static final double LOUD_ENOUGH = 0.7;
  private static final double SAME_RESIDUAL = 1e-4;
  private static final int COMPARED_BLOCKS = 64;

  /**
   * One finding.
   *
   * @param version label of the version; empty for the comparison as a whole
   * @param matter what it is about: level, delay, polarity, drift, rate, bandwidth, channels,
   *     length, overs, codec, amounts, alike or identical
   * @param found what was found
   * @param done what was done about it
   */
  public record Item(String version, String matter, String found, String done) {}

  private Fairness() {}

  /**
   * What one version brought along.
   *
   * @param comparison the comparison it belongs to
   * @param version the version
   * @param source the source's file
   * @param files the version's files
   * @param matched the version, matched
   */
  public static List<Item> of(
      Comparison comparison,
      Version version,
      Recording source,
      List<Recording> files,
      Matched matched) {
    List<Item> items = new ArrayList<>();
    List<String[]> found = new ArrayList<>();
    place(version.match(), matched, found);
    level(comparison, version.match(), matched, found);
    MediaFacts facts = files.get(0).facts();
    format(facts, source.facts(), found);
    length(comparison, facts, source.facts(), matched, found);
    contents(source, files, found);
    channels(source.audio(), matched).ifPresent(words -> found.add(words));
    asked(comparison, version, found);
    if (matched instanceof MatchedVersion plain && sameAsSource(source.audio(), plain)) {
      found.add(new String[] {"identical", SOURCE_ITSELF, "measured all the same"});
    }
    found.forEach(f -> items.add(new Item(version.label(), f[0], f[1], f[2])));
    return items;
  }

  private static Optional<String[]> channels(Audio source, Matched matched) {
    Optional<String> found = Optional.empty();
    if (matched instanceof MatchedVersion plain) {
      found = ChannelOrder.of(source, plain.wholeAudio(), at -> at);
    } else if (matched instanceof StretchedVersion own) {
      found = ChannelOrder.of(source, own.audio(), own.map()::at);
    }
    return found.map(words -> new String[] {"channels", words, "compared as it is"});
  }

  private static void place(MatchOverride byHand, Matched matched, List<String[]> found) {
    Match m = matched.match();
    if (m.delaySamples() != 0) {
      found.add(
          new String[] {
            "delay",
            text(
                "%s by %.2f ms (%.2f samples)",
                m.delaySamples() > 0 ? "late" : "early",
                Math.abs(m.delayMs()),
                Math.abs(m.delaySamples())),
            byHand.delaySamples() != null ? "moved by hand" : "moved into place"
          });
    }
    if (m.polarity() < 0) {
      found.add(
          new String[] {
            "polarity",
            "inverted",
            byHand.polarity() != null ? "turned back by hand" : "turned back"
          });
    }
    if (m.driftPpm() != 0) {
      found.add(new String[] {"drift", text("drifts by %.1f ppm", m.driftPpm()), "straightened"});
    }
  }

  private static void level(
      Comparison comparison, MatchOverride byHand, Matched matched, List<String[]> found) {
    Match m = matched.match();
    if (Math.abs(m.gainDb()) >= SAME_LEVEL_DB) {
      found.add(
          new String[] {
            "level",
            text("%s by %.1f dB", m.gainDb() > 0 ? "quieter" : "louder", Math.abs(m.gainDb())),
            byHand.gainDb() != null ? "set by hand" : "matched on: " + m.levelBasis()
          });
    } else if (comparison.level() == kettlesieve.core.comparison.LevelMode.OFF) {
      found.add(new String[] {"level", "level matching is off", "left as delivered"});
    }
  }

  private static void format(MediaFacts facts, MediaFacts source, List<String[]> found) {
    if (facts.sampleRate() != source.sampleRate()) {
      found.add(
          new String[] {
            "rate",
            text("%d Hz against %d Hz", facts.sampleRate(), source.sampleRate()),
            "resampled to the source's rate"
          });
    }
    if (facts.channels() != source.channels()) {
      found.add(
          new String[] {
            "channels",
            text("%d against %d", facts.channels(), source.channels()),
            "compared on the common downmix"
          });
    }
    if (facts.lossy()) {
      found.add(
          new String[] {
            "codec",
            "lossy coding (" + facts.codec() + ")",
            "compared as it is: what the coding took is counted against it"
          });
    }
  }

  /** What was asked of a version, where that is not what the comparison asks. */
  private static void asked(Comparison comparison, Version version, List<String[]> found) {
    if (version.back()) {
      found.add(
          new String[] {
            "there and back",
            "it was brought back again, and ought to be the source",
            "judged against the source itself, with places of its own"
          });
      return;
    }
    if (version.ratio() != null && !version.ratio().equals(comparison.ratio())) {
      found.add(
          new String[] {
            "target",
            comparison.ratio() == null
                ? text("asked for %s times the length", StretchTarget.figure(version.ratio()))
                : text(
                    "asked for %s times the length, the others for %s",
                    StretchTarget.figure(version.ratio()),
                    StretchTarget.figure(comparison.ratio())),
            "judged by what was asked of it"
          });
    }
    if (version.semitones() != null && !version.semitones().equals(comparison.semitones())) {
      found.add(
          new String[] {
            "target",
            comparison.semitones() == null
                ? text("asked for %s semitones", StretchTarget.signed(version.semitones()))
                : text(
                    "asked for %s semitones, the others for %s",
                    StretchTarget.signed(version.semitones()),
                    StretchTarget.signed(comparison.semitones())),
            "judged by what was asked of it"
          });
    }
  }

  private static void length(
      Comparison comparison,
      MediaFacts facts,
      MediaFacts source,
      Matched matched,
      List<String[]> found) {
    if (matched instanceof StretchedVersion own) {
      Double ratio = own.asked().ratio();
      double expected =
          ratio == null || comparison.job() == kettlesieve.core.comparison.Job.PITCH ? 1 : ratio;
      double asked = expected * source.seconds();
      if (Math.abs(facts.seconds() - asked) > SAME_LENGTH_SECONDS) {
        found.add(
            new String[] {
              "length",
              text("%.3f s, asked for %.3f s", facts.seconds(), asked),
              text("played through its time map (%.4f times)", matched.match().ratio())
            });
      }
      return;
    }
    double difference = facts.seconds() - source.seconds();
    if (Math.abs(difference) > SAME_LENGTH_SECONDS) {
      found.add(
          new String[] {
            "length",
            text("%s by %.3f s", difference > 0 ? "longer" : "shorter", Math.abs(difference)),
            "compared on what both have"
          });
    }
  }

  private static void contents(Recording source, List<Recording> files, List<String[]> found) {
    double highest = Double.NEGATIVE_INFINITY;
    for (Recording file : files) {
      highest = Math.max(highest, overs(file.audio()));
    }
    if (highest > 0) {
      found.add(
          new String[] {
            "overs",
            text("true peak %.1f dBTP, over full scale", highest),
            "left as it is; it will clip where it is played or coded"
          });
    }
    if (files.size() == 1) {
      double cut = BandLimit.find(source.audio().downmix(), files.get(0).audio().downmix());
      if (!Double.isNaN(cut)) {
        found.add(
            new String[] {
              "bandwidth",
              text("nothing above %.0f Hz", cut),
              "compared as it is: the loss is counted against it"
            });
      }
    }
  }

  /** The true peak in dB where it may be over full scale; otherwise far below. */
  private static double overs(Audio audio) {
    double peak = TruePeak.samplePeak(audio);
    return peak > LOUD_ENOUGH ? Db.ofAmplitude(TruePeak.of(audio, peak)) : -100;
  }

  private static boolean sameAsSource(Audio source, MatchedVersion version) {
    Audio other = version.wholeAudio();
    if (other.channels() != source.channels()) {
      return false;
    }
    double difference = 0;
    double energy = 0;
    long margin = Math.min(source.frames() / 4, source.sampleRate());
    for (int b = 0; b < COMPARED_BLOCKS; b++) {
      long at = margin + (source.frames() - 2 * margin) * b / COMPARED_BLOCKS;
      float[] s = source.samples(0, at, 4096);
      float[] v = other.samples(0, at, 4096);
      for (int i = 0; i < s.length; i++) {
        difference += Math.pow(s[i] - v[i], 2);
        energy += (double) s[i] * s[i];
      }
    }
    return energy > 0 && difference < SAME_RESIDUAL * SAME_RESIDUAL * energy;
  }

  /**
   * What lies between the versions: the same file twice, and tools compared at unlike amounts.
   *
   * @param source checksum of the source's file
   * @param checksums of the versions' files by version id; versions that could not be read are
   *     missing
   */
  public static List<Item> among(
      Comparison comparison, String source, Map<String, List<String>> checksums) {
    List<Item> items = new ArrayList<>();
    Map<String, String> known = new LinkedHashMap<>();
    known.put(source, "the source");
    for (Version v : comparison.versions()) {
      // A chain may share a stem with another version; all stems alike is another matter.
      List<String> sums = checksums.getOrDefault(v.id(), List.of());
      String first = sums.isEmpty() ? null : known.putIfAbsent(String.join(" ", sums), v.label());
      if (first != null) {
        items.add(
            new Item(
                v.label(),
                "identical",
                "the same file as " + first,
                "compared all the same: one of the two may be the wrong file"));
      }
    }
    Map<String, TreeSet<Double>> amounts = new LinkedHashMap<>();
    for (Version v : comparison.versions()) {
      if (v.amount() != null && !v.tool().isEmpty()) {
        amounts.computeIfAbsent(v.tool(), t -> new TreeSet<>()).add(v.amount());
      }
    }
    if (new java.util.HashSet<>(amounts.values()).size() > 1) {
      List<String> words = new ArrayList<>();
      amounts.forEach((tool, set) -> words.add(tool + " at " + numbers(set)));
      items.add(
          new Item(
              "",
              "amounts",
              String.join("; ", words),
              "ranked as equals: an amount means something else in every tool"));
    }
    return items;
  }

  private static String numbers(TreeSet<Double> set) {
    return String.join(
        ", ",
        set.stream()
            .map(a -> a == Math.rint(a) ? Long.toString(Math.round(a)) : a.toString())
            .toList());
  }

  private static String text(String form, Object... values) {
    return String.format(Locale.ROOT, form, values);
  }
}
