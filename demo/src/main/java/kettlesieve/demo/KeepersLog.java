package kettlesieve.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.SplittableRandom;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.Checksum;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.PlainSubtraction;
import kettlesieve.core.rig.SmoothedWiener;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Progress;

/**
 * The demo comparison "The keeper's log": a made-up lighthouse log, read by a synthesised voice,
 * over motor hum, tape hiss and a few clicks. Six versions by the two stand-in denoisers at three
 * amounts; one of them is late, one is quieter and one inverted, so that Match has something to do.
 */
public final class KeepersLog {
  /** File name of the comparison. */
  public static final String FILE = "keepers-log.sieve";

  private static final String MADE = "made-3";
  private static final int RATE = 48_000;

  private KeepersLog() {}

  /**
   * Makes the demo in a folder, or finds it there.
   *
   * @return the comparison's file
   * @throws IOException if it cannot be written
   */
  public static Path make(Path folder, Progress progress) throws IOException {
    Path file = folder.resolve(FILE);
    Path mark = folder.resolve("." + MADE);
    if (Files.exists(mark) && Files.exists(file)) {
      return file;
    }
    Files.createDirectories(folder);
    try {
      build(folder, file, progress);
    } catch (MediaException | ComparisonFileException e) {
      throw new IOException(e.getMessage(), e);
    }
    Files.writeString(mark, "");
    return file;
  }

  private static void build(Path folder, Path file, Progress progress)
      throws IOException, MediaException, ComparisonFileException {
    progress.at("making the demo recordings", 0);
    Path voiceFile = folder.resolve("keepers-log-clean.flac");
    try (InputStream in = KeepersLog.class.getResourceAsStream("keepers-log-voice.flac")) {
      Files.copy(in, voiceFile, StandardCopyOption.REPLACE_EXISTING);
    }
    float[] voice =
        new MediaReader(folder).read(voiceFile, Progress.SILENT).audio().wholeChannel(0);
    float[] noisy = withNoise(voice);
    Audio source = Audio.of(RATE, noisy);
    Path sourceFile = write(source, folder, "keepers-log-tape.wav");
    Comparison comparison =
        Comparison.empty("The keeper's log", Job.DENOISE)
            .withSource(ref(sourceFile))
            .withReference(ref(voiceFile));
    StandIn[] tools = {new PlainSubtraction(), new SmoothedWiener()};
    int done = 0;
    for (StandIn tool : tools) {
      for (int amount : new int[] {30, 60, 90}) {
        progress.at("making the demo versions", done++ / 6.0);
        Audio version = spoiled(tool.process(source, amount, Progress.SILENT), tool, amount);
        Path written = write(version, folder, "keepers-log-" + tool.id() + "-" + amount + ".wav");
        comparison =
            comparison.plus(
                Version.of(comparison.freshId(), tool.title() + " " + amount, ref(written))
                    .withTool(tool.title())
                    .withAmount((double) amount));
      }
    }
    ComparisonFile.save(comparison, file);
  }

  /** What happens to files on their way: one late, one quieter, one inverted. */
  private static Audio spoiled(Audio version, StandIn tool, int amount) {
    if (tool instanceof PlainSubtraction && amount == 60) {
      float[] x = version.wholeChannel(0);
      float[] late = new float[x.length + 1152];
      System.arraycopy(x, 0, late, 1152, x.length);
      return Audio.of(RATE, late);
    }
    if (tool instanceof SmoothedWiener && amount == 30) {
      return Audio.of(RATE, version.times(0.5).wholeChannel(0));
    }
    if (tool instanceof SmoothedWiener && amount == 90) {
      return Audio.of(RATE, version.times(-1).wholeChannel(0));
    }
    return version;
  }

  private static float[] withNoise(float[] voice) {
    SplittableRandom random = new SplittableRandom(1894);
    float[] noisy = new float[voice.length];
    double pink = 0;
    double last = 0;
    for (int i = 0; i < voice.length; i++) {
      double t = (double) i / RATE;
      double white = random.nextGaussian();
      pink = 0.96 * pink + 0.28 * white;
      // Tape hiss: a little brighter than white, over a soft low part.
      double hiss = 0.0045 * (white - 0.4 * last) + 0.0028 * pink;
      last = white;
      double speed = 1 + 0.0008 * Math.sin(2 * Math.PI * 0.6 * t);
      double hum = 0;
      for (int h = 1; h <= 6; h++) {
        hum += Math.sin(2 * Math.PI * 49.6 * h * t * speed + h) * (h % 2 == 0 ? 0.5 : 1) / h;
      }
      noisy[i] = (float) (0.55 * voice[i] + hiss + 0.008 * hum);
    }
    for (int c = 0; c < 14; c++) {
      int at = random.nextInt(noisy.length - 200);
      double size = 0.12 + 0.25 * random.nextDouble();
      double pitch = 2500 + 3000 * random.nextDouble();
      for (int i = 0; i < 60; i++) {
        noisy[at + i] +=
            (float) (size * Math.exp(-i / 9.0) * Math.cos(2 * Math.PI * pitch * i / RATE));
      }
    }
    return noisy;
  }

  private static Path write(Audio audio, Path folder, String name) throws IOException {
    Path file = folder.resolve(name);
    WavWriter.write(audio, file, WavWriter.Format.PCM_24, Progress.SILENT);
    return file;
  }

  private static MediaRef ref(Path file) throws IOException {
    return MediaRef.of(file).withSha256(Checksum.sha256(file));
  }
}
