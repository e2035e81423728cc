/**
 * Walks over spectra and who looks on. {@link kettlesieve.core.measure.pass.CellPass} goes once
 * over source and version together and shows every frame to the {@link
 * kettlesieve.core.measure.pass.Gatherer}s that say they are wanted; {@code PhasePass} does so with
 * phases, {@link kettlesieve.core.measure.pass.StemPass} over the stems of a mix. The families
 * below gather and measure; nothing here knows one of them.
 */
package kettlesieve.core.measure.pass;
