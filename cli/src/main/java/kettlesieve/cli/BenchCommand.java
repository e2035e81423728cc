package kettlesieve.cli;

import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.LevelMode;
import kettlesieve.core.comparison.MatchOverride;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.match.MatchSettings;
import kettlesieve.core.match.MatchedVersion;
import kettlesieve.core.measure.reference.BssEval;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.signal.Progress;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.Stop;
import kettlesieve.core.work.Assessment;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.ResultStore;
import kettlesieve.demo.KeepersLog;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/**
 * {@code bench}: processor time of the work, as a ratio to one short-time Fourier pass (2048, hop a
 * quarter) over the same audio in the same run.
 */
@Command(name = "bench", description = "Prints the timing table.")
final class BenchCommand implements Callable<Integer> {
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
      List<Audio> stereo = longStereo(files.get(0), 7, longFolder);
      double longPass = transforms(stereo);
      row("one STFT pass over seven files of 5 min in stereo", longPass, longPass);
      long wall = System.nanoTime();
      double both = processorSeconds(() -> sideBySide(stereo, null));
      double wallSeconds = (System.nanoTime() - wall) / 1e9;
      row("match and measure six versions of 5 min in stereo", both, longPass);
      print(
          "  processors busy meanwhile, of " + Runtime.getRuntime().availableProcessors(),
          String.format(java.util.Locale.ROOT, "%.2f", both / wallSeconds),
          "");
      Audio clean = longStereo(file(reader, log.reference()), 1, longFolder).get(0);
      double with = processorSeconds(() -> sideBySide(stereo, clean));
      row("the same with a clean recording", with, longPass);
      List<Audio> slower = slower(stereo.get(0), 4, longFolder);
      List<Audio> five = new ArrayList<>(List.of(stereo.get(0)));
      five.addAll(slower);
      double stretchPass = transforms(five);
      row("one STFT pass over five files of 5 min in stereo", stretchPass, stretchPass);
      row("four of them 1.25 times as long", processorSeconds(() -> stretched(five)), stretchPass);
    } finally {
      delete(longFolder);
    }
    return 0;
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
    Assessment assessment = Assessment.of(files.get(0), null, null, null);
    for (Audio file : files.subList(1, files.size())) {
      MatchedVersion matched = assessment.match(file, MatchOverride.NONE);
      if (measure) {
        assessment.measure(matched);
      }
    }
  }

  private static void sideBySide(List<Audio> files, Audio clean) throws Exception {
    Assessment assessment = Assessment.of(files.get(0), clean, null, null);
    each(
        files.subList(1, files.size()),
        file -> assessment.measure(assessment.match(file, MatchOverride.NONE)));
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
    double[] error = new double[1];
    for (boolean images : new boolean[] {false, true}) {
      UnaryOperator<Audio> form = images ? UnaryOperator.identity() : Audio::downmix;
      List<Audio> sources = truth.stream().map(form).toList();
      BssEval evaluation = images ? BssEval.ofImages(sources) : BssEval.ofSources(sources);
      List<BssEval.Judged> judged = new ArrayList<>();
      for (int s = 0; s < 4; s++) {
        Audio stem = form.apply(made.get(s));
        for (int c = 0; c < stem.channels(); c++) {
          judged.add(new BssEval.Judged(stem, c, s));
        }
      }
      evaluation.split(
          judged,
          (e, from, estimate, target, all, length) -> {
            for (int i = 0; i < length; i++) {
              error[0] += (estimate[i] - all[i]) * (double) (estimate[i] - all[i]);
            }
          });
    }
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

  /** Versions that run 1.25 times as long, with noise of their own each. */
  private static List<Audio> slower(Audio source, int count, Path folder) throws Exception {
    List<Audio> files = new ArrayList<>();
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    Audio slow =
        LinearTimeAudio.map(
            source, source.sampleRate(), Math.round(1.25 * source.frames()), 0, 0.8);
    for (int f = 0; f < count; f++) {
      Path file = folder.resolve("slow-" + f + ".wav");
      WavWriter.write(slow.times(1 - 0.1 * f), file, WavWriter.Format.FLOAT, Progress.SILENT);
      files.add(reader.read(file, Progress.SILENT).audio());
      Files.delete(file);
    }
    return files;
  }

  private static void stretched(List<Audio> files) throws Exception {
    MatchSettings settings = new MatchSettings(Job.STRETCH, LevelMode.WANTED, 1.25, null);
    Assessment assessment = Assessment.of(files.get(0), null, null, null, settings);
    each(
        files.subList(1, files.size()),
        file ->
            assessment.measure(assessment.matchAny(file, MatchOverride.NONE, null, Stop.NEVER)));
  }

  private interface OfFile {
    Object of(Audio file) throws Exception;
  }

  /** On as many threads as there are processors, as a comparison is scored. */
  private static void each(List<Audio> files, OfFile work) throws Exception {
    ExecutorService pool = Executors.newFixedThreadPool(Runtime.getRuntime().availableProcessors());
    try {
      List<Callable<Object>> tasks = new ArrayList<>();
      for (Audio file : files) {
        tasks.add(() -> work.of(file));
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
            for (int c = 0; c < file.channels(); c++) {
              Spectrogram spectrogram = new Spectrogram(file, c);
              for (int t = 0; t < spectrogram.framing().count(); t++) {
                spectrogram.powers(t);
              }
            }
          }
        });
  }

  /**
   * Recordings of five minutes in stereo, mapped from files as long recordings are: the source over
   * and over, with noise of its own each.
   */
  private static List<Audio> longStereo(Audio source, int count, Path folder) throws Exception {
    float[] once = source.wholeChannel(0);
    List<Audio> files = new ArrayList<>();
    MediaReader reader = new MediaReader(folder.resolve("cache"));
    for (int f = 0; f < count; f++) {
      SplittableRandom random = new SplittableRandom(f);
      float[][] samples = new float[2][300 * source.sampleRate()];
      for (float[] channel : samples) {
        for (int i = 0; i < channel.length; i++) {
          channel[i] = once[i % once.length] + 0.0005f * (float) random.nextGaussian();
        }
      }
      Path file = folder.resolve("long-" + f + ".wav");
      Audio made = Audio.of(source.sampleRate(), samples);
      WavWriter.write(made, file, WavWriter.Format.FLOAT, Progress.SILENT);
      files.add(reader.read(file, Progress.SILENT).audio());
      Files.delete(file);
    }
    return files;
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
