package kettlesieve.cli;

import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.audio.SumAudio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.listen.LevelMeter;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.reference.BssEval;
import kettlesieve.core.measure.stems.StemCells;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.score.Scoring;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.PreparedExcerpt;
import kettlesieve.core.work.ResultStore;
import kettlesieve.demo.BoathouseWaltz;
import kettlesieve.demo.KeepersLog;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/**
 * {@code bench}: processor time of the work, as a ratio to one short-time Fourier pass (2048, hop a
 * quarter; {@link StftPass}) over the same audio in the same run.
 */
@Command(name = "bench", description = "Prints the timing table.")
final class BenchCommand implements Callable<Integer> {
  private static final int LONG_SECONDS = 300;
  private static final int STEMS_SECONDS = 240;

  /** How much of everything else each tool leaves in its stems: −30 to −14 dB. */
  private static final double[] LEAKS = {0.03, 0.06, 0.13, 0.2};

  @Spec private CommandSpec spec;

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() throws Exception {
    String own = System.getProperty("kettle.demo");
    Path folder =
        own != null ? Path.of(own) : Path.of(System.getProperty("java.io.tmpdir"), "kettle-demo");
    Comparison log = ComparisonFile.load(KeepersLog.make(folder, Progress.SILENT));
    MediaReader reader = MediaReader.standard();
    print("what", "processor s", "STFT passes");
    double first = processorSeconds(() -> score(reader, log));
    List<Audio> files = new ArrayList<>();
    files.add(file(reader, log.source()));
    for (Version version : log.versions()) {
      files.add(file(reader, version.media()));
    }
    transforms(files);
    double pass = Math.min(transforms(files), transforms(files));
    row("one STFT pass over source and six versions of 32 s", pass, pass);
    row("scoring them, first time after start (files read)", first, pass);
    double warm = processorSeconds(() -> score(reader, log));
    row("scoring them again (files read)", warm, pass);
    row("  match alone", processorSeconds(() -> work(files, false)), pass);
    row("  match and measure", processorSeconds(() -> work(files, true)), pass);
    print(
        "separation evaluation of four stems of 30 s in stereo",
        seconds(processorSeconds(BenchCommand::separation)),
        "");
    Path longFolder = Files.createTempDirectory("kettle-bench");
    try {
      LongRecordings recordings = new LongRecordings(longFolder);
      List<Audio> stereo = new ArrayList<>();
      while (stereo.size() < 7) {
        stereo.add(recordings.of(files.get(0), LONG_SECONDS));
      }
      double longPass = transforms(stereo);
      row("one STFT pass over seven files of 5 min in stereo", longPass, longPass);
      double metered = processorSeconds(() -> metered(stereo.get(0)));
      print(
          "level meters while it is played, of one processor",
          String.format(java.util.Locale.ROOT, "%.2f %%", 100 * metered / stereo.get(0).seconds()),
          "");
      long wall = System.nanoTime();
      double both = processorSeconds(() -> sideBySide(stereo, null));
      double wallSeconds = (System.nanoTime() - wall) / 1e9;
      row("match and measure six versions of 5 min in stereo", both, longPass);
      print(
          "  processors busy meanwhile, of " + Runtime.getRuntime().availableProcessors(),
          String.format(java.util.Locale.ROOT, "%.2f", both / wallSeconds),
          "");
      Audio clean = recordings.of(file(reader, log.reference()), LONG_SECONDS);
      double with = processorSeconds(() -> sideBySide(stereo, clean));
      row("the same with a clean recording", with, longPass);
      List<Audio> five = new ArrayList<>(List.of(stereo.get(0)));
      Audio slow =
          LinearTimeAudio.map(
              five.get(0),
              five.get(0).sampleRate(),
              Math.round(1.25 * five.get(0).frames()),
              0,
              0.8);
      while (five.size() < 5) {
        five.add(recordings.mapped(slow.times(1 - 0.1 * five.size())));
      }
      double stretchPass = transforms(five);
      row("one STFT pass over five files of 5 min in stereo", stretchPass, stretchPass);
      row("four of them 1.25 times as long", processorSeconds(() -> stretched(five)), stretchPass);
      stems(folder, reader, recordings);
    } finally {
      delete(longFolder);
    }
    return 0;
  }

  /** What is heard goes through the meters in blocks of the player's size. */
  private static void metered(Audio audio) {
    LevelMeter meter = new LevelMeter(audio.sampleRate());
    float[] left = new float[256];
    float[] right = new float[256];
    for (long at = 0; at < audio.frames(); at += left.length) {
      audio.read(0, at, left, 0, left.length);
      audio.read(audio.channels() - 1, at, right, 0, right.length);
      meter.process(left, right, left.length);
    }
  }

  private static Audio file(MediaReader reader, MediaRef ref) throws Exception {
    return reader.read(ref.file(), Progress.SILENT).audio();
  }

  /** Everything from the start: nothing is taken from what was measured before. */
  private static void score(MediaReader reader, Comparison comparison) throws Exception {
    try (Conductor conductor = new Conductor(reader, ResultStore.inMemory())) {
      conductor.run(comparison);
    }
  }

  private static void delete(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }

  private static void work(List<Audio> files, boolean measure) throws Exception {
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(files.get(0), null, null, null);
    for (Audio file : files.subList(1, files.size())) {
      MatchedVersion matched = preparedExcerpt.match(file, MatchOverride.NONE);
      if (measure) {
        preparedExcerpt.measure(matched);
      }
    }
  }

  private static void sideBySide(List<Audio> files, Audio clean) throws Exception {
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(files.get(0), clean, null, null);
    each(
        files.subList(1, files.size()),
        file -> preparedExcerpt.measure(preparedExcerpt.match(file, MatchOverride.NONE)));
  }

