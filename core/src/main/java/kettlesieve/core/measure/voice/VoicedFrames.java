package kettlesieve.core.measure.voice;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.signal.Harmonicity;
import kettlesieve.core.signal.Statistics;

/**
 * Where the voice of a noisy source is surely voiced: of the louder two fifths of its frames, each
 * 20 ms, the more periodic half. Told from the source alone, and so the same for all versions.
 */
public final class VoicedFrames {
  /** Of a source; worked out once for all versions. */
  public static final Analysis.OfSource<VoicedFrames> OF = VoicedFrames::new;

  private static final double HOP = 0.020;
  private static final double LOUDER = 0.6;
  private static final int FEWEST = 40;
  private static final double LEAST_PERIODIC = 0.4;

  private final List<Voiced> frames = new ArrayList<>();

  /**
   * A voiced frame.
   *
   * @param seconds its middle, from the start of the excerpt
   * @param hnr harmonics to noise of the source, dB
   */
  public record Voiced(double seconds, double hnr) {}

  private VoicedFrames(SourceAnalysis analysis) throws NotMeasurableException {
    Harmonicity source = new Harmonicity(analysis.source().audio().downmix());
    List<Harmonicity.Frame> all = new ArrayList<>();
    int count = (int) (analysis.source().audio().seconds() / HOP);
    for (int i = 0; i < count; i++) {
      all.add(source.at((i + 0.5) * HOP));
    }
    double[] powers = all.stream().mapToDouble(Harmonicity.Frame::power).toArray();
    double loud = powers.length == 0 ? 0 : Statistics.quantile(powers, LOUDER);
    double[] periodic =
        all.stream()
            .filter(f -> f.power() > loud)
            .mapToDouble(Harmonicity.Frame::periodic)
            .toArray();
    double limit = periodic.length == 0 ? 1 : Statistics.median(periodic);
    for (int i = 0; i < count; i++) {
      Harmonicity.Frame f = all.get(i);
      if (f.power() > loud && f.periodic() >= Math.max(LEAST_PERIODIC, limit)) {
        frames.add(new Voiced((i + 0.5) * HOP, f.hnr()));
      }
    }
    if (frames.size() < FEWEST) {
      throw new NotMeasurableException("there is too little of a voice that is clearly voiced");
    }
  }

  /** In order of time. */
  public List<Voiced> frames() {
    return List.copyOf(frames);
  }
}
