package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Words that are off are refused before anything is fetched. */
class CalibrateCommandTest {
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(String... words) {
    return Kettle.run(words, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  @ParameterizedTest
  @CsvSource({
    "--job=mastering,the jobs denoise; dereverb; declip; stems; stretch; pitch",
    "--every=0,a whole number from 1 on",
    "--every=some,--every"
  })
  void whatItDoesNotKnowIsNamed(String word, String said) {
    assertThat(run("calibrate", word)).isEqualTo(2);
    assertThat(err.toString().replace(',', ';')).contains(said);
    assertThat(out.toString()).isEmpty();
  }

  @Test
  void helpTellsOfTheJobs() {
    assertThat(run("calibrate", "--help")).isZero();
    assertThat(out.toString()).contains("denoise, dereverb, declip, stems, stretch or pitch");
  }
}
