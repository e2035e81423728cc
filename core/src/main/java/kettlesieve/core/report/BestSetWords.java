package kettlesieve.core.report;

import java.util.Locale;
import kettlesieve.core.score.BestSet;

/** What the best stems from all tools are worth together, in words. */
public final class BestSetWords {
  private BestSetWords() {}

  /** Their mean, what that gains over one tool, and whether they still add up. */
  public static String of(BestSet set) {
    String mean =
        String.format(Locale.ROOT, "Each role from its leader: %.0f on average", set.overall());
    String gain =
        set.alone()
            .map(
                a ->
                    set.gain() < 0.5
                        ? ", no more than " + a.label() + " alone."
                        : String.format(
                            Locale.ROOT,
                            ", %.0f points more than %s alone (%.0f).",
                            set.gain(),
                            a.label(),
                            a.overall()))
            .orElse(". No tool gives all of these roles.");
    return mean
        + gain
        + (set.nullDb().isPresent()
            ? String.format(
                    Locale.ROOT,
                    " Together they leave %.0f dB of the mix.",
                    set.nullDb().getAsDouble())
                .replace('-', '−')
            : "");
  }
}
