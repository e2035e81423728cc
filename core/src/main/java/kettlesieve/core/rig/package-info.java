/**
 * Making versions: outside commands and the stand-ins that ship with the program, run with limits
 * ({@link kettlesieve.core.rig.Rig}).
 */
package kettlesieve.core.rig;
