package kettlesieve.core.measure.clip;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import kettlesieve.core.Sounds;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.measure.SourceAnalysis;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The estimates of what stood above the ceiling, on real speech that was clipped here. */
class ClippedEstimateTest {
  private static final int RATE = 16_000;
  private static float[] speech;
  private static float[] clipped;
  private static float level;
  private static ClippedPassages passages;

  @BeforeAll
  static void clip() throws Exception {
    speech = Arrays.copyOf(Sounds.speech16(), 8 * RATE);
    float peak = 0;
    for (float x : speech) {
      peak = Math.max(peak, Math.abs(x));
    }
    level = 0.4f * peak;
    clipped = speech.clone();
    for (int i = 0; i < clipped.length; i++) {
      clipped[i] = Math.max(-level, Math.min(level, clipped[i]));
    }
    passages = of(clipped);
  }

  private static ClippedPassages of(float[] x) throws Exception {
    SourceMaterial material = SourceMaterial.of(Audio.of(RATE, x), null, List.of());
    return ClippedPassages.OF.of(new SourceAnalysis(material, null, Job.DECLIP));
  }

  /** What is left of the error on clipped samples, dB. */
  private static double leftDb(boolean second) {
    double before = 0;
    double after = 0;
    for (ClippedPassages.Passage p : passages.all()) {
      float[] e = second ? p.second() : p.estimate();
      for (int i = 0; i < e.length; i++) {
        if (p.polarity()[i] != 0) {
          double truth = speech[(int) p.from() + i];
          before += Math.pow(p.source()[i] - truth, 2);
          after += Math.pow(e[i] - truth, 2);
        }
      }
    }
    return 10 * Math.log10(after / before);
  }

  @Test
  void bothComeNearerToTheTruthAndAgree() {
    assertThat(leftDb(false)).isLessThan(-6);
    assertThat(leftDb(true)).isLessThan(-4);
    assertThat(passages.confidenceDb()).isGreaterThan(4);
    assertThat(passages.uncertain()).isFalse();
    assertThat(passages.uncertaintyDb()).isBetween(1.0, 7.0);
  }

  /**
   * The more is clipped, the lower thresholds leave the tops: the estimate reaches as high as they
   * did.
   */
  @Test
  void topsAreAsHighAsTheyWereHoweverMuchIsClipped() throws Exception {
    for (double share : new double[] {0.4, 0.2, 0.12}) {
      float peak = 0;
      for (float sample : speech) {
        peak = Math.max(peak, Math.abs(sample));
      }
      float ceiling = (float) (share * peak);
      float[] x = speech.clone();
      for (int i = 0; i < x.length; i++) {
        x[i] = Math.max(-ceiling, Math.min(ceiling, x[i]));
      }
      double along = 0;
      double whole = 0;
      for (ClippedPassages.Passage p : of(x).all()) {
        for (int i = 0; i < p.source().length; i++) {
          if (p.polarity()[i] != 0) {
            double missing = speech[(int) p.from() + i] - p.source()[i];
            along += missing * (p.estimate()[i] - p.source()[i]);
            whole += missing * missing;
          }
        }
      }
      assertThat(along / whole).as("ceiling at " + share).isBetween(0.65, 1.25);
    }
  }

  @Test
  void goodSamplesStayAndClippedOnesReachTheCeiling() {
    int clippedSamples = 0;
    for (ClippedPassages.Passage p : passages.all()) {
      for (int i = 0; i < p.source().length; i++) {
        if (p.polarity()[i] == 0) {
          assertThat(p.estimate()[i]).isEqualTo(p.source()[i]);
        } else {
          assertThat(p.polarity()[i] * p.estimate()[i]).isGreaterThanOrEqualTo(level * 0.9999f);
          clippedSamples++;
        }
      }
    }
    assertThat(clippedSamples).isGreaterThan(200);
  }

  @Test
  void theSameAgainGivesTheSameAndLevelDoesNotMatter() throws Exception {
    float[] quieter = clipped.clone();
    for (int i = 0; i < quieter.length; i++) {
      quieter[i] *= 0.25f;
    }
    ClippedPassages other = of(quieter);
    assertThat(other.all()).hasSameSizeAs(passages.all());
    assertThat(other.confidenceDb()).isCloseTo(passages.confidenceDb(), within(0.1));
    ClippedPassages again = of(clipped);
    for (int i = 0; i < again.all().size(); i++) {
      assertThat(again.all().get(i).estimate()).isEqualTo(passages.all().get(i).estimate());
    }
  }
}
