package kettlesieve.app.measure;

import java.util.List;
import javafx.scene.paint.Color;
import kettlesieve.app.shared.CanvasPane;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.score.Entry;
import kettlesieve.core.score.ScoreSheet;

/** A drawing of one measure: one version strong, the others faint. */
abstract class ReadingPlot extends CanvasPane {
  private static final double FAINT = 0.28;

  private ScoreSheet scores;
  private Entry entry;
  private Declaration declaration;
  private List<Version> versions = List.of();

  /** Shows a measure of one version. */
  final void show(ScoreSheet s, Entry e, Declaration d, List<Version> all) {
    scores = s;
    entry = e;
    declaration = d;
    versions = all;
    repaint();
  }

  /** The version that is shown; null for nothing. */
  final Entry entry() {
    return entry;
  }

  final Declaration declaration() {
    return declaration;
  }

  final List<Entry> entries() {
    return scores.entries(entry.part());
  }

  final List<Entry> others() {
    return scores.entries(entry.part()).stream()
        .filter(e -> !e.version().id().equals(entry.version().id()))
        .toList();
  }

  final Color color(Entry e) {
    Color full =
        VersionSign.color(versions.stream().map(Version::id).toList().indexOf(e.version().id()));
    return e.version().id().equals(entry.version().id()) ? full : full.deriveColor(0, 1, 1, FAINT);
  }
}
