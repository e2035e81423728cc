package kettlesieve.calibrate.makers;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.Program;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.LinearTimeAudio;

/** RNNoise, a small recurrent network, as npm has it; it works at 48 kHz. */
final class RecurrentSuppressor {
  private static final String PACKAGE = "@jitsi/rnnoise-wasm@0.2.1";
  private static final String ARCHIVE = "jitsi-rnnoise-wasm-0.2.1.tgz";
  private static final int RATE = 48_000;

  private final Path home;

  /**
   * @param home where the package is kept between runs
   */
  RecurrentSuppressor(Path home) {
    this.home = home;
  }

  /** Suppresses noise. */
  Audio process(Audio in, Path folder) throws CalibrationException {
    Path library = library();
    try {
      Audio fast = LinearTimeAudio.resample(in, RATE);
      float[] x = fast.wholeChannel(0);
      ByteBuffer bytes = ByteBuffer.allocate(4 * x.length).order(ByteOrder.LITTLE_ENDIAN);
      bytes.asFloatBuffer().put(x);
      Path from = folder.resolve("in.raw");
      Path to = folder.resolve("out.raw");
      Files.write(from, bytes.array());
      Program.run(
          folder,
          List.of(
              "node",
              home.resolve("recurrent.mjs").toString(),
              library.toString(),
              from.toString(),
              to.toString()));
      float[] y = new float[x.length];
      ByteBuffer.wrap(Files.readAllBytes(to)).order(ByteOrder.LITTLE_ENDIAN).asFloatBuffer().get(y);
      Audio slow = LinearTimeAudio.resample(Audio.of(RATE, y), in.sampleRate());
      return Audio.of(in.sampleRate(), slow.samples(0, 0, Math.toIntExact(in.frames())));
    } catch (IOException e) {
      throw new CalibrationException(folder + " cannot be written: " + e.getMessage(), e);
    }
  }

  private synchronized Path library() throws CalibrationException {
    Path library = home.resolve("library.mjs");
    if (Files.exists(library)) {
      return library;
    }
    try (InputStream script = RecurrentSuppressor.class.getResourceAsStream("recurrent.mjs")) {
      Files.createDirectories(home);
      if (!Files.exists(home.resolve(ARCHIVE))) {
        Program.run(home, List.of("npm", "pack", "--silent", PACKAGE));
      }
      Program.run(home, List.of("tar", "xzf", ARCHIVE));
      Files.copy(script, home.resolve("recurrent.mjs"), StandardCopyOption.REPLACE_EXISTING);
      Files.copy(home.resolve("package/dist/rnnoise-sync.js"), library);
      return library;
    } catch (IOException e) {
      throw new CalibrationException(home + " cannot be written: " + e.getMessage(), e);
    }
  }
}
