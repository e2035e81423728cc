package kettlesieve.calibrate.corpus;

import java.util.ArrayList;
import java.util.List;

/**
 * A noisy source: who speaks, over what, how loud.
 *
 * @param half where it is used
 * @param voice its id
 * @param noise its id
 * @param kind kind of the noise
 * @param steady whether its pauses stand for the noise elsewhere
 * @param snrDb mean level of the active speech over that of the noise
 * @param seed of everything drawn for it
 */
public record Scene(
    String id,
    Half half,
    String voice,
    String noise,
    String kind,
    boolean steady,
    int snrDb,
    int seed) {
  /** Length of every scene. */
  public static final double SECONDS = 20;

  private static final int[] SNR_DB = {10, 5, 15, 0, 20};
  private static final int ROUNDS = 4;

  /** Scenes of both halves: every noise four times, with changing voices and levels. */
  public static List<Scene> all(Catalogue catalogue) {
    List<Scene> scenes = new ArrayList<>();
    for (Half half : Half.values()) {
      List<Catalogue.Voice> voices = catalogue.voices(half);
      List<Catalogue.Noise> noises = catalogue.noises(half);
      for (int round = 0; round < ROUNDS; round++) {
        for (int n = 0; n < noises.size(); n++) {
          Catalogue.Noise noise = noises.get(n);
          Catalogue.Voice voice = voices.get((n + 2 * round + round / 2) % voices.size());
          int snr = SNR_DB[(n + 2 * round) % SNR_DB.length];
          scenes.add(
              new Scene(
                  half.word() + "-" + voice.id() + "-" + noise.id() + "-" + snr,
                  half,
                  voice.id(),
                  noise.id(),
                  noise.kind(),
                  noise.steady(),
                  snr,
                  1000 * half.ordinal() + 100 * round + n));
        }
      }
    }
    return scenes;
  }
}
