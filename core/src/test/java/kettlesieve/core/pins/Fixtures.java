package kettlesieve.core.pins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;

/**
 * Small comparisons whose readings are pinned: for each job one of real speech and one that is made
 * by a formula, each with two or three versions by stand-ins. Everything comes from fixed seeds.
 */
final class Fixtures {
  private static final int RATE = 16_000;

  /** The fixtures by name, in the order of the table. */
  static Map<String, Comparison> all(Path folder) throws IOException {
    Map<String, Comparison> all = new LinkedHashMap<>();
    all.put("denoise-read", denoiseRead(folder.resolve("denoise-read")));
    all.put("denoise-made", denoiseMade(folder.resolve("denoise-made")));
    all.put("dereverb-read", dereverb(folder.resolve("dereverb-read"), speech(16), 0.5));
    all.put("dereverb-made", dereverb(folder.resolve("dereverb-made"), phrases(12), 0.9));
    all.put("declip-read", declip(folder.resolve("declip-read"), speech(7), 0.35));
    all.put("declip-made", declip(folder.resolve("declip-made"), phrases(8), 0.5));
    all.put("stems-true", stems(folder.resolve("stems-true"), true, false));
    all.put("stems-wide", stems(folder.resolve("stems-wide"), true, true));
    all.put("stems-alone", stems(folder.resolve("stems-alone"), false, true));
    all.put("stretch-read", stretch(folder.resolve("stretch-read"), speech(8), 1.25));
    all.put(
        "stretch-made",
        stretch(folder.resolve("stretch-made"), Sounds.mix(beats(7), sustained(7), 0.6), 0.8));
    all.put("pitch-read", pitch(folder.resolve("pitch-read"), speech(8), 3));
    all.put("pitch-made", pitch(folder.resolve("pitch-made"), sustained(7), -2));
    return all;
  }

  private Fixtures() {}

  /** Real speech from its beginning. */
  private static float[] speech(double seconds) {
    return Arrays.copyOf(Sounds.speech16(), (int) (seconds * RATE));
  }

  /** Notes with harmonics and a little vibrato, with pauses between them. */
  private static float[] phrases(double seconds) {
    float[] x = new float[(int) (seconds * RATE)];
    double[] notes = {196, 247, 294, 220, 330, 262};
    double phase = 0;
    for (int i = 0; i < x.length; i++) {
      double t = (double) i / RATE;
      // Two notes, then a pause.
      int note = 2 * (int) (t / 1.5) + (t % 1.5 < 0.4 ? 0 : 1);
      double within = t % 1.5 < 0.4 ? t % 1.5 : t % 1.5 - 0.4;
      double hz = notes[note % notes.length] * (1 + 0.006 * Math.sin(2 * Math.PI * 5.3 * t));
      phase += 2 * Math.PI * hz / RATE;
      double loud =
          within < 0.42
              ? Math.min(1, within / 0.015)
                  * Math.exp(-2.2 * within)
                  * Math.min(1, (0.42 - within) / 0.03)
              : 0;
      for (int h = 1; h <= 12 && h * hz < 7_500; h++) {
        x[i] += (float) (0.25 * loud / h * Math.sin(h * phase));
      }
    }
    return x;
  }

  /** Short attacks of noise on a regular beat, strong and soft in turn. */
  private static float[] beats(double seconds) {
    float[] noise = Sounds.white((int) (seconds * RATE), 41);
    for (int i = 0; i < noise.length; i++) {
      double within = (double) i / RATE % 0.25;
      double strong = (double) i / RATE % 0.5 < 0.25 ? 0.8 : 0.12;
      noise[i] *= (float) (strong * Math.exp(-40 * within));
    }
    float[] tones = phrases(seconds);
    return Sounds.mix(noise, tones, 0.3);
  }

  /** Long steady tones, two at a time. */
  private static float[] sustained(double seconds) {
    float[] x = new float[(int) (seconds * RATE)];
    double[] notes = {220, 277, 330, 262, 196};
    for (int i = 0; i < x.length; i++) {
      double t = (double) i / RATE;
      int note = (int) (t / 1.4);
      double within = t - 1.4 * note;
      double loud = Math.min(1, Math.min(within, 1.4 - within) / 0.04);
      for (int h = 1; h <= 6; h++) {
        double low = 2 * Math.PI * h * notes[note % 5] * t;
        double high = 2 * Math.PI * h * 1.5 * notes[(note + 2) % 5] * t;
        x[i] += (float) (0.15 * loud / h * (Math.sin(low) + 0.7 * Math.sin(high)));
      }
    }
    return x;
  }

