package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.function.UnaryOperator;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.Readings;
import kettlesieve.core.score.Card;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.PreparedExcerpt;

/**
 * A mix whose parts are known: a real voice in the middle, strokes of noise to the right, plucked
 * low notes, chords to the left; and what tools make of it.
 */
final class StemBand {
  static final int RATE = 16_000;
  static final int LENGTH = 12 * RATE;
  static final Map<String, Audio> TRUE = new LinkedHashMap<>();
  static final Set<String> EVALUATION = Set.of("sdr", "isr", "sir", "sar");

  /** All but the separation evaluation, which has a test of its own. */
  static final List<Measure> MEASURES =
      Scoring.shipped().measures(Job.STEMS).stream()
          .filter(m -> !EVALUATION.contains(m.declaration().id()))
          .toList();

  static final PreparedExcerpt PREPARED = mixed();
  static Map<String, Readings> untouched;

  private StemBand() {}

  private static PreparedExcerpt mixed() {
    float[] speech = Sounds.speech16();
    float[] voice = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      voice[i] = speech[i % speech.length];
    }
    SplittableRandom random = new SplittableRandom(3);
    float[] drums = new float[LENGTH];
    float[] bass = new float[LENGTH];
    float[] other = new float[LENGTH];
    for (int i = 0; i < LENGTH; i++) {
      double stroke = i % (RATE * 2 / 5) / (double) RATE;
      drums[i] = (float) (0.5 * Math.exp(-stroke / 0.03) * random.nextGaussian());
      double note = i % (RATE * 3 / 5) / (double) RATE;
      double hz = new double[] {55, 65, 73, 82}[i / (RATE * 3 / 5) % 4];
      double seconds = (double) i / RATE;
      bass[i] = (float) (0.3 * Math.exp(-note / 0.4) * Math.sin(2 * Math.PI * hz * seconds));
      double root = new double[] {392, 440, 523, 349}[i / RATE % 4];
      for (double ratio : new double[] {1, 1.26, 1.5, 4, 5.04}) {
        other[i] += (float) (0.03 * Math.sin(2 * Math.PI * root * ratio * seconds));
      }
    }
    TRUE.put("vocals", panned(scaled(voice, 0.09), 1, 1));
    TRUE.put("drums", panned(scaled(drums, 0.08), 0.7, 1.2));
    TRUE.put("bass", panned(scaled(bass, 0.08), 1, 1));
    TRUE.put("other", panned(scaled(other, 0.06), 1.3, 0.4));
    MatchSettings settings = new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
    try {
      return PreparedExcerpt.of(sum(TRUE), null, null, null, settings);
    } catch (MatchException e) {
      throw new AssertionError(e);
    }
  }

  static float[] scaled(float[] x, double rms) {
    double sum = 0;
    for (float v : x) {
      sum += (double) v * v;
    }
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= (float) (rms / Math.sqrt(sum / y.length));
    }
    return y;
  }

  static Audio panned(float[] x, double left, double right) {
    return Audio.of(RATE, scaledBy(x, left), scaledBy(x, right));
  }

  static float[] scaledBy(float[] x, double factor) {
    float[] y = x.clone();
    for (int i = 0; i < y.length; i++) {
      y[i] *= (float) factor;
    }
    return y;
  }

  static Audio copied(Audio a) {
    return Audio.of(RATE, a.wholeChannel(0), a.wholeChannel(1));
  }

  static Audio sum(Map<String, Audio> stems) {
    return copied(SumAudio.of(List.copyOf(stems.values())));
  }

  /** Every stem with so much of each other one. */
  static Map<String, Audio> leaking(double db) {
    Map<String, Audio> stems = new LinkedHashMap<>();
    TRUE.forEach((role, own) -> stems.put(role, with(own, role, TRUE.keySet(), db)));
    return stems;
  }

  static Audio with(Audio own, String role, Iterable<String> others, double db) {
    List<Audio> parts = new ArrayList<>(List.of(own));
    for (String other : others) {
      if (!other.equals(role)) {
        parts.add(TRUE.get(other).times((float) Math.pow(10, db / 20)));
      }
    }
    return copied(SumAudio.of(parts));
  }

  /** Another of the four stems; the others as they are. */
  static Map<String, Audio> changed(String role, UnaryOperator<Audio> how) {
    Map<String, Audio> stems = new LinkedHashMap<>(TRUE);
    stems.put(role, how.apply(TRUE.get(role)));
    return stems;
  }

  static Map<String, Readings> untouched() throws Exception {
    if (untouched == null) {
      untouched = measured(Map.of("judged", TRUE), TRUE).get("judged");
    }
    return untouched;
  }

  static Map<String, Readings> measured(Map<String, Audio> stems) throws Exception {
    return measured(Map.of("judged", stems), TRUE).get("judged");
  }

  static Map<String, Map<String, Readings>> measured(
      Map<String, Map<String, Audio>> tools, Map<String, Audio> truth) throws Exception {
    Map<String, MatchedStems> matched = new LinkedHashMap<>();
    for (var tool : tools.entrySet()) {
      matched.put(
          tool.getKey(),
          PREPARED.matchStems(tool.getValue(), MatchOverride.NONE, null, Stop.NEVER));
    }
    Map<String, StemCells> cells = PREPARED.cells(matched, truth, Stop.NEVER);
    Map<String, Map<String, Readings>> taken = new LinkedHashMap<>();
    matched.forEach(
        (id, m) -> taken.put(id, PREPARED.measureStems(m, cells.get(id), MEASURES, Stop.NEVER)));
    return taken;
  }

  static double value(Map<String, Readings> taken, String role, String measure) {
    return reading(taken, role, measure).value();
  }

  static Reading reading(Map<String, Readings> taken, String role, String measure) {
    return taken.get(role).reading(measure).orElseThrow();
  }

  static Card card(Readings taken) {
    Scoring scoring = Scoring.shipped();
    return Card.of(taken.readings(), scoring, scoring.profileOrDefault(null), Job.STEMS);
  }

  static Audio dull(Audio a) {
    return Audio.of(
        RATE,
        Sounds.lowPass(a.wholeChannel(0), RATE, 1500),
        Sounds.lowPass(a.wholeChannel(1), RATE, 1500));
  }
}
