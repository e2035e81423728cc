package kettlesieve.core.measure.stems;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.pass.StemEnergies;
import kettlesieve.core.measure.pass.StemPass;
import kettlesieve.core.measure.pass.StemSumsPass;
import kettlesieve.core.ownership.Ownership;
import kettlesieve.core.ownership.RoleCells;
import kettlesieve.core.task.Stop;

/**
 * Whose the cells of a mix are for one version, and what its stems hold in them.
 *
 * @param told whose they are
 * @param pass what the stems hold
 * @param together with whose stems they are measured
 */
public record StemCells(RoleCells told, StemEnergies pass, StemsTogether together) {
  /**
   * For each version, all in one walk over the spectra.
   *
   * @param source what belongs to the mix
   * @param versions by id
   * @param truth what the mix was made of, by role; empty if that is not known
   * @param stop asked now and then
   */
  public static Map<String, StemCells> of(
      SourceAnalysis source,
      Map<String, MatchedStems> versions,
      Map<String, Audio> truth,
      Stop stop) {
    StemsTogether together = new StemsTogether(source, List.copyOf(versions.values()), truth, stop);
    Ownership ownership = Ownership.of(source.source(), versions, truth, stop);
    Map<String, StemPass> passes = new HashMap<>();
    versions.forEach(
        (id, stems) -> passes.put(id, new StemPass(together, stems, ownership.owners(id))));
    StemSumsPass sums = new StemSumsPass(together);
    Map<String, StemCells> all = new LinkedHashMap<>();
    ownership
        .told(passes, sums)
        .forEach(
            (id, told) -> all.put(id, new StemCells(told, passes.get(id).energies(), together)));
    together.with(StemErrors.SUMS, sums.sums());
    return all;
  }
}