  private static Comparison comparison(Path folder, Job job, Map<String, Audio> files)
      throws IOException {
    java.nio.file.Files.createDirectories(folder);
    for (var file : files.entrySet()) {
      WavWriter.write(
          file.getValue(),
          folder.resolve(file.getKey() + ".wav"),
          WavWriter.Format.FLOAT,
          Progress.SILENT);
    }
    return Comparison.empty(folder.getFileName().toString(), job).withSource(ref(folder, "source"));
  }

  private static MediaRef ref(Path folder, String name) {
    return MediaRef.of(folder.resolve(name + ".wav"));
  }

  private static Audio made(String standIn, Audio source, Setup setup) {
    return tool(standIn).make(source, setup, Progress.SILENT).get(StandIn.WHOLE);
  }

  private static StandIn tool(String id) {
    return StandIns.ALL.stream().filter(s -> s.id().equals(id)).findFirst().orElseThrow();
  }

  /** A comparison of one source with a clean recording and versions by label. */
  private static Comparison single(
      Path folder, Job job, Audio source, Audio clean, Map<String, Audio> versions)
      throws IOException {
    Map<String, Audio> files = new LinkedHashMap<>();
    files.put("source", source);
    if (clean != null) {
      files.put("clean", clean);
    }
    versions.forEach((label, audio) -> files.put(label.replace(' ', '-'), audio));
    Comparison c = comparison(folder, job, files);
    if (clean != null) {
      c = c.withReference(ref(folder, "clean"));
    }
    int n = 1;
    for (String label : versions.keySet()) {
      c = c.plus(Version.of("v" + n++, label, ref(folder, label.replace(' ', '-'))));
    }
    return c;
  }

  private static Comparison denoiseRead(Path folder) throws IOException {
    float[] speech = speech(10);
    float[] noise = Sounds.white(speech.length, 7);
    double factor = Sounds.noiseFactor(speech, noise, 14);
    Audio source = Audio.of(RATE, Sounds.mix(speech, noise, factor));
    Map<String, Audio> versions = new LinkedHashMap<>();
    versions.put("subtraction", made("plain-subtraction", source, Setup.of(70)));
    versions.put("wiener", made("smoothed-wiener", source, Setup.of(40)));
    versions.put("low-pass", Audio.of(RATE, Sounds.lowPass(source.wholeChannel(0), RATE, 3_000)));
    return single(folder, Job.DENOISE, source, Audio.of(RATE, speech), versions);
  }

  /**
   * In stereo, unlike on both sides, with hum, late and inverted versions and no clean recording.
   */
  private static Comparison denoiseMade(Path folder) throws IOException {
    float[] tones = phrases(9);
    float[] pink = Sounds.pink(tones.length, 3);
    float[] hum = Sounds.hum(tones.length, RATE, 5);
    float[] left = Sounds.mix(Sounds.mix(tones, pink, 0.02), hum, 0.01);
    float[] right = Sounds.mix(Sounds.mix(scaled(tones, 0.6), pink, 0.03), hum, 0.004);
    Audio source = Audio.of(RATE, left, right);
    Map<String, Audio> versions = new LinkedHashMap<>();
    versions.put("wiener", made("smoothed-wiener", source, Setup.of(90)));
    versions.put("subtraction late", late(made("plain-subtraction", source, Setup.of(50)), 37));
    versions.put("mono inverted", source.downmix().asChannels(2).times(-0.5));
    return single(folder, Job.DENOISE, source, null, versions);
  }

  private static float[] scaled(float[] x, double by) {
    float[] y = new float[x.length];
    for (int i = 0; i < x.length; i++) {
      y[i] = (float) (by * x[i]);
    }
    return y;
  }

  private static Audio late(Audio audio, int samples) {
    float[][] moved = new float[audio.channels()][];
    for (int c = 0; c < moved.length; c++) {
      moved[c] = audio.samples(c, -samples, (int) audio.frames());
    }
    return Audio.of(audio.sampleRate(), moved);
  }

  private static Comparison dereverb(Path folder, float[] dry, double seconds) throws IOException {
    float[] wet = dry.clone();
    Random random = new Random(11);
    // A few early reflections and a tail of noise: 60 dB down after the time that is asked for.
    int length = (int) (seconds * RATE);
    int[] at = new int[160];
    float[] by = new float[160];
    for (int k = 0; k < at.length; k++) {
      at[k] = 80 + random.nextInt(length - 80);
      by[k] = (float) (0.18 * random.nextGaussian() * Math.pow(10, -3.0 * at[k] / length));
    }
    for (int k = 0; k < at.length; k++) {
      for (int i = at[k]; i < wet.length; i++) {
        wet[i] += by[k] * dry[i - at[k]];
      }
    }
    Audio source = Audio.of(RATE, wet);
    Map<String, Audio> versions = new LinkedHashMap<>();
    versions.put("late", made("late-subtraction", source, Setup.of(80)));
    versions.put("prediction", made("delayed-prediction", source, Setup.of(60)));
    return single(folder, Job.DEREVERB, source, Audio.of(RATE, dry), versions);
  }

