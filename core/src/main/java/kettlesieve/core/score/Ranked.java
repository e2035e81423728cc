package kettlesieve.core.score;

import java.util.List;

/**
 * The scores of a version and its place among the others.
 *
 * @param card its scores
 * @param rank the best place that the uncertainty allows: one more than the number of versions that
 *     are surely better; 0 without an overall score
 * @param rankTo the worst such place: the number of versions less those that are surely worse
 * @param tiedWith labels of the versions that are neither surely better nor surely worse
 */
public record Ranked(Card card, int rank, int rankTo, List<String> tiedWith) {
  public Ranked {
    tiedWith = List.copyOf(tiedWith);
  }
}
