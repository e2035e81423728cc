package kettlesieve.calibrate;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Consumer;
import kettlesieve.calibrate.tables.DenoiseTables;
import kettlesieve.calibrate.tables.ScaleSearch;
import kettlesieve.calibrate.trial.Bench;
import kettlesieve.calibrate.trial.Trial;

/** The calibration bench: how far the program's figures agree with the truth. */
public final class Calibration {
  private Calibration() {}

  /**
   * Judges denoised versions and prints the tables.
   *
   * @param cache where corpus and results are kept between runs
   * @param every only every so many sources; 1 for all
   * @param search whether scales and weights are searched for, too
   * @param out receives the tables
   * @param said told how it goes on
   * @throws CalibrationException if something that is needed cannot be had
   */
  public static void denoise(
      Path cache, int every, boolean search, PrintWriter out, Consumer<String> said)
      throws CalibrationException {
    List<Trial> trials = new Bench(cache.toAbsolutePath(), said).run(every);
    new DenoiseTables(out, trials).print();
    if (search) {
      new ScaleSearch(trials).print(out);
    }
  }
}
