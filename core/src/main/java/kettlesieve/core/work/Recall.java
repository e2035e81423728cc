package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.function.Function;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.score.Measured;
import kettlesieve.core.score.Notice;

/** What is known of all versions of a comparison without reading any of its files. */
final class Recall {
  private final Comparison comparison;
  private final ResultStore store;

  Recall(Comparison comparison, ResultStore store) {
    this.comparison = comparison;
    this.store = store;
  }

  /** Everything as it was measured before; empty if anything is missing. */
  Optional<Results> results() {
    Function<MediaRef, String> checksum = ref -> store.fingerprints().of(ref.file()).orElseThrow();
    try {
      WorkKey key = WorkKey.ofSource(comparison, checksum);
      Optional<ResultStore.SourceEntry> known = store.source(key);
      if (known.isEmpty() || comparison.versions().isEmpty()) {
        return Optional.empty();
      }
      Notes notes = new Notes();
      notes.change(comparison.source(), checksum.apply(comparison.source()), "the source");
      List<Measured> all = new ArrayList<>();
      Map<String, List<String>> sums = new LinkedHashMap<>();
      for (Version v : comparison.versions()) {
        Optional<Measured> m = store.version(WorkKey.ofVersion(key, comparison, v, checksum));
        if (m.isEmpty()) {
          return Optional.empty();
        }
        all.add(m.get().as(v, comparison.costOf(v)));
        List<String> own = new ArrayList<>();
        for (MediaRef ref : PreparedSource.files(v).values()) {
          own.add(checksum.apply(ref));
          notes.change(ref, checksum.apply(ref), v.label());
        }
        sums.put(v.id(), own);
      }
      SheetMaker maker = new SheetMaker(comparison, known.get().facts(), known.get().notices());
      List<Notice> told = notes.all();
      return Optional.of(
          new Results(Work.of(comparison), maker.sheet(all, List.of(), told, sums, List.of())));
    } catch (NoSuchElementException e) {
      // A file was never read as it is now: everything goes its usual way.
      return Optional.empty();
    }
  }
}
