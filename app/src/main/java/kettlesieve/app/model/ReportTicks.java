package kettlesieve.app.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.Set;
import java.util.stream.Collectors;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.Section;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What a person wants in a report, kept for the next one. */
public final class ReportTicks {
  private static final Logger LOG = LoggerFactory.getLogger(ReportTicks.class);

  private final Path file;
  private final EnumSet<Section> ticked = EnumSet.allOf(Section.class);

  ReportTicks(Path stateFolder) {
    this.file = stateFolder.resolve("report-without.txt");
    try {
      if (Files.isRegularFile(file)) {
        Files.readAllLines(file)
            .forEach(line -> ticked.removeIf(section -> section.name().equals(line.strip())));
      }
    } catch (IOException e) {
      LOG.warn("what a report was to hold is not remembered", e);
    }
  }

  /** What goes into the next report. */
  public Set<Section> ticked() {
    return EnumSet.copyOf(ticked);
  }

  /** Takes a section in, or leaves it out. */
  public void tick(Section section, boolean in) {
    if (in ? ticked.add(section) : ticked.remove(section)) {
      try {
        Files.createDirectories(file.getParent());
        WholeFile.write(
            file,
            EnumSet.complementOf(ticked).stream()
                .map(Section::name)
                .collect(Collectors.joining("\n")));
      } catch (IOException e) {
        LOG.warn("what a report is to hold cannot be remembered", e);
      }
    }
  }
}
