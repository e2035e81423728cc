/**
 * What several measures need of spectra, gathered once: walks over source and version together
 * ({@link kettlesieve.core.measure.cells.CellPass}, with phases {@code PhasePass}, over stems
 * {@code StemPass}) and who looks on. Each is an analysis that is asked for by {@code
 * pair.shared(…)}.
 */
package kettlesieve.core.measure.cells;
