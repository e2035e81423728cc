package kettlesieve.app.model.sheet;

import java.io.IOException;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.OptionalDouble;
import java.util.Properties;
import java.util.Set;
import java.util.TreeSet;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import kettlesieve.core.media.WholeFile;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * How a person wants the sheet of readings: columns that are put away, questions that are folded,
 * what it is sorted by. Kept for the next time.
 */
public final class SheetLayout {
  private static final Logger LOG = LoggerFactory.getLogger(SheetLayout.class);
  private static final String ALL = "";

  private final Path file;
  private final Set<String> hidden = new TreeSet<>();
  private final Set<String> folded = new TreeSet<>();
  private final ReadOnlyIntegerWrapper changes = new ReadOnlyIntegerWrapper();
  private String sortedBy = ALL;
  private boolean worstFirst;
  private double divider = Double.NaN;

  /**
   * @param folder where it is kept
   */
  public SheetLayout(Path folder) {
    this.file = folder.resolve("sheet.properties");
    // What only informs is put away at first: the scored readings fit the window without it.
    folded.add(Group.INFO.id());
    folded.add(Group.AGAINST.id());
    if (Files.isRegularFile(file)) {
      Properties kept = new Properties();
      try (var in = Files.newBufferedReader(file)) {
        kept.load(in);
        folded.clear();
        split(kept.getProperty("hidden", ""), hidden);
        split(kept.getProperty("folded", ""), folded);
        divider = Double.parseDouble(kept.getProperty("divider", "NaN"));
      } catch (IOException | IllegalArgumentException e) {
        LOG.warn("the remembered columns cannot be read; all are shown", e);
      }
    }
  }

  private static void split(String words, Set<String> into) {
    for (String word : words.split(",")) {
      if (!word.isBlank()) {
        into.add(word.trim());
      }
    }
  }

  /** Whether a measure's column is shown. */
  public boolean shown(String measure) {
    return !hidden.contains(measure);
  }

  /** Puts a column away, or takes it out again. */
  public void show(String measure, boolean shown) {
    if (shown ? hidden.remove(measure) : hidden.add(measure)) {
      changed();
    }
  }

  /** Takes all columns out again. */
  public void showAll() {
    hidden.clear();
    folded.clear();
    changed();
  }

  /** Whether only the score of a question is shown. */
  public boolean folded(Group group) {
    return folded.contains(group.id());
  }

  /** Folds a question to its score, or unfolds it. */
  public void fold(Group group) {
    if (!folded.remove(group.id())) {
      folded.add(group.id());
    }
    changed();
  }

  /** What the versions are sorted by: a measure, an axis, "overall"; empty for their own order. */
  public String sortedBy() {
    return sortedBy;
  }

  /** Whether the worst come first. */
  public boolean worstFirst() {
    return worstFirst;
  }

  /** Sorts by a column: the best first, then the worst first, then in the versions' own order. */
  public void sort(String column) {
    if (!column.equals(sortedBy)) {
      sortedBy = column;
      worstFirst = false;
    } else if (!worstFirst) {
      worstFirst = true;
    } else {
      sortedBy = ALL;
      worstFirst = false;
    }
    changes.set(changes.get() + 1);
  }

  /**
   * Share of the height that the sheet has above the explanation, 0 to 1; empty as long as nobody
   * moved the line: then the sheet has what its rows ask for.
   */
  public OptionalDouble divider() {
    return Double.isNaN(divider) ? OptionalDouble.empty() : OptionalDouble.of(divider);
  }

  /** Moves the line between sheet and explanation. */
  public void divide(double share) {
    divider = Math.max(0, Math.min(1, share));
    keep();
  }

  /** Rises with every change. */
  public ReadOnlyIntegerProperty changesProperty() {
    return changes.getReadOnlyProperty();
  }

  private void changed() {
    changes.set(changes.get() + 1);
    keep();
  }

  private void keep() {
    Properties kept = new Properties();
    kept.setProperty("hidden", String.join(",", hidden));
    kept.setProperty("folded", String.join(",", folded));
    kept.setProperty("divider", Double.toString(divider));
    try {
      Files.createDirectories(file.getParent());
      StringWriter text = new StringWriter();
      kept.store(text, null);
      WholeFile.write(file, text.toString());
    } catch (IOException e) {
      LOG.warn("the columns cannot be remembered", e);
    }
  }
}
