package kettlesieve.core.picture;

/** How frequency runs along a picture's height, from 0 at the bottom to 1 at the top. */
public enum FrequencyScale {
  /** Even steps in Hz. */
  LINEAR("Linear") {
    @Override
    double curve(double hz) {
      return hz;
    }

    @Override
    double inverse(double y) {
      return y;
    }
  },
  /** Even steps in mel: 2595·log10(1 + f/700) (O'Shaughnessy 1987). */
  MEL("Mel") {
    @Override
    double curve(double hz) {
      return 2595 * Math.log10(1 + hz / 700);
    }

    @Override
    double inverse(double y) {
      return 700 * (Math.pow(10, y / 2595) - 1);
    }
  },
  /** Even steps in octaves, from 40 Hz up. */
  LOG("Logarithmic") {
    @Override
    double curve(double hz) {
      return Math.log(Math.max(hz, 40) / 40);
    }

    @Override
    double inverse(double y) {
      return 40 * Math.exp(y);
    }
  };

  private final String title;

  FrequencyScale(String title) {
    this.title = title;
  }

  abstract double curve(double hz);

  abstract double inverse(double y);

  /** The word for people. */
  public String title() {
    return title;
  }

  /** Height of a frequency, 0 to 1. */
  public double height(double hz, double topHz) {
    return curve(hz) / curve(topHz);
  }

  /** Frequency at a height, Hz. */
  public double hz(double height, double topHz) {
    return inverse(height * curve(topHz));
  }
}
