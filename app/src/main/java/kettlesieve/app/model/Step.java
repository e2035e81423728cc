package kettlesieve.app.model;

/** The steps of the work, in any order. */
public enum Step {
  GATHER("Gather", "Bring in the source and its versions"),
  MATCH("Match", "Make the comparison fair"),
  LISTEN("Listen", "Hear the difference"),
  MEASURE("Measure", "Readings, and where they come from"),
  DECIDE("Decide", "Rank, judge and hand over");

  private final String title;
  private final String purpose;

  Step(String title, String purpose) {
    this.title = title;
    this.purpose = purpose;
  }

  public String title() {
    return title;
  }

  public String purpose() {
    return purpose;
  }
}