  private static Comparison declip(Path folder, float[] whole, double share) throws IOException {
    float peak = 0;
    for (float v : whole) {
      peak = Math.max(peak, Math.abs(v));
    }
    float top = (float) (share * peak);
    float[] clipped = new float[whole.length];
    for (int i = 0; i < whole.length; i++) {
      clipped[i] = Math.max(-top, Math.min(top, whole[i]));
    }
    Audio source = Audio.of(RATE, clipped);
    Map<String, Audio> versions = new LinkedHashMap<>();
    versions.put("predicted", made("predicted-tops", source, Setup.of(100)));
    versions.put("cubic", made("cubic-tops", source, Setup.of(60)));
    versions.put("untouched", source);
    return single(folder, Job.DECLIP, source, Audio.of(RATE, whole), versions);
  }

  /** A voice, notes and beats; three versions, one of them with a stem the wrong way round. */
  private static Comparison stems(Path folder, boolean truth, boolean wide) throws IOException {
    int seconds = wide ? 10 : 7;
    Map<String, float[]> parts = new LinkedHashMap<>();
    parts.put("vocals", speech(seconds));
    parts.put("keys", scaled(phrases(seconds), 0.5));
    parts.put("drums", scaled(beats(seconds), 0.3));
    List<String> roles = List.copyOf(parts.keySet());
    double[] right = wide ? new double[] {1, 0.3, 1.4} : null;
    Map<String, Audio> files = new LinkedHashMap<>();
    float[][] mix = new float[wide ? 2 : 1][seconds * RATE];
    for (int r = 0; r < roles.size(); r++) {
      float[] part = parts.get(roles.get(r));
      add(mix[0], part, 1);
      if (wide) {
        add(mix[1], part, right[r]);
      }
      files.put("true-" + roles.get(r), placed(part, wide ? right[r] : 1, wide));
    }
    files.put("source", Audio.of(RATE, mix));
    double[][] leaks = {{0.05, 0.1}, {0.2, 0.02}, {0.3, 0.3}};
    for (int v = 0; v < leaks.length; v++) {
      for (int r = 0; r < roles.size(); r++) {
        float[] stem = scaled(parts.get(roles.get(r)), v == 1 && r == 0 ? 0.7 : 1);
        add(stem, parts.get(roles.get((r + 1) % 3)), leaks[v][0]);
        add(stem, Sounds.white(stem.length, 10 * v + r), 0.001 * v);
        add(stem, parts.get(roles.get((r + 2) % 3)), leaks[v][1]);
        Audio at = placed(stem, wide ? (v == 1 ? 1 : right[r]) : 1, wide);
        files.put("v" + v + "-" + roles.get(r), at.times(v == 2 && r == 1 ? -1 : 1));
      }
    }
    Comparison c = comparison(folder, Job.STEMS, files);
    for (int v = 0; v < leaks.length; v++) {
      Map<String, Stem> stems = new LinkedHashMap<>();
      for (String role : roles) {
        stems.put(role, Stem.of(ref(folder, "v" + v + "-" + role)));
      }
      c = c.plus(Version.of("v" + (v + 1), "tool " + (v + 1), null).withStems(stems));
    }
    if (truth) {
      for (String role : roles) {
        c = c.withTrueStem(role, ref(folder, "true-" + role));
      }
    }
    return c;
  }

  private static Audio placed(float[] x, double right, boolean wide) {
    return wide ? Audio.of(RATE, x, scaled(x, right)) : Audio.of(RATE, x);
  }

  private static void add(float[] to, float[] x, double by) {
    for (int i = 0; i < to.length; i++) {
      to[i] += (float) (by * x[i]);
    }
  }

  private static Comparison stretch(Path folder, float[] x, double ratio) throws IOException {
    Audio source = Audio.of(RATE, x);
    Map<String, Audio> versions = new LinkedHashMap<>();
    Setup asked = new Setup(0, ratio, 0);
    for (String tool : List.of("waveform-overlap", "plain-phase-stretch", "speed-change")) {
      versions.put(tool, made(tool, source, asked));
    }
    return single(folder, Job.STRETCH, source, null, versions).withRatio(ratio);
  }

  private static Comparison pitch(Path folder, float[] x, double semitones) throws IOException {
    Audio source = Audio.of(RATE, x);
    Map<String, Audio> versions = new LinkedHashMap<>();
    Setup asked = new Setup(0, 1, semitones);
    for (String tool : List.of("resampling-shift", "formant-keeping-shift")) {
      versions.put(tool, made(tool, source, asked));
    }
    versions.put(
        "moved by one less", made("resampling-shift", source, new Setup(0, 1, semitones - 1)));
    return single(folder, Job.PITCH, source, null, versions).withSemitones(semitones);
  }
}
