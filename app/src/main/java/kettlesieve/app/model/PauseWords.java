package kettlesieve.app.model;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.work.PreparedExcerpt;

/**
 * What is said where the pauses are drawn: how much of them there is, and what to do if they do not
 * tell what the noise is.
 *
 * @param text one line
 * @param warning whether something should be done about it
 */
public record PauseWords(String text, boolean warning) {
  /** Of a comparison in which pauses matter and whose source was analysed; else empty. */
  public static Optional<PauseWords> of(Comparison comparison, PreparedExcerpt preparedExcerpt) {
    if (preparedExcerpt == null || comparison.job() != Job.DENOISE) {
      return Optional.empty();
    }
    boolean byHand = comparison.pauses() != null;
    PauseGround ground = preparedExcerpt.source().pauses();
    List<TimeSpan> pauses = byHand ? comparison.pauses() : ground.activity().pauses();
    double seconds = pauses.stream().mapToDouble(TimeSpan::seconds).sum();
    if (ground.problem().isPresent()) {
      return Optional.of(
          new PauseWords(
              (pauses.isEmpty()
                      ? "No pauses"
                      : amount(byHand, seconds, pauses.size()) + ", too little")
                  + ": Shift+drag over noise alone marks it as one",
              true));
    }
    String amount = amount(byHand, seconds, pauses.size());
    if (ground.notSteady()) {
      return Optional.of(
          new PauseWords(
              amount
                  + "; the noise in them is not steady (voices, music, water?): Shift+drag marks"
                  + " those that stand for it",
              true));
    }
    if (ground.activity().unsteady()) {
      return Optional.of(
          new PauseWords(
              amount
                  + "; their level changes by over 3 dB: Shift+drag marks those that stand for the"
                  + " noise",
              true));
    }
    return Optional.of(new PauseWords(amount, false));
  }

  private static String amount(boolean byHand, double seconds, int count) {
    return String.format(
        Locale.ROOT,
        "%s: %.1f s in %d %s",
        byHand ? "Pauses marked by hand" : "Pauses found",
        seconds,
        count,
        count == 1 ? "place" : "places");
  }
}
