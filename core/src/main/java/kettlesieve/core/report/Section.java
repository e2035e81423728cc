package kettlesieve.core.report;

/** What may go into a report or stay out of it; the answer and the ranking are always there. */
public enum Section {
  /** What each version gains and pays, as a plot. */
  PLOT("Trade-off plot"),
  /** Who leads where. */
  PASSAGES("Passage by passage"),
  /** Blind rounds, and what listeners sent back. */
  EARS("What the ear says"),
  /** Every reading of every version. */
  READINGS("All readings"),
  /** Each version by itself, with its worst places and their pictures. */
  VERSIONS("Version by version, with pictures"),
  /** The worst places as sound. */
  SOUNDS("Sounds of the worst places"),
  /** What was unfair, and what to know. */
  FAIRNESS("What was unfair"),
  /** Every measure with its formula and its source. */
  METHOD("How it was measured"),
  /** Names, facts and checksums of the files. */
  FILES("Files with checksums");

  private final String title;

  Section(String title) {
    this.title = title;
  }

  /** The words for people. */
  public String title() {
    return title;
  }
}
