package kettlesieve.app.listen;

import kettlesieve.core.picture.FrequencyScale;

/** What all lanes show, chosen for all at once. */
final class LaneStyle {
  /** Kinds of picture. */
  enum Picture {
    WAVEFORM("Waveform"),
    SPECTROGRAM("Spectrogram"),
    CHANGE("Change map");

    private final String title;

    Picture(String title) {
      this.title = title;
    }

    String title() {
      return title;
    }
  }

  private Picture picture = Picture.SPECTROGRAM;
  private FrequencyScale scale = FrequencyScale.MEL;
  private int window;
  private int rangeDb = 70;
  private double laneHeight;
  private boolean ownTime;
  private boolean left;
  private boolean ties = true;

  Picture picture() {
    return picture;
  }

  void setPicture(Picture value) {
    picture = value;
  }

  FrequencyScale scale() {
    return scale;
  }

  void setScale(FrequencyScale value) {
    scale = value;
  }

  /** Samples of the window of a spectrogram; 0 for the usual. */
  int window() {
    return window;
  }

  void setWindow(int samples) {
    window = samples;
  }

  /** From the quietest level that is drawn to the loudest, dB. */
  int rangeDb() {
    return rangeDb;
  }

  void setRangeDb(int value) {
    rangeDb = value;
  }

  /** Height of a lane in pixels; 0 for as much as there is room for. */
  double laneHeight() {
    return laneHeight;
  }

  void setLaneHeight(double pixels) {
    laneHeight = pixels;
  }

  /** Whether attacks are tied to where they went. */
  boolean ties() {
    return ties;
  }

  void setTies(boolean value) {
    ties = value;
  }

  /** Whether what the stems leave of the mix is drawn, in place of them. */
  boolean left() {
    return left;
  }

  void setLeft(boolean value) {
    left = value;
  }

  /** Whether stretched versions are drawn in their own time. */
  boolean ownTime() {
    return ownTime;
  }

  void setOwnTime(boolean value) {
    ownTime = value;
  }
}
