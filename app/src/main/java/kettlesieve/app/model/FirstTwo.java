package kettlesieve.app.model;

import java.util.Optional;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.measure.Spot;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.Settling;

/** The first two of the ranking, and the place where they differ most surely. Interface thread. */
public final class FirstTwo {
  private static final double AROUND = 0.3;

  private final Workspace workspace;

  FirstTwo(Workspace workspace) {
    this.workspace = workspace;
  }

  /** What would settle the order of the two; empty before there are two with a score. */
  public Optional<Settling> settling() {
    ScoreSheet sheet = workspace.sheetProperty().get();
    return sheet == null ? Optional.empty() : Settling.of(sheet, workspace.comparison());
  }

  /** The place where the two differ, if a reading has one. */
  public Optional<TimeSpan> place() {
    return settling().flatMap(Settling::place).map(FirstTwo::around);
  }

  private static TimeSpan around(Spot spot) {
    return new TimeSpan(Math.max(0, spot.from() - AROUND), spot.to() + AROUND);
  }

  /** Loops the place: the leader first, and the other when asked again. */
  public void hear() {
    Optional<Settling> two = settling();
    Optional<TimeSpan> place = place();
    if (place.isEmpty()) {
      return;
    }
    String first = two.get().first().version().id();
    String second = two.get().second().version().id();
    boolean swap = first.equals(workspace.listening().chosenProperty().get());
    workspace.listening().playSpot(swap ? second : first, place.get());
  }
}