  /**
   * BSS Eval as sources and as images, as {@code core/src/test/fixtures/time_separation.py} does it
   * with mir_eval.
   */
  private static void separation() {
    List<Audio> truth = new ArrayList<>();
    List<Audio> made = new ArrayList<>();
    for (int s = 0; s < 4; s++) {
      truth.add(noise(s, null));
      made.add(noise(10 + s, truth.get(s)));
    }
    List<BssEval.Judged> judged = new ArrayList<>();
    for (Audio stem : made) {
      judged.add(new BssEval.Judged(stem, judged.size()));
    }
    double[] errors = new double[judged.size()];
    new BssEval(truth, BssEval.Form.values())
        .split(
            judged,
            (form, e, block) -> {
              for (int i = 0; i < block.length(); i++) {
                double error = block.estimate()[i] - block.all()[i];
                errors[e] += error * error;
              }
            });
  }

  private static Audio noise(int seed, Audio under) {
    SplittableRandom random = new SplittableRandom(seed);
    float[][] samples = new float[2][30 * 44_100];
    for (int c = 0; c < 2; c++) {
      float[] below = under == null ? samples[c] : under.wholeChannel(c);
      for (int i = 0; i < samples[c].length; i++) {
        samples[c][i] = below[i] + (under == null ? 0.1f : 0.01f) * (float) random.nextGaussian();
      }
    }
    return Audio.of(44_100, samples);
  }

  /**
   * Four tools that leave more and more of everything else in each of four roles, measured without
   * true stems: all of them side by side.
   */
  private static void separated(Audio mix, List<Map<String, Audio>> tools) throws Exception {
    MatchSettings settings = new MatchSettings(Job.STEMS, LevelMode.WANTED, null, null);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(mix, null, null, null, settings);
    Map<String, MatchedStems> matched = new LinkedHashMap<>();
    for (Map<String, Audio> tool : tools) {
      matched.put(
          "tool-" + matched.size(),
          preparedExcerpt.matchStems(tool, MatchOverride.NONE, null, Stop.NEVER));
    }
    Map<String, StemCells> cells = preparedExcerpt.cells(matched, Map.of(), Stop.NEVER);
    List<Measure> measures = Scoring.shipped().measures(Job.STEMS);
    each(
        List.copyOf(matched.keySet()),
        id -> preparedExcerpt.measureStems(matched.get(id), cells.get(id), measures, Stop.NEVER));
  }

  private void stems(Path demo, MediaReader reader, LongRecordings recordings) throws Exception {
    Comparison waltz = ComparisonFile.load(BoathouseWaltz.make(demo, Progress.SILENT));
    Map<String, Audio> truth = new LinkedHashMap<>();
    for (var stem : waltz.trueStems().entrySet()) {
      truth.put(stem.getKey(), recordings.of(file(reader, stem.getValue()), STEMS_SECONDS));
    }
    Audio mix = recordings.mapped(SumAudio.of(List.copyOf(truth.values())));
    List<Audio> all = new ArrayList<>(List.of(mix));
    List<Map<String, Audio>> tools = new ArrayList<>();
    for (double leak : LEAKS) {
      Map<String, Audio> tool = new LinkedHashMap<>();
      for (var stem : truth.entrySet()) {
        Audio leaking = SumAudio.of(List.of(stem.getValue().times(1 - leak), mix.times(leak)));
        tool.put(stem.getKey(), recordings.mapped(leaking));
      }
      all.addAll(tool.values());
      tools.add(tool);
    }
    double pass = transforms(all);
    row("one STFT pass over a mix and sixteen stems of 4 min", pass, pass);
    row(
        "four tools of four roles without true stems",
        processorSeconds(() -> separated(mix, tools)),
        pass);
  }

  private static void stretched(List<Audio> files) throws Exception {
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.25, null);
    PreparedExcerpt preparedExcerpt = PreparedExcerpt.of(files.get(0), null, null, null, settings);
    each(
        files.subList(1, files.size()),
        file ->
            preparedExcerpt.measure(
                preparedExcerpt.matchAny(file, MatchOverride.NONE, null, Stop.NEVER)));
  }

  private interface Each<T> {
    Object of(T one) throws Exception;
  }

  /** On as many threads as there are processors, as a comparison is scored. */
  private static <T> void each(List<T> all, Each<T> work) throws Exception {
    ExecutorService pool = Executors.newFixedThreadPool(Runtime.getRuntime().availableProcessors());
    try {
      List<Callable<Object>> tasks = new ArrayList<>();
      for (T one : all) {
        tasks.add(() -> work.of(one));
      }
      for (Future<Object> done : pool.invokeAll(tasks)) {
        done.get();
      }
    } finally {
      pool.shutdownNow();
    }
  }

  private static double transforms(List<Audio> files) throws Exception {
    return processorSeconds(
        () -> {
          for (Audio file : files) {
            StftPass.over(file);
          }
        });
  }

  private interface Work {
    void run() throws Exception;
  }

  /** Processor time of all threads, compilation included. */
  private static double processorSeconds(Work work) throws Exception {
    var system =
        (com.sun.management.OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();
    long before = system.getProcessCpuTime();
    work.run();
    return (system.getProcessCpuTime() - before) / 1e9;
  }

  private void row(String what, double seconds, double pass) {
    print(what, seconds(seconds), String.format(java.util.Locale.ROOT, "%.1f", seconds / pass));
  }

  private static String seconds(double value) {
    return String.format(java.util.Locale.ROOT, "%.2f", value);
  }

  private void print(String what, String seconds, String passes) {
    spec.commandLine()
        .getOut()
        .println(String.format(java.util.Locale.ROOT, "%-56s %12s %12s", what, seconds, passes));
    spec.commandLine().getOut().flush();
  }
}
