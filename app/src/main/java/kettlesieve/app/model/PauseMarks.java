package kettlesieve.app.model;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import kettlesieve.core.comparison.TimeSpan;

/** Pauses mended by hand. */
public final class PauseMarks {
  private static final double SHORTEST = 0.05;

  private PauseMarks() {}

  /** The pauses with another stretch, what touches joined. */
  public static List<TimeSpan> with(List<TimeSpan> pauses, TimeSpan added) {
    double from = added.from();
    double to = added.to();
    List<TimeSpan> rest = new ArrayList<>();
    for (TimeSpan pause : pauses) {
      if (pause.to() < from || pause.from() > to) {
        rest.add(pause);
      } else {
        from = Math.min(from, pause.from());
        to = Math.max(to, pause.to());
      }
    }
    rest.add(new TimeSpan(from, to));
    rest.sort(Comparator.comparingDouble(TimeSpan::from));
    return rest;
  }

  /** The pauses without a stretch that holds wanted sound. */
  public static List<TimeSpan> without(List<TimeSpan> pauses, TimeSpan sound) {
    List<TimeSpan> rest = new ArrayList<>();
    for (TimeSpan pause : pauses) {
      if (pause.to() <= sound.from() || pause.from() >= sound.to()) {
        rest.add(pause);
        continue;
      }
      if (sound.from() - pause.from() >= SHORTEST) {
        rest.add(new TimeSpan(pause.from(), sound.from()));
      }
      if (pause.to() - sound.to() >= SHORTEST) {
        rest.add(new TimeSpan(sound.to(), pause.to()));
      }
    }
    return rest;
  }
}
