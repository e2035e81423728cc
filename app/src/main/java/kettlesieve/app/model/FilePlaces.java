package kettlesieve.app.model;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.media.PlacesInFile;
import kettlesieve.core.media.Recording;

/** Named places that stand in the source's file: cues of a WAV file, chapters. */
public final class FilePlaces {
  /** A last place close to the end makes no excerpt. */
  private static final double SHORTEST = 0.5;

  /**
   * A place.
   *
   * @param seconds from the source's start
   * @param to where the next one begins, or the source ends
   * @param name for people, never empty
   */
  public record Place(double seconds, double to, String name) {
    /** Whether enough lies between it and the next to be heard and measured. */
    public boolean longEnough() {
      return to - seconds >= SHORTEST;
    }

    /** As an excerpt whose name the comparison does not have yet. */
    public Excerpt excerpt(Comparison comparison) {
      String free = name;
      for (int n = 2; comparison.excerpt(free).isPresent(); n++) {
        free = name + " " + n;
      }
      return new Excerpt(free, new TimeSpan(seconds, to));
    }
  }

  private FilePlaces() {}

  /** The places of a recording, the first first; none of null. */
  public static List<Place> of(Recording source) {
    if (source == null || source.facts().places() == null) {
      return List.of();
    }
    double rate = source.facts().sampleRate();
    double end = source.audio().seconds();
    List<PlacesInFile.Marker> markers =
        source.facts().places().markers().stream().filter(m -> m.frame() / rate < end).toList();
    List<Place> places = new ArrayList<>();
    for (int i = 0; i < markers.size(); i++) {
      double from = markers.get(i).frame() / rate;
      double to = i + 1 < markers.size() ? markers.get(i + 1).frame() / rate : end;
      String name = markers.get(i).name();
      places.add(new Place(from, to, name.isBlank() ? "Marker " + (i + 1) : name));
    }
    return places;
  }
}
